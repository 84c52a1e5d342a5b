import { useState } from 'react';

/** Numbers that were set on this device, and a way to set one. @param usual where none was set @param at name they are kept under */
export function useKept<T extends Record<string, number>>(at: string, usual: T): [T, (name: keyof T & string, value: number) => void] {
  const [kept, setKept] = useState<T>(() => {
    try {
      const read = JSON.parse(localStorage.getItem(at) ?? '{}') as Partial<T>;
      return {
        ...usual,
        ...Object.fromEntries(Object.entries(read).filter(([name, v]) => name in usual && typeof v === 'number' && Number.isFinite(v))),
      };
    } catch {
      return usual;
    }
  });
  const set = (name: keyof T & string, value: number): void =>
    setKept((was) => {
      const next = { ...was, [name]: value };
      try {
        localStorage.setItem(at, JSON.stringify(next));
      } catch {
        // Full: it is kept as long as the page is open.
      }
      return next;
    });
  return [kept, set];
}
