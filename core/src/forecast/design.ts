import { FAR, type CellTable } from '../chart';
import { CELL } from '../geo';
import type { Look } from '../logbook';
import { combinedScore, openToWind, strategyDay, strategyScore, windBlown, STRATEGIES, type StrategyDay } from './strategies';
import { hatAt, splineAt, ridgePenalty, smoothPenalty, type SplineSpec } from './basis';
import type { SpeciesProfile } from '../species';
import type { Day } from './conditions';
import { STREAM_SIDES, streamSides } from './stream-sides';
import { DEPTH_BY_DAY, lowLight, termsInOrder, type TermDeclaration, type TermName } from './terms';

/** A block of coefficients that shrink together. */
export interface Term {
  name: string;
  start: number;
  count: number;
  penalty: 'smooth' | 'ridge';
}

/** All that is needed to rebuild the columns of a fit for any cell and day. */
export interface DesignSpec {
  splines: Record<
    'depth' | 'depthCoarse' | 'temperature' | 'aboveThermocline' | 'light' | 'hardness' | 'positionNear' | 'positionWide' | 'slope',
    SplineSpec
  >;
  terms: Term[];
  columns: number;
  /** Columns from here on are the same on every day at a cell: bottom, shape, cover, place. */
  staticColumns: number;
  /** Centres of the place term, x0, y0, x1, y1 … m, on a square lattice. */
  centres: number[];
  spacing: number;
  trips: number;
  /** How the log scans with each view that it often uses. */
  views: ViewUse[];
  /** The water was seen to run, or has a tide: only then has that columns of its own. */
  running: boolean;
}

/** How a log scans with a view: what detection by it is told against. */
export interface ViewUse {
  view: string;
  /** Share of the area scanned. */
  share: number;
  /** Mean of the depth scale under its scans, of the steepness of the bottom, and of the logarithm of how far off the line it saw. */
  depth: number;
  steepness: number;
  reach: number;
}

/** Kinds of effort, each with an intercept of its own: area, minutes and metres never share one. */
export const EFFORT_KINDS = ['scan', 'fish', 'troll'] as const;

/** A sparse row of the design. */
export class SparseRow {
  n = 0;
  readonly index: Int32Array;
  readonly value: Float64Array;
  constructor(most = 512) {
    this.index = new Int32Array(most);
    this.value = new Float64Array(most);
  }
  add(index: number, value: number): void {
    if (value === 0) return;
    this.index[this.n] = index;
    this.value[this.n++] = value;
  }
  /** A number and what the row gives with these coefficients. */
  sumOf(beta: ArrayLike<number>, from: number): number {
    let sum = from;
    for (let j = 0; j < this.n; j++) sum += this.value[j] * beta[this.index[j]];
    return sum;
  }
}

/** A day as the design sees it. */
export interface DesignDay {
  surface: number;
  secchi: number;
  /** The numbers of the day that depth is told by, in their order. */
  numbers: number[];
  /** 1 in the dark and at dawn and dusk, 0 under a high sun. */
  lowLight: number;
  thermocline: number | null;
  /** A coast: its rises are reefs and banks. */
  coast: boolean;
  strategy: StrategyDay;
}

export const designDay = (species: SpeciesProfile, day: Day): DesignDay => ({
  surface: day.conditions.surface,
  secchi: day.conditions.secchi,
  numbers: DEPTH_BY_DAY.map((t) => t.of(day)),
  lowLight: lowLight(day),
  thermocline: day.column.thermocline?.depth ?? null,
  coast: day.sort === 'coast',
  strategy: strategyDay(species, day),
});

/** The day of each look as the design sees it, each day worked out once. */
export function designDays(species: SpeciesProfile, looks: { day: Day }[]): DesignDay[] {
  const days = new Map<Day, DesignDay>();
  return looks.map(({ day }) => {
    let known = days.get(day);
    if (!known) days.set(day, (known = designDay(species, day)));
    return known;
  });
}

/** Columns of a term in a design. */
function columnsOf(
  { name }: TermDeclaration,
  { splines: s, views, centres, trips, running }: Omit<DesignSpec, 'terms' | 'columns' | 'staticColumns'>,
): number {
  const counts: Record<TermName, number> = {
    strategies: STRATEGIES.length,
    'depth by temperature': s.depthCoarse.count * s.temperature.count,
    season: s.temperature.count,
    thermocline: s.aboveThermocline.count,
    light: s.light.count,
    'bottom by temperature': s.temperature.count,
    wind: 2,
    stream: running ? STREAM_SIDES.length : 0,
    detection: 1 + 4 * views.length,
    depth: s.depth.count,
    hardness: s.hardness.count,
    'position near': s.positionNear.count,
    'position wide': s.positionWide.count,
    slope: s.slope.count,
    cover: 4,
    edge: 1,
    place: centres.length / 2,
    trip: trips,
  };
  const byDay = DEPTH_BY_DAY.find((t) => t.name === name);
  if (byDay) return byDay.running && !running ? 0 : s.depthCoarse.count;
  return counts[name as TermName];
}

function layOut(spec: Omit<DesignSpec, 'terms' | 'columns' | 'staticColumns'>): Pick<DesignSpec, 'terms' | 'columns' | 'staticColumns'> {
  const terms: Term[] = [];
  let start: number = EFFORT_KINDS.length;
  let staticColumns: number | null = null;
  for (const term of termsInOrder()) {
    if (term.varies === 'cell') staticColumns ??= start;
    const count = columnsOf(term, spec);
    terms.push({ name: term.name, start, count, penalty: term.penalty });
    start += count;
  }
  return { terms, columns: start, staticColumns: staticColumns ?? start };
}

/** Most centres of the place term; beyond it the lattice grows coarser. */
const MOST_CENTRES = 360;

function placeCentres(cells: CellTable, looked: Iterable<number>): { centres: number[]; spacing: number } {
  for (let spacing = 75; ; spacing *= 1.25) {
    const lattice = new Set<string>();
    for (const i of looked) {
      const [x, y] = [(cells.column[i] + 0.5) * CELL, (cells.row[i] + 0.5) * CELL];
      lattice.add(`${Math.round(x / spacing)} ${Math.round(y / spacing)}`);
    }
    if (lattice.size <= MOST_CENTRES) {
      const centres = [...lattice]
        .map((key) => key.split(' ').map(Number))
        .sort((a, b) => a[1] - b[1] || a[0] - b[0])
        .flatMap(([i, j]) => [i * spacing, j * spacing]);
      return { centres, spacing };
    }
  }
}

/** Looks of a view below which its detection is not told apart. */
const LEAST_SCANS = 200;

/** How a log scans, by view, each scan counting by its area. */
export function viewUses(looks: { look: Look; cell: number }[], cells: CellTable): ViewUse[] {
  const sums = new Map<string, { n: number; area: number; depth: number; steepness: number; reach: number }>();
  let scanned = 0;
  for (const { look, cell } of looks) {
    if (look.kind !== 'scan') continue;
    scanned += look.effort;
    if (look.view == null || Number.isNaN(cells.depth[cell])) continue;
    const entry = sums.get(look.view) ?? { n: 0, area: 0, depth: 0, steepness: 0, reach: 0 };
    entry.n++;
    entry.area += look.effort;
    entry.depth += look.effort * depthScale(cells.depth[cell]);
    entry.steepness += look.effort * steepness(cells, cell);
    entry.reach += look.effort * logReach(look);
    sums.set(look.view, entry);
  }
  return [...sums]
    .filter(([, { n, area }]) => n >= LEAST_SCANS && area > 0)
    .map(([view, { area, depth, steepness, reach }]) => ({
      view,
      share: area / scanned,
      depth: depth / area,
      steepness: steepness / area,
      reach: reach / area,
    }))
    .sort((a, b) => (a.view < b.view ? -1 : 1));
}

/** The design for a water: ranges from its chart, place centres from where it was looked at (none for an empty set). */
export function makeDesign(cells: CellTable, looked: Set<number>, trips: number, views: ViewUse[] = [], running = false): DesignSpec {
  const depths = Array.from(cells.depth)
    .filter((d) => !Number.isNaN(d))
    .sort((a, b) => a - b);
  const deep = Math.max(4, depths[Math.floor(depths.length * 0.98)] ?? 10);
  const { centres, spacing } = placeCentres(cells, looked);
  const base = {
    splines: {
      depth: { low: 0, high: depthScale(deep), count: 10 },
      depthCoarse: { low: 0, high: depthScale(deep), count: 6 },
      // The whole range that water has: what was seen in the cold says little of the heat.
      temperature: { low: 0, high: 30, count: 7 },
      aboveThermocline: { low: -6, high: 6, count: 7 },
      light: { low: 0, high: 8, count: 6 },
      hardness: { low: 0, high: 1, count: 5 },
      positionNear: { low: -1.5, high: 1.5, count: 6 },
      positionWide: { low: -4, high: 4, count: 6 },
      slope: { low: 0, high: 0.25, count: 5 },
    },
    centres,
    spacing,
    trips,
    views,
    running,
  };
  return { ...base, ...layOut(base) };
}

/** Builds rows of a design for cells of a chart. */
export class Design {
  /** First column of each term. */
  readonly start: Readonly<Record<TermName, number>>;
  /** First column of each term of depth by a number of the day that the design has, and which of those numbers it is. */
  readonly byDay: { start: number; number: number }[];
  private readonly sides = new Float64Array(STREAM_SIDES.length);
  private readonly centreAt = new Map<number, number>();
  private readonly reach: number;

  constructor(
    readonly spec: DesignSpec,
    readonly cells: CellTable,
  ) {
    this.start = Object.fromEntries(spec.terms.map((term) => [term.name, term.start])) as Record<TermName, number>;
    this.byDay = DEPTH_BY_DAY.flatMap(({ name }, number) => {
      const { start, count } = spec.terms.find((t) => t.name === name)!;
      return count ? [{ start, number }] : [];
    });
    this.reach = 2 * spec.spacing;
    for (let k = 0; k < spec.centres.length / 2; k++)
      this.centreAt.set(
        this.lattice(Math.round(spec.centres[2 * k] / spec.spacing), Math.round(spec.centres[2 * k + 1] / spec.spacing)),
        k,
      );
  }

  private lattice(i: number, j: number): number {
    return j * 1_000_000 + i;
  }

  penaltyOf(term: Term): Float64Array {
    return term.penalty === 'smooth' ? smoothPenalty(term.count) : ridgePenalty(term.count);
  }

  /** The prior of a cell on a day, log scale: the strategies combined. */
  prior(i: number, day: DesignDay): number {
    return combinedScore(day.strategy, this.cells, i);
  }

  /**
   * Fills a row for a cell, a day, a kind of effort and (for fitting) a trip.
   * @param trip index of the trip, −1 to leave the trip term out
   * @returns share of the place term's prior variance that the row does not hold (1 where nobody looked)
   */
  fill(row: SparseRow, i: number, day: DesignDay, kind: number, trip: number): number {
    row.n = 0;
    this.addOfDay(row, i, day, kind);
    const residualPriorVariance = this.addStatic(row, i);
    if (trip >= 0) row.add(this.start.trip + trip, 1);
    return residualPriorVariance;
  }

  /** Adds what changes from day to day at a cell, in ascending columns. */
  addOfDay(row: SparseRow, i: number, day: DesignDay, kind: number): void {
    const { cells } = this;
    row.add(kind, 1);
    STRATEGIES.forEach((strategy, k) => row.add(this.start.strategies + k, strategyScore(strategy, day.strategy, cells, i)));
    const depth = cells.depth[i];
    if (Number.isNaN(depth)) return;
    this.addOfDepth(row, depth, day);
    const hard = orZero(cells.hardness[i] - 0.4);
    const [b, wb] = hatAt(this.spec.splines.temperature, day.surface);
    for (let q = 0; q < 2; q++) row.add(this.start['bottom by temperature'] + b + q, hard * wb[q]);
    row.add(this.start.wind, windBlown(cells, i, day.strategy.windFrom, day.strategy.windSpeed));
    row.add(this.start.wind + 1, openToWind(cells, i, day.strategy.windFrom, day.strategy.windSpeed));
    if (this.spec.running && day.strategy.stream) {
      streamSides(this.sides, cells, i, day.strategy.stream);
      for (let k = 0; k < this.sides.length; k++) row.add(this.start.stream + k, this.sides[k]);
    }
  }

  /**
   * Adds how fully a scan shows what is there: on another visit of the trip, when not all is marked again; by view, the
   * depth that the view looks into, how steep the bottom is (fish tight to it merge with its echo, more on a slope and
   * more from straight above), and how far off the line it looks. Against the log's usual first scans, so that a
   * forecast, which adds nothing here, speaks of those.
   */
  addDetection(row: SparseRow, look: Look, i: number): void {
    if (look.kind !== 'scan') return;
    const depth = this.cells.depth[i];
    if (look.visit) row.add(this.start.detection, 1);
    this.spec.views.forEach(({ view, share, depth: usual, steepness: steep, reach }, k) => {
      const at = this.start.detection + 1 + 4 * k;
      const own = look.view === view;
      const more = (own ? 1 : 0) - share;
      row.add(at, more);
      // Views against each other at a depth: how all of them see less in the deep is part of what is usual there.
      if (!Number.isNaN(depth)) row.add(at + 1, more * (depthScale(depth) - usual));
      row.add(at + 2, more * (steepness(this.cells, i) - steep));
      if (own) row.add(at + 3, logReach(look) - reach);
    });
  }

  /** Adds what follows on a day from the depth of the bottom alone, the strategies apart. */
  addOfDepth(row: SparseRow, depth: number, day: DesignDay): void {
    const { depthCoarse, temperature, aboveThermocline, light } = this.spec.splines;
    const [a, wa] = hatAt(depthCoarse, depthScale(depth));
    const [b, wb] = hatAt(temperature, day.surface);
    for (let p = 0; p < 2; p++)
      for (let q = 0; q < 2; q++) row.add(this.start['depth by temperature'] + (a + p) * temperature.count + b + q, wa[p] * wb[q]);
    for (let q = 0; q < 2; q++) row.add(this.start.season + b + q, wb[q]);
    for (const { start, number } of this.byDay) for (let p = 0; p < 2; p++) row.add(start + a + p, day.numbers[number] * wa[p]);
    if (day.thermocline != null) this.spline(row, 'thermocline', aboveThermocline, day.thermocline - depth);
    this.spline(row, 'light', light, depth / day.secchi);
  }

  /**
   * Adds what is the same on every day at a cell, in ascending columns.
   * @returns share of the place term's prior variance that the row does not hold
   */
  addStatic(row: SparseRow, i: number): number {
    const { spec, cells } = this;
    const hard = cells.hardness[i];
    this.spline(row, 'depth', spec.splines.depth, depthScale(cells.depth[i]));
    this.spline(row, 'hardness', spec.splines.hardness, hard);
    this.spline(row, 'position near', spec.splines.positionNear, cells.positionNear[i]);
    this.spline(row, 'position wide', spec.splines.positionWide, cells.positionWide[i]);
    this.spline(row, 'slope', spec.splines.slope, cells.slope[i]);
    const [wood, weed] = [near(cells.woodDistance[i]), near(cells.weedDistance[i])];
    const cover = this.start.cover;
    row.add(cover, wood);
    row.add(cover + 1, weed);
    row.add(cover + 2, wood * (orZero(hard) - 0.4));
    row.add(cover + 3, wood * orZero(cells.positionNear[i]));
    row.add(this.start.edge, near(cells.edgeDistance[i]));
    return this.place(row, i);
  }

  private spline(row: SparseRow, name: TermName, spec: SplineSpec, value: number): void {
    if (Number.isNaN(value)) return;
    const [first, weights] = splineAt(spec, value);
    for (let k = 0; k < 4; k++) row.add(this.start[name] + first + k, weights[k]);
  }

  /** Compact bumps (Wendland 1995, C2) about the centres within reach, scaled so that their prior variance is even. */
  private place(row: SparseRow, i: number): number {
    const { spacing, centres } = this.spec;
    const [x, y] = [(this.cells.column[i] + 0.5) * CELL, (this.cells.row[i] + 0.5) * CELL];
    const [ci, cj] = [Math.round(x / spacing), Math.round(y / spacing)];
    const from = row.n;
    let squares = 0;
    for (let dj = -2; dj <= 2; dj++)
      for (let di = -2; di <= 2; di++) {
        const k = this.centreAt.get(this.lattice(ci + di, cj + dj));
        if (k === undefined) continue;
        const r = Math.hypot(x - centres[2 * k], y - centres[2 * k + 1]) / this.reach;
        if (r >= 1) continue;
        const v = (1 - r) ** 4 * (4 * r + 1);
        row.add(this.start.place + k, v);
        squares += v * v;
      }
    const scale = 1 / Math.sqrt(Math.max(squares, FULL_COVER));
    for (let k = from; k < row.n; k++) row.value[k] *= scale;
    return Math.max(0, 1 - squares * scale * scale);
  }
}

/** Sum of squared bumps where every centre of the lattice about a cell is there. */
const FULL_COVER = 0.9;

const orZero = (v: number): number => (Number.isNaN(v) ? 0 : v);
const near = (distance: number): number => (distance >= FAR ? 0 : Math.exp(-distance / 30));
/** The scale that depth is smoothed on: a metre in the shallows tells fish apart as three do at six metres. */
export const depthScale = (depth: number): number => Math.log1p(depth / 3);
/** How steep the bottom of a cell is as detection by the views minds it: 1 where it falls a metre in ten, at most 3. */
const steepness = (cells: CellTable, i: number): number => Math.min(3, 10 * orZero(cells.slope[i]));
const logReach = ({ reach }: Look): number => Math.log(Math.max(1, reach ?? 1));
