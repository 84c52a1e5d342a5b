import { findSpecies, type SpeciesProfile, type StageName } from '../species';
import type { CovariateContext } from './covariates';
import type { Clusters } from '../numbers';
import { clustersOf, type LookTable, type LookTarget } from './look-table';
import type { Moment } from './moments';

/** What is asked of the log: the filters that act on every chart at once. What is left out does not narrow. */
export interface Question {
  /** Name of the species; null = bait of any kind. */
  species: string | null;
  /** First and last day, as on the water's clock, YYYY-MM-DD. */
  from?: string;
  to?: string;
  stages?: StageName[];
  /** Surface temperature, °C; clarity, m; hour of the day: from and to. A span of hours may go over midnight. */
  surface?: [number, number];
  secchi?: [number, number];
  hours?: [number, number];
  confirmedOnly?: boolean;
  /** The least odds that a target is of the species, 0–1; 0.5 where not said. */
  odds?: number;
  size?: 'small' | 'medium' | 'large';
}

/** The least odds at which a target counts as its species. */
export const LEAST_ODDS = 0.5;

/** The looks that a question leaves, and what they saw of what is asked for. */
export interface Selected {
  table: LookTable;
  /** Indices of the scan looks, and of the looks at stops and trolled lines. */
  scans: Int32Array;
  stops: Int32Array;
  /** For each scan in turn: targets seen, and effort in hectares as far as its view shows things. */
  used: Float64Array;
  effort: Float64Array;
  clusters: Clusters;
  /** The targets asked for, in scans and at stops; one that several looks of a trip saw is listed for each. */
  targets: LookTarget[];
  n: {
    contacts: number;
    /** Places that had some on a trip. */
    schools: number;
    looks: number;
    trips: number;
    hectares: number;
  };
}

/** Whether a target is what is asked for. */
export function targetTest(question: Question, known: SpeciesProfile[]): (t: LookTarget) => boolean {
  const named = new Map<string, boolean>();
  const is = (name: string): boolean => {
    let answer = named.get(name);
    if (answer === undefined) named.set(name, (answer = findSpecies(name, known)?.name === question.species));
    return answer;
  };
  const least = question.odds ?? LEAST_ODDS;
  return (t) => {
    if (question.size && t.size !== question.size) return false;
    if (question.species === null) return t.kind === 'bait';
    if (t.kind !== 'fish' || t.species == null || !is(t.species)) return false;
    return question.confirmedOnly ? t.confirmed !== 'none' : (t.confidence ?? 1) >= least;
  };
}

const inside = (v: number, span?: [number, number]): boolean => !span || (v >= span[0] && v <= span[1]);

/** Whether a time, with what was true of the water then, is among those asked about. */
export function timeTest(question: Question, { stageAt }: CovariateContext, zone: string): (at: number, moment: Moment) => boolean {
  const day = new Intl.DateTimeFormat('en-CA', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' });
  const days = new Map<number, string>();
  const dayOf = (at: number): string => {
    const key = Math.floor(at / 3_600_000);
    let text = days.get(key);
    if (!text) days.set(key, (text = day.format(at)));
    return text;
  };
  const { from, to, stages, surface, secchi, hours } = question;
  return (at, m) => {
    if (from && dayOf(at) < from) return false;
    if (to && dayOf(at) > to) return false;
    if (surface && !(m.surfaceRead && inside(m.day.conditions.surface, surface))) return false;
    if (secchi && !(m.clarityRead && inside(m.day.conditions.secchi, secchi))) return false;
    if (hours && (hours[0] <= hours[1] ? !inside(m.hour, hours) : m.hour < hours[0] && m.hour > hours[1])) return false;
    return !stages?.length || stages.includes(stageAt(at, m.day.conditions.surface));
  };
}

/** Places that had something on a trip: what was seen there together says one thing, not several. */
function schoolsOf({ pair, pairs }: LookTable['clusters'], used: ArrayLike<number>): number {
  const seen = new Uint8Array(pairs);
  for (let k = 0; k < pair.length; k++) if (used[k]) seen[pair[k]] = 1;
  return seen.reduce((n, v) => n + v, 0);
}

/** Some entries of a list. */
export function pick(list: ArrayLike<number>, rows: ArrayLike<number>): Float64Array {
  const out = new Float64Array(rows.length);
  for (let k = 0; k < rows.length; k++) out[k] = list[rows[k]];
  return out;
}

/**
 * Applies a question to the looks of a log.
 * @param effort of each look of the table, corrected for what its view shows (`effectiveEffort`)
 */
export function select(
  table: LookTable,
  effort: Float64Array,
  question: Question,
  context: CovariateContext,
  known: SpeciesProfile[],
  zone: string,
): Selected {
  const keep = timeTest(question, context, zone);
  const is = targetTest(question, known);
  const [scans, stops] = [new Int32Array(table.count), new Int32Array(table.count)];
  const used = new Float64Array(table.count);
  let [ofScans, ofStops] = [0, 0];
  const targets: LookTarget[] = [];
  const distinct = new Uint8Array(table.distinct);
  const trips = new Uint8Array(table.trips.length);
  let hectares = 0;
  // Looks of one hour share a moment, and so the answer.
  let [moment, kept]: [Moment | null, boolean] = [null, false];
  for (let i = 0; i < table.count; i++) {
    if (table.moment[i] !== moment) {
      moment = table.moment[i];
      kept = keep(table.from[i], moment);
    }
    if (!kept) continue;
    let here = 0;
    for (let k = table.first[i]; k < table.first[i + 1]; k++)
      if (is(table.targets[k])) {
        here++;
        targets.push(table.targets[k]);
        distinct[table.targets[k].number] = 1;
      }
    trips[table.trip[i]] = 1;
    if (table.kind[i] === 0) {
      scans[ofScans] = i;
      used[ofScans++] = here;
      hectares += table.effort[i];
    } else stops[ofStops++] = i;
  }
  const scanned = scans.slice(0, ofScans);
  const clusters = clustersOf(table, scanned);
  return {
    table,
    scans: scanned,
    stops: stops.slice(0, ofStops),
    used: used.slice(0, ofScans),
    effort: pick(effort, scanned),
    clusters,
    targets,
    n: {
      contacts: distinct.reduce((n, v) => n + v, 0),
      schools: schoolsOf(clusters, used),
      looks: ofScans,
      trips: trips.reduce((n, v) => n + v, 0),
      hectares,
    },
  };
}
