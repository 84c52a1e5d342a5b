import { array, string, type InferType } from 'yup';
import { MISSING, only, within, words } from '../schema';
import type { Tide } from './extremes';
import { Harmonics } from './harmonic';
import { HighLowTable } from './high-low-table';
import { tideState, type TideState } from './state';
import { streamByTable, towards, type StreamNow } from './stream';

const ISO = /^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d(\.\d+)?)?(Z|[+-]\d\d:\d\d)$/;
const moment = string()
  .strict()
  .typeError('must be a time')
  .test('time', 'is not an ISO 8601 time with offset or Z', (v) => v == null || (ISO.test(v) && !Number.isNaN(Date.parse(v))));
const list = <S extends Parameters<typeof only>[0]>(fields: S, most: number) =>
  array(only(fields)).strict().typeError('must be a list').max(most, `holds more than ${most}`).required(MISSING);

/**
 * The tide of a water as it is kept: harmonic constants, or high and low waters, and the stream by the hour of the tide. Heights are
 * over the datum of its soundings.
 */
export const tideSchema = only({
  mean_m: within(-50, 50).required(MISSING),
  constants: list(
    { name: words(20).required(MISSING), amplitude_m: within(0, 20).required(MISSING), phase_deg: within(-360, 720).required(MISSING) },
    200,
  ),
  turns: list({ time: moment.required(MISSING), height_m: within(-50, 50).required(MISSING) }, 20_000),
  stream: list(
    {
      hour: within(-13, 13).required(MISSING),
      set_deg: within(0, 360).required(MISSING),
      springs_ms: within(0, 20).required(MISSING),
      neaps_ms: within(0, 20).required(MISSING),
    },
    60,
  ),
  /** The stream by harmonic constants of its parts to the east and north; Z0: what is left of it over the tides. They go before the table. */
  stream_constants: array(
    only({
      name: words(20).required(MISSING),
      east_ms: within(-20, 20).required(MISSING),
      east_phase_deg: within(-360, 720).required(MISSING),
      north_ms: within(-20, 20).required(MISSING),
      north_phase_deg: within(-360, 720).required(MISSING),
    }),
  )
    .strict()
    .typeError('must be a list')
    .max(200, 'holds more than 200'),
});
export type TideRecord = InferType<typeof tideSchema>;

/** A tide of nothing yet. */
export const NO_TIDE: TideRecord = { mean_m: 0, constants: [], turns: [], stream: [] };

const kept = new WeakMap<TideRecord, Tide | null>();

/** The tide that a record tells; by its constants where it has them, else by its high and low waters; null where it has neither. */
export function tideOf(record: TideRecord | null | undefined): Tide | null {
  if (!record) return null;
  let tide = kept.get(record);
  if (tide === undefined) {
    tide = record.constants.length
      ? new Harmonics(
          record.constants.map((c) => ({ name: c.name, amplitude: c.amplitude_m, phase: c.phase_deg })),
          record.mean_m,
        )
      : record.turns.length
        ? new HighLowTable(record.turns.map((t) => ({ at: Date.parse(t.time), height: t.height_m })))
        : null;
    kept.set(record, tide);
  }
  return tide;
}

/** Names that stand for no constituent, but for what is left over all tides: the mean level, the residual stream. */
export const RESIDUAL = /^(z0|a0|s0|mean|msl|residual)$/i;

const streams = new WeakMap<TideRecord, [east: Harmonics, north: Harmonics] | null>();

/** The parts of a stream by harmonic constants; null where none are known. */
function partsOf(record: TideRecord): [Harmonics, Harmonics] | null {
  let parts = streams.get(record);
  if (parts === undefined) {
    const rows = record.stream_constants ?? [];
    const left = rows.find((r) => RESIDUAL.test(r.name));
    const moving = rows.filter((r) => !RESIDUAL.test(r.name));
    parts = rows.length
      ? [
          new Harmonics(
            moving.map((r) => ({ name: r.name, amplitude: r.east_ms, phase: r.east_phase_deg })),
            left?.east_ms,
          ),
          new Harmonics(
            moving.map((r) => ({ name: r.name, amplitude: r.north_ms, phase: r.north_phase_deg })),
            left?.north_ms,
          ),
        ]
      : null;
    streams.set(record, parts);
  }
  return parts;
}

/**
 * The stream at a moment by the record of a tide: by its harmonic constants where it has them, else by its table; null where it has no table of streams, or no tide for it.
 * @param at ms @param known the state of the tide then, where it was worked out already
 */
export function streamOf(record: TideRecord | null | undefined, at: number, known: TideState | null = null): StreamNow | null {
  const parts = record ? partsOf(record) : null;
  if (parts) return towards(parts[0].height(at), parts[1].height(at));
  const tide = tideOf(record);
  const state = tide && record!.stream.length ? (known ?? tideState(tide, at)) : null;
  const rows = state && record!.stream.map((r) => ({ hour: r.hour, set: r.set_deg, springs: r.springs_ms, neaps: r.neaps_ms }));
  return rows && streamByTable(rows, state!);
}

/** Whether a value that was kept is the record of a tide. */
export const readTide = (value: unknown): TideRecord | null => (tideSchema.isValidSync(value) ? (value as TideRecord) : null);

/**
 * Constants of a made-up port with two tides a day, for trying things: they are of no place.
 */
export const SIMULATED_TIDE: TideRecord = {
  mean_m: 1.9,
  constants: [
    { name: 'M2', amplitude_m: 1.12, phase_deg: 148 },
    { name: 'S2', amplitude_m: 0.38, phase_deg: 189 },
    { name: 'N2', amplitude_m: 0.22, phase_deg: 127 },
    { name: 'K2', amplitude_m: 0.1, phase_deg: 187 },
    { name: 'K1', amplitude_m: 0.09, phase_deg: 62 },
    { name: 'O1', amplitude_m: 0.07, phase_deg: 318 },
    { name: 'M4', amplitude_m: 0.06, phase_deg: 214 },
    { name: 'MS4', amplitude_m: 0.04, phase_deg: 262 },
  ],
  turns: [],
  stream: [
    { hour: -6, set_deg: 62, springs_ms: 0.2, neaps_ms: 0.1 },
    { hour: -4, set_deg: 66, springs_ms: 0.8, neaps_ms: 0.4 },
    { hour: -2, set_deg: 70, springs_ms: 1.0, neaps_ms: 0.5 },
    { hour: 0, set_deg: 75, springs_ms: 0.3, neaps_ms: 0.15 },
    { hour: 1, set_deg: 240, springs_ms: 0.3, neaps_ms: 0.15 },
    { hour: 3, set_deg: 247, springs_ms: 1.1, neaps_ms: 0.55 },
    { hour: 5, set_deg: 250, springs_ms: 0.6, neaps_ms: 0.3 },
  ],
};
