import { localToUtc, metric, METRES_PER_FOOT, METRES_PER_MILE, zoneOffset, type UnitSystem } from '@restless-shoal/core/units';
import { decimal, formatArea, formatDepth, locale, parts as msg, percent, readerUnits } from '../words';

export { percent };

/** A wind direction as the field says it. */
export const compass = (degrees: number): string =>
  msg('format.compass').split(' ')[Math.round((((degrees % 360) + 360) % 360) / 22.5) % 16];

/** "18–35 %" */
export const percentRange = (low: number, high: number): string => `${percent(low).replace(' %', '')}–${percent(high)}`;

/** Formats by what they were made for: to make one takes longer than to write a hundred moments with it. */
const formats = new Map<string, Intl.DateTimeFormat>();

/** A moment in the water's time zone. */
export function inZone(at: Date, zone: string | null, options: Intl.DateTimeFormatOptions): string {
  const key = `${locale()} ${zone} ${JSON.stringify(options)}`;
  let format = formats.get(key);
  if (!format) formats.set(key, (format = new Intl.DateTimeFormat(locale(), { timeZone: zone ?? undefined, ...options })));
  return format.format(at);
}
export const dayInZone = (at: Date, zone: string | null): string =>
  inZone(at, zone, { weekday: 'short', day: 'numeric', month: 'short', year: 'numeric' });
export const clockInZone = (at: Date, zone: string | null): string => inZone(at, zone, { hour: '2-digit', minute: '2-digit' });

/** A time zone as people say it: "UTC−2" for Etc/GMT+2, whose sign runs the other way; a place by its own name. */
export function zoneWords(zone: string | null): string {
  if (zone === null) return msg('format.thisDevicesTime');
  const fixed = /^Etc\/GMT([+-])(\d+)$/.exec(zone);
  if (fixed) return fixed[2] === '0' ? 'UTC' : `UTC${fixed[1] === '+' ? '−' : '+'}${fixed[2]}`;
  return /^Etc\/(UTC|GMT)$/.test(zone) ? 'UTC' : zone.replaceAll('_', ' ');
}

/** "15 416" */
export const grouped = (n: number): string => Math.round(n).toLocaleString('en').replaceAll(',', '\u202f');

export const hectares = (squareMetres: number): string => formatArea(squareMetres);

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

export const METRES_PER = { m: 1, ft: METRES_PER_FOOT } as const;

/** A depth in the reader's unit. */
export const depthText = (metres: number, depth: DepthUnit = readerUnits().depth): string => formatDepth(metres, { ...metric, depth });

/** From one depth to another, the unit said once. */
export const depthRange = (top: number, bottom: number, depth: DepthUnit = readerUnits().depth): string =>
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

/** Round lengths of a scale bar, in the reader's short and long unit. */
const BARS = {
  m: [
    [1, 'm', [5, 10, 20, 50, 100, 200, 500]],
    [1000, 'km', [1, 2, 5, 10, 20]],
  ],
  ft: [
    [METRES_PER_FOOT, 'ft', [20, 50, 100, 200, 500, 1000, 2000]],
    [METRES_PER_MILE, 'mi', [0.5, 1, 2, 5, 10]],
  ],
} as const;

/** A scale bar: the longest round length of at most 110 pixels. @param resolution metres to a pixel */
export function scaleBar(resolution: number, unit: DepthUnit): { label: string; pixels: number } {
  const all = BARS[unit].flatMap(([metres, name, lengths]) =>
    lengths.map((n) => ({ metres: n * metres, label: `${decimal(n, n % 1 ? 1 : 0)} ${name}` })),
  );
  const { metres, label } = all.findLast((bar) => bar.metres / resolution <= 110) ?? all[0];
  return { label, pixels: metres / resolution };
}
