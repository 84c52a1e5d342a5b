/** A span of a number in SI units; null where it is open. */
export interface Band {
  from: number | null;
  to: number | null;
  unit: string;
}

/** What a group of a log is called: a code or a name of the log, or a span. Views word it. */
export type Label = string | Band;

/** A label as a key: the same for equal labels. */
export const labelKey = (label: Label): string =>
  typeof label === 'string' ? label : `${label.from ?? ''}–${label.to ?? ''} ${label.unit}`.trim();

/** The span that a value falls into between limits in ascending order; undefined where the value is not known. */
export function bandOf(v: number | null | undefined, limits: number[], unit: string): Band | undefined {
  if (v == null || Number.isNaN(v)) return undefined;
  const k = limits.findIndex((limit) => v < limit);
  return { from: (k < 0 ? limits.at(-1) : limits[k - 1]) ?? null, to: k < 0 ? null : limits[k], unit };
}
