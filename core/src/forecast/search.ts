import { Design, EFFORT_KINDS, type DesignSpec } from './design';
import { declared, type TermDeclaration } from './terms';
import { choleskyInPlace, choleskySolve, inverseEntry, invertFactor } from '../numbers';
import { information, scoreOf, type Problem } from './look-likelihood';

/** Targets a cell-sized scan shows where nothing is known: the intercepts' prior, on the log scale. */
const BASE: Record<(typeof EFFORT_KINDS)[number], number> = { scan: Math.log(0.012), fish: Math.log(0.005), troll: Math.log(0.0003) };
const BASE_PRECISION = 4;

/** Coefficients before any log and anything borrowed: with them a forecast is the strategies. */
export const blankBase = ({ columns }: DesignSpec): Float64Array =>
  Float64Array.from({ length: columns }, (_, i) => (i < EFFORT_KINDS.length ? BASE[EFFORT_KINDS[i]] : 0));

/** How many coefficients' worth what is expected of a term's precision counts for. */
const PRIOR_WEIGHT = 1.5;
/** Bounds of a term's precision where it has none of its own. */
const [LOOSEST, TIGHTEST] = [0.05, 1e5];

/**
 * The search for the coefficients and the terms' precisions of one problem: penalised iteratively reweighted least
 * squares; the precisions by the generalised Fellner–Schall update (Wood & Fasiolo 2017, Biometrics 73).
 */
export class Search {
  readonly beta: Float64Array;
  /** Precision of each term. */
  readonly lambda: number[];
  iterations = 0;
  private readonly spec: DesignSpec;
  private readonly penalties: Float64Array[];
  /** How far each term's precision went in the last round, log scale. */
  private readonly last: number[];

  /** @param base what the coefficients are drawn to */
  constructor(
    private readonly problem: Problem,
    design: Design,
    private readonly base: Float64Array,
  ) {
    this.spec = design.spec;
    const { terms } = this.spec;
    this.beta = Float64Array.from(base);
    this.penalties = terms.map((t) => design.penaltyOf(t));
    this.lambda = terms.map((t) => startOf(declared(t.name), problem.n));
    this.last = terms.map(() => 0);
  }

  /** The first steps: on the way there a part of the places is enough to tell the way. */
  warmStart(): void {
    for (let k = 0; k < 3; k++) if (this.step(this.factorOf(this.information(4))) < 0.3) break;
  }

  /** Expected information of the looks at the present coefficients. @param every only each so-many-th cell is looked at */
  information(every: number): Float64Array {
    return information(this.problem, this.beta, this.spec, every);
  }

  /**
   * Steps to the mode under the present precisions. The information costs far more than the gradient, and changes
   * little once the fit has settled: steps with an older one still end at the same mode.
   * @returns the factor of the penalised information that it went by
   */
  solve(info: Float64Array, steps: number, near: number): Float64Array {
    const factor = this.factorOf(info);
    for (let k = 0; k < steps; k++) if (this.step(factor) < near) break;
    return factor;
  }

  /** Updates each term's precision (lambda). @param factor what `solve` gave @returns the farthest that one went, log scale, of those that still say something */
  updateLambda(factor: Float64Array): number {
    const inverse = invertFactor(factor, this.spec.columns);
    let moved = 0;
    this.spec.terms.forEach((term, k) => {
      if (!term.count) return;
      const { next, edf } = this.fellnerSchall(k, inverse);
      const way = Math.log(next / this.lambda[k]);
      // A term that has all but vanished may go on vanishing; nothing waits for it.
      if (edf > 0.3) moved = Math.max(moved, Math.abs(way));
      // The update goes an even way in small steps: twice as far where it goes on as before.
      this.lambda[k] = way * this.last[k] > 0 ? boundedPrecision(term.name, next * Math.exp(way)) : next;
      this.last[k] = way;
    });
    return moved;
  }

  private fellnerSchall(k: number, inverse: Float64Array): { next: number; edf: number } {
    const { start, count, name } = this.spec.terms[k];
    const { beta, base } = this;
    const [penalty, lambda] = [this.penalties[k], this.lambda[k]];
    let [trace, square] = [0, 0];
    for (let a = 0; a < count; a++)
      for (let b = 0; b < count; b++) {
        const s = penalty[a * count + b];
        if (s === 0) continue;
        trace += s * inverseEntry(inverse, this.spec.columns, start + a, start + b);
        square += s * (beta[start + a] - base[start + a]) * (beta[start + b] - base[start + b]);
      }
    const edf = Math.max(1e-6, count - lambda * trace);
    const next = (edf + PRIOR_WEIGHT) / (square + PRIOR_WEIGHT / declared(name).prior);
    // No more than a factor of eight a round: the update may overshoot when a term is all but gone.
    return { next: Math.min(lambda * 8, Math.max(lambda / 8, boundedPrecision(name, next))), edf };
  }

  /** Gradient of the penalised log-likelihood. */
  private gradient(): Float64Array {
    const { problem, beta, base, spec, penalties, lambda } = this;
    const gradient = scoreOf(problem, beta, spec);
    for (let i = 0; i < EFFORT_KINDS.length; i++) gradient[i] -= BASE_PRECISION * (beta[i] - base[i]);
    spec.terms.forEach((term, t) => {
      for (let a = 0; a < term.count; a++)
        for (let b = 0; b < term.count; b++) {
          const s = penalties[t][a * term.count + b];
          if (s !== 0) gradient[term.start + a] -= lambda[t] * s * (beta[term.start + b] - base[term.start + b]);
        }
    });
    return gradient;
  }

  /** Cholesky factor of the information with the penalties. */
  private factorOf(info: Float64Array): Float64Array {
    const { columns: p, terms } = this.spec;
    const hessian = Float64Array.from(info);
    for (let i = 0; i < EFFORT_KINDS.length; i++) hessian[i * p + i] += BASE_PRECISION;
    terms.forEach((term, t) => {
      for (let a = 0; a < term.count; a++)
        for (let b = 0; b <= a; b++)
          hessian[(term.start + a) * p + term.start + b] += this.lambda[t] * this.penalties[t][a * term.count + b];
    });
    choleskyInPlace(hessian, p);
    return hessian;
  }

  /** One step toward the mode. @returns the longest change of a coefficient */
  private step(factor: Float64Array): number {
    this.iterations++;
    const change = choleskySolve(factor, this.spec.columns, this.gradient());
    const longest = change.reduce((m, s) => Math.max(m, Math.abs(s)), 0);
    const scale = longest > 2 ? 2 / longest : 1;
    for (let i = 0; i < change.length; i++) this.beta[i] += scale * change[i];
    return longest;
  }
}

const startOf = ({ startsAt, prior }: TermDeclaration, looks: number): number => (looks && startsAt) || prior;

function boundedPrecision(name: string, precision: number): number {
  const { tightest = TIGHTEST, loosest = LOOSEST } = declared(name);
  return Math.min(tightest, Math.max(loosest, precision));
}
