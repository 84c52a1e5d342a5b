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
/** No section is wider to a side than this, and no island is, m. */
const WIDEST = 2000;
const WIDEST_ISLAND = 300;
/** Slack water narrower than this is the edge of the bank, m. */
const LEAST_SLACK = 8;
/** Manning's law: speed goes with depth to the two thirds. */
const POWER = 2 / 3;

/** Water beyond an island that runs as well: from and to, metres from the middle line. */
interface Arm {
  inner: number;
  outer: number;
}

/** A section to one side of the middle line, metres from it. */
interface Side {
  /** Where the water ends: at the bank, or at an island. */
  bank: number;
  /** Where the stream ends, before and behind what stands out. */
  live: number;
  /** Where eddies begin: behind what stands out. Before it the water is only slack. */
  eddy: number;
  /** The stream of another arm, as far as it keeps apart; and as far as it does behind an island. */
  arm: Arm | null;
  eddyArm: Arm | null;
}

/** A section across a river. */
interface Section {
  middle: Point;
  /** Down-stream. */
  along: Point;
  /** To the left and to the right, seen down-stream. */
  sides: [left: Side, right: Side];
  /** Discharge over the sum of depth to the five thirds: speed at a depth of one metre. */
  factor: number;
  /** Mean speed of the stream. */
  mean: number;
}

const SIDES = [0, 1] as const;
/** Where an eddy ends: at the bank, or where another arm runs. */
const eddyEnds = ({ bank, eddyArm }: Side): number => Math.min(bank, eddyArm?.inner ?? bank);
const slackEnds = ({ bank, arm }: Side): number => Math.min(bank, arm?.inner ?? bank);
/** How wide the eddy, and the slack water, of a side are. */
const eddyWidth = (side: Side): number => eddyEnds(side) - side.eddy;
const slackWidth = (side: Side): number => slackEnds(side) - side.live;

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
    for (const k of SIDES) {
      const side = s.sides[k];
      if (eddyWidth(side) < LEAST_SLACK) continue;
      seams.push(placeAt(s, k, side.eddy));
      if (side.eddyArm) seams.push(placeAt(s, k, side.eddyArm.inner));
    }
  return {
    at: (x, y) => {
      const d = depth.at(x, y);
      const found = Number.isNaN(d) ? null : places.nearest(x, y);
      if (!found) return null;
      const { section: s, off } = found;
      const side = s.sides[off >= 0 ? 0 : 1];
      const aside = Math.abs(off);
      const within = (from: number, arm: Arm | null): boolean => aside > from && !(arm && aside >= arm.inner);
      const speed =
        within(side.eddy, side.eddyArm) && eddyWidth(side) >= LEAST_SLACK
          ? -TURNS_BACK * s.mean
          : within(side.live, side.arm) && slackWidth(side) >= LEAST_SLACK
            ? SLACK_RUNS * s.mean
            : s.factor * Math.max(0.1, d) ** POWER;
      return [speed * s.along[0], speed * s.along[1]];
    },
    seams,
    shapes: shapesOf(sections, depth),
  };
}

/** A place on a section. @param k 0 to the left, 1 to the right @param aside metres from the middle line */
function placeAt({ middle, along }: Pick<Section, 'middle' | 'along'>, k: 0 | 1, aside: number): Point {
  const off = k === 0 ? aside : -aside;
  return [middle[0] - along[1] * off, middle[1] + along[0] * off];
}

/** Number of the point of a line that lies nearest to a place. */
function nearestOn(line: Point[], x: number, y: number): number {
  let best = 0;
  for (let k = 1; k < line.length; k++)
    if (Math.hypot(line[k][0] - x, line[k][1] - y) < Math.hypot(line[best][0] - x, line[best][1] - y)) best = k;
  return best;
}

/** Sum over readings of how far each goes along the line: over 0 where the line runs down-stream. */
function alongReadings(line: Point[], readings: CurrentReading[]): number {
  let sum = 0;
  for (const { x, y, set } of readings) {
    const best = nearestOn(line, x, y);
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

/** Whether land at a place is all round in water: not joined to what lies beyond the chart. */
function islandsOf({ x0, y0, size, width, height, data }: Raster): (p: Point) => boolean {
  const outer = new Uint8Array(data.length);
  const open: number[] = [];
  const visit = (k: number): void => {
    if (outer[k] || !Number.isNaN(data[k])) return;
    outer[k] = 1;
    open.push(k);
  };
  for (let i = 0; i < width; i++) [i, (height - 1) * width + i].forEach(visit);
  for (let j = 0; j < height; j++) [j * width, (j + 1) * width - 1].forEach(visit);
  while (open.length) {
    const k = open.pop()!;
    const i = k % width;
    if (i > 0) visit(k - 1);
    if (i < width - 1) visit(k + 1);
    if (k >= width) visit(k - width);
    if (k < data.length - width) visit(k + width);
  }
  return ([x, y]) => {
    const [i, j] = [Math.floor((x - x0) / size), Math.floor((y - y0) / size)];
    return i >= 0 && i < width && j >= 0 && j < height && Number.isNaN(data[j * width + i]) && !outer[j * width + i];
  };
}

function sectionsOf(depth: Raster, line: Point[]): Section[] {
  const isIsland = islandsOf(depth);
  const sections = line.map((middle, k): Section => {
    const [a, b] = [line[Math.max(0, k - 2)], line[Math.min(line.length - 1, k + 2)]];
    const l = Math.max(1e-9, Math.hypot(b[0] - a[0], b[1] - a[1]));
    const along: Point = [(b[0] - a[0]) / l, (b[1] - a[1]) / l];
    const place = { middle, along };
    const side = (which: 0 | 1): Side => {
      const wet = (aside: number): boolean => !Number.isNaN(depth.at(...placeAt(place, which, aside)));
      let bank = 0;
      while (bank < WIDEST && wet(bank + ACROSS)) bank += ACROSS;
      const arm = armBeyond(place, which, bank, wet, isIsland, k, line);
      return { bank, live: bank, eddy: bank, arm, eddyArm: arm };
    };
    return { middle, along, sides: [side(0), side(1)], factor: 0, mean: 0 };
  });
  // At its two ends a charted reach is cut off at any angle: nothing is made of its edges there.
  const ends = Math.min(sections.length >> 2, Math.ceil(meanWidth(sections) / STEP));
  // Past a spur the stream widens slowly; towards one it narrows at once.
  for (let k = ends + 1; k < sections.length - ends; k++)
    for (const w of SIDES) follow(sections[k].sides[w], sections[k - 1].sides[w], STEP / WIDENS);
  for (const s of sections) for (const side of s.sides) [side.eddy, side.eddyArm] = [side.live, side.arm];
  for (let k = sections.length - ends - 2; k >= ends; k--)
    for (const w of SIDES) follow(sections[k].sides[w], sections[k + 1].sides[w], STEP / NARROWS);
  for (const s of sections) {
    let [conveyed, area, wide] = [0, 0, 0];
    const add = (k: 0 | 1, from: number, to: number): void => {
      for (let aside = from + ACROSS / 2; aside < to; aside += ACROSS) {
        const d = depth.at(...placeAt(s, k, aside));
        if (Number.isNaN(d)) continue;
        conveyed += ACROSS * Math.max(0.1, d) ** (1 + POWER);
        area += ACROSS * Math.max(0.1, d);
        wide++;
      }
    };
    for (const k of SIDES) {
      const { live, arm } = s.sides[k];
      add(k, 0, live);
      if (arm) add(k, arm.inner, arm.outer);
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

/**
 * The stream of a side goes on from the section before it (or, against the stream, behind it): it widens by so much at most, and so does
 * that of another arm, until both meet.
 */
function follow(side: Side, from: Side, widens: number): void {
  side.live = Math.min(side.live, from.live + widens);
  if (side.arm || !from.arm) return;
  const arm = { inner: from.arm.inner - widens, outer: Math.min(side.bank, from.arm.outer + widens) };
  // Land took the arm's place.
  if (arm.outer - arm.inner < ACROSS) return;
  if (arm.inner > side.live) side.arm = arm;
  else side.live = Math.max(side.live, arm.outer);
}

/** The arm of a river beyond an island, where its water has no section nearer to it; null where there is none. */
function armBeyond(
  place: Pick<Section, 'middle' | 'along'>,
  which: 0 | 1,
  bank: number,
  wet: (aside: number) => boolean,
  isIsland: (p: Point) => boolean,
  at: number,
  line: Point[],
): Arm | null {
  let [inner, outer] = [0, 0];
  // Of several the widest: past the ragged end of an island there are slivers.
  for (let from = bank; ;) {
    let start = from + ACROSS;
    while (start < from + WIDEST_ISLAND && isIsland(placeAt(place, which, start))) start += ACROSS;
    if (!wet(start)) break;
    let end = start;
    while (end - start < WIDEST && wet(end + ACROSS)) end += ACROSS;
    if (end - start > outer - inner || !outer) [inner, outer] = [start, end];
    from = end;
  }
  if (!outer) return null;
  // A bend of the river farther on is no arm of it here.
  const [x, y] = placeAt(place, which, (inner + outer) / 2);
  return Math.abs(nearestOn(line, x, y) - at) * STEP <= (inner + outer) / 2 ? { inner, outer: outer + ACROSS / 2 } : null;
}

const meanWidth = (sections: Section[]): number =>
  sections.reduce((sum, { sides: [left, right] }) => sum + left.bank + right.bank, 0) / Math.max(1, sections.length);

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
  for (const w of SIDES) {
    const slackOf = (s: Section): number => eddyWidth(s.sides[w]);
    const edges = (s: Section): [live: number, bank: number] => [s.sides[w].eddy, eddyEnds(s.sides[w])];
    for (let k = 0; k < sections.length; k++) {
      if (slackOf(sections[k]) < LEAST_SLACK) continue;
      let end = k;
      while (end + 1 < sections.length && slackOf(sections[end + 1]) >= LEAST_SLACK) end++;
      const run = sections.slice(k, end + 1);
      k = end;
      if (run.length < 3) continue;
      const seam = run.map((s) => placeAt(s, w, edges(s)[0]));
      const bank = run.map((s) => placeAt(s, w, edges(s)[1]));
      const widest = Math.max(...run.map(slackOf));
      const [x, y] = placeAt(
        run[Math.floor(run.length / 3)],
        w,
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
