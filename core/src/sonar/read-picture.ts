/** A ping of a sounder as it came: levels 0–255 along the range. */
export interface SounderColumn {
  levels: Uint8Array;
  /** Range of the last sample, m. */
  range: number;
  /** Transducer below the surface, m. */
  transducerDepth: number;
}

const metres = (column: SounderColumn, sample: number): number => column.transducerDepth + (sample * column.range) / column.levels.length;

/** Depth of the bottom in one ping, m below the surface: where the strongest long echo begins; null when there is none. */
export function bottomOf(column: SounderColumn): number | null {
  const { levels } = column;
  let best = -1;
  let sum = 0;
  // Strongest over five samples: the bottom is both loud and long.
  for (let i = 0; i < levels.length - 5; i++) {
    const now = levels[i] + levels[i + 1] + levels[i + 2] + levels[i + 3] + levels[i + 4];
    if (now > sum * 1.04) [best, sum] = [i, now];
  }
  if (best < 0 || sum < 5 * 110) return null;
  let start = best + 4;
  while (start > 0 && levels[start - 1] > 0.72 * (sum / 5)) start--;
  return metres(column, start);
}

/**
 * Where a point of a forward-facing picture lies.
 * @param range slant range, m @param down degrees below level @param transducerDepth m
 * @returns metres ahead of the transducer, and depth below the surface
 */
export function forwardPlace(range: number, down: number, transducerDepth: number): { ahead: number; depth: number } {
  const angle = (down * Math.PI) / 180;
  return { ahead: range * Math.cos(angle), depth: transducerDepth + range * Math.sin(angle) };
}
