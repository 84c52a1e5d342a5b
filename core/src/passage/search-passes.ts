import { distanceField, lineLength, type Point } from '../geo';
import type { NavigableWater } from './navigable';
import { contourHeading, contourPasses, longAxis, straightPasses } from './pass-lines';
import type { SearchPatch } from './patch';
import { SeenOfPatch, USUAL_DETECTION, type PassDetection, type Sought } from './seen';
import { passSpacing, swathOf, type SearchView, type Spacing, type Swath } from './swath';
import { WaysFrom, type Way } from './ways';

export interface PassWish {
  view: SearchView;
  /** Along the contours, or straight across them. */
  pattern: 'along' | 'across';
  /** Direction of straight passes, degrees clockwise from grid north; null: by the bottom. */
  heading?: number | null;
  /** Share of each swath kept for helm and drift. */
  overlap?: number;
  /** Close: all of the ground; wide: every other pass is left out, to find where a second, closer look is worth it. */
  stage?: 'close' | 'wide';
  /** Time there is, minutes; null: as long as it takes. */
  minutes?: number | null;
  /** Where the boat is, m. */
  start?: Point | null;
  detection?: PassDetection;
  sought?: Sought;
  /** What a place of the patch is worth, by its point: the forecast. */
  worth?: (point: Point) => number;
}

/** Why a plan of passes is none, or less than was asked for. */
export type PassTrouble = 'no-patch' | 'nothing-seen' | 'no-way-in' | 'no-time';

export interface SearchPasses {
  /** In the order and direction in which they are driven, m. */
  passes: Point[][];
  /** The way to each pass: the first from where the boat is. */
  between: Way[];
  /** Of passes alone, and with the ways between them. */
  searched: number;
  metres: number;
  seconds: number;
  hectares: number;
  /** Share of the patch that they see. */
  seen: number;
  /** Chance that they show a pod of the size sought, if it is in the patch. */
  chance: number;
  spacing: Spacing;
  /** The swath where the patch is shallowest, at its middle depth and deepest, with those depths. */
  swaths: { depth: number; swath: Swath }[];
  /** Passes for which there was no time. */
  leftOut: number;
  trouble: PassTrouble | null;
}

/** A turn from one pass into the next, s: a judgement. */
const TURN = 20;
/** What of the patch close passes are to see at least. */
export const WANTED = 0.95;
/** A gap this long and one spacing wide is worth a pass of its own, m. */
const LEAST_GAP = 12;
/** Rounds in which gaps are filled. */
const ROUNDS = 4;
/** A wide stage lays its passes so many whole swaths apart. */
const WIDE = 2;

/**
 * Search passes over a patch: as far apart as the view truly sees at its depths, along the contours or across them, gaps filled,
 * over no hazard and no water too shallow, in an order that drives little between them, and as many as the time allows.
 */
export function searchPasses(water: NavigableWater, patch: SearchPatch, wish: PassWish): SearchPasses {
  const { view, pattern, overlap = 0.1, stage = 'close', minutes = null, start = null } = wish;
  const sought = wish.sought ?? { count: 3 };
  const worth = worthOf(patch, wish.worth);
  const swaths = swathsOf(patch, view);
  const spacing = spacingFor(swaths, overlap);
  const empty: SearchPasses = {
    passes: [],
    between: [],
    searched: 0,
    metres: 0,
    seconds: 0,
    hectares: patch.hectares,
    seen: 0,
    chance: 0,
    spacing,
    swaths,
    leftOut: 0,
    trouble: null,
  };
  if (!patch.squares) return { ...empty, trouble: 'no-patch' };
  if (!(spacing.metres > 1)) return { ...empty, trouble: 'nothing-seen' };
  const apart = stage === 'wide' ? WIDE * 2 * narrowest(swaths) * (1 - overlap) : spacing.metres;
  const own = wish.heading ?? null;
  const along = contourHeading(patch);
  const curved = pattern === 'along' && patch.band !== null && own === null;
  const heading = own ?? (pattern === 'along' ? along : (along + 90) % 180);
  let lines = curved ? contourPasses(patch, water, apart) : straightPasses(patch, water, heading, apart);
  const seen = (): SeenOfPatch => new SeenOfPatch(patch, view, wish.detection ?? USUAL_DETECTION, sought);
  if (stage === 'close') lines = withGapsFilled(patch, water, lines, spacing.metres, seen());
  if (!lines.length) return { ...empty, trouble: 'no-way-in' };
  const chosen = minutes === null ? lines : inTime(lines, seen(), worth, minutes * 60, water.inputs.boat.search, start);
  if (!chosen.length) return { ...empty, leftOut: lines.length, trouble: 'no-time' };
  let run = driven(water, chosen, start);
  while (minutes !== null && run.seconds > minutes * 60 && run.passes.length > 1) run = driven(water, run.passes.slice(0, -1), start);
  const tally = seen();
  for (const pass of run.passes) tally.add(pass);
  return {
    ...run,
    hectares: patch.hectares,
    seen: tally.share(),
    chance: tally.chance(worth),
    spacing,
    swaths,
    leftOut: lines.length - run.passes.length,
    trouble: null,
  };
}

/** Depths of a patch below which so much of it lies, m; nothing where no depth is known. */
function quantiles(patch: SearchPatch, shares: number[]): number[] {
  const known: number[] = [];
  for (let k = 0; k < patch.inside.length; k++) if (patch.inside[k] && patch.depth[k] > 0) known.push(patch.depth[k]);
  known.sort((a, b) => a - b);
  return known.length ? shares.map((s) => known[Math.min(known.length - 1, Math.floor(s * known.length))]) : [];
}

function swathsOf(patch: SearchPatch, view: SearchView): SearchPasses['swaths'] {
  const depths = quantiles(patch, [0.05, 0.5, 0.95]);
  return (depths.length ? depths : [NaN]).map((depth) => ({ depth, swath: swathOf(view, depth) }));
}

const narrowest = (swaths: SearchPasses['swaths']): number =>
  swaths.reduce((least, { swath }) => (swath.far > 1 ? Math.min(least, swath.far) : least), Infinity);

/** By the narrowest swath of the patch that sees anything: over the rest passes overlap more. */
function spacingFor(swaths: SearchPasses['swaths'], overlap: number): Spacing {
  const all = swaths.map(({ swath }) => passSpacing(swath, overlap, WANTED)).filter((s) => s.metres > 1);
  return all.reduce((least, s) => (s.metres < least.metres ? s : least), all[0] ?? { metres: 0, stripSeen: false, seen: 0 });
}

/** The worth of each square: what is nowhere worth anything is worth the same everywhere. */
function worthOf(patch: SearchPatch, worth: PassWish['worth']): (square: number) => number {
  if (!worth) return () => 1;
  const values = new Float64Array(patch.inside.length);
  let any = false;
  for (let k = 0; k < values.length; k++)
    if (patch.inside[k]) {
      const [x, y] = [patch.x0 + ((k % patch.width) + 0.5) * patch.size, patch.y0 + (Math.floor(k / patch.width) + 0.5) * patch.size];
      values[k] = Math.max(0, worth([x, y]) || 0);
      any ||= values[k] > 0;
    }
  return any ? (k) => values[k] : () => 1;
}

/** Lines with straight ones over what they do not see, until they see enough. */
function withGapsFilled(patch: SearchPatch, water: NavigableWater, first: Point[][], spacing: number, tally: SeenOfPatch): Point[][] {
  const lines = [...first];
  for (const line of first) tally.add(line);
  for (let round = 0; round < ROUNDS && tally.share() < WANTED + 0.02; round++) {
    let added = 0;
    for (const gap of gapsOf(patch, tally.passes, spacing)) {
      for (const line of straightPasses(patch, water, longAxis(patch, gap), spacing, gap)) {
        if (tally.add(line) * patch.size ** 2 < spacing * 5) continue;
        lines.push(line);
        added++;
      }
    }
    if (!added) break;
  }
  return lines;
}

/** Squares not seen that hang together, the largest first; those smaller than a swath is wide are let be. */
function gapsOf({ inside, width, size }: SearchPatch, passes: Uint8Array, spacing: number): number[][] {
  // A strip under a pass is no gap: only what lies a good way into the unseen counts, with what is about it.
  const unseen = inside.map((m, k) => (m && !passes[k] ? 1 : 0));
  const field = distanceField(
    unseen.map((u) => (u ? 0 : 1)),
    width,
    inside.length / width,
  );
  const deep = (k: number): boolean => field[k] * size >= Math.min(8, spacing / 4);
  const taken = new Uint8Array(inside.length);
  const out: number[][] = [];
  for (let start = 0; start < inside.length; start++) {
    if (!unseen[start] || taken[start] || !deep(start)) continue;
    const gap = [start];
    taken[start] = 1;
    for (let n = 0; n < gap.length; n++) {
      const k = gap[n];
      for (const m of [k % width ? k - 1 : -1, k % width < width - 1 ? k + 1 : -1, k - width, k + width])
        if (m >= 0 && m < inside.length && unseen[m] && !taken[m]) {
          taken[m] = 1;
          gap.push(m);
        }
    }
    if (gap.length * size * size >= spacing * LEAST_GAP) out.push(gap);
  }
  return out.sort((a, b) => b.length - a.length);
}

/** The passes that see most for their time, near ones first among equals, as many as there is time for. */
function inTime(
  lines: Point[][],
  tally: SeenOfPatch,
  worth: (square: number) => number,
  seconds: number,
  speed: number,
  start: Point | null,
): Point[][] {
  const gains = lines.map((line) => tally.add(line, worth));
  const cost = lines.map((line) => lineLength(line) / speed + TURN);
  const away = (line: Point[]): number => (start ? Math.min(gap(start, line[0]), gap(start, line[line.length - 1])) : 0);
  const order = lines.map((_, i) => i).sort((a, b) => gains[b] / cost[b] - gains[a] / cost[a] || away(lines[a]) - away(lines[b]));
  let left = seconds;
  const out: Point[][] = [];
  for (const i of order)
    if (cost[i] <= left) {
      left -= cost[i];
      out.push(lines[i]);
    }
  return out;
}

const gap = (a: Point, b: Point): number => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** Passes in an order and in directions that drive little between them: nearest end first, then by reversing parts of the row. */
function ordered(lines: Point[][], start: Point | null): Point[][] {
  const rest = [...lines];
  const out: Point[][] = [];
  let at = start ?? rest[0][0];
  while (rest.length) {
    let [best, which, turned] = [Infinity, 0, false];
    rest.forEach((line, i) => {
      const [a, b] = [gap(at, line[0]), gap(at, line[line.length - 1])];
      if (a < best) [best, which, turned] = [a, i, false];
      if (b < best) [best, which, turned] = [b, i, true];
    });
    const [line] = rest.splice(which, 1);
    out.push(turned ? line.toReversed() : line);
    at = out[out.length - 1].at(-1)!;
  }
  const from = (i: number): Point | null => (i > 0 ? out[i - 1].at(-1)! : start);
  for (let again = true, round = 0; again && round < 20; round++) {
    again = false;
    for (let i = 0; i < out.length; i++)
      for (let j = i; j < out.length; j++) {
        // The part from i to j driven backwards.
        const [before, after] = [from(i), j + 1 < out.length ? out[j + 1][0] : null];
        const now = (before ? gap(before, out[i][0]) : 0) + (after ? gap(out[j].at(-1)!, after) : 0);
        const then = (before ? gap(before, out[j].at(-1)!) : 0) + (after ? gap(out[i][0], after) : 0);
        if (then < now - 1e-6) {
          const part = out.slice(i, j + 1).map((line) => line.toReversed());
          out.splice(i, part.length, ...part.reverse());
          again = true;
        }
      }
  }
  return out;
}

/** The run that passes make, with the ways between them. A pass that no way leads to is left out. */
function driven(
  water: NavigableWater,
  lines: Point[][],
  start: Point | null,
): Pick<SearchPasses, 'passes' | 'between' | 'searched' | 'metres' | 'seconds'> {
  const { search } = water.inputs.boat;
  const passes: Point[][] = [];
  const between: Way[] = [];
  let at = start;
  for (const line of ordered(lines, start)) {
    const way: Way | null = at ? wayAcross(water, at, line[0]) : { points: [], metres: 0, seconds: 0 };
    if (!way) continue;
    passes.push(line);
    between.push(way);
    at = line[line.length - 1];
  }
  const searched = passes.reduce((sum, line) => sum + lineLength(line), 0);
  const metres = searched + between.reduce((sum, way) => sum + way.metres, 0);
  // From one pass to the next it idles; only a long way to the first is driven.
  const seconds =
    searched / search +
    between.reduce((sum, way, i) => sum + (i === 0 ? way.seconds : Math.max(way.seconds, Math.min(way.metres / search, 60)) + TURN), 0);
  return { passes, between, searched, metres, seconds };
}

function wayAcross(water: NavigableWater, a: Point, b: Point): Way | null {
  const straight = water.straight(a, b);
  if (Number.isFinite(straight)) return { points: [a, b], metres: gap(a, b), seconds: straight };
  return new WaysFrom(water, a, null, b).to(b);
}
