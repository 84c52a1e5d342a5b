import { IntlMessageFormat } from 'intl-messageformat';
import { QUANTITIES } from './quantities';
import { locale } from './reader';

/** The words of a view, by key: ICU messages. A measure is asked for as `{depth, number, depth}` and given in SI. */
export type Messages = Readonly<Record<string, string>>;
export type Values = Record<string, string | number>;

const made = new Map<string, IntlMessageFormat>();
const rules = new Map<string, Intl.PluralRules>();

/** The names of the quantities as number styles: each goes through the formatter below with its own name. */
const styles: { number: Record<string, object> } = {
  number: Object.fromEntries(Object.keys(QUANTITIES).map((quantity) => [quantity, { quantity }])),
};
const formatters = {
  getNumberFormat: (tags?: string | string[], style?: { quantity?: string }) =>
    style?.quantity
      ? ({ format: (v: number) => QUANTITIES[style.quantity!](Number(v)) } as Intl.NumberFormat)
      : new Intl.NumberFormat(tags, style as Intl.NumberFormatOptions),
  getDateTimeFormat: (tags?: string | string[], options?: Intl.DateTimeFormatOptions) => new Intl.DateTimeFormat(tags, options),
  getPluralRules: (tags?: string | string[], options?: Intl.PluralRulesOptions) => {
    const key = `${String(tags)} ${options?.type ?? ''}`;
    let found = rules.get(key);
    if (!found) rules.set(key, (found = new Intl.PluralRules(tags, options)));
    return found;
  },
};

/** A message with its values. */
export function worded(message: string, values?: Values): string {
  // Most messages ask for nothing: they are not parsed. (Two apostrophes stand for one, and one may quote a brace.)
  if (!message.includes('{') && !message.includes("'")) return message;
  const key = `${locale()} ${message}`;
  let format = made.get(key);
  if (!format) made.set(key, (format = new IntlMessageFormat(message, locale(), styles, { ignoreTag: true, formatters } as object)));
  return String(format.format(values));
}
