/** A reading of the water's level, m above datum, at a time (ms). */
export interface LevelReading {
  at: number;
  level: number;
}

const HOUR = 3_600_000;

/**
 * Level of the water at any moment, from readings sorted by time; NaN where none is near enough.
 * Inland, between two readings up to three days apart the level is taken to change evenly, and a single one holds for
 * twelve hours. On tidal water readings are high and low water: between two up to eight hours apart the tide
 * follows half a cosine (the "rule of twelfths" in closed form), and nothing is said farther off.
 */
export function levelAt(readings: LevelReading[], at: number, tidal = false): number {
  let [low, high] = [0, readings.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (readings[middle].at <= at) low = middle + 1;
    else high = middle;
  }
  const before = readings[low - 1];
  const after = readings[low];
  if (before && after && after.at - before.at <= (tidal ? 8 : 72) * HOUR) {
    const share = (at - before.at) / (after.at - before.at);
    return before.level + (after.level - before.level) * (tidal ? (1 - Math.cos(Math.PI * share)) / 2 : share);
  }
  const reach = (tidal ? 0.5 : 12) * HOUR;
  const nearest = before && (!after || at - before.at <= after.at - at) ? before : after;
  return nearest && Math.abs(nearest.at - at) <= reach ? nearest.level : NaN;
}

/**
 * Readings as heights over the water's datum. A gauge that tells metres above the sea is brought down to the datum by
 * the water's altitude, or by its own median where that does not fit either.
 */
export function overDatum<R extends LevelReading>(readings: R[], altitude: number | null): { readings: R[]; base: number } {
  if (!readings.length) return { readings, base: 0 };
  const sorted = readings.map((r) => r.level).sort((a, b) => a - b);
  const median = sorted[sorted.length >> 1];
  // Levels move by metres, not by tens of metres: a larger figure is a height above something else.
  const base = Math.abs(median) < 25 ? 0 : altitude !== null && Math.abs(median - altitude) < 25 ? altitude : median;
  return { readings: base === 0 ? readings : readings.map((r) => ({ ...r, level: r.level - base })), base };
}
