import type { CellTable } from '../chart';
import { findSpecies, type SpeciesProfile } from '../species';
import { HabitatPreference } from './habitat-preference';
import type { FitLook, SpeciesLook } from './look-likelihood';
import { Misclassification, type NamedTarget } from './misclassification';

/** A species counts as one that another may be taken for when so many of the other's marks may be it. */
const LEAST_MIXED = 1.5;
/** Marks of a species below which its preference of places is not worked out. */
const LEAST_MARKS = 8;
/** How often marks are sorted at most by what the sorting before says of where species are, and the share of the marks that may still move at the end. */
const ROUNDS = 12;
const SETTLED = 0.002;

/**
 * The chance that each target of each look truly is of a species: names given on the screen are taken as evidence,
 * not as facts. How much each species likes the place where a mark stood is worked out from a first, rough sorting, and
 * from each better one again.
 * @param known profiles of the water, to read the names with
 */
export function speciesOdds(looks: FitLook[], species: SpeciesProfile, known: SpeciesProfile[], cells: CellTable): SpeciesLook[] {
  const targets: NamedTarget[] = [];
  looks.forEach(({ look, trip }, k) => look.targets.forEach((target) => target.kind === 'fish' && targets.push({ look: k, trip, target })));
  const profiles = new Map<string, SpeciesProfile | null>();
  const canonical = (name: string): string | null => {
    if (!profiles.has(name)) profiles.set(name, findSpecies(name, known));
    return profiles.get(name)?.name ?? null;
  };
  const names = new Misclassification(targets, canonical);
  const wanted = names.species.indexOf(species.name);
  let odds = names.odds();
  const spread = (): SpeciesLook[] => {
    let t = 0;
    return looks.map((l) => ({
      ...l,
      odds: l.look.targets.length
        ? Float32Array.from(l.look.targets, ({ kind }) => (kind === 'fish' ? (odds[t++][wanted] ?? 0) : 0))
        : NONE,
    }));
  };
  if (wanted < 0) return spread();
  const mixed = names.species.filter((_, k) => {
    const shared = odds.reduce((s, o) => s + Math.min(o[wanted], o[k]), 0);
    return (k === wanted || shared > LEAST_MIXED) && odds.reduce((s, o) => s + o[k], 0) >= LEAST_MARKS;
  });
  if (mixed.length < 2) return spread();
  const preferences = new Map<number, HabitatPreference>();
  for (const name of mixed) {
    const profile = findSpecies(name, known);
    if (profile) preferences.set(names.species.indexOf(name), new HabitatPreference(profile, looks, cells));
  }
  for (let round = 0; round < ROUNDS; round++) {
    const likes = new Map<number, Float32Array>();
    for (const [k, preference] of preferences) {
      const missed = new Float64Array(looks.length).fill(1);
      targets.forEach(({ look }, t) => (missed[look] *= 1 - odds[t][k]));
      preference.learn(missed.map((m) => 1 - m));
      likes.set(k, preference.of(looks.length));
    }
    const like = (k: number, look: number): number => likes.get(k)?.[look] ?? 1;
    names.learn(like);
    const before = odds;
    odds = names.odds(like);
    const moved = odds.reduce((sum, o, t) => sum + Math.abs(o[wanted] - before[t][wanted]), 0);
    if (moved < SETTLED * odds.reduce((sum, o) => sum + o[wanted], 0)) break;
  }
  return spread();
}

const NONE = new Float32Array(0);
