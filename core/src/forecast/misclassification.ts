import type { SeenTarget } from '../logbook';

/** A fish target with the look it was seen in, for working out what it truly was. */
export interface NamedTarget {
  /** Position of its look in the list of looks. */
  look: number;
  trip: number;
  target: SeenTarget;
}

/**
 * What marks truly were, as odds. A class of its own is clutter taken for fish: nothing ever confirms it, and it tends to
 * be weak, single specks that nobody was sure of. Targets settled by a catch, a camera or an eye say how often a species is taken for
 * each name; that share does not depend on how easily a species is caught. How often a name is right at all is learned
 * from the others too: where nothing was named before it was settled, these alone can tell that anglers are better, or
 * worse, than they say. The shares of the species among all marks,
 * and what signs each shows (form, core, count, how sure the angler was), are found by expectation–maximisation (Dempster, Laird & Rubin 1977) over all
 * marks, so that they need not have been caught. Where a mark stood enters as how much each species likes the place. A target seen again may be named again.
 */
export class Misclassification {
  readonly species: string[];
  private readonly index: Map<string, number>;
  /** P(name | species), [species][name]. */
  private names: Float64Array[];
  private share: Float64Array;
  /** P(value | class) for each sign. */
  private signs: SignTable[];
  /** How much a certainty above the usual one speaks for the name given, on the logit scale. */
  private readonly belief: number;
  private readonly meanStated: number;
  /** What a name given again to the same target says, against the first: 1 where it is another look of its own, 0 where it repeats. */
  private readonly again: number;
  private readonly rows: Row[];
  /** How often each name is in use, and was given to marks that turned out to be a species, [species][name]. */
  private readonly used: Float64Array;
  private readonly settled: Float64Array[];

  constructor(targets: NamedTarget[], canonical: (name: string) => string | null) {
    const known = (name: string | null): string | null => (name == null ? null : (canonical(name) ?? name.trim().toLowerCase()));
    const found = new Set<string>();
    for (const { target } of targets) for (const name of [known(target.species), known(target.named)]) if (name) found.add(name);
    this.species = [...found].sort();
    this.index = new Map(this.species.map((name, k) => [name, k]));
    this.rows = targets.map(({ target, trip, look }) => {
      const settled = target.confirmed !== 'none' && target.species != null;
      return {
        look,
        id: `${trip} ${target.target}`,
        was: settled ? this.index.get(known(target.species)!)! : -1,
        named: this.index.get(known(settled ? target.named : (target.named ?? target.species)) ?? '') ?? -1,
        also: target.alsoNamed.flatMap((name) => this.index.get(known(name) ?? '') ?? []),
        stated: settled ? target.stated : (target.stated ?? target.confidence),
        signs: [target.form ?? '', target.core ?? '', target.count === 1 ? 'one' : target.count < 5 ? 'few' : 'many', sureness(target)],
      };
    });
    const once = [...new Map(this.rows.map((r) => [r.id, r])).values()];
    const stated = once.flatMap((r) => (r.stated == null ? [] : [r.stated]));
    this.meanStated = stated.length ? stated.reduce((s, v) => s + v, 0) / stated.length : USUAL_RIGHT;
    this.again = againOf(once);
    this.used = new Float64Array(this.species.length).fill(0.5);
    this.settled = this.species.map(() => new Float64Array(this.species.length));
    for (const { was, named, also } of once) {
      if (named < 0) continue;
      this.used[named]++;
      if (was < 0) continue;
      this.settled[was][named]++;
      for (const name of also) this.settled[was][name] += this.again;
    }
    this.names = this.nameShares(START_RIGHT);
    this.belief = beliefOf(once, this.meanStated);
    const k = this.species.length;
    this.share = new Float64Array(k + 1).fill((1 - CLUTTER_SHARE) / Math.max(1, k));
    this.share[k] = CLUTTER_SHARE;
    this.signs = smoothed(
      SIGN_NAMES.map(() => new Map<string, Float64Array>()),
      once,
      k,
    );
    this.learn(null);
  }

  /** P(name | species), where a name is believed to be right so often: that is what few settled marks are added to. */
  private nameShares(right: number): Float64Array[] {
    const k = this.species.length;
    const { used } = this;
    const all = used.reduce((s, n) => s + n, 0);
    const shares = this.settled.map((settled, was) => {
      // Half of the wrong names go by how much a name is in use, half to any: which of the two, few settled marks cannot tell.
      const wrong = (n: number): number => (1 - right) * (0.5 * (n / Math.max(1e-9, all - used[was])) + 0.5 / Math.max(1, k - 1));
      const counts = settled.map((n, name) => n + PRIOR_MARKS * (name === was ? right : wrong(used[name])));
      const sum = counts.reduce((s, n) => s + n, 0);
      return counts.map((n) => n / sum);
    });
    // Clutter is given any name that is in use.
    return [...shares, used.map((n) => n / all)];
  }

  /**
   * Renews the shares by expectation–maximisation.
   * @param preference how much a species likes the place and day of a look, against its mean; null where not known yet
   */
  learn(preference: ((species: number, look: number) => number) | null): void {
    const k = this.species.length + 1;
    const once = [...new Map(this.rows.map((r) => [r.id, r])).values()];
    for (let round = 0; round < 30; round++) {
      const share = new Float64Array(k).fill(0.5);
      // How often a name is right: as was said of the names, and as it comes out for the marks, settled or not.
      let [right, named] = [PRIOR_MARKS * this.meanStated, PRIOR_MARKS];
      const tables = SIGN_NAMES.map(() => new Map<string, Float64Array>());
      for (const r of once) {
        const odds = this.oddsOf(r, preference);
        for (let t = 0; t < k; t++) share[t] += odds[t];
        if (r.named >= 0) {
          right += odds[r.named];
          named += 1 - odds[k - 1];
        }
        r.signs.forEach((value, sign) => {
          if (value === '') return;
          let row = tables[sign].get(value);
          if (!row) tables[sign].set(value, (row = new Float64Array(k)));
          for (let t = 0; t < k; t++) row[t] += odds[t];
        });
      }
      this.names = this.nameShares(Math.min(0.97, Math.max(0.5, right / named)));
      const sum = share.reduce((s, n) => s + n, 0);
      this.share = share.map((n) => n / sum);
      this.signs = smoothed(tables, once, k - 1);
    }
  }

  private oddsOf(r: Row, preference: ((species: number, look: number) => number) | null): Float64Array {
    const k = this.species.length + 1;
    const odds = new Float64Array(k);
    if (r.was >= 0) {
      odds[r.was] = 1;
      return odds;
    }
    let sum = 0;
    for (let t = 0; t < k; t++) {
      let v = this.share[t];
      if (r.named >= 0) {
        v *= this.names[t][r.named];
        for (const name of r.also) v *= this.names[t][name] ** this.again;
        if (t === r.named && r.stated != null) v *= Math.exp(this.belief * (logit(r.stated) - logit(this.meanStated)));
      }
      for (let sign = 0; sign < this.signs.length; sign++) v *= this.signs[sign].get(r.signs[sign])?.[t] ?? 1;
      if (preference && t < k - 1) v *= preference(t, r.look);
      odds[t] = v;
      sum += v;
    }
    for (let t = 0; t < k; t++) odds[t] = sum > 0 ? odds[t] / sum : 1 / k;
    return odds;
  }

  /** Odds of every species, then of clutter, for each target, in the order given. */
  odds(preference: ((species: number, look: number) => number) | null = null): Float64Array[] {
    return this.rows.map((r) => this.oddsOf(r, preference));
  }
}

interface Row {
  look: number;
  id: string;
  was: number;
  named: number;
  /** Names that further sightings of it were given. */
  also: number[];
  stated: number | null;
  /** Form, core, count and sureness; empty where nobody said. */
  signs: string[];
}

type SignTable = Map<string, Float64Array>;

const SIGN_NAMES = ['form', 'core', 'count', 'sureness'] as const;
/** What clutter taken for fish tends to look like, before any log. */
const CLUTTER_SIGNS: Record<string, number>[] = [{ specks: 0.8 }, { weak: 0.8 }, { one: 0.8 }, { unsure: 0.7, fair: 0.25 }];
const CLUTTER_SHARE = 0.03;
/** So many marks' worth of that is kept, whatever the log shows. */
const CLUTTER_MARKS = 8;
/** How often a name is right where nobody said how sure they were. */
const USUAL_RIGHT = 0.75;
/** What is believed of names before any catch weighs as many settled marks of each species. */
const PRIOR_MARKS = 10;
/** How often a name is taken to be right before the marks were sorted once: names are better believed at first than doubted, since sorting on doubt never finds back. */
const START_RIGHT = 0.9;

const logit = (p: number): number => Math.log(Math.min(0.98, Math.max(0.02, p)) / (1 - Math.min(0.98, Math.max(0.02, p))));

const sureness = ({ stated, confidence, confirmed }: SeenTarget): string => {
  const said = stated ?? (confirmed === 'none' ? confidence : null);
  return said == null ? '' : said < 0.55 ? 'unsure' : said < 0.7 ? 'fair' : 'sure';
};

/**
 * How far stated certainty is to be believed: the log odds ratio of right names among the surer and the less sure of
 * the settled marks, a step of logit, drawn to a half as by as many marks as make its spread a half.
 */
function beliefOf(once: Row[], usual: number): number {
  const settled = once.filter((r) => r.was >= 0 && r.named >= 0 && r.stated != null);
  const count = (sure: boolean, right: boolean): number =>
    settled.filter((r) => r.stated! >= usual === sure && (r.was === r.named) === right).length + 0.5;
  const mean = (sure: boolean): number => {
    const own = settled.filter((r) => r.stated! >= usual === sure);
    return own.reduce((s, r) => s + logit(r.stated!), 0) / own.length;
  };
  const apart = mean(true) - mean(false);
  if (!(apart > 0.2)) return 0.5;
  const [a, b, c, d] = [count(true, true), count(true, false), count(false, true), count(false, false)];
  const slope = Math.log((a * d) / (b * c)) / apart;
  const spread = (1 / a + 1 / b + 1 / c + 1 / d) / apart ** 2;
  const belief = (slope / spread + 0.5 / 0.25) / (1 / spread + 1 / 0.25);
  return Math.min(1.5, Math.max(0, belief));
}

/**
 * How far names given to one target again are evidence of their own: where the first name of a settled mark was wrong,
 * a second is wrong as often as any (1) or always (0). Drawn to a half as by so many such marks.
 */
function againOf(once: Row[]): number {
  const settled = once.filter((r) => r.was >= 0 && r.named >= 0);
  const wrong = settled.filter((r) => r.named !== r.was);
  const usual = (wrong.length + 1) / (settled.length + 4);
  let [n, repeated] = [AGAIN_MARKS, AGAIN_MARKS * (1 - 0.5 * (1 - usual))];
  for (const r of wrong)
    for (const name of r.also) {
      n++;
      if (name !== r.was) repeated++;
    }
  return Math.min(1, Math.max(0, (1 - repeated / n) / (1 - usual)));
}

const AGAIN_MARKS = 8;

/** P(value | class): counts with as much as four marks of the common shares added, and for clutter what it tends to be. */
function smoothed(tables: Map<string, Float64Array>[], once: Row[], clutter: number): SignTable[] {
  return tables.map((table, sign) => {
    const common = new Map<string, number>();
    let all = 0;
    for (const { signs } of once)
      if (signs[sign] !== '') {
        common.set(signs[sign], (common.get(signs[sign]) ?? 0) + 1);
        all++;
      }
    const sums = new Float64Array(clutter + 1);
    for (const row of table.values()) row.forEach((n, t) => (sums[t] += n));
    const told = [...common.keys()].reduce((s, value) => s + (CLUTTER_SIGNS[sign][value] ?? 0), 0);
    return new Map(
      [...common].map(([value, n]) => {
        const usual = n / all;
        const row = table.get(value);
        return [
          value,
          Float64Array.from(sums, (sum, t) => {
            if (t < clutter) return ((row?.[t] ?? 0) + 4 * usual) / (sum + 4);
            const tends = CLUTTER_SIGNS[sign][value] ?? Math.max(0, 1 - told) * usual;
            return ((row?.[t] ?? 0) + CLUTTER_MARKS * tends) / (sum + CLUTTER_MARKS);
          }),
        ];
      }),
    );
  });
}
