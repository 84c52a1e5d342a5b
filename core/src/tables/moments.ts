import { localToUtc, zoneOffset } from '../units';

/** How a date is written: which part comes first, or a count of days (Excel) or seconds (Unix). */
export type DateOrder = 'ymd' | 'dmy' | 'mdy' | 'excel' | 'unix';

const DAY = 86_400_000;
/** Midnight of Excel's day 0, with the day that its calendar has too many. */
const EXCEL_EPOCH = Date.UTC(1899, 11, 30);

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
/** Other languages' names for months, by the month that they name. */
const OTHER_MONTHS: Record<string, number> = { mär: 3, mai: 5, okt: 10, dez: 12, avr: 4, aoû: 8, déc: 12, fév: 2, juin: 6, juil: 7, ene: 1, abr: 4, ago: 8, dic: 12, maj: 5 }; // prettier-ignore

function monthOf(text: string): number {
  const name = text.toLowerCase().replace('.', '');
  return OTHER_MONTHS[name.slice(0, 4)] ?? OTHER_MONTHS[name.slice(0, 3)] ?? MONTHS.indexOf(name.slice(0, 3)) + 1;
}

/** Whether a text names its own zone: Z or an offset behind a time of day. */
export const hasOffset = (text: string): boolean => /\d{1,2}:\d\d(:\d\d([.,]\d+)?)?\s*(Z|[+-]\d\d:?(\d\d)?)$/i.test(text.trim());

const DATE = /^(\d{1,4})[./\-\s](\d{1,2}|[A-Za-zäéû]{3,9}\.?)[./\-\s](\d{1,4})(?:[T\s,]+(.*))?$/;
const CLOCK = /^(\d{1,2})(?:[:.h](\d\d))?(?:[:.](\d\d)(?:[.,](\d{1,6}))?)?\s*([ap])?\.?\s*m?\.?$/i;

const fullYear = (y: number, digits: number): number => (digits > 2 ? y : y + (y < 70 ? 2000 : 1900));

/** A day as UTC midnight, ms; null when it is none. */
function readDay(text: string, order: DateOrder): { at: number; rest: string } | null {
  const m = DATE.exec(text);
  if (!m) {
    const compact = /^(\d{4})(\d\d)(\d\d)(?:[T\s]*(.*))?$/.exec(text);
    return compact ? dayAt(Number(compact[1]), Number(compact[2]), Number(compact[3]), compact[4] ?? '') : null;
  }
  const [a, b, c] = [m[1], m[2], m[3]];
  const named = /[A-Za-z]/.test(b);
  const rest = m[4] ?? '';
  if (a.length > 2 || (order === 'ymd' && !named))
    return dayAt(fullYear(Number(a), a.length), named ? monthOf(b) : Number(b), Number(c), rest);
  const year = fullYear(Number(c), c.length);
  if (named || order !== 'mdy') return dayAt(year, named ? monthOf(b) : Number(b), Number(a), rest);
  return dayAt(year, Number(a), Number(b), rest);
}

function dayAt(year: number, month: number, day: number, rest: string): { at: number; rest: string } | null {
  const at = Date.UTC(year, month - 1, day);
  const back = new Date(at);
  return month >= 1 && month <= 12 && back.getUTCDate() === day && back.getUTCMonth() === month - 1 && year >= 1900 && year < 2200
    ? { at, rest }
    : null;
}

/** A time of day, ms from midnight; null when it is none. A bare fraction of a day is one, as spreadsheets keep it. */
function readClock(text: string): number | null {
  const t = text.trim();
  if (/^0?[.,]\d+$/.test(t)) return Math.round(Number(t.replace(',', '.')) * 86_400) * 1000;
  const m = CLOCK.exec(t) ?? /^(\d\d)(\d\d)(?:(\d\d)(?:\.(\d+))?)?$/.exec(t);
  if (!m) return null;
  let hours = Number(m[1]);
  const half = (m[5] as string | undefined)?.toLowerCase();
  if (half === 'p' && hours < 12) hours += 12;
  if (half === 'a' && hours === 12) hours = 0;
  const [minutes, seconds] = [Number(m[2] ?? 0), Number(m[3] ?? 0)];
  if (hours > 24 || minutes > 59 || seconds > 60) return null;
  return ((hours * 60 + minutes) * 60 + seconds) * 1000 + Math.round(Number(`0.${m[4] ?? 0}`) * 1000);
}

/** A moment: UTC text where a time of day is known, and whether it is. A string that starts with "!" says what is wrong. */
export interface Moment {
  /** UTC, ms. */
  at: number;
  /** Whether the time of day is known. */
  timed: boolean;
}

/**
 * Reads a date and a time of day, from one column or two.
 * @param date the column with the date, or with both @param clock the column with the time of day; '' where there is none
 * @param zone of times that name none
 * @returns what is wrong, in words, where it is no moment
 */
export function readMoment(date: string, clock: string, order: DateOrder, zone: string): Moment | string {
  const text = date.trim();
  if (text === '') return 'is missing';
  if (order === 'unix' || order === 'excel') {
    const n = Number(text.replace(',', '.'));
    if (!Number.isFinite(n)) return `"${text}" is not a number`;
    if (order === 'unix') return { at: n > 1e11 ? n : n * 1000, timed: true };
    if (n < 1 || n > 110_000) return `${n} is no date of a spreadsheet`;
    const own = readClock(clock);
    const local = EXCEL_EPOCH + Math.floor(n) * DAY + (clock.trim() ? (own ?? 0) : Math.round((n % 1) * 86_400) * 1000);
    return { at: localToUtc(local, zone), timed: clock.trim() ? own !== null : n % 1 !== 0 };
  }
  const iso = hasOffset(text)
    ? Date.parse(
        text
          .replace(' ', 'T')
          .replace(/\s+(?=[+-])/, '')
          .replace(/([+-]\d\d)$/, '$1:00'),
      )
    : NaN;
  if (!Number.isNaN(iso)) return { at: iso, timed: true };
  const day = readDay(text, order);
  if (!day)
    return `"${text}" is not a date that can be read as ${order === 'mdy' ? 'month/day/year' : order === 'dmy' ? 'day.month.year' : 'year-month-day'}`;
  const own = clock.trim() || day.rest.trim();
  if (own === '') return { at: localToUtc(day.at, zone), timed: false };
  const offset = /\s*(Z|[+-]\d\d:?(?:\d\d)?)$/i.exec(own);
  const ms = readClock(offset ? own.slice(0, offset.index) : own);
  if (ms === null) return `"${own}" is not a time of day`;
  const local = day.at + ms;
  if (!offset) return { at: localToUtc(local, zone), timed: true };
  return {
    at: /z/i.test(offset[1]) ? local : local - zoneOffset(local, offset[1].length === 3 ? `${offset[1]}:00` : offset[1]),
    timed: true,
  };
}

/** How the dates of a column are written: null where that cannot be told, 'ambiguous' where day and month may be either way round. */
export function guessOrder(values: string[]): DateOrder | 'ambiguous' | null {
  const texts = values.map((v) => v.trim()).filter(Boolean);
  if (!texts.length) return null;
  const numbers = texts.map((t) => Number(t.replace(',', '.')));
  if (numbers.every((n) => Number.isFinite(n))) {
    // A bare number of eight digits is a day written without signs between.
    if (texts.every((t) => /^(19|20)\d{6}$/.test(t))) return 'ymd';
    if (numbers.every((n) => n > 15_000 && n < 80_000)) return 'excel';
    if (numbers.every((n) => n > 2e8)) return 'unix';
    return null;
  }
  // One day that does not exist spoils no column.
  const share = (order: DateOrder): number =>
    texts.filter((t) => /^\d{4}/.test(t) === (order === 'ymd') && readDay(t.replace(/Z$/i, ''), order) !== null).length / texts.length;
  const [ymd, dmy, mdy] = [share('ymd'), share('dmy'), share('mdy')];
  if (Math.max(ymd, dmy, mdy) < 0.6) return null;
  if (ymd > Math.max(dmy, mdy)) return 'ymd';
  if (dmy !== mdy) return dmy > mdy ? 'dmy' : 'mdy';
  return texts.some((t) => /[A-Za-z]{3}/.test(t)) || texts.every((t) => /^\d{1,2}\.\d{1,2}\./.test(t)) ? 'dmy' : 'ambiguous';
}
