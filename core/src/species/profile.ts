import type { SchoolSettings } from './school-settings';

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
  spawning: { from: number; to: number; direction: 'rising' | 'falling' } | null;
  light: 'shy' | 'sight' | 'indifferent';
  /** Where in the column it is usually met. */
  place: 'bottom' | 'near bottom' | 'suspended' | 'cover' | 'surface';
  shoaling: 'alone' | 'loose packs' | 'schools' | 'clouds';
  forage: string[];
  /** W (g) = a·L(cm)^b, where well known. */
  lengthWeight: { a: number; b: number } | null;
  /** How much it is drawn to wood and rock, to weed, to hard bottom: 0–1. */
  drawnTo: { wood: number; weed: number; hard: number };
  /** What of the schools' rules was set otherwise than usual for it. */
  schools?: SchoolSettings;
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
