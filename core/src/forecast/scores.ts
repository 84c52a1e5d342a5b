/** One look of a trip that was held out: what was said, what was seen, and how much of the water it speaks for. */
export interface HeldLook {
  trip: number;
  said: number;
  /** Chance that it truly showed the species: 0 or 1 where nothing is in doubt. */
  seen: number;
  weight: number;
}

/** A score with its central 80 % interval over trips. */
export interface Scored {
  value: number;
  low: number;
  high: number;
}

/** How a forecast did on looks that it had not seen. */
export interface Scores {
  looks: number;
  trips: number;
  /** Mean log score a look, nats; higher is better. */
  logScore: number;
  brier: number;
  /** Chance that a look with the species was given more than one without. */
  auc: number;
  expectedOverSeen: number;
  /** Slope of the logistic calibration; 1 is right, below 1 too bold. */
  slope: number;
  /** By tenths of the looks: what was said and what was seen. */
  curve: { said: number; seen: number; looks: number }[];
}

const clip = (p: number): number => Math.min(1 - 1e-6, Math.max(1e-6, p));
const logit = (p: number): number => Math.log(clip(p) / (1 - clip(p)));

/** Log score of one look, nats. */
export const logScore = (said: number, seen: number): number => seen * Math.log(clip(said)) + (1 - seen) * Math.log(1 - clip(said));

/** Scores looks that were held out. @throws RangeError when there is none */
export function scoresOf(looks: HeldLook[]): Scores {
  if (!looks.length) throw new RangeError('there is no look to score');
  const total = looks.reduce((s, l) => s + l.weight, 0);
  const mean = (of: (l: HeldLook) => number): number => looks.reduce((s, l) => s + l.weight * of(l), 0) / total;
  const sorted = [...looks].sort((a, b) => a.said - b.said);
  return {
    looks: looks.length,
    trips: new Set(looks.map((l) => l.trip)).size,
    logScore: mean((l) => logScore(l.said, l.seen)),
    brier: mean((l) => l.seen * (1 - l.said) ** 2 + (1 - l.seen) * l.said ** 2),
    auc: aucOf(sorted),
    expectedOverSeen:
      mean((l) => l.said) /
      Math.max(
        1e-9,
        mean((l) => l.seen),
      ),
    slope: calibrationSlope(looks),
    curve: tenths(sorted, total),
  };
}

/** Area under the curve by ranks, ties counted half. @param sorted by what was said */
function aucOf(sorted: HeldLook[]): number {
  let [below, won, hits, misses] = [0, 0, 0, 0];
  for (let i = 0; i < sorted.length;) {
    let [j, hit, miss] = [i, 0, 0];
    for (; j < sorted.length && sorted[j].said === sorted[i].said; j++) {
      hit += sorted[j].weight * sorted[j].seen;
      miss += sorted[j].weight * (1 - sorted[j].seen);
    }
    won += hit * (below + miss / 2);
    below += miss;
    hits += hit;
    misses += miss;
    i = j;
  }
  return hits * misses > 0 ? won / (hits * misses) : 0.5;
}

function tenths(sorted: HeldLook[], total: number): Scores['curve'] {
  const out: Scores['curve'] = [];
  let [at, run] = [0, 0];
  for (let t = 1; t <= 10; t++) {
    let [w, said, seen, n] = [0, 0, 0, 0];
    for (; at < sorted.length && (run < (t * total) / 10 - 1e-9 * total || t === 10); at++) {
      const l = sorted[at];
      run += l.weight;
      w += l.weight;
      said += l.weight * l.said;
      seen += l.weight * l.seen;
      n++;
    }
    if (n) out.push({ said: said / w, seen: seen / w, looks: n });
  }
  return out;
}

/**
 * Slope of the logit of what was seen on the logit of what was said (Cox 1958), by Newton's method on centred values,
 * each step halved until the likelihood does not fall. NaN where the forecast says the same everywhere.
 */
export function calibrationSlope(looks: HeldLook[]): number {
  const total = looks.reduce((s, l) => s + l.weight, 0);
  const middle = looks.reduce((s, l) => s + l.weight * logit(l.said), 0) / total;
  const x = looks.map((l) => logit(l.said) - middle);
  const likelihood = (a: number, b: number): number =>
    looks.reduce((s, l, i) => s + l.weight * logScore(1 / (1 + Math.exp(-(a + b * x[i]))), l.seen), 0);
  let [a, b] = [middle, 1];
  let now = likelihood(a, b);
  for (let k = 0; k < 50; k++) {
    let [ga, gb, haa, hab, hbb] = [0, 0, 0, 0, 0];
    looks.forEach((l, i) => {
      const m = 1 / (1 + Math.exp(-(a + b * x[i])));
      const w = l.weight * Math.max(1e-12, m * (1 - m));
      ga += l.weight * (l.seen - m);
      gb += l.weight * (l.seen - m) * x[i];
      haa += w;
      hab += w * x[i];
      hbb += w * x[i] * x[i];
    });
    const det = haa * hbb - hab * hab;
    if (!(det > 1e-9 * haa * hbb)) return NaN;
    const [da, db] = [(hbb * ga - hab * gb) / det, (haa * gb - hab * ga) / det];
    let size = 1;
    while (size > 1e-4 && likelihood(a + size * da, b + size * db) < now) size /= 2;
    a += size * da;
    b += size * db;
    now = likelihood(a, b);
    if (size * (Math.abs(da) + Math.abs(db)) < 1e-7) break;
  }
  return b;
}

/**
 * How much better one forecast did than another, nats a look, with an 80 % interval over trips: the weighted means of
 * trips drawn with replacement (Efron & Tibshirani 1993).
 * @param ours and theirs the same looks in the same order @param random numbers from 0 to 1
 */
export function betterBy(ours: HeldLook[], theirs: HeldLook[], random: () => number, draws = 400): Scored {
  const trips = new Map<number, [gain: number, weight: number]>();
  ours.forEach((l, i) => {
    const t = trips.get(l.trip) ?? [0, 0];
    trips.set(l.trip, [t[0] + l.weight * (logScore(l.said, l.seen) - logScore(theirs[i].said, l.seen)), t[1] + l.weight]);
  });
  const list = [...trips.values()];
  const of = (chosen: [number, number][]): number =>
    chosen.reduce((s, t) => s + t[0], 0) /
    Math.max(
      1e-12,
      chosen.reduce((s, t) => s + t[1], 0),
    );
  const drawn = Array.from({ length: draws }, () => of(list.map(() => list[Math.floor(random() * list.length)]))).sort((a, b) => a - b);
  return { value: of(list), low: drawn[Math.floor(0.1 * draws)], high: drawn[Math.floor(0.9 * draws)] };
}
