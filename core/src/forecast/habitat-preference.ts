import type { CellTable } from '../chart';
import type { SpeciesProfile } from '../species';
import { Design, designDays, makeDesign } from './design';
import { assemble, logEffort, logRates, type FitLook, type Problem } from './look-likelihood';
import { blankBase, Search } from './search';

/** Of looks without a fish, one in so many is enough to tell what a species likes. */
const ONE_IN = 4;
/** Rounds for the terms' precisions, the first time and whenever the marks were sorted anew. */
const [ROUNDS_FIRST, ROUNDS_AGAIN] = [3, 1];
/** A place is not liked more than this beyond the strategies' level, log scale. */
const MOST = 4;

/**
 * How much a species likes the depth, bottom and day of a look, by a rougher fit than the forecast's: without places and
 * trips. Made to be learned again and again, as marks are sorted anew.
 */
export class HabitatPreference {
  private readonly problem: Problem;
  private readonly search: Search;
  /** Looks that it rests on, by cell: all that saw a fish, and some of the others, each counting for those left out. */
  private readonly rests: number[];
  /** Log effort of each, taken off where a place is judged. */
  private readonly effort: Float64Array;
  private begun = false;

  constructor(species: SpeciesProfile, looks: FitLook[], cells: CellTable) {
    const sawFish = ({ look }: FitLook): boolean => look.targets.some((t) => t.kind === 'fish');
    this.rests = looks.flatMap((l, k) => (k % ONE_IN === 0 || sawFish(l) ? [k] : [])).sort((a, b) => looks[a].cell - looks[b].cell);
    const own = this.rests.map((k) => ({ ...looks[k], odds: [] }));
    const design = new Design(makeDesign(cells, new Set(), 0), cells);
    this.problem = assemble(design, own, designDays(species, own), false);
    own.forEach((l, k) => (this.problem.caseWeight[k] = sawFish(l) ? 1 : ONE_IN));
    this.effort = Float64Array.from(own, ({ look }) => logEffort(look));
    this.search = new Search(this.problem, design, blankBase(design.spec));
  }

  /** @param seen chance that each look saw the species, by look */
  learn(seen: ArrayLike<number>): void {
    const { search, problem, rests } = this;
    rests.forEach((k, j) => (problem.seen[j] = seen[k]));
    if (!this.begun) search.warmStart();
    const info = search.information(1);
    for (let round = 0; round < (this.begun ? ROUNDS_AGAIN : ROUNDS_FIRST); round++) search.updateLambda(search.solve(info, 3, 0.05));
    search.solve(info, 6, 1e-3);
    this.begun = true;
  }

  /** How much it likes the place and day of each look that saw a fish, against its mean over the looks; by look, 1 elsewhere. */
  of(looks: number): Float32Array {
    const { problem, search, rests, effort } = this;
    const rates = logRates(problem, search.beta, 0);
    const likes = new Float32Array(looks).fill(1);
    let [sum, n] = [0, 0];
    rests.forEach((k, j) => {
      likes[k] = Math.exp(Math.min(MOST, rates[j] - effort[j]));
      sum += problem.caseWeight[j] * likes[k];
      n += problem.caseWeight[j];
    });
    for (const k of rests) likes[k] *= n / sum;
    return likes;
  }
}
