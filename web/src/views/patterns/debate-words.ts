import { AFTER_MINUTES, EARLY_MINUTES, SHORT_RANGE, type Debate, type Shown } from '@restless-shoal/core/patterns';
import { type UnitSystem } from '@restless-shoal/core/units';
import { formatDepth, formatLength, debates, decimal, term } from '../../words';

export const words = debates;
type Key = Parameters<typeof words>[0];

const digits = (v: number): string => decimal(v, v >= 10 ? 0 : v >= 2 ? 1 : 2);

/** A debate in words: the question, what each side shows, and the answer or what it would take. */
export interface WordedDebate {
  question: string;
  sides: string[];
  answer: string;
}

function shown(shows: Shown, units: UnitSystem): string {
  switch (shows.as) {
    case 'bites per rod-hour': {
      const values = { rate: digits(shows.bites / Math.max(1e-9, shows.hours)), bites: shows.bites, hours: digits(shows.hours) };
      return shows.trips === undefined ? words('shows.bites', values) : words('shows.bitesOfTrips', { ...values, trips: shows.trips });
    }
    case 'contacts per hectare':
      return words('shows.contacts', { rate: digits(shows.contacts / Math.max(1e-9, shows.hectares)), looks: shows.looks });
    case 'share':
      return shows.of ? words('shows.share', { share: Math.round((100 * shows.yes) / shows.of), of: shows.of }) : words('shows.none');
    case 'shallow to deep': {
      const [shallow, deep] = shows.contacts;
      return Number.isFinite(shows.ratio)
        ? words('shows.shallow', { ratio: digits(shows.ratio), depth: formatDepth(shows.depth, units), shallow, deep })
        : words('shows.incomparable');
    }
    case 'species among':
      return words('shows.species', { share: Math.round(100 * shows.share), species: term(shows.species), of: shows.of });
  }
}

function lacking(lacks: NonNullable<Debate['lacks']>, sideNames: string[]): string {
  switch (lacks.lacks) {
    case 'sides':
      return words('lacks.sides', { missing: lacks.missing.map((k) => sideNames[k]).join('; ') });
    case 'settings':
      return words('lacks.settings', { trips: lacks.trips, retuned: lacks.retuned });
    case 'cores':
      return words('lacks.cores', { settled: lacks.settled, strong: lacks.strong });
    default:
      return words(`lacks.${lacks.lacks}`);
  }
}

function answered({ key, ratio, verdict, longer, among }: Debate, sideNames: string[]): string {
  if (among) {
    const chance = among.p < 0.01 ? '< 1 %' : `${Math.round(100 * among.p)} %`;
    const { species, settled } = among;
    return verdict === 'open'
      ? words('core.open', { settled })
      : words('core.answered', { species: term(species), settled, chance, more: verdict === 'first' ? 'yes' : 'no' });
  }
  const { value, low, high } = ratio!;
  const more = words(`${key}.more` as Key);
  if (verdict === 'open') {
    const { times, difference } = longer!;
    const need = { times: times < 10 ? digits(times) : Math.round(times) };
    const more_ = times <= 1.05 ? words('open.small') : words(difference === 'this' ? 'open.this' : 'open.quarter', need);
    return words('open', { low: digits(low), high: digits(high), more, longer: more_ });
  }
  return verdict === 'first'
    ? words('answered', { side: sideNames[0], times: digits(value), low: digits(low), high: digits(high), more })
    : words('answered', { side: sideNames[1], times: digits(1 / value), low: digits(1 / high), high: digits(1 / low), more });
}

/** Words a debate in the reader's units. */
export function wordDebate(debate: Debate, units: UnitSystem): WordedDebate {
  const { key, sides, lacks } = debate;
  const given = { early: EARLY_MINUTES, after: AFTER_MINUTES, range: formatLength(SHORT_RANGE, units) };
  const sideNames = sides ? (['first', 'second'] as const).map((side) => words(`${key}.${side}` as Key, given)) : [];
  return {
    question: words(`${key}.question`),
    sides: sides ? sides.map((s, k) => `${sideNames[k]}: ${shown(s.shows, units)}`) : [],
    answer: lacks ? lacking(lacks, sideNames) : answered(debate, sideNames),
  };
}
