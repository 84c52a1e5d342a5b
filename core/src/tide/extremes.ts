/** High or low water. */
export interface TideExtreme {
  /** ms */
  at: number;
  /** m over the datum. */
  height: number;
  high: boolean;
}

/** A tide at a place, wherever it comes from. */
export interface Tide {
  /** m over the datum; NaN where nothing is said of the moment. @param at ms */
  height(at: number): number;
  /** Its high and low waters between two moments, where it knows them itself. */
  turns?(from: number, to: number): TideExtreme[];
}

/** Between two turns of a tide lie more than twice so many minutes. */
const STEP = 12 * 60_000;
/** To which a turn is found, ms. */
const CLOSE = 1000;
/** Less than this between two turns is none, m. */
const LEAST = 0.005;

/** The turn of the height within a span in which it has one: golden section. */
function turnIn(tide: Tide, from: number, to: number, high: boolean): number {
  const golden = (Math.sqrt(5) - 1) / 2;
  const value = (at: number): number => (high ? tide.height(at) : -tide.height(at));
  let [a, b] = [from, to];
  while (b - a > CLOSE) {
    const [c, d] = [b - golden * (b - a), a + golden * (b - a)];
    if (value(c) > value(d)) b = d;
    else a = c;
  }
  return (a + b) / 2;
}

/** High and low waters between two moments, in order. Turns of a few millimetres, as of a stand, are none. */
export function extremesOf(tide: Tide, from: number, to: number): TideExtreme[] {
  if (tide.turns) return tide.turns(from, to);
  const found: TideExtreme[] = [];
  let [before, now] = [tide.height(from - STEP), tide.height(from)];
  for (let at = from; at <= to; at += STEP) {
    const after = tide.height(at + STEP);
    const high = now >= before && now > after;
    const low = now <= before && now < after;
    if (high || low) {
      const turn = turnIn(tide, at - STEP, at + STEP, high);
      const next: TideExtreme = { at: turn, height: tide.height(turn), high };
      const last = found.at(-1);
      if (last && Math.abs(last.height - next.height) < LEAST) found.pop();
      else if (turn >= from && turn <= to) found.push(next);
    }
    [before, now] = [now, after];
  }
  return found;
}
