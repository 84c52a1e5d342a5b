import type { TideState } from './state';

/** Water that runs: where it goes, degrees true, and how fast, m/s. */
export interface StreamNow {
  set: number;
  rate: number;
}

/** One row of a table of streams, told by the hour of the tide at its port. */
export interface StreamRow {
  /** Hours from high water: −6 to 6. */
  hour: number;
  /** Towards, degrees true. */
  set: number;
  /** m/s at springs and at neaps. */
  springs: number;
  neaps: number;
}

const RAD = Math.PI / 180;
/** A tide takes so many hours: the hour before its first row is its last. */
const CYCLE = 12.42;
/** Slower than this it is slack, m/s. */
export const SLACK = 0.1;

const vector = ({ set, springs, neaps }: StreamRow, share: number): [east: number, north: number] => {
  const rate = neaps + (springs - neaps) * share;
  return [rate * Math.sin(set * RAD), rate * Math.cos(set * RAD)];
};

/**
 * The stream at a moment of the tide: between the rows as a vector, between neaps and springs by the day's range.
 * @param state of the tide at the port that the table is for; without its range the mean of springs and neaps stands
 * @returns null where the table or the tide says nothing
 */
export function streamByTable(
  rows: readonly StreamRow[],
  { fromHigh, springs }: Pick<TideState, 'fromHigh' | 'springs'>,
): StreamNow | null {
  if (!rows.length || fromHigh === null) return null;
  const sorted = [...rows].sort((a, b) => a.hour - b.hour);
  const share = springs ?? 0.5;
  const after = sorted.findIndex((r) => r.hour >= fromHigh);
  // Beyond the ends the tide before, or after, goes on.
  const [a, b, from, to] =
    after > 0
      ? [sorted[after - 1], sorted[after], sorted[after - 1].hour, sorted[after].hour]
      : after === 0
        ? [sorted.at(-1)!, sorted[0], sorted.at(-1)!.hour - CYCLE, sorted[0].hour]
        : [sorted.at(-1)!, sorted[0], sorted.at(-1)!.hour, sorted[0].hour + CYCLE];
  const t = to > from ? Math.min(1, Math.max(0, (fromHigh - from) / (to - from))) : 0;
  const [[ea, na], [eb, nb]] = [vector(a, share), vector(b, share)];
  return towards(ea + t * (eb - ea), na + t * (nb - na));
}

/** From this stream, and this wind, a sea that stands up is worth a word, m/s: judgements. */
const [STRONG_STREAM, FRESH_WIND] = [0.5, 6];

/** Whether the wind blows against the stream, within 45°, hard enough for a short and steep sea. @param from degrees true @param speed m/s */
export function windAgainstTide({ set, rate }: StreamNow, from: number, speed: number): boolean {
  const off = Math.abs(((from - set + 540) % 360) - 180);
  return rate >= STRONG_STREAM && speed >= FRESH_WIND && off <= 45;
}

/** A stream from its parts to the east and north, m/s. */
export function towards(east: number, north: number): StreamNow {
  return { set: (Math.atan2(east, north) / RAD + 360) % 360, rate: Math.hypot(east, north) };
}
