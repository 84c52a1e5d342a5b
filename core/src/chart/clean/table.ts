/**
 * Soundings of a water in its metric plane, one entry a sounding, sorted by survey and time.
 * Never changed by cleaning: every step works on a copy, so that switching it off brings back what was logged.
 */
export interface SoundingTable {
  /** Milliseconds since 1970. */
  time: Float64Array;
  x: Float64Array;
  y: Float64Array;
  /** Metres below the surface, as logged. */
  depth: Float32Array;
  /** 0 soft – 1 hard; NaN where not known. */
  hardness: Float32Array;
  /** °C; NaN where not known. */
  temperature: Float32Array;
  /** Number of the survey (a file, a log) each came from; below zero for the tracks of trips, a number each. */
  survey: Int32Array;
}

/** What one step did. */
export interface CleanStep {
  name: 'position jumps' | 'second echo' | 'spikes' | 'time lag' | 'transducer depth' | 'sound speed' | 'water level';
  on: boolean;
  /** Soundings left out by it. */
  leftOut: number;
  /** Soundings whose depth or place it changed. */
  changed: number;
  /** Spread of the depths where passes meet, m, before and after; null where passes never meet. */
  before: number | null;
  after: number | null;
  /** What was found, in words. */
  words: string;
}

/** Which steps are taken. Left out: the default, which is yes for what needs no setting. */
export interface CleanSettings {
  jumps?: boolean;
  doubles?: boolean;
  spikes?: boolean;
  lag?: boolean;
  level?: boolean;
  /** Depth of the transducer below the surface, m, for units that do not add it themselves. */
  transducer_m?: number;
  /** Speed of sound set in the unit, m/s; given, depths are corrected for the water's temperature. */
  assumed_sound_ms?: number;
}

/** A pass: soundings that follow each other without a break. */
export interface Pass {
  from: number;
  /** One beyond the last. */
  to: number;
}

const BREAK_MS = 30_000;

/** Passes of a table: another begins with another survey or a gap of 30 s. */
export function passesOf({ time, survey }: SoundingTable): Pass[] {
  const passes: Pass[] = [];
  let from = 0;
  for (let i = 1; i <= time.length; i++)
    if (i === time.length || survey[i] !== survey[i - 1] || time[i] - time[i - 1] > BREAK_MS || time[i] < time[i - 1]) {
      if (i > from) passes.push({ from, to: i });
      from = i;
    }
  return passes;
}

/** Passes cut where the boat turned by more than 60°: stretches in one direction. */
export function legsOf({ x, y }: Pick<SoundingTable, 'x' | 'y'>, passes: Pass[]): Pass[] {
  const legs: Pass[] = [];
  for (const { from, to } of passes) {
    let start = from;
    // Courses are taken over 12 m and more: the scatter of fixes says nothing of where a boat goes.
    let mark = from;
    let course = NaN;
    for (let i = from + 1; i < to; i++) {
      const [dx, dy] = [x[i] - x[mark], y[i] - y[mark]];
      if (dx * dx + dy * dy < 144) continue;
      const now = Math.atan2(dy, dx);
      if (!Number.isNaN(course) && Math.cos(now - course) < 0.5) {
        legs.push({ from: start, to: mark });
        start = mark;
        course = now;
      } else course = Number.isNaN(course) ? now : course + 0.5 * Math.atan2(Math.sin(now - course), Math.cos(now - course));
      mark = i;
    }
    legs.push({ from: start, to });
  }
  return legs.filter((leg) => leg.to > leg.from);
}

/** Medians over a sliding window of `half` entries to either side, shorter at the ends; entries left out are passed over. */
export function slidingMedian(values: ArrayLike<number>, { from, to }: Pass, half: number, left: Uint8Array): Float32Array {
  const out = new Float32Array(to - from);
  const window = new Float64Array(2 * half + 1);
  for (let i = from; i < to; i++) {
    let n = 0;
    for (let k = Math.max(from, i - half); k < Math.min(to, i + half + 1); k++) {
      if (left[k]) continue;
      // Insertion keeps the few values sorted without allocating.
      const v = values[k];
      let m = n++;
      while (m > 0 && window[m - 1] > v) {
        window[m] = window[m - 1];
        m--;
      }
      window[m] = v;
    }
    out[i - from] = n === 0 ? NaN : n % 2 ? window[(n - 1) / 2] : (window[n / 2 - 1] + window[n / 2]) / 2;
  }
  return out;
}
