import { COVARIATES, STAGES, type Question } from '@restless-shoal/core/patterns';
import { patterns as msg, term } from '../../words';

/** The pages of the view. */
export const PAGES = [
  ['where', msg('questionAddress.where')],
  ['hours', msg('questionAddress.rodHours')],
  ['mood', msg('questionAddress.baitAndMood')],
  ['marks', msg('questionAddress.identification')],
  ['debates', msg('questionAddress.debates')],
  ['years', msg('questionAddress.years')],
  ['similar', msg('questionAddress.similarSpots')],
] as const;
export type Page = (typeof PAGES)[number][0];

/** All that the address holds: a view can be bookmarked and comes back the same. */
export interface Asked {
  question: Question;
  page: Page;
  /** Covariate of the main chart, and the two of the heat map. */
  by: string;
  heat: [string, string];
  /** What is set beside it: "bait", "fish:perch", "size:large", "stage:summer"; null for nothing. */
  beside: string | null;
  /** Drawn as a smooth curve instead of classes. */
  smooth: boolean;
  /** What the similar spots are similar to. */
  of: SimilarTo | null;
}

/** Places that others are to be like, and what they are. */
export interface SimilarTo {
  places: { latitude: number; longitude: number }[];
  words: string;
}

/** Places beyond which an address grows too long. */
const MOST_PLACES = 40;

function placesOf(address: URLSearchParams): SimilarTo | null {
  const places = (address.get('of') ?? '').split(';').flatMap((text) => {
    const found = text.match(/^(-?\d+(?:\.\d+)?),(-?\d+(?:\.\d+)?)$/);
    return found && Math.abs(Number(found[1])) <= 90 && Math.abs(Number(found[2])) <= 180
      ? [{ latitude: Number(found[1]), longitude: Number(found[2]) }]
      : [];
  });
  return places.length ? { places, words: address.get('like') ?? msg('questionAddress.thePlaceChosen') } : null;
}

/** Bait as a kind of its own among the species. */
export const BAIT = 'bait';

const isCovariate = (key: string): boolean => COVARIATES.some((c) => c.key === key);
const day = (v: string | null): string | undefined => (v && /^\d{4}-\d\d-\d\d$/.test(v) && !Number.isNaN(Date.parse(v)) ? v : undefined);

/** "12..18" as a span; undefined where it is none. */
function span(v: string | null): [number, number] | undefined {
  const found = v?.match(/^(-?\d+(?:\.\d+)?)\.\.(-?\d+(?:\.\d+)?)$/);
  return found ? [Number(found[1]), Number(found[2])] : undefined;
}

/** Reads an address. What it does not know is passed over. @param usual the species where it names none */
export function readAddress(address: URLSearchParams, usual: string, known: string[]): Asked {
  const fish = address.get('fish');
  const species = fish === BAIT ? null : fish && known.includes(fish) ? fish : usual;
  const stages = (address.get('stage') ?? '').split(',').filter((s): s is (typeof STAGES)[number] => (STAGES as string[]).includes(s));
  const odds = Number(address.get('odds'));
  const size = address.get('size');
  const by = address.get('by');
  const heat = (address.get('heat') ?? '').split(',');
  const page = PAGES.find(([key]) => key === address.get('page'))?.[0] ?? 'where';
  const question: Question = { species };
  const [from, to] = [day(address.get('from')), day(address.get('to'))];
  if (from) question.from = from;
  if (to) question.to = to;
  if (stages.length) question.stages = stages;
  for (const [key, name] of SPANS) {
    const found = span(address.get(name));
    if (found) question[key] = found;
  }
  if (address.get('sure') === '1') question.confirmedOnly = true;
  if (odds > 0 && odds <= 1) question.odds = odds;
  if (size === 'small' || size === 'medium' || size === 'large') question.size = size;
  return {
    question,
    page,
    by: by && isCovariate(by) ? by : 'depth',
    heat: heat.length === 2 && heat.every(isCovariate) && heat[0] !== heat[1] ? [heat[0], heat[1]] : ['hardness', 'cover'],
    beside: address.get('beside'),
    smooth: address.get('smooth') === '1',
    of: placesOf(address),
  };
}

const SPANS = [
  ['surface', 'temp'],
  ['secchi', 'clarity'],
  ['hours', 'hours'],
] as const;

/** Writes an address; what is as usual is left out. */
export function writeAddress({ question: q, page, by, heat, beside, smooth, of }: Asked, water: string): URLSearchParams {
  const out = new URLSearchParams({ water, fish: q.species ?? BAIT });
  if (page !== 'where') out.set('page', page);
  if (by !== 'depth') out.set('by', by);
  if (heat.join() !== 'hardness,cover') out.set('heat', heat.join());
  if (beside) out.set('beside', beside);
  if (smooth) out.set('smooth', '1');
  if (of) {
    out.set(
      'of',
      of.places
        .slice(0, MOST_PLACES)
        .map((p) => `${p.latitude.toFixed(5)},${p.longitude.toFixed(5)}`)
        .join(';'),
    );
    out.set('like', of.words);
  }
  if (q.from) out.set('from', q.from);
  if (q.to) out.set('to', q.to);
  if (q.stages?.length) out.set('stage', q.stages.join());
  for (const [key, name] of SPANS) if (q[key]) out.set(name, q[key].join('..'));
  if (q.confirmedOnly) out.set('sure', '1');
  if (q.odds !== undefined) out.set('odds', String(q.odds));
  if (q.size) out.set('size', q.size);
  return out;
}

/** The question that is set beside another; null where the words say nothing known. */
export function besideQuestion(question: Question, beside: string | null): { question: Question; name: string } | null {
  if (!beside) return null;
  if (beside === BAIT) {
    const { size: _size, confirmedOnly: _sure, ...rest } = question;
    return { question: { ...rest, species: null }, name: term('bait') };
  }
  const [kind, value] = [beside.slice(0, beside.indexOf(':')), beside.slice(beside.indexOf(':') + 1)];
  switch (kind) {
    case 'fish':
      return { question: { ...question, species: value }, name: term(value) };
    case 'size':
      return value === 'small' || value === 'medium' || value === 'large'
        ? { question: { ...question, size: value }, name: msg('questionAddress.ones', { value: term(value) }) }
        : null;
    case 'stage': {
      const stage = STAGES.find((s) => s === value);
      return stage ? { question: { ...question, stages: [stage] }, name: msg('questionAddress.in', { stage: term(stage) }) } : null;
    }
    default:
      return null;
  }
}
