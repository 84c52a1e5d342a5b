import type { StrategySettings } from './strategy-settings';

/** What is known of a species before any logbook. Temperatures °C, oxygen mg/l. */
export interface SpeciesProfile {
  name: string;
  scientific: string | null;
  aliases: string[];
  guild: 'warm' | 'cool' | 'cold' | 'marine' | 'unknown';
  /** Temperatures it seeks. */
  preferred: [number, number];
  /** Temperature it leaves. */
  upperAvoidance: number;
  /** Water warmer than this kills released fish. */
  handlingStress: number;
  /** Oxygen below which it leaves. */
  leastOxygen: number;
  /** When it spawns, and at what depth, m; null where that is not known or elsewhere. */
  spawning: { from: number; to: number; direction: 'rising' | 'falling'; depth?: [number, number] } | null;
  light: 'shy' | 'sight' | 'indifferent';
  /** Where in the column it is usually met. */
  place: 'bottom' | 'near bottom' | 'suspended' | 'cover' | 'surface';
  shoaling: 'alone' | 'loose packs' | 'schools' | 'clouds';
  forage: string[];
  /** W (g) = a·L(cm)^b, where well known. */
  lengthWeight: { a: number; b: number } | null;
  /** The largest it grows, m, where known. */
  largest?: number | null;
  /** How much it is drawn to wood and rock, to weed, to hard bottom: 0–1. */
  drawnTo: { wood: number; weed: number; hard: number };
  /** What of the strategies' rules was set otherwise than usual for it. */
  strategies?: StrategySettings;
  /** True for fish that others eat. */
  isForage: boolean;
  source: string;
  /** What in this row is uncertain. */
  uncertain: string;
}

const NEUTRAL: Omit<SpeciesProfile, 'name' | 'source'> = {
  scientific: null,
  aliases: [],
  guild: 'unknown',
  preferred: [12, 22],
  upperAvoidance: 27,
  handlingStress: 25,
  leastOxygen: 4,
  spawning: null,
  light: 'indifferent',
  place: 'near bottom',
  shoaling: 'loose packs',
  forage: [],
  lengthWeight: null,
  drawnTo: { wood: 0.4, weed: 0.3, hard: 0.4 },
  isForage: false,
  uncertain: 'all of it: nothing is known of this species yet',
};

/** A local species met in a log: nothing is assumed of it beyond being a fish. */
export const neutralProfile = (name: string): SpeciesProfile => ({ ...NEUTRAL, name, source: 'neutral values; edit them' });

export const species = (row: Partial<SpeciesProfile> & { name: string; source: string }): SpeciesProfile => ({
  ...NEUTRAL,
  uncertain: '',
  ...row,
});

/** Finds a profile by common name, alias or scientific name, whatever the case. */
export function findSpecies(name: string, among: SpeciesProfile[]): SpeciesProfile | null {
  const wanted = name.trim().toLowerCase();
  return among.find((s) => [s.name, s.scientific ?? '', ...s.aliases].some((n) => n.toLowerCase() === wanted)) ?? null;
}

/** Mass by length, kg, from the species' W = a·L^b; null where it is not known. @param length m */
export const massFromLength = ({ lengthWeight }: SpeciesProfile, length: number): number | null =>
  lengthWeight && length > 0 ? (lengthWeight.a * (length * 100) ** lengthWeight.b) / 1000 : null;

/** A species of one's own, that begins with the needs of another. @param source what to say of where its values come from */
export const speciesLike = (from: SpeciesProfile, name: string, source: string): SpeciesProfile => ({
  ...from,
  name,
  scientific: null,
  aliases: [],
  lengthWeight: null,
  largest: null,
  source,
  uncertain: '',
});

/** Where a spring or an autumn spawner spawns when its profile does not say, m. */
const USUAL_SPAWNING = { rising: [0.3, 3], falling: [1, 8] } as const;

/** The depths, m, at which a species spawns; null for one that spawns elsewhere. */
export const spawningDepth = ({ spawning }: SpeciesProfile): readonly [number, number] | null =>
  spawning && (spawning.depth ?? USUAL_SPAWNING[spawning.direction]);
