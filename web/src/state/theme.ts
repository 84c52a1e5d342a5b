import { useSyncExternalStore } from 'react';

export type Theme = 'day' | 'night';

const listeners = new Set<() => void>();
const stored = (): Theme => (localStorage.getItem('theme') === 'night' ? 'night' : 'day');
let theme: Theme = stored();
document.documentElement.dataset.theme = theme;

export function setTheme(next: Theme): void {
  theme = next;
  localStorage.setItem('theme', next);
  document.documentElement.dataset.theme = next;
  listeners.forEach((listener) => listener());
}

export const useTheme = (): Theme =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => theme,
  );

/** A colour of the theme in use, by its CSS variable, as [red, green, blue]. */
export function themeColour(name: string): [number, number, number] {
  const hex = getComputedStyle(document.documentElement).getPropertyValue(name).trim();
  return [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16)) as [number, number, number];
}
