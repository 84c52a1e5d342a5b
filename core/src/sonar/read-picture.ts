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

/** Something free of the bottom in a run of pings. */
export interface EchoTrace {
  /** The ping in which it is nearest: it was straight below then. */
  ping: number;
  /** Of its upper edge, m below the surface. */
  depth: number;
  /** How many pings saw it, and its strongest level. */
  pings: number;
  level: number;
}

/** What stands out of the noise by this much counts as an echo, of 255. */
const OUT_OF_NOISE = 55;

/**
 * Plain detector of a sounder's picture: joins echoes of following pings that lie within half a metre, and reads the
 * depth of each where it is nearest, the top of its arch.
 * @param least pings that have to see it
 */
export function traces(columns: SounderColumn[], least = 3): EchoTrace[] {
  interface Open extends EchoTrace {
    last: number;
    lastDepth: number;
  }
  let open: Open[] = [];
  const done: Open[] = [];
  columns.forEach((column, ping) => {
    const { levels } = column;
    const bottom = bottomOf(column) ?? Infinity;
    const sorted = Uint8Array.from(levels).sort();
    const threshold = sorted[Math.floor(sorted.length * 0.5)] + OUT_OF_NOISE;
    for (let i = 1; i < levels.length - 1 && metres(column, i) < bottom - 0.3; i++) {
      if (levels[i] < threshold || levels[i] < levels[i - 1]) continue;
      // The beginning of the echo, not its middle.
      let end = i;
      while (end + 1 < levels.length && levels[end + 1] >= threshold) end++;
      const [depth, level] = [metres(column, i), Math.max(...levels.subarray(i, end + 1))];
      i = end;
      const known = open.find((o) => o.last < ping && Math.abs(o.lastDepth - depth) < 0.5);
      if (!known) open.push({ ping, depth, pings: 1, level, last: ping, lastDepth: depth });
      else {
        if (depth < known.depth) Object.assign(known, { depth, ping });
        Object.assign(known, { pings: known.pings + 1, level: Math.max(known.level, level), last: ping, lastDepth: depth });
      }
    }
    const still = (o: Open): boolean => ping - o.last <= 2;
    done.push(...open.filter((o) => !still(o)));
    open = open.filter(still);
  });
  return [...done, ...open]
    .filter((o) => o.pings >= least)
    .map(({ ping, depth, pings, level }) => ({ ping, depth, pings, level }))
    .sort((a, b) => a.ping - b.ping);
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
