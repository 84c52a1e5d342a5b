import { covariate, type WhereAnswer } from '@restless-shoal/core/patterns';

type Classes = WhereAnswer['classes'];

/** The classes that are surely chosen (their whole interval above 1), those beside each other as one run; the most used first. */
export function chosenRuns(classes: Classes): Classes[] {
  const runs: Classes[] = [];
  for (const c of classes) {
    if (!(c.low > 1)) continue;
    const run = runs.at(-1);
    if (run && run.at(-1)!.class === c.class - 1) run.push(c);
    else runs.push([c]);
  }
  const used = (run: Classes): number => run.reduce((s, c) => s + c.used, 0);
  return runs.sort((a, b) => used(b) - used(a));
}

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
  if (labels || !edges) return run.map((c) => c.name).join(', ');
  const [first, last] = [run[0].class, run.at(-1)!.class];
  const say = (v: number): string => String(v).replace('-', '−');
  const low = first === 0 && edges[0] < 0 ? null : edges[first];
  const high = edges[last + 1];
  const of = unit ? ` ${unit}` : '';
  if (low === null) return high === undefined ? 'the whole span' : `under ${say(high)}${of}`;
  return high === undefined ? `${say(low)}${of} and more` : `${say(low)} to ${say(high)}${of}`;
}

/** Several runs of labels or numbers in words. */
export const runsWords = (key: string, runs: Classes[]): string =>
  covariate(key).labels
    ? runs
        .flat()
        .map((c) => c.name)
        .join(', ')
    : runWords(key, runs[0]);

export const capital = (text: string): string => text[0].toUpperCase() + text.slice(1);
export const times = (v: number): string => (v >= 10 ? v.toFixed(0) : v.toFixed(1));
