import { expect } from 'chai';
import { dayFor, type SpeciesLook } from '../../src/forecast';
import { Design, designDay, makeDesign, viewUses, type DesignDay } from '../../src/forecast/design';
import { assemble, dispersionOf, firstTripOf, information, logRates, scoreOf, type Problem } from '../../src/forecast/look-likelihood';
import { seeded } from '../../src/numbers';
import { cells, conditions, frame, look, zander } from '../support/planted-log';

// The likelihood of looks against what its definition gives by numbers: log L = Σ seen·log(1 − e^−μ) − (1 − seen)·μ.

const random = seeded(5);
const TRIPS = 5;
const days = [
  dayFor(conditions({ surface: 8, trend: 0.2 }), frame),
  dayFor(conditions({ surface: 21, thermoclineSet: { top: 4, bottom: 6 }, windSpeed: 8 }), frame),
];
const looks: SpeciesLook[] = Array.from({ length: 500 }, (_, k): SpeciesLook => {
  const cell = Math.floor(random() * cells.count);
  const kind = (['scan', 'scan', 'fish', 'troll'] as const)[k % 4];
  const seen = random() < 0.2;
  return {
    look: look(cell, seen ? 1 : 0, {
      kind,
      effort: 20 + 400 * random(),
      visit: k % 5 ? 0 : 1,
      view: k % 2 ? 'side-scan' : 'sounder',
      reach: 15,
    }),
    cell,
    trip: k % TRIPS,
    day: days[k % 2],
    // Names that are only likely make what was seen a chance.
    odds: seen ? [0.3 + 0.7 * random()] : [],
  };
}).sort((a, b) => a.cell - b.cell);
const spec = makeDesign(cells, new Set(looks.map((l) => l.cell)), TRIPS, viewUses(looks, cells));
const design = new Design(spec, cells);
const designDays = new Map(days.map((day): [object, DesignDay] => [day, designDay(zander, day)]));
const problem: Problem = assemble(
  design,
  looks,
  looks.map((l) => designDays.get(l.day)!),
  true,
);
problem.caseWeight.forEach((_, k) => (problem.caseWeight[k] = 0.4 + 0.8 * random()));
const any = (spread: number): Float64Array => Float64Array.from({ length: spec.columns }, () => spread * (random() - 0.5));
const beta = any(0.4);
beta.fill(-2, 0, 3);
const along = (v: Float64Array, step: number): Float64Array => beta.map((b, i) => b + step * v[i]);
const dot = (a: Float64Array, b: Float64Array): number => a.reduce((s, x, i) => s + x * b[i], 0);

function logLikelihood({ seen, caseWeight }: Pick<Problem, 'seen' | 'caseWeight'>, at: Float64Array): number {
  const eta = logRates(problem, at, firstTripOf(spec));
  let sum = 0;
  eta.forEach((e, k) => (sum += caseWeight[k] * (seen[k] * Math.log(-Math.expm1(-Math.exp(e))) - (1 - seen[k]) * Math.exp(e))));
  return sum;
}

describe('the likelihood of looks', () => {
  it('has the gradient that its definition has, in every direction', () => {
    for (let k = 0; k < 10; k++) {
      const v = any(1);
      const numeric = (logLikelihood(problem, along(v, 1e-4)) - logLikelihood(problem, along(v, -1e-4))) / 2e-4;
      expect(dot(scoreOf(problem, beta, spec), v)).to.be.closeTo(numeric, 1e-4 * Math.max(1, Math.abs(numeric)));
    }
  });
  it('has the curvature that is to be expected of it: seen as often as expected, it bends as the information says', () => {
    const p = spec.columns;
    const info = information(problem, beta, spec);
    const expected = {
      caseWeight: problem.caseWeight,
      seen: logRates(problem, beta, firstTripOf(spec)).map((e) => -Math.expm1(-Math.exp(e))),
    };
    for (let k = 0; k < 10; k++) {
      const v = any(1);
      let bend = 0;
      for (let i = 0; i < p; i++) for (let j = 0; j <= i; j++) bend += (i === j ? 1 : 2) * v[i] * v[j] * info[i * p + j];
      const h = 1e-3;
      const numeric =
        -(logLikelihood(expected, along(v, h)) - 2 * logLikelihood(expected, beta) + logLikelihood(expected, along(v, -h))) / h ** 2;
      expect(bend).to.be.closeTo(numeric, 1e-3 * Math.abs(numeric));
    }
  });
  it('is told by a part of the cells about as by all', () => {
    const [all, part] = [information(problem, beta, spec), information(problem, beta, spec, 3)];
    const trace = (m: Float64Array): number =>
      Array.from({ length: spec.columns }, (_, i) => m[i * spec.columns + i]).reduce((a, b) => a + b, 0);
    expect(trace(part) / trace(all)).to.be.within(0.75, 1.25);
  });
});

describe('how looks agree', () => {
  const seenBy = (chance: (trip: number, k: number) => boolean): number => {
    const seen = Float64Array.from(looks, (l, k) => (chance(l.trip, k) ? 1 : 0));
    return dispersionOf({ ...problem, seen }, flat, spec, looks, cells);
  };
  const flat = new Float64Array(spec.columns);
  // Each look shows one in three, whatever its effort and the strategies.
  problem.offset.fill(0);
  flat.fill(Math.log(-Math.log(2 / 3)), 0, 3);
  it('is by chance alone where each is on its own', () => expect(seenBy(() => random() < 1 / 3)).to.be.within(1, 1.25));
  it('shows where a trip sees it all over or not at all', () => expect(seenBy((trip) => trip % 3 === 0)).to.be.above(1.6));
});
