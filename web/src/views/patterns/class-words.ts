import { covariate, type Label, type WhereAnswer } from '@restless-shoal/core/patterns';
import { patterns as msg, decimal, inUnit, labelWords, readUnit, term } from '../../words';

type Classes = WhereAnswer['classes'];

/** The shortest run of classes that holds at least half of the effort. */
export function mostlyLooked(classes: Classes): Classes | null {
  const total = classes.reduce((s, c) => s + c.effort, 0);
  let best: Classes | null = null;
  for (let a = 0; a < classes.length; a++) {
    let sum = 0;
    for (let b = a; b < classes.length; b++) {
      sum += classes[b].effort;
      if (sum < total / 2) continue;
      if (!best || b - a + 1 < best.length) best = classes.slice(a, b + 1);
      break;
    }
  }
  return best;
}

/** A run of classes in words: "5 to 8 m", "hump, saddle". */
export function runWords(key: string, run: Classes): string {
  const { labels, edges, unit } = covariate(key);
  if (labels || !edges) return run.map((c) => labelWords(c.label)).join(', ');
  const [first, last] = [run[0].class, run.at(-1)!.class];
  const of = unit ? ` ${readUnit(unit)}` : '';
  const number = (v: number): string => inUnit(v, unit);
  const low = first === 0 && edges[0] < 0 ? null : edges[first];
  const high = edges[last + 1];
  if (low === null) return high === undefined ? msg('words.theWholeSpan') : msg('words.under', { high: number(high), of });
  return high === undefined
    ? msg('words.andMore', { low: number(low), of })
    : msg('words.to', { low: number(low), high: number(high), of });
}

export const times = (v: number): string => decimal(v, v >= 10 ? 0 : 1);

/** A class under an axis: "4–5", "20+", a word. */
export const shortLabel = (label: Label): string =>
  typeof label === 'string'
    ? term(label)
    : label.from === null
      ? labelWords(label, false)
      : `${inUnit(label.from, label.unit)}${label.to === null ? '+' : `–${inUnit(label.to, label.unit)}`}`;
