import type { ReactNode } from 'react';

/** One number of a sheet: what it is, the field, its unit. @param name what a screen reader calls it, where the label says more */
export function NumberRow({
  label,
  name,
  unit,
  value,
  onChange,
  className = '',
}: {
  label: ReactNode;
  name?: string;
  unit: string;
  value: string;
  onChange: (value: string) => void;
  className?: string;
}) {
  return (
    <label className="grid grid-cols-[1fr_6rem_4rem] items-center gap-3 py-1">
      <span>{label}</span>
      <input
        inputMode="decimal"
        aria-label={name}
        className={`input input-sm num h-10 ${className}`}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
      <span className="text-mute">{unit}</span>
    </label>
  );
}
