import type { CellTable } from '../chart';
import { findSpecies, type SpeciesProfile } from '../species';
import { fitModel } from './fit';
import type { FitLook, SpeciesLook } from './look-likelihood';
import { Misnaming, type NamedTarget } from './misnaming';
import { Rates } from './rates';

/** A species counts as one that another may be taken for when so many of the other's marks may be it. */
const LEAST_MIXED = 1.5;
/** Marks of a species below which its liking of places is not worked out. */
const LEAST_MARKS = 8;

/**
 * The chance that each target of each look truly is of a species: names given on the screen are taken as evidence,
 * not as facts. How much each species likes the place where a mark stood is worked out from a first, rough sorting.
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
  const names = new Misnaming(targets, canonical);
  const wanted = names.species.indexOf(species.name);
  let odds = names.odds();
  const spread = (of: number): SpeciesLook[] => {
    const out = looks.map((l): SpeciesLook => ({ ...l, odds: l.look.targets.length ? new Float32Array(l.look.targets.length) : NONE }));
    const place = looks.map(() => 0);
    let t = 0;
    looks.forEach(({ look }, k) => {
      for (const target of look.targets) {
        if (target.kind === 'fish') (out[k].odds as Float32Array)[place[k]] = of < 0 ? 0 : odds[t][of];
        if (target.kind === 'fish') t++;
        place[k]++;
      }
    });
    return out;
  };
  if (wanted < 0) return spread(-1);
  const mixed = names.species.filter((_, k) => {
    const shared = odds.reduce((s, o) => s + Math.min(o[wanted], o[k]), 0);
    return (k === wanted || shared > LEAST_MIXED) && odds.reduce((s, o) => s + o[k], 0) >= LEAST_MARKS;
  });
  if (mixed.length < 2) return spread(wanted);
  const liking = new Map<number, Float32Array>();
  for (const name of mixed) {
    const profile = findSpecies(name, known);
    const k = names.species.indexOf(name);
    if (profile) liking.set(k, likingOf(profile, spread(k), cells));
  }
  const likes = (k: number, look: number): number => liking.get(k)?.[look] ?? 1;
  names.learn(likes);
  odds = names.odds(likes);
  return spread(wanted);
}

const NONE = new Float32Array(0);

/** Of looks that show none, one in so many is enough to tell what a species likes: only its level would need them all. */
const ONE_IN = 4;

/** How much a species likes the place and day of each look, against its mean over the looks. */
function likingOf(species: SpeciesProfile, looks: SpeciesLook[], cells: CellTable): Float32Array {
  const some = looks.filter((l, k) => k % ONE_IN === 0 || Array.prototype.some.call(l.odds, (o: number) => o > 0.02));
  const model = fitModel(species, cells, some, { likingOnly: true });
  const rates = new Rates(model, cells);
  const out = new Float32Array(looks.length);
  let sum = 0;
  looks.forEach(({ cell, day }, k) => (sum += out[k] = Math.exp(Math.min(4, rates.of(cell, day)))));
  return out.map((v) => (v * looks.length) / sum);
}
