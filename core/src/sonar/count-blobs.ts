/** A picture of brightness, row by row; brighter is more. */
export interface Brightness {
  width: number;
  height: number;
  levels: ArrayLike<number>;
}

/** Targets of a school, proposed to somebody who corrects them. */
export interface BlobCount {
  count: number;
  /** Middles of those that stand apart, px; a clump that holds several has the places of its peaks. */
  places: { x: number; y: number }[];
  /** Width of one, px: twice the standard deviation of its brightness. */
  size: number;
  /** Whether they can be counted: false where they run into each other, or hardly stand out. */
  sure: boolean;
}

/** Sizes that are tried, standard deviation in px; how far above the noise a peak has to stand. */
const SIZES = [1, 1.4, 2, 2.8, 4, 5.6, 8];
const ABOVE = 6;
/** An echo's size beside the filter that finds it best. */
const ECHO = 1.3;
/** Two equal echoes have one peak where they stand nearer than twice their deviation after the finer blur, in sizes of the filter. */
const APART = 2 * Math.hypot(ECHO, 0.7);
/** How many times more than there are peaks may be told with confidence. */
const CROWDED = 2;
/** Bright water beyond so many times what single ones make is a mass. */
const FULL = 2;
/** Spots whose radius is at most this share of the way to the next stand by themselves, whatever their size. */
const SEPARATE = 0.25;
/** The finest filter counts whose peaks stand nearly as high as those of the best: a coarser one takes neighbours for one. */
const NEARLY = 0.7;

/** Three running means come near to a Gaussian. @param sigma px */
function blurred({ width, height, levels }: Brightness, sigma: number): Float32Array {
  const radius = Math.max(1, Math.round(Math.sqrt(sigma * sigma + 0.25) - 0.25));
  let from = Float32Array.from(levels);
  let to = new Float32Array(from.length);
  const pass = (lines: number, along: number, lineStep: number, step: number): void => {
    for (let line = 0; line < lines; line++) {
      const start = line * lineStep;
      let sum = 0;
      let n = 0;
      for (let k = 0; k < Math.min(along, radius); k++, n++) sum += from[start + k * step];
      for (let k = 0; k < along; k++) {
        if (k + radius < along) {
          sum += from[start + (k + radius) * step];
          n++;
        }
        if (k - radius - 1 >= 0) {
          sum -= from[start + (k - radius - 1) * step];
          n--;
        }
        to[start + k * step] = sum / n;
      }
    }
    [from, to] = [to, from];
  };
  for (let k = 0; k < 3; k++) {
    pass(height, width, width, 1);
    pass(width, height, 1, width);
  }
  return from;
}

/** Median of absolute values, of a sample. */
function middle(values: Float32Array): number {
  const step = Math.max(1, Math.floor(values.length / 20_000));
  const sample: number[] = [];
  for (let i = 0; i < values.length; i += step) sample.push(Math.abs(values[i]));
  sample.sort((a, b) => a - b);
  return sample[sample.length >> 1] || 1e-6;
}

interface Peak {
  x: number;
  y: number;
  height: number;
}

/** Places higher than all round them and than a bar. */
function peaksOf(values: Float32Array, width: number, height: number, bar: number, reach: number): Peak[] {
  const found: Peak[] = [];
  const r = Math.max(1, Math.round(reach));
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const v = values[y * width + x];
      if (v <= bar) continue;
      let top = true;
      for (let py = Math.max(0, y - r); py <= Math.min(height - 1, y + r) && top; py++)
        for (let px = Math.max(0, x - r); px <= Math.min(width - 1, x + r); px++) {
          const other = values[py * width + px];
          // Of a level top the first place counts.
          if (other > v || (other === v && (py < y || (py === y && px < x)))) {
            top = false;
            break;
          }
        }
      if (top) found.push({ x, y, height: v });
    }
  return found;
}

/**
 * How many there are where some stand so near to others that both have one peak. Scattered at random over the area A of the school, n
 * of them show n·exp(−n·π·d²/(2A)) peaks, d how far apart two have to be (the chance that none stands within d, each pair once).
 * @param apart d, px
 */
function behindOthers(peaks: readonly Peak[], apart: number): { count: number; crowding: number } {
  const n = peaks.length;
  if (n < 4) return { count: n, crowding: 1 };
  const mean = (of: (p: Peak) => number): number => peaks.reduce((sum, p) => sum + of(p), 0) / n;
  const [mx, my] = [mean((p) => p.x), mean((p) => p.y)];
  const [xx, yy, xy] = [mean((p) => (p.x - mx) ** 2), mean((p) => (p.y - my) ** 2), mean((p) => (p.x - mx) * (p.y - my))];
  // Of an ellipse that is filled evenly: variances are a quarter of the squared half axes.
  const area = Math.max(4 * Math.PI * Math.sqrt(Math.max(0, xx * yy - xy * xy)), n * apart * apart * 0.5);
  const share = (Math.PI * apart * apart) / (2 * area);
  let count = n;
  for (let k = 0; k < 30; k++) count = Math.min(10 * n, n * Math.exp(share * count));
  return { count, crowding: count / n };
}

/** Bright water for each peak, px². @param fine the picture without its speckle */
function litOf(fine: Float32Array, width: number, peaks: readonly Peak[]): number {
  const ground = middle(fine);
  const heights = peaks.map((p) => fine[p.y * width + p.x]).sort((a, b) => a - b);
  const bar = ground + (heights[heights.length >> 1] - ground) / 2;
  let lit = 0;
  for (const v of fine) if (v >= bar) lit++;
  return lit / peaks.length;
}

/** How far the nearest other peak stands from one in the middle, px; endless for a single one. */
function spacing(peaks: readonly Peak[]): number {
  const nearest = peaks.map((p) =>
    peaks.reduce((least, o) => (o === p ? least : Math.min(least, Math.hypot(o.x - p.x, o.y - p.y))), Infinity),
  );
  return nearest.sort((a, b) => a - b)[nearest.length >> 1];
}

/** Whether bright water is that of single targets: no more than they make of this size, or each far smaller than they stand apart. */
function isOfSingles(fine: Float32Array, width: number, peaks: readonly Peak[], sigma: number): boolean {
  const lit = litOf(fine, width, peaks);
  // Half as bright as its middle within 1.18 standard deviations.
  return lit <= FULL * Math.PI * (1.18 * ECHO * sigma) ** 2 || Math.sqrt(lit / Math.PI) <= SEPARATE * spacing(peaks);
}

/**
 * Counts the single targets of a picture: peaks of the difference between two blurs, at the size at which they stand out most, and
 * those that must be hidden beside others by how near the peaks stand.
 * @param picture a cut of the screen; brighter is more
 * @returns a proposal; `sure` is false where it cannot be one
 */
export function countBlobs(picture: Brightness): BlobCount {
  const { width, height } = picture;
  const none: BlobCount = { count: 0, places: [], size: 0, sure: false };
  if (width < 8 || height < 8) return none;
  // At which size peaks stand out of the noise most.
  const tried: { sigma: number; peaks: Peak[]; noise: number; score: number; fine: Float32Array }[] = [];
  for (const sigma of SIZES) {
    if (6 * sigma > Math.min(width, height)) break;
    const [fine, coarse] = [blurred(picture, sigma * 0.7), blurred(picture, sigma * 1.8)];
    const values = fine.map((v, i) => v - coarse[i]);
    const noise = middle(values) / 0.6745;
    const peaks = peaksOf(values, width, height, ABOVE * noise, sigma * 1.2);
    if (!peaks.length) continue;
    const heights = peaks.map((p) => p.height).sort((a, b) => a - b);
    // How high the middle one stands; many low ones are noise.
    tried.push({ sigma, peaks, noise, score: heights[heights.length >> 1], fine });
  }
  const top = Math.max(...tried.map((t) => t.score));
  const best = tried.find((t) => t.score >= NEARLY * top);
  if (!best) return none;
  const { sigma } = best;
  // What is far lower than the others is a ripple of noise or the rim of a brighter one.
  const heights = best.peaks.map((p) => p.height).sort((a, b) => a - b);
  const bar = Math.max(ABOVE * best.noise, 0.3 * heights[Math.floor(0.75 * heights.length)]);
  const peaks = best.peaks.filter((p) => p.height >= bar);
  const { count, crowding } = behindOthers(peaks, APART * sigma);
  return {
    count: Math.round(count),
    places: peaks.map(({ x, y }) => ({ x, y })),
    size: 2 * sigma,
    sure: crowding <= CROWDED && isOfSingles(best.fine, width, peaks, sigma),
  };
}
