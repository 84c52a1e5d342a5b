import { FEATURE_KINDS, type CellTable } from '../chart';
import { fetchToward, windBlown, windowOn } from '../forecast';
import { oxygenAt, temperatureAt } from '../lake';
import type { SpeciesProfile, StageName } from '../species';
import { COVER_AT, coverAt } from './chart-places';
import type { LookTable } from './look-table';

/** Needed besides the table: the species asked about and its season. */
export interface CovariateContext {
  species: SpeciesProfile;
  stageAt: (at: number, surface: number) => StageName;
}

/** One thing that is known of a look with and without fish. */
export interface Covariate {
  key: string;
  /** As the field says it, for headings: "depth of the bottom". */
  name: string;
  unit: string;
  /** Compared within each trip; or between trips, where a whole trip has one value and the season goes with it. */
  within: 'trip' | 'log';
  /** Names of classes, for what is no number. The value is the class's index, NaN = not known. */
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

const DISTANCES = [0, 10, 20, 40, 80, 150];

/** All covariates of a look, in the order in which they are listed. Those of a target only are not among them. */
export const COVARIATES: Covariate[] = [
  {
    key: 'depth',
    name: 'depth of the bottom',
    unit: 'm',
    within: 'trip',
    edges: [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 12, 14, 17, 20, 25, 30],
    value: chart((t) => t.chart.cells.depth),
  },
  {
    key: 'top',
    name: 'depth of the top',
    unit: 'm',
    within: 'trip',
    edges: [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 12, 14, 17, 20, 25, 30],
    value: chart((t) => t.chart.top),
  },
  {
    key: 'above-thermocline',
    name: 'bottom above the thermocline',
    unit: 'm',
    within: 'trip',
    edges: [-12, -6, -3, -1.5, 0, 1.5, 3, 5, 8],
    value: (t, i) => (t.moment[i].day.column.thermocline?.depth ?? NaN) - t.chart.cells.depth[t.cell[i]],
  },
  {
    key: 'above-light',
    name: 'bottom above the light limit',
    unit: 'm',
    within: 'trip',
    edges: [-12, -6, -3, -1.5, 0, 1.5, 3, 5, 8],
    value: (t, i) => (t.moment[i].clarityRead ? t.moment[i].lightLimit - t.chart.cells.depth[t.cell[i]] : NaN),
  },
  {
    key: 'bottom-temperature',
    name: 'temperature at the bottom',
    unit: '°C',
    within: 'trip',
    edges: [0, 4, 6, 8, 10, 12, 14, 16, 18, 20, 22, 24, 27],
    value: (t, i) => temperatureAt(t.moment[i].day.column.samples, t.chart.cells.depth[t.cell[i]]),
  },
  {
    key: 'bottom-oxygen',
    name: 'oxygen at the bottom',
    unit: 'mg/l',
    within: 'trip',
    edges: [0, 2, 4, 5, 6, 8, 10, 12],
    value: (t, i) => oxygenAt(t.moment[i].day.column.samples, t.chart.cells.depth[t.cell[i]]) ?? NaN,
  },
  {
    key: 'window-temperature',
    name: 'temperature inside the depth window',
    unit: '°C',
    within: 'log',
    edges: [0, 4, 6, 8, 10, 12, 14, 16, 18, 20, 22, 24, 27],
    value: (t, i, context) => inWindow(t, i, context, (samples, z) => temperatureAt(samples, z)),
  },
  {
    key: 'window-oxygen',
    name: 'oxygen inside the depth window',
    unit: 'mg/l',
    within: 'log',
    edges: [0, 2, 4, 5, 6, 8, 10, 12],
    value: (t, i, context) => inWindow(t, i, context, (samples, z) => oxygenAt(samples, z) ?? NaN),
  },
  {
    key: 'hardness',
    name: 'hardness of the bottom',
    unit: '',
    within: 'trip',
    edges: [0, 0.2, 0.4, 0.6, 0.8],
    value: chart((t) => t.chart.cells.hardness),
  },
  {
    key: 'edge',
    name: 'distance to where hard meets soft',
    unit: 'm',
    within: 'trip',
    edges: DISTANCES,
    value: chart((t) => t.chart.cells.edgeDistance),
  },
  {
    key: 'slope',
    name: 'slope of the bottom',
    unit: '%',
    within: 'trip',
    edges: [0, 2, 4, 7, 10, 15, 25],
    value: (t, i) => 100 * t.chart.cells.slope[t.cell[i]],
  },
  {
    key: 'curvature',
    name: 'bulge of the bottom over 25 m',
    unit: 'm',
    within: 'trip',
    edges: [-5, -0.6, -0.3, -0.1, 0.1, 0.3, 0.6],
    value: chart((t) => t.chart.curvature),
  },
  {
    key: 'position-near',
    name: 'higher than the bottom within 50 m',
    unit: 'm',
    within: 'trip',
    edges: [-10, -1, -0.5, -0.2, 0.2, 0.5, 1],
    value: chart((t) => t.chart.cells.positionNear),
  },
  {
    key: 'position-wide',
    name: 'higher than the bottom within 150 m',
    unit: 'm',
    within: 'trip',
    edges: [-20, -2, -1, -0.4, 0.4, 1, 2],
    value: chart((t) => t.chart.cells.positionWide),
  },
  {
    key: 'shape',
    name: 'shape on the chart',
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
    name: 'distance to a named shape',
    unit: 'm',
    within: 'trip',
    edges: [0, 25, 50, 100, 200, 400],
    value: chart((t) => t.chart.shapeDistance),
  },
  {
    key: 'cover',
    name: 'cover within 25 m',
    unit: '',
    within: 'trip',
    labels: COVER_AT,
    value: (t, i) => coverAt(t.chart.cells, t.cell[i]),
  },
  {
    key: 'wood',
    name: 'distance to timber, brush, rock or docks',
    unit: 'm',
    within: 'trip',
    edges: DISTANCES,
    value: chart((t) => t.chart.cells.woodDistance),
  },
  {
    key: 'weed',
    name: 'distance to weed',
    unit: 'm',
    within: 'trip',
    edges: DISTANCES,
    value: chart((t) => t.chart.cells.weedDistance),
  },
  {
    key: 'blown6',
    name: 'wind-blown over the last 6 h',
    unit: '',
    within: 'trip',
    edges: [-1, -0.4, -0.15, 0.15, 0.4],
    value: (t, i) => blownBy(t.chart.cells, t.cell[i], t.moment[i].wind6),
  },
  {
    key: 'blown24',
    name: 'wind-blown over the last 24 h',
    unit: '',
    within: 'trip',
    edges: [-1, -0.4, -0.15, 0.15, 0.4],
    value: (t, i) => blownBy(t.chart.cells, t.cell[i], t.moment[i].wind24),
  },
  {
    key: 'fetch',
    name: 'open water upwind',
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
    name: 'bait seen earlier within 50 m',
    unit: '',
    within: 'trip',
    labels: ['looked, none', 'seen'],
    value: (t, i) => (t.bait50[i] < 0 ? NaN : t.bait50[i]),
  },
  {
    key: 'bait200',
    name: 'bait seen earlier within 200 m',
    unit: '',
    within: 'trip',
    labels: ['looked, none', 'seen'],
    value: (t, i) => (t.bait200[i] < 0 ? NaN : t.bait200[i]),
  },
  {
    key: 'channel',
    name: 'distance to a channel',
    unit: 'm',
    within: 'trip',
    edges: [0, 25, 50, 100, 200, 400],
    value: chart((t) => t.chart.channelDistance),
  },
  {
    key: 'shore',
    name: 'distance to the shore',
    unit: 'm',
    within: 'trip',
    edges: [0, 25, 50, 100, 150],
    value: chart((t) => t.chart.cells.shoreDistance),
  },
  {
    key: 'deep',
    name: 'distance to deep water',
    unit: 'm',
    within: 'trip',
    edges: [0, 25, 50, 100, 200, 400],
    value: chart((t) => t.chart.deepDistance),
  },
  {
    key: 'arm',
    name: 'way up an arm',
    unit: '',
    within: 'trip',
    edges: [0, 0.01, 0.34, 0.67],
    value: chart((t) => t.chart.arm),
  },
  {
    key: 'fished',
    name: 'days since it was fished',
    unit: 'd',
    within: 'trip',
    edges: [0, 0.5, 3, 10, 30, 100],
    value: (t, i) => t.fishedBefore[i],
  },
  { key: 'boats', name: 'boats near', unit: '', within: 'trip', edges: [0, 1, 2, 4], value: (t, i) => t.boats[i] },
  {
    key: 'sun',
    name: 'height of the sun',
    unit: '°',
    within: 'trip',
    edges: [-90, -6, 6, 15, 30, 45],
    value: (t, i) => t.moment[i].day.sunHeight,
  },
  {
    key: 'twilight',
    name: 'hours from dawn or dusk',
    unit: 'h',
    within: 'trip',
    edges: [-12, -3, -1, 0, 1, 3],
    value: (t, i) => t.moment[i].fromTwilight,
  },
  {
    key: 'hour',
    name: 'hour of the day',
    unit: 'h',
    within: 'trip',
    edges: [0, 4, 6, 8, 10, 12, 14, 16, 18, 20, 22],
    value: (t, i) => t.moment[i].hour,
  },
  {
    key: 'surface',
    name: 'surface temperature',
    unit: '°C',
    within: 'log',
    edges: [0, 4, 7, 10, 13, 16, 19, 22, 25],
    value: (t, i) => (t.moment[i].surfaceRead ? t.moment[i].day.conditions.surface : NaN),
  },
  {
    key: 'secchi',
    name: 'clarity',
    unit: 'm',
    within: 'log',
    edges: [0, 0.5, 1, 1.5, 2, 3, 4, 6],
    value: (t, i) => (t.moment[i].clarityRead ? t.moment[i].day.conditions.secchi : NaN),
  },
  {
    key: 'pressure',
    name: 'pressure trend over 6 h',
    unit: 'hPa',
    within: 'log',
    edges: [-20, -3, -1, 1, 3],
    value: (t, i) => t.moment[i].pressureTrend,
  },
  {
    key: 'level',
    name: 'level trend a week',
    unit: 'm',
    within: 'log',
    edges: [-5, -0.2, -0.05, 0.05, 0.2],
    value: (t, i) => t.moment[i].levelTrend,
  },
  {
    key: 'stage',
    name: 'season stage',
    unit: '',
    within: 'log',
    labels: STAGES,
    value: (t, i, { stageAt }) => STAGES.indexOf(stageAt(t.from[i], t.moment[i].day.conditions.surface)),
  },
  {
    key: 'moon',
    name: 'lit share of the moon',
    unit: '',
    within: 'log',
    edges: [0, 0.25, 0.5, 0.75],
    value: (t, i) => t.moment[i].moon,
  },
];

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

/** The name of a class: "4–5", "20 +", a label. */
export function className({ labels, edges }: Covariate, k: number): string {
  if (labels || !edges) return labels?.[k] ?? '';
  const say = (v: number): string => String(v).replace('-', '−');
  if (k === edges.length - 1) return `${say(edges[k])} +`;
  return k === 0 && edges[0] < 0 ? `under ${say(edges[1])}` : `${say(edges[k])} to ${say(edges[k + 1])}`;
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
