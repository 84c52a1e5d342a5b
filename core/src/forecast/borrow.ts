import { hatSites, hatValue, splineSites, splineValue } from './basis';
import type { DesignSpec, Term } from './design';
import { DEPTH_BY_DAY, termsInOrder } from './terms';
import type { Model } from './fit';

/** What a fit starts from that was learned on another water of the same owner. */
export interface Borrowed {
  water: string;
  trips: number;
  /** Contacts of the species there. */
  contacts: number;
  spec: DesignSpec;
  beta: Float64Array;
}

/** How far what held on one water is expected to hold on another: the rest is the other water's own. */
const CARRIED = 0.5;

/** The least of a log that is worth starting another water from. */
export const LEAST_BORROWED = { trips: 8, contacts: 30 };
/** A water with so many trips of its own stands on them alone. */
export const ENOUGH_OF_ITS_OWN = 20;

/** Takes what another water may start from out of a fit; null where the fit rests on too little. */
export const borrowFrom = ({ spec, beta, stats }: Model, water: string): Borrowed | null =>
  stats.trips < LEAST_BORROWED.trips || stats.contacts < LEAST_BORROWED.contacts
    ? null
    : { water, trips: stats.trips, contacts: stats.contacts, spec, beta };

/**
 * What a fit of another water expects of its coefficients before its own log: what was learned, carried half-way and
 * as uncertain as what the strategies say. Depths are carried over as depths, for waters differ in how deep they go; how
 * much there is in a water, and its places, are its own.
 */
export function borrowedBase(borrowed: Borrowed, spec: DesignSpec, base: Float64Array): void {
  const from = borrowed.beta;
  const termOf = (of: DesignSpec, name: string): Term => of.terms.find((t) => t.name === name)!;
  for (const { name, carries } of termsInOrder()) {
    if (carries !== 'columns') continue;
    const [there, here] = [termOf(borrowed.spec, name), termOf(spec, name)];
    // Water that runs and water that does not have nothing of that to give each other.
    if (there.count === here.count) for (let k = 0; k < here.count; k++) base[here.start + k] = CARRIED * from[there.start + k];
  }
  const [there, here] = [borrowed.spec.splines, spec.splines];
  const depth = termOf(borrowed.spec, 'depth').start;
  splineSites(here.depth).forEach((at, k) => (base[termOf(spec, 'depth').start + k] = CARRIED * splineValue(there.depth, from, depth, at)));
  const byDepth = (name: string, others: number): void => {
    const [own, other] = [termOf(spec, name).start, termOf(borrowed.spec, name).start];
    hatSites(here.depthCoarse).forEach((at, k) => {
      for (let q = 0; q < others; q++)
        base[own + k * others + q] = CARRIED * hatValue(there.depthCoarse, (node) => from[other + node * others + q], at);
    });
  };
  byDepth('depth by temperature', here.temperature.count);
  for (const { name } of DEPTH_BY_DAY) if (termOf(spec, name).count && termOf(borrowed.spec, name).count) byDepth(name, 1);
}
