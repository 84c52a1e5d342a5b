import { extremesOf, type Tide, type TideExtreme } from './extremes';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** Farther apart two turns are not neighbours: a table lacks one. */
const LONGEST = 16 * HOUR;

/** Where in the tide a moment is. */
export interface TideState {
  /** m over the datum. */
  height: number;
  rising: boolean;
  /** Hours from the nearest high water: negative before it, positive after; null where none is known near. */
  fromHigh: number | null;
  last: TideExtreme | null;
  next: TideExtreme | null;
  /** Height of the next high water, or of the last, over the low water beside it, m; null where they are not known. */
  range: number | null;
  /** Where that range lies between the least (neaps, 0) and the largest (springs, 1) of a fortnight about the moment; null where little of it is known. */
  springs: number | null;
}

/** Ranges from each high water to the low water after it. */
function rangesOf(turns: readonly TideExtreme[]): number[] {
  return turns.slice(1).flatMap((turn, i) => {
    const beside = turn.high !== turns[i].high && turn.at - turns[i].at <= LONGEST;
    return beside ? [Math.abs(turn.height - turns[i].height)] : [];
  });
}

/** Hours from the nearest high water: negative before it; NaN where none is known near. @param at ms */
export function hoursFromHigh(tide: Tide, at: number): number {
  if (Number.isNaN(tide.height(at))) return NaN;
  let nearest = NaN;
  for (const turn of extremesOf(tide, at - 13 * HOUR, at + 13 * HOUR)) {
    const off = (at - turn.at) / HOUR;
    if (turn.high && !(Math.abs(off) >= Math.abs(nearest))) nearest = off;
  }
  return nearest;
}

/** The least and the largest range of the fortnight about a day, by tide and day: looking for them is most of the work. */
const fortnights = new WeakMap<Tide, { day: number; least: number; largest: number; known: boolean }>();

function fortnightOf(tide: Tide, at: number): { least: number; largest: number; known: boolean } {
  const day = Math.floor(at / DAY);
  const kept = fortnights.get(tide);
  if (kept?.day === day) return kept;
  // A fortnight holds one spring and one neap tide.
  const middle = (day + 0.5) * DAY;
  const ranges = rangesOf(extremesOf(tide, middle - 7.5 * DAY, middle + 7.5 * DAY));
  const [least, largest] = [Math.min(...ranges), Math.max(...ranges)];
  const found = { day, least, largest, known: ranges.length >= 20 && largest > least };
  fortnights.set(tide, found);
  return found;
}

/** The state of a tide at a moment; null where nothing is known of it. @param at ms */
export function tideState(tide: Tide, at: number): TideState | null {
  const height = tide.height(at);
  if (Number.isNaN(height)) return null;
  const turns = extremesOf(tide, at - 26 * HOUR, at + 26 * HOUR);
  const last = turns.findLast((t) => t.at <= at) ?? null;
  const next = turns.find((t) => t.at > at) ?? null;
  const highs = turns.filter((t) => t.high);
  const nearest = highs.reduce<TideExtreme | null>((best, t) => (!best || Math.abs(t.at - at) < Math.abs(best.at - at) ? t : best), null);
  const range = last && next && last.high !== next.high ? Math.abs(next.height - last.height) : null;
  const { least, largest, known } = fortnightOf(tide, at);
  return {
    height,
    rising: tide.height(at + 60_000) > height,
    fromHigh: nearest ? (at - nearest.at) / HOUR : null,
    last,
    next,
    range,
    springs: range !== null && known ? Math.min(1, Math.max(0, (range - least) / (largest - least))) : null,
  };
}
