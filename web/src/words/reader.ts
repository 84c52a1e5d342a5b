import { metric, type UnitSystem } from '@restless-shoal/core/units';

/** The languages that the words exist in; the first is the one that all others are made from. */
export const LANGUAGES = { en: 'English', de: 'Deutsch' } as const;
export type Language = keyof typeof LANGUAGES;

/** Who reads the page: in which language, with which dates and numbers, in which units. */
interface Reader {
  language: Language;
  /** A BCP 47 tag: the device's own, if it is one of the language. */
  locale: string;
  units: UnitSystem;
}

const reader: Reader = { language: 'en', locale: 'en-GB', units: metric };

export const locale = (): string => reader.locale;
export const language = (): Language => reader.language;
export const readerUnits = (): UnitSystem => reader.units;

export function readIn(units: UnitSystem): void {
  reader.units = units;
}

/** @param tags what the device prefers, its first choice first; decides between British and American dates and the like */
export function speak(next: Language, tags: readonly string[]): void {
  reader.language = next;
  reader.locale = tags.find((tag) => tag.split('-')[0] === next) ?? { en: 'en-GB', de: 'de-DE' }[next];
  if (reader.locale === 'en') reader.locale = 'en-GB';
}

/** What the device prefers of the languages there are. */
export const preferred = (tags: readonly string[]): Language =>
  tags.map((tag) => tag.split('-')[0]).find((tag): tag is Language => tag in LANGUAGES) ?? 'en';
