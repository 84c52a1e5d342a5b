import { Raster, type Point } from '../geo';
import type { ChartFeature } from './features';

/** A reading of a current: where, and where it goes, degrees true. */
export interface CurrentReading {
  x: number;
  y: number;
  set: number;
}

/** How a river runs. Each function takes a place, m. */
export interface RiverFlow {
  /** To the east and north against the mean of the reach: 1 as fast; turned back in an eddy. Null out of the river. */
  at: (x: number, y: number) => [east: number, north: number] | null;
  /** Points along the seams between the stream and slack water, m. */
  seams: Point[];
  /** Eddies and seams as shapes for the chart. */
  shapes: ChartFeature[];
}

/** Sections are so far apart, m. */
const STEP = 10;
/** Steps across a section, m. */
const ACROSS = 4;
/**
 * Behind a spur the stream widens by one in so many: behind a step it reaches the wall again after six to eight heights of the
 * step (Eaton & Johnston 1981), sooner in shallow water. Before it, it narrows at once, by one in one.
 */
const WIDENS = 6;
const NARROWS = 1;
/** An eddy turns at so much of the stream beside it: a judgement, within the fifth to the third that is measured behind groynes. */
const TURNS_BACK = 0.25;
/** Slack water before a spur still creeps on. */
const SLACK_RUNS = 0.15;
/** Slack water narrower than this is the edge of the bank, m. */
const LEAST_SLACK = 8;
/** Manning's law: speed goes with depth to the two thirds. */
const POWER = 2 / 3;

/** A section across a river. Off the middle line to the left, seen down-stream, m. */
interface Section {
  middle: Point;
  /** Down-stream. */
  along: Point;
  /** Where the water ends to the left and to the right, and where the stream does. */
  left: number;
  right: number;
  liveLeft: number;
  liveRight: number;
  /** Where eddies begin: behind what stands out. Before it the water is only slack. */
  eddyLeft: number;
  eddyRight: number;
  /** Discharge over the sum of depth to the five thirds: speed at a depth of one metre. */
  factor: number;
  /** Mean speed of the stream. */
  mean: number;
}

/**
 * How a river runs, from its depths: the stream goes along the middle line, faster where it is deep and narrow (Manning), and
 * leaves slack water behind what stands out from a bank, where it turns back.
 * @param depth m, NaN on land @param readings which tell which end is up-stream
 * @returns null where no reading tells, or the water is no longer than it is wide
 */
export function riverFlow(depth: Raster, readings: CurrentReading[]): RiverFlow | null {
  const line = middleLine(depth);
  if (!line || line.length < 8) return null;
  const with_ = alongReadings(line, readings);
  if (with_ === 0) return null;
  const sections = sectionsOf(depth, with_ > 0 ? line : line.reverse());
  if (sections.length < 8) return null;
  const places = new SectionIndex(sections);
  const seams: Point[] = [];
  for (const s of sections)
    for (const [live, edge] of [
      [s.eddyLeft, s.left],
      [s.eddyRight, s.right],
    ])
      if (Math.abs(edge - live) >= LEAST_SLACK) seams.push(placeAt(s, live));
  return {
    at: (x, y) => {
      const d = depth.at(x, y);
      const found = Number.isNaN(d) ? null : places.nearest(x, y);
      if (!found) return null;
      const { section: s, off } = found;
      const eddy = off > s.eddyLeft ? s.left - s.eddyLeft : off < s.eddyRight ? s.eddyRight - s.right : 0;
      const slack = off > s.liveLeft ? s.left - s.liveLeft : off < s.liveRight ? s.liveRight - s.right : 0;
      const speed =
        eddy >= LEAST_SLACK ? -TURNS_BACK * s.mean : slack >= LEAST_SLACK ? SLACK_RUNS * s.mean : s.factor * Math.max(0.1, d) ** POWER;
      return [speed * s.along[0], speed * s.along[1]];
    },
    seams,
    shapes: shapesOf(sections, depth),
  };
}

const placeAt = ({ middle, along }: Section, off: number): Point => [middle[0] - along[1] * off, middle[1] + along[0] * off];

/** Sum over readings of how far each goes along the line: over 0 where the line runs down-stream. */
function alongReadings(line: Point[], readings: CurrentReading[]): number {
  let sum = 0;
  for (const { x, y, set } of readings) {
    let best = 0;
    for (let k = 1; k < line.length; k++)
      if (Math.hypot(line[k][0] - x, line[k][1] - y) < Math.hypot(line[best][0] - x, line[best][1] - y)) best = k;
    const [a, b] = [line[Math.max(0, best - 2)], line[Math.min(line.length - 1, best + 2)]];
    const angle = (set * Math.PI) / 180;
    sum += ((b[0] - a[0]) * Math.sin(angle) + (b[1] - a[1]) * Math.cos(angle)) / Math.max(1, Math.hypot(b[0] - a[0], b[1] - a[1]));
  }
  return Math.abs(sum) > 0.3 * Math.sqrt(readings.length) ? sum : 0;
}

/** Steps of the water from its two farthest ends: the middle of each band of equal distance, smoothed over a width or two. */
function middleLine(depth: Raster): Point[] | null {
  const { width, height, size } = depth;
  const coarse = Math.max(1, Math.round(STEP / size));
  const [w, h] = [Math.ceil(width / coarse), Math.ceil(height / coarse)];
  const wet = new Uint8Array(w * h);
  let area = 0;
  for (let j = 0; j < h; j++)
    for (let i = 0; i < w; i++) {
      const [x, y] = [depth.x0 + (i + 0.5) * coarse * size, depth.y0 + (j + 0.5) * coarse * size];
      if (!Number.isNaN(depth.at(x, y))) area += wet[j * w + i] = 1;
    }
  const first = wet.indexOf(1);
  if (first < 0) return null;
  const one = farthest(distances(wet, w, h, first));
  const steps = distances(wet, w, h, one);
  const other = farthest(steps);
  const length = steps[other];
  const side = coarse * size;
  // As wide as long, it is no river.
  const wide = area / Math.max(1, length);
  if (length < 3 * wide) return null;
  const bands = Math.max(2, Math.floor((length * side) / STEP));
  const sums = Array.from({ length: bands }, () => [0, 0, 0]);
  for (let k = 0; k < steps.length; k++) {
    if (!Number.isFinite(steps[k])) continue;
    const s = sums[Math.min(bands - 1, Math.floor((steps[k] / length) * bands))];
    s[0] += depth.x0 + ((k % w) + 0.5) * side;
    s[1] += depth.y0 + (Math.floor(k / w) + 0.5) * side;
    s[2]++;
  }
  const raw = sums.filter((s) => s[2]).map(([x, y, n]): Point => [x / n, y / n]);
  // Over about a width to either side, so that a spur does not bend the line.
  const reach = Math.max(2, Math.round((wide * side) / STEP));
  return raw.map((_, k) => {
    const span = Math.min(reach, k, raw.length - 1 - k);
    const near = raw.slice(k - span, k + span + 1);
    return [near.reduce((s, p) => s + p[0], 0) / near.length, near.reduce((s, p) => s + p[1], 0) / near.length];
  });
}

const farthest = (steps: Float64Array): number => {
  let best = 0;
  for (let k = 0; k < steps.length; k++)
    if (Number.isFinite(steps[k]) && !(steps[best] >= steps[k] && Number.isFinite(steps[best]))) best = k;
  return best;
};

/** Steps over water from a cell, eight ways; Infinity where it does not reach. Buckets of half a step. */
function distances(wet: Uint8Array, w: number, h: number, from: number): Float64Array {
  const out = new Float64Array(wet.length).fill(Infinity);
  const buckets: number[][] = [[from]];
  out[from] = 0;
  for (let b = 0; b < buckets.length; b++)
    for (const k of buckets[b] ?? []) {
      if (Math.floor(out[k] * 2) !== b) continue;
      const [i, j] = [k % w, Math.floor(k / w)];
      for (let dj = -1; dj <= 1; dj++)
        for (let di = -1; di <= 1; di++) {
          if ((!di && !dj) || i + di < 0 || i + di >= w || j + dj < 0 || j + dj >= h) continue;
          const n = k + dj * w + di;
          const d = out[k] + Math.hypot(di, dj);
          if (!wet[n] || d >= out[n]) continue;
          out[n] = d;
          (buckets[Math.floor(d * 2)] ??= []).push(n);
        }
    }
  return out;
}

function sectionsOf(depth: Raster, line: Point[]): Section[] {
  const sections = line.map((middle, k): Section => {
    const [a, b] = [line[Math.max(0, k - 2)], line[Math.min(line.length - 1, k + 2)]];
    const l = Math.max(1e-9, Math.hypot(b[0] - a[0], b[1] - a[1]));
    const along: Point = [(b[0] - a[0]) / l, (b[1] - a[1]) / l];
    const edge = (side: 1 | -1): number => {
      let off = 0;
      while (
        off < 2000 &&
        !Number.isNaN(depth.at(middle[0] - along[1] * side * (off + ACROSS), middle[1] + along[0] * side * (off + ACROSS)))
      )
        off += ACROSS;
      return side * off;
    };
    const [left, right] = [edge(1), edge(-1)];
    return { middle, along, left, right, liveLeft: left, liveRight: right, eddyLeft: left, eddyRight: right, factor: 0, mean: 0 };
  });
  // At its two ends a charted reach is cut off at any angle: nothing is made of its edges there.
  const ends = Math.min(sections.length >> 2, Math.ceil(meanWidth(sections) / STEP));
  // Past a spur the stream widens slowly; towards one it narrows at once.
  for (let k = ends + 1; k < sections.length - ends; k++) {
    const [s, before] = [sections[k], sections[k - 1]];
    s.liveLeft = Math.min(s.left, before.liveLeft + STEP / WIDENS);
    s.liveRight = Math.max(s.right, before.liveRight - STEP / WIDENS);
  }
  for (const s of sections) [s.eddyLeft, s.eddyRight] = [s.liveLeft, s.liveRight];
  for (let k = sections.length - ends - 2; k >= ends; k--) {
    const [s, next] = [sections[k], sections[k + 1]];
    s.liveLeft = Math.min(s.liveLeft, next.liveLeft + STEP / NARROWS);
    s.liveRight = Math.max(s.liveRight, next.liveRight - STEP / NARROWS);
  }
  for (const s of sections) {
    let [conveyed, area, wide] = [0, 0, 0];
    for (let off = s.liveRight + ACROSS / 2; off < s.liveLeft; off += ACROSS) {
      const d = depth.at(...placeAt(s, off));
      if (Number.isNaN(d)) continue;
      conveyed += ACROSS * Math.max(0.1, d) ** (1 + POWER);
      area += ACROSS * Math.max(0.1, d);
      wide++;
    }
    s.factor = wide ? 1 / conveyed : 0;
    s.mean = wide ? 1 / area : 0;
  }
  const means = sections.flatMap((s) => (s.mean ? [s.mean] : [])).sort((a, b) => a - b);
  const usual = means[Math.floor(means.length / 2)] ?? 1;
  for (const s of sections) {
    s.factor /= usual;
    s.mean /= usual;
  }
  return sections;
}

const meanWidth = (sections: Section[]): number => sections.reduce((sum, s) => sum + s.left - s.right, 0) / Math.max(1, sections.length);

/** Finds the section that a place lies on. */
class SectionIndex {
  private readonly by = new Map<string, number[]>();
  constructor(private readonly sections: Section[]) {
    sections.forEach(({ middle }, k) => {
      const key = `${Math.floor(middle[0] / 100)} ${Math.floor(middle[1] / 100)}`;
      const list = this.by.get(key);
      if (list) list.push(k);
      else this.by.set(key, [k]);
    });
  }

  /** The section nearest along the line, and how far off its middle; null farther off than any river is wide. */
  nearest(x: number, y: number): { section: Section; off: number } | null {
    let [best, least] = [-1, Infinity];
    const [ci, cj] = [Math.floor(x / 100), Math.floor(y / 100)];
    for (let reach = 1; reach <= 20 && best < 0; reach *= 2)
      for (let di = -reach; di <= reach; di++)
        for (let dj = -reach; dj <= reach; dj++)
          for (const k of this.by.get(`${ci + di} ${cj + dj}`) ?? []) {
            const { middle } = this.sections[k];
            const d = Math.hypot(middle[0] - x, middle[1] - y);
            if (d < least) [best, least] = [k, d];
          }
    if (best < 0) return null;
    const section = this.sections[best];
    const { middle, along } = section;
    return { section, off: -(x - middle[0]) * along[1] + (y - middle[1]) * along[0] };
  }
}

/** Runs of sections with slack water on a side as eddies, their edges to the stream as seams. */
function shapesOf(sections: Section[], depth: Raster): ChartFeature[] {
  const out: ChartFeature[] = [];
  for (const side of [1, -1] as const) {
    const slackOf = (s: Section): number => (side > 0 ? s.left - s.eddyLeft : s.eddyRight - s.right);
    const edges = (s: Section): [live: number, bank: number] => (side > 0 ? [s.eddyLeft, s.left] : [s.eddyRight, s.right]);
    for (let k = 0; k < sections.length; k++) {
      if (slackOf(sections[k]) < LEAST_SLACK) continue;
      let end = k;
      while (end + 1 < sections.length && slackOf(sections[end + 1]) >= LEAST_SLACK) end++;
      const run = sections.slice(k, end + 1);
      k = end;
      if (run.length < 3) continue;
      const seam = run.map((s) => placeAt(s, edges(s)[0]));
      const bank = run.map((s) => placeAt(s, edges(s)[1]));
      const widest = Math.max(...run.map(slackOf));
      const [x, y] = placeAt(
        run[Math.floor(run.length / 3)],
        (edges(run[Math.floor(run.length / 3)])[0] + edges(run[Math.floor(run.length / 3)])[1]) / 2,
      );
      const shape = { rise: widest, size: run.length * STEP, sharpness: 0, confidence: Math.min(0.9, 0.4 + widest / 100) };
      const at = (px: number, py: number): number => (Number.isNaN(depth.at(px, py)) ? 0 : depth.at(px, py));
      out.push({ ...shape, kind: 'eddy', x, y, depth: at(x, y), edge: { type: 'area', ring: [...seam, ...bank.reverse()] } });
      const [sx, sy] = seam[Math.floor(seam.length / 3)];
      out.push({ ...shape, kind: 'seam', x: sx, y: sy, depth: at(sx, sy), edge: { type: 'line', points: seam } });
    }
  }
  return out;
}
