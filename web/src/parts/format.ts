import { formatDepth, localToUtc, metric, zoneOffset, type UnitSystem } from '@restless-shoal/core/units';

const COMPASS = ['N', 'NNE', 'NE', 'ENE', 'E', 'ESE', 'SE', 'SSE', 'S', 'SSW', 'SW', 'WSW', 'W', 'WNW', 'NW', 'NNW'];

/** A wind direction as the field says it. */
export const compass = (degrees: number): string => COMPASS[Math.round(degrees / 22.5) % 16];

/** A chance with sensible digits: 0.4 %, 3 %, 41 %. */
export const percent = (p: number): string => (p < 0.0995 ? `${(p * 100).toFixed(1).replace(/\.0$/, '')} %` : `${Math.round(p * 100)} %`);

/** "18–35 %" */
export const percentRange = (low: number, high: number): string => `${percent(low).replace(' %', '')}–${percent(high)}`;

/** A moment in the water's time zone. */
export function inZone(at: Date, zone: string | null, options: Intl.DateTimeFormatOptions): string {
  return new Intl.DateTimeFormat('en-GB', { timeZone: zone ?? undefined, ...options }).format(at);
}
export const dayInZone = (at: Date, zone: string | null): string =>
  inZone(at, zone, { weekday: 'short', day: 'numeric', month: 'short', year: 'numeric' });
export const clockInZone = (at: Date, zone: string | null): string => inZone(at, zone, { hour: '2-digit', minute: '2-digit' });

/** A time zone as people say it: "UTC−2" for Etc/GMT+2, whose sign runs the other way; a place by its own name. */
export function zoneWords(zone: string | null): string {
  if (zone === null) return 'this device’s time';
  const fixed = /^Etc\/GMT([+-])(\d+)$/.exec(zone);
  if (fixed) return fixed[2] === '0' ? 'UTC' : `UTC${fixed[1] === '+' ? '−' : '+'}${fixed[2]}`;
  return /^Etc\/(UTC|GMT)$/.test(zone) ? 'UTC' : zone.replaceAll('_', ' ');
}

/** "15 416" */
export const grouped = (n: number): string => Math.round(n).toLocaleString('en').replaceAll(',', '\u202f');

export const hectares = (squareMetres: number): string => `${(squareMetres / 10_000).toFixed(squareMetres < 100_000 ? 1 : 0)} ha`;

/** The zone of this device. */
export const ownZone = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone;

/** Value of a datetime-local input for a moment in a zone, and back. */
export const toLocalInput = (at: Date, zone: string | null): string =>
  new Date(at.getTime() + zoneOffset(at.getTime(), zone ?? ownZone())).toISOString().slice(0, 16);
/** "2026-05-02", the day that it is in a zone. */
export const dayKey = (at: Date, zone: string | null): string => toLocalInput(at, zone).slice(0, 10);
export function fromLocalInput(value: string, zone: string | null): Date | null {
  // Checked by form first: Date.parse makes a date of almost any words.
  const asUtc = /^\d{4}-\d\d-\d\dT\d\d:\d\d$/.test(value) ? Date.parse(`${value}:00Z`) : NaN;
  if (Number.isNaN(asUtc)) return null;
  return new Date(localToUtc(asUtc, zone ?? ownZone()));
}

export type DepthUnit = UnitSystem['depth'];

export const METRES_PER = { m: 1, ft: 0.3048 } as const;

/** A depth in the reader's unit. */
export const depthText = (metres: number, depth: DepthUnit): string => formatDepth(metres, { ...metric, depth });

/** From one depth to another, the unit said once. */
export const depthRange = (top: number, bottom: number, depth: DepthUnit): string =>
  `${formatDepth(top, { ...metric, depth }, false)}–${depthText(bottom, depth)}`;

/** Ticks of a scale of depths down to so many metres, at whole numbers of the reader's unit: with a label each so many. */
export function depthTicks(max: number, unit: DepthUnit): { depth: number; major: boolean; label: string | null }[] {
  const metres = METRES_PER[unit];
  const span = max / metres;
  const [minor, major, labelled] =
    unit === 'm'
      ? max <= 4
        ? [0.5, 1, 1]
        : max <= 20
          ? [max <= 14 ? 1 : 2, 2, 2]
          : max <= 36
            ? [2, 4, 4]
            : [5, 10, 10]
      : span <= 14
        ? [1, 2, 2]
        : span <= 40
          ? [2, 10, 10]
          : span <= 75
            ? [5, 10, 10]
            : span <= 160
              ? [10, 20, 20]
              : [20, 40, 40];
  return Array.from({ length: Math.floor(span / minor + 1e-9) + 1 }, (_, k) => k * minor).map((v) => ({
    depth: v * metres,
    major: v % major === 0,
    label: v % labelled === 0 ? String(v) : null,
  }));
}

/** A scale bar: the longest round length of at most 110 pixels. @param resolution metres to a pixel */
export function scaleBar(resolution: number, unit: DepthUnit): { label: string; pixels: number } {
  const metres = METRES_PER[unit];
  const length = [5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000, 20_000].findLast((n) => (n * metres) / resolution <= 110) ?? 5;
  return { label: unit === 'm' && length >= 1000 ? `${length / 1000} km` : `${length} ${unit}`, pixels: (length * metres) / resolution };
}
