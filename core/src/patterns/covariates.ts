import { FEATURE_KINDS, type CellTable } from '../chart';
import { fetchToward, STREAM_SIDES, streamSides, windBlown, windowOn } from '../forecast';
import { lightAtDepth, oxygenAt, sortOf, temperatureAt } from '../lake';
import { SLACK } from '../tide';
import type { SpeciesProfile, StageName } from '../species';
import { COVER_AT, coverAt } from './chart-places';
import type { Label } from './label';
import { bottomOf, type LookTable } from './look-table';

/** Needed besides the table: the species asked about and its season. */
export interface CovariateContext {
  species: SpeciesProfile;
  stageAt: (at: number, surface: number) => StageName;
}

/** One thing that is known of a look with and without fish. */
export interface Covariate {
  key: string;
  unit: string;
  /** Compared within each trip; or between trips, where a whole trip has one value and the season goes with it. */
  within: 'trip' | 'log';
  /** Of a lake alone, of water that runs, of water with a tide; of any water where nothing is said. */
  only?: 'lake' | 'running' | 'tide';
  /** Codes of classes, for what is no number. The value is the class's index, NaN = not known. */
  labels?: readonly string[];
  /** Limits of the classes of a number, in order; values below the first fall into the first class. */
  edges?: number[];
  value: (table: LookTable, i: number, context: CovariateContext) => number;
}

export const STAGES: StageName[] = [
  'winter',
  'early spring',
  'before spawning',
  'spawning',
  'after spawning',
  'summer',
  'cooling',
  'turnover',
  'late autumn',
];

/** Wind-blown index of a cell over several winds: the mean, −1 sheltered … 1 wind-blown. */
export function blownBy(cells: CellTable, i: number, winds: [number, number][]): number {
  if (!winds.length) return NaN;
  let sum = 0;
  for (const [from, speed] of winds) sum += windBlown(cells, i, from, speed);
  return sum / winds.length;
}

const chart =
  (pick: (table: LookTable) => Float32Array) =>
  (table: LookTable, i: number): number =>
    pick(table)[table.cell[i]];

/** On which side of a rise or of cover a place lies, for the water that runs past it. */
const CURRENT_SIDES = ['slack water', 'neither side', 'up-current', 'down-current'] as const;
/** A side is one from here on: a rise of one in sixty, or cover within 50 m. */
const LEAST_SIDE = 0.15;
const sides = new Float64Array(STREAM_SIDES.length);

function sideOfCurrent({ chart: { cells }, cell, moment }: LookTable, i: number): number {
  const { stream } = moment[i].day;
  if (!stream) return NaN;
  if (stream.rate < SLACK) return 0;
  const [runs, face, cover] = streamSides(sides, cells, cell[i], stream);
  const side = (Math.abs(cover) > Math.abs(face) ? cover : face) / Math.max(1e-6, runs);
  return Math.abs(side) < LEAST_SIDE ? 1 : side > 0 ? 2 : 3;
}

const DISTANCES = [0, 10, 20, 40, 80, 150];

/** All covariates of a look, in the order in which they are listed. Those of a target only are not among them. */
export const COVARIATES: Covariate[] = [
  {
    key: 'depth',
    unit: 'm',
    within: 'trip',
    edges: [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 12, 14, 17, 20, 25, 30],
    value: bottomOf,
  },
  {
    key: 'top',
    unit: 'm',
    within: 'trip',
    edges: [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 12, 14, 17, 20, 25, 30],
    value: (t, i) => t.chart.top[t.cell[i]] + t.moment[i].day.level,
  },
  {
    key: 'above-thermocline',
    only: 'lake',
    unit: 'm',
    within: 'trip',
    edges: [-12, -6, -3, -1.5, 0, 1.5, 3, 5, 8],
    value: (t, i) => (t.moment[i].day.column.thermocline?.depth ?? NaN) - bottomOf(t, i),
  },
  {
    key: 'above-light',
    only: 'lake',
    unit: 'm',
    within: 'trip',
    edges: [-12, -6, -3, -1.5, 0, 1.5, 3, 5, 8],
    value: (t, i) => (t.moment[i].clarityRead ? t.moment[i].lightLimit - bottomOf(t, i) : NaN),
  },
  {
    key: 'light',
    unit: '%',
    within: 'trip',
    edges: [0, 0.1, 0.5, 2, 5, 10, 20, 40],
    value: (t, i) => {
      const { clarityRead, day } = t.moment[i];
      const { secchi, cloud } = day.conditions;
      return clarityRead ? 100 * lightAtDepth(day.sunHeight, cloud ?? 0, secchi, bottomOf(t, i)) : NaN;
    },
  },
  {
    key: 'bottom-temperature',
    unit: '°C',
    within: 'trip',
    edges: [0, 4, 6, 8, 10, 12, 14, 16, 18, 20, 22, 24, 27],
    value: (t, i) => temperatureAt(t.moment[i].day.column.samples, bottomOf(t, i)),
  },
  {
    key: 'bottom-oxygen',
    only: 'lake',
    unit: 'mg/l',
    within: 'trip',
    edges: [0, 2, 4, 5, 6, 8, 10, 12],
    value: (t, i) => oxygenAt(t.moment[i].day.column.samples, bottomOf(t, i)) ?? NaN,
  },
  {
    key: 'window-temperature',
    unit: '°C',
    within: 'log',
    edges: [0, 4, 6, 8, 10, 12, 14, 16, 18, 20, 22, 24, 27],
    value: (t, i, context) => inWindow(t, i, context, (samples, z) => temperatureAt(samples, z)),
  },
  {
    key: 'window-oxygen',
    only: 'lake',
    unit: 'mg/l',
    within: 'log',
    edges: [0, 2, 4, 5, 6, 8, 10, 12],
    value: (t, i, context) => inWindow(t, i, context, (samples, z) => oxygenAt(samples, z) ?? NaN),
  },
  {
    key: 'hardness',
    unit: '',
    within: 'trip',
    edges: [0, 0.2, 0.4, 0.6, 0.8],
    value: chart((t) => t.chart.cells.hardness),
  },
  {
    key: 'edge',
    unit: 'm',
    within: 'trip',
    edges: DISTANCES,
    value: chart((t) => t.chart.cells.edgeDistance),
  },
  {
    key: 'slope',
    unit: '%',
    within: 'trip',
    edges: [0, 2, 4, 7, 10, 15, 25],
    value: (t, i) => 100 * t.chart.cells.slope[t.cell[i]],
  },
  {
    key: 'curvature',
    unit: 'm',
    within: 'trip',
    edges: [-5, -0.6, -0.3, -0.1, 0.1, 0.3, 0.6],
    value: chart((t) => t.chart.curvature),
  },
  {
    key: 'position-near',
    unit: 'm',
    within: 'trip',
    edges: [-10, -1, -0.5, -0.2, 0.2, 0.5, 1],
    value: chart((t) => t.chart.cells.positionNear),
  },
  {
    key: 'position-wide',
    unit: 'm',
    within: 'trip',
    edges: [-20, -2, -1, -0.4, 0.4, 1, 2],
    value: chart((t) => t.chart.cells.positionWide),
  },
  {
    key: 'shape',
    unit: '',
    within: 'trip',
    labels: ['none', ...FEATURE_KINDS],
    value: (t, i) => {
      const kind = t.chart.shape[t.cell[i]];
      return kind < 0 ? 0 : 1 + FEATURE_KINDS.indexOf(t.chart.shapeKinds[kind]);
    },
  },
  {
    key: 'shape-distance',
    unit: 'm',
    within: 'trip',
    edges: [0, 25, 50, 100, 200, 400],
    value: chart((t) => t.chart.shapeDistance),
  },
  {
    key: 'cover',
    unit: '',
    within: 'trip',
    labels: COVER_AT,
    value: (t, i) => coverAt(t.chart.cells, t.cell[i]),
  },
  {
    key: 'wood',
    unit: 'm',
    within: 'trip',
    edges: DISTANCES,
    value: chart((t) => t.chart.cells.woodDistance),
  },
  {
    key: 'weed',
    unit: 'm',
    within: 'trip',
    edges: DISTANCES,
    value: chart((t) => t.chart.cells.weedDistance),
  },
  {
    key: 'blown6',
    unit: '',
    within: 'trip',
    edges: [-1, -0.4, -0.15, 0.15, 0.4],
    value: (t, i) => blownBy(t.chart.cells, t.cell[i], t.moment[i].wind6),
  },
  {
    key: 'blown24',
    unit: '',
    within: 'trip',
    edges: [-1, -0.4, -0.15, 0.15, 0.4],
    value: (t, i) => blownBy(t.chart.cells, t.cell[i], t.moment[i].wind24),
  },
  {
    key: 'fetch',
    unit: 'm',
    within: 'trip',
    edges: [0, 100, 250, 500, 1000, 2000, 4000],
    value: (t, i) => {
      const wind = t.moment[i].wind6.at(-1);
      return wind ? fetchToward(t.chart.cells, t.cell[i], wind[0]) : NaN;
    },
  },
  {
    key: 'bait50',
    unit: '',
    within: 'trip',
    labels: ['looked, none', 'seen'],
    value: (t, i) => (t.bait50[i] < 0 ? NaN : t.bait50[i]),
  },
  {
    key: 'bait200',
    unit: '',
    within: 'trip',
    labels: ['looked, none', 'seen'],
    value: (t, i) => (t.bait200[i] < 0 ? NaN : t.bait200[i]),
  },
  {
    key: 'channel',
    unit: 'm',
    within: 'trip',
    edges: [0, 25, 50, 100, 200, 400],
    value: chart((t) => t.chart.channelDistance),
  },
  {
    key: 'shore',
    unit: 'm',
    within: 'trip',
    edges: [0, 25, 50, 100, 150],
    value: chart((t) => t.chart.cells.shoreDistance),
  },
  {
    key: 'deep',
    unit: 'm',
    within: 'trip',
    edges: [0, 25, 50, 100, 200, 400],
    value: chart((t) => t.chart.deepDistance),
  },
  {
    key: 'arm',
    only: 'lake',
    unit: '',
    within: 'trip',
    edges: [0, 0.01, 0.34, 0.67],
    value: chart((t) => t.chart.arm),
  },
  {
    key: 'fished',
    unit: 'd',
    within: 'trip',
    edges: [0, 0.5, 3, 10, 30, 100],
    value: (t, i) => t.fishedBefore[i],
  },
  { key: 'boats', unit: '', within: 'trip', edges: [0, 1, 2, 4], value: (t, i) => t.boats[i] },
  {
    key: 'sun',
    unit: '°',
    within: 'trip',
    edges: [-90, -6, 6, 15, 30, 45],
    value: (t, i) => t.moment[i].day.sunHeight,
  },
  {
    key: 'twilight',
    unit: 'h',
    within: 'trip',
    edges: [-12, -3, -1, 0, 1, 3],
    value: (t, i) => t.moment[i].fromTwilight,
  },
  {
    key: 'hour',
    unit: 'h',
    within: 'trip',
    edges: [0, 4, 6, 8, 10, 12, 14, 16, 18, 20, 22],
    value: (t, i) => t.moment[i].hour,
  },
  {
    key: 'surface',
    unit: '°C',
    within: 'log',
    edges: [0, 4, 7, 10, 13, 16, 19, 22, 25],
    value: (t, i) => (t.moment[i].surfaceRead ? t.moment[i].day.conditions.surface : NaN),
  },
  {
    key: 'secchi',
    unit: 'm',
    within: 'log',
    edges: [0, 0.5, 1, 1.5, 2, 3, 4, 6],
    value: (t, i) => (t.moment[i].clarityRead ? t.moment[i].day.conditions.secchi : NaN),
  },
  {
    key: 'pressure',
    unit: 'hPa',
    within: 'log',
    edges: [-20, -3, -1, 1, 3],
    value: (t, i) => t.moment[i].pressureTrend,
  },
  {
    key: 'current',
    unit: 'm/s',
    within: 'log',
    edges: [0, 0.05, 0.1, 0.2, 0.4, 0.8],
    value: (t, i) => {
      const { current, day } = t.moment[i];
      return Number.isNaN(current) ? (day.stream?.rate ?? NaN) : current;
    },
  },
  {
    key: 'current-side',
    only: 'running',
    unit: '',
    within: 'trip',
    labels: CURRENT_SIDES,
    value: sideOfCurrent,
  },
  {
    key: 'tide',
    only: 'tide',
    unit: 'h',
    within: 'trip',
    edges: [-6.5, -4, -2, 0, 2, 4, 6.5],
    value: (t, i) => t.moment[i].fromHigh,
  },
  {
    key: 'level',
    unit: 'm',
    within: 'log',
    edges: [-5, -0.2, -0.05, 0.05, 0.2],
    value: (t, i) => t.moment[i].levelTrend,
  },
  {
    key: 'stage',
    unit: '',
    within: 'log',
    labels: STAGES,
    value: (t, i, { stageAt }) => STAGES.indexOf(stageAt(t.from[i], t.moment[i].day.conditions.surface)),
  },
  {
    key: 'moon',
    unit: '',
    within: 'log',
    edges: [0, 0.25, 0.5, 0.75],
    value: (t, i) => t.moment[i].moon,
  },
];

/** The covariates that say something of a water: what is of a lake alone is not asked of a coast or a river. */
export function covariatesOf(kind: string | null, hasTide: boolean): Covariate[] {
  const sort = sortOf(kind, hasTide);
  return COVARIATES.filter(({ only }) => !only || (only === 'tide' ? hasTide : (only === 'lake') === (sort === 'lake')));
}

function inWindow(
  t: LookTable,
  i: number,
  { species }: CovariateContext,
  read: (samples: LookTable['moment'][number]['day']['column']['samples'], depth: number) => number,
): number {
  const { day } = t.moment[i];
  const window = windowOn(species, day);
  return window.empty ? NaN : read(day.column.samples, (window.top + Math.min(window.bottom, day.maxDepth)) / 2);
}

export const covariate = (key: string): Covariate => {
  const found = COVARIATES.find((c) => c.key === key);
  if (!found) throw new RangeError(`no covariate is called ${key}`);
  return found;
};

/** The class of a value: −1 where it is not known. */
export function classOf({ labels, edges }: Covariate, value: number): number {
  if (Number.isNaN(value)) return -1;
  if (labels || !edges) return value;
  let k = 0;
  while (k + 1 < edges.length && value >= edges[k + 1]) k++;
  return k;
}

export const classCount = ({ labels, edges }: Covariate): number => labels?.length ?? edges?.length ?? 0;

/** What a class is: a code, or the span of its values. */
export function classLabel({ labels, edges, unit }: Covariate, k: number): Label {
  if (labels || !edges) return labels?.[k] ?? '';
  return { from: k === 0 && edges[0] < 0 ? null : edges[k], to: edges[k + 1] ?? null, unit };
}

/** The values of a covariate for all looks, worked out once for a species. */
export class CovariateValues {
  private readonly kept = new Map<string, Float32Array>();
  private readonly classes = new Map<string, Int8Array>();
  constructor(
    private readonly table: LookTable,
    private readonly context: CovariateContext,
  ) {}

  of(key: string): Float32Array {
    let values = this.kept.get(key);
    if (!values) {
      const c = covariate(key);
      values = Float32Array.from({ length: this.table.count }, (_, i) => c.value(this.table, i, this.context));
      this.kept.set(key, values);
    }
    return values;
  }

  classesOf(key: string): Int8Array {
    let classes = this.classes.get(key);
    if (!classes) {
      const c = covariate(key);
      classes = Int8Array.from(this.of(key), (v) => classOf(c, v));
      this.classes.set(key, classes);
    }
    return classes;
  }
}
