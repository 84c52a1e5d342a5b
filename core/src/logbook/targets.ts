import type { Contact } from './records';

/** A contact in the water's metric plane. `id` is its key in this trip, or its position in the list where it has none. */
export interface Sighting {
  id: string;
  at: number;
  x: number;
  y: number;
  row: Contact;
}

/** One thing in the water, however often it was seen. */
export interface Target {
  id: string;
  kind: string;
  species: string | null;
  /** Odds that the species is right, 0–1; null where nobody said. */
  confidence: number | null;
  confirmed: 'catch' | 'camera' | 'sight' | 'none';
  size: string | null;
  count: number;
  /** Depth of the upper and lower edge, m, from the sighting that is most sure of them. */
  top: number | null;
  bottom: number | null;
  /** What it was taken for on the screen before anything confirmed it, and how sure; null where nobody said. */
  named: string | null;
  stated: number | null;
  /** What else it was taken for on the screen, a name a further sighting. */
  alsoNamed: string[];
  form: string | null;
  core: string | null;
  sightings: Sighting[];
}

const CERTAINTY = { catch: 3, camera: 2, sight: 1, none: 0 } as const;

/**
 * Joins sightings linked by `same_as` into targets. The most certain sighting names the species
 * (catch before camera before sight, then the higher confidence, then the later one).
 */
export function joinTargets(sightings: Sighting[]): Target[] {
  const parent = new Map<string, string>(sightings.map((s) => [s.id, s.id]));
  const root = (id: string): string => {
    let r = id;
    while (parent.get(r) !== r) r = parent.get(r)!;
    return r;
  };
  for (const s of sightings)
    if (s.row.same_as != null && parent.has(s.row.same_as) && s.row.same_as !== s.id) parent.set(root(s.id), root(s.row.same_as));
  const groups = new Map<string, Sighting[]>();
  for (const s of sightings) {
    const r = root(s.id);
    const group = groups.get(r);
    if (group) group.push(s);
    else groups.set(r, [s]);
  }
  return [...groups.entries()].map(([id, group]) =>
    targetOf(
      id,
      group.sort((a, b) => a.at - b.at),
    ),
  );
}

function targetOf(id: string, sightings: Sighting[]): Target {
  const certain = (s: Sighting): number => CERTAINTY[s.row.confirmed ?? 'none'] * 10 + (s.row.confidence ?? 0.5) + s.at * 1e-15;
  const ranked = [...sightings].sort((a, b) => certain(b) - certain(a));
  const named = ranked.find((s) => s.row.species != null);
  const onScreen = ranked.filter((s) => (s.row.confirmed ?? 'none') === 'none' && s.row.view !== 'line');
  const guess = onScreen.find((s) => s.row.species != null);
  const first = <K extends keyof Contact>(column: K): Contact[K] | null => ranked.find((s) => s.row[column] != null)?.row[column] ?? null;
  return {
    id,
    kind: ranked[0].row.kind,
    species: named?.row.species ?? null,
    confidence: named ? (named.row.confirmed && named.row.confirmed !== 'none' ? 1 : named.row.confidence) : null,
    confirmed: ranked[0].row.confirmed ?? 'none',
    size: first('size'),
    count: Math.max(1, ...sightings.map((s) => s.row.count ?? 1)),
    top: first('top_m'),
    bottom: first('bottom_m'),
    named: guess?.row.species ?? null,
    stated: guess?.row.confidence ?? null,
    alsoNamed: onScreen.flatMap((s) => (s !== guess && s.row.species != null ? [s.row.species] : [])),
    form: onScreen.find((s) => s.row.form != null)?.row.form ?? null,
    core: onScreen.find((s) => s.row.core != null)?.row.core ?? null,
    sightings,
  };
}
