import { SIGNS, type Settled, type Signs } from './signs';

/** So many marks' worth of what all species show together is added to each; of every species there is so much before any mark. */
const SHARED = 4;
const SPECIES = 0.5;
/** Signs go together more than the product of their odds says: exponents that are tried, and the usual one, as many marks strong. */
const TEMPERS = [0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1];
const USUAL = 0.7;
const USUAL_MARKS = 20;

/** Signs that a further look at the screen can tell; depth and season are as they are. */
const LOOKED = ['form', 'core', 'density', 'count', 'place', 'cover'] as const satisfies (keyof Signs)[];
export type LookedSign = (typeof LOOKED)[number];

/** Odds of a species. */
export interface SpeciesOdds {
  species: string;
  odds: number;
}

interface Counts {
  species: Map<string, number>;
  /** By sign, value and species. */
  signs: Map<keyof Signs, Map<string, Map<string, number>>>;
}

/** The signs that somebody said. */
const said = (signs: Partial<Signs>): [keyof Signs, string][] =>
  SIGNS.flatMap((sign) => (signs[sign] == null ? [] : [[sign, signs[sign]]]));

function counted(marks: readonly Settled[]): Counts {
  const counts: Counts = { species: new Map(), signs: new Map(SIGNS.map((s) => [s, new Map()])) };
  for (const { was: species, signs } of marks) {
    counts.species.set(species, (counts.species.get(species) ?? 0) + 1);
    for (const [sign, value] of said(signs)) {
      const values = counts.signs.get(sign)!;
      const row = values.get(value) ?? new Map<string, number>();
      row.set(species, (row.get(species) ?? 0) + 1);
      values.set(value, row);
    }
  }
  return counts;
}

const entropy = (odds: readonly SpeciesOdds[]): number => odds.reduce((h, { odds: p }) => (p > 0 ? h - p * Math.log2(p) : h), 0);

/**
 * What a mark on the screen is likely to be, learned from the marks of a log that were settled: naive Bayes with smoothing towards what
 * all species show, tempered by an exponent that does best on trips left out, since signs repeat each other. Fish that are never caught or
 * seen are not among the settled, and so not among the answers.
 * Sources: Mosteller & Wallace 1964 for the odds of many small signs; Lindley 1956 for the information that a further one gives.
 */
export class TargetOdds {
  readonly species: string[];
  readonly temper: number;
  private readonly counts: Counts;

  /** @param marks settled marks @param known species that may turn up beside those settled @param temper the exponent, where it is known */
  constructor(
    readonly marks: readonly Settled[],
    known: readonly string[] = [],
    temper?: number,
  ) {
    this.species = [...new Set([...known, ...marks.map((m) => m.was)])].sort();
    this.counts = counted(marks);
    this.temper = temper ?? this.tempered();
  }

  /** The exponent at which trips left out are told best. */
  private tempered(): number {
    const trips = [...new Set(this.marks.map((m) => m.trip))];
    // Few trips at a time are left out where there are many.
    const parts = Math.min(10, trips.length);
    if (parts < 2) return USUAL;
    const score = TEMPERS.map((t) => (-USUAL_MARKS * (t - USUAL) ** 2) / 2);
    for (let k = 0; k < parts; k++) {
      const out = new Set(trips.filter((_, j) => j % parts === k));
      const rest = counted(this.marks.filter((m) => !out.has(m.trip)));
      for (const mark of this.marks)
        if (out.has(mark.trip))
          TEMPERS.forEach((t, j) => (score[j] += Math.log(this.oddsIn(rest, mark.signs, t).find((o) => o.species === mark.was)!.odds)));
    }
    return TEMPERS[score.indexOf(Math.max(...score))];
  }

  /** How often a species shows a value of a sign. */
  private shows(counts: Counts, species: string, sign: keyof Signs, value: string): number {
    const values = counts.signs.get(sign)!;
    let [all, own] = [0, 0];
    for (const row of values.values())
      for (const [name, n] of row) {
        all += n;
        if (name === species) own += n;
      }
    const row = values.get(value);
    const common = ([...(row?.values() ?? [])].reduce((s, n) => s + n, 0) + 0.5) / (all + 0.5 * (values.size + 1));
    return ((row?.get(species) ?? 0) + SHARED * common) / (own + SHARED);
  }

  private oddsIn(counts: Counts, signs: Partial<Signs>, temper: number): SpeciesOdds[] {
    const logs = this.species.map((species) => {
      let log = Math.log((counts.species.get(species) ?? 0) + SPECIES);
      for (const [sign, value] of said(signs)) log += temper * Math.log(this.shows(counts, species, sign, value));
      return log;
    });
    const top = Math.max(...logs);
    const sum = logs.reduce((s, log) => s + Math.exp(log - top), 0);
    return this.species.map((species, k) => ({ species, odds: Math.exp(logs[k] - top) / sum })).sort((a, b) => b.odds - a.odds);
  }

  /** Odds of every species for what a mark shows, the likeliest first. */
  of(signs: Partial<Signs>): SpeciesOdds[] {
    return this.oddsIn(this.counts, signs, this.temper);
  }

  /**
   * Which further look would settle it best: at the sign that takes away most uncertainty, bits, on average over what it may turn out to be.
   */
  settles(signs: Partial<Signs>): { sign: LookedSign; bits: number } | null {
    const now = this.of(signs);
    const before = entropy(now);
    let best: { sign: LookedSign; bits: number } | null = null;
    for (const sign of LOOKED) {
      if (signs[sign] != null) continue;
      let [after, total] = [0, 0];
      for (const value of this.counts.signs.get(sign)!.keys()) {
        const chance = now.reduce((s, { species, odds }) => s + odds * this.shows(this.counts, species, sign, value), 0);
        after += chance * entropy(this.of({ ...signs, [sign]: value }));
        total += chance;
      }
      if (total > 0 && (!best || before - after / total > best.bits)) best = { sign, bits: before - after / total };
    }
    return best && best.bits > 0 ? best : null;
  }
}
