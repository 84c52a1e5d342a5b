import { readTime } from '../logbook';
import { constituentNamed, NO_TIDE, RESIDUAL, type TideRecord } from '../tide';
import { csvRows, FormatError } from './csv';

/** Something a line of a tide table could not be read for. */
export interface TideFault {
  line: number;
  column: string;
  reason: 'missing' | 'time' | 'number' | 'impossible' | 'unknown' | 'twice';
  value: string;
}

/** The part of a record that a table fills. */
export type TidePart = 'constants' | 'turns' | 'stream' | 'stream_constants';

const KINDS: Record<TidePart, { columns: readonly string[]; limits: Record<string, [number, number]> }> = {
  constants: { columns: ['constituent', 'amplitude_m', 'phase_deg'], limits: { amplitude_m: [-50, 50], phase_deg: [-360, 720] } },
  turns: { columns: ['time', 'height_m'], limits: { height_m: [-50, 50] } },
  stream: {
    columns: ['hour', 'set_deg', 'springs_ms', 'neaps_ms'],
    limits: { hour: [-13, 13], set_deg: [0, 360], springs_ms: [0, 20], neaps_ms: [0, 20] },
  },
  stream_constants: {
    columns: ['constituent', 'east_ms', 'east_phase_deg', 'north_ms', 'north_phase_deg'],
    limits: { east_ms: [-20, 20], north_ms: [-20, 20], east_phase_deg: [-360, 720], north_phase_deg: [-360, 720] },
  },
};

/**
 * Reads tide.csv (docs/formats.md): harmonic constants, high and low waters, or the stream by the hour, told apart by their columns.
 * Lines that can't be read are told and left out, unknown constituents among them.
 * @param before what the water has already: the other parts of it stay
 * @throws FormatError when the columns are of none of them, or no line can be read
 */
export async function readTideTable(
  text: string,
  before: TideRecord = NO_TIDE,
): Promise<{ tide: TideRecord; part: TidePart; rows: number; faults: TideFault[] }> {
  const faults: TideFault[] = [];
  let names: string[] | null = null;
  let part: TidePart | null = null;
  const found: Record<string, string | number>[] = [];
  const seen = new Set<string>();
  let mean = before.mean_m;
  const rows = [];
  for await (const some of csvRows([new TextEncoder().encode(text)])) rows.push(...some);
  for (const { line, fields } of rows) {
    const cells: string[] = fields.map((c) => c.trim());
    if (!names || !part) {
      names = cells.map((c) => c.toLowerCase());
      part = (Object.keys(KINDS) as TidePart[]).find((k) => KINDS[k].columns.every((c) => names!.includes(c))) ?? null;
      if (!part)
        throw new FormatError(
          `tide.csv needs the columns ${Object.values(KINDS)
            .map((k) => k.columns.join(', '))
            .join('; or ')}`,
        );
      continue;
    }
    const { columns, limits } = KINDS[part];
    const row: Record<string, string | number> = {};
    const fault = (column: string, reason: TideFault['reason'], value: string): null => {
      faults.push({ line, column, reason, value });
      return null;
    };
    const cellOf = (column: string): string => cells[names!.indexOf(column)] ?? '';
    const valueOf = (column: string): string | number | null => {
      const raw = cellOf(column);
      if (!raw) return fault(column, 'missing', raw);
      if (column === 'constituent') return raw;
      if (column === 'time') {
        const time = readTime(raw);
        return time.startsWith('!') ? fault(column, 'time', raw) : time;
      }
      const v = Number(raw.replace(',', '.'));
      const [least, most] = limits[column];
      if (!Number.isFinite(v)) return fault(column, 'number', raw);
      return v < least || v > most ? fault(column, 'impossible', raw) : v;
    };
    // The mean level has no phase.
    if (part === 'constants' && RESIDUAL.test(cellOf('constituent'))) {
      mean = Number(valueOf('amplitude_m') ?? mean);
      continue;
    }
    if (columns.some((c) => (row[c] = valueOf(c)!) === null)) continue;
    const key = String(row[columns[0]]).toLowerCase();
    if (seen.has(key)) {
      fault(columns[0], 'twice', key);
      continue;
    }
    seen.add(key);
    const named = String(row.constituent);
    const known = constituentNamed(named) || (part === 'stream_constants' && RESIDUAL.test(named));
    if ((part === 'constants' || part === 'stream_constants') && !known) fault('constituent', 'unknown', String(row.constituent));
    else if (part === 'constants' && Number(row.amplitude_m) < 0) fault('amplitude_m', 'impossible', String(row.amplitude_m));
    else found.push(row);
  }
  if (!part) throw new FormatError('tide.csv is empty');
  if (!found.length) throw new FormatError('tide.csv has no line that can be read');
  const tide: TideRecord =
    part === 'constants'
      ? {
          ...before,
          mean_m: mean,
          constants: found.map((r) => ({
            name: String(r.constituent),
            amplitude_m: Number(r.amplitude_m),
            phase_deg: Number(r.phase_deg),
          })),
        }
      : part === 'turns'
        ? // Constants would go before them.
          {
            ...before,
            constants: [],
            turns: found.map((r) => ({ time: new Date(String(r.time)).toISOString(), height_m: Number(r.height_m) })),
          }
        : part === 'stream_constants'
          ? {
              ...before,
              stream_constants: found.map((r) => ({
                name: String(r.constituent),
                east_ms: Number(r.east_ms),
                east_phase_deg: Number(r.east_phase_deg),
                north_ms: Number(r.north_ms),
                north_phase_deg: Number(r.north_phase_deg),
              })),
            }
          : {
              ...before,
              stream: found.map((r) => ({
                hour: Number(r.hour),
                set_deg: Number(r.set_deg),
                springs_ms: Number(r.springs_ms),
                neaps_ms: Number(r.neaps_ms),
              })),
            };
  return { tide, part, rows: found.length, faults };
}
