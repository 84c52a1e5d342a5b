import type { Problem } from '@restless-shoal/core/contract';
import type { Strategy } from '@restless-shoal/core/forecast';
import type { Label } from '@restless-shoal/core/patterns';
import type { StageName } from '@restless-shoal/core/species';
import type { Statement } from '@restless-shoal/core/statements';
import { en, type Catalogue } from './en';
import { worded, type Values } from './messages';
import { inUnit, readUnit } from './quantities';
import { language, speak, type Language } from './reader';

let catalogue: Catalogue = en;

/** The words of a view, in the language of the page. */
const wordsOf =
  <V extends keyof Catalogue>(view: V) =>
  (key: keyof (typeof en)[V] & string, values?: Values): string =>
    worded(catalogue[view][key], values);

export const app = wordsOf('app');
export const bench = wordsOf('bench');
export const brief = wordsOf('brief');
export const chart = wordsOf('chart');
export const debates = wordsOf('debates');
export const deck = wordsOf('deck');
export const forecast = wordsOf('forecast');
export const imports = wordsOf('imports');
export const logbook = wordsOf('logbook');
export const parts = wordsOf('parts');
export const patterns = wordsOf('patterns');
export const plan = wordsOf('plan');
export const waters = wordsOf('waters');

/** A code of the records (a kind, a state, a species of the list) as people say it; what is no code of ours stays as it is. */
export const term = (code: string): string => (catalogue.terms as Record<string, string>)[code] ?? code;

/** What core says, in words. */
export function say({ code, values }: Statement): string {
  const message = (catalogue.statements as Record<string, string>)[code];
  // A shape stands alone or behind "on", which in many languages changes its form.
  const on = code.startsWith('place.') && code !== 'place.shape' ? 'on ' : '';
  const text = (v: string): string => (message.includes('select') ? v : term(on + v));
  return worded(message, Object.fromEntries(Object.entries(values).map(([k, v]) => [k, typeof v === 'string' ? text(v) : v])));
}

/** Why the server did not do something; a code of another version of it is told in its own English. */
export function problemWords({ code, values, field, detail }: Problem): string {
  const message = (catalogue.problems as Record<string, string>)[code];
  try {
    return message === undefined ? detail : worded(message, { field: field ?? '', ...values });
  } catch {
    // It came without a value that this page's message speaks of.
    return detail;
  }
}

/** Distances that names of covariates speak of, m. */
const REACHES = { reach25: 25, reach50: 50, reach150: 150, reach200: 200 };
/** What a covariate is called. */
export const covariateName = (key: string): string => worded((catalogue.covariates as Record<string, string>)[key] ?? key, REACHES);

/** What a group is called: a code, or the span of its values with its unit unless it stands elsewhere. */
export function labelWords(label: Label, withUnit = true): string {
  if (typeof label === 'string') return term(label);
  const of = (v: number | null): string => (v === null ? '' : inUnit(v, label.unit));
  const unit = withUnit ? readUnit(label.unit) : '';
  const words = parts(label.from === null ? 'span.under' : label.to === null ? 'span.over' : 'span.between', {
    from: of(label.from),
    to: of(label.to),
  });
  return unit ? `${words} ${unit}` : words;
}

/** What a strategy is called. */
export const strategyName = (strategy: Strategy): string => forecast(`strategy.${strategy}`);

/** A stage of the season as the Strip says it for today. */
export const stageToday = (stage: StageName): string => (catalogue.terms as Record<string, string>)[`today ${stage}`] ?? term(stage);

/** With its first letter a capital, as a sentence begins. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Words of the log joined as the language joins them: "perch, pike and zander". */
export const listed = (items: readonly string[]): string =>
  new Intl.ListFormat(language() === 'en' ? 'en-GB' : language(), { type: 'conjunction' }).format(items);

/** Loads the words of a language; the page is drawn afterwards. */
export async function loadWords(next: Language, tags: readonly string[]): Promise<void> {
  catalogue = next === 'de' ? (await import('./de')).de : en;
  speak(next, tags);
}

export {
  decimal,
  formatArea,
  formatDepth,
  formatFishLength,
  formatLength,
  formatMass,
  formatSpeed,
  formatTemperature,
  inUnit,
  percent,
  plain,
  readUnit,
  stepText,
} from './quantities';
export { language, LANGUAGES, locale, preferred, readerUnits, readIn, type Language } from './reader';
