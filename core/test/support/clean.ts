import { cleanSoundings, type Cleaned, type CleanSettings, type SoundingTable } from '../../src/chart';
import type { Survey } from './sounded-water';

/** A survey as the table that cleaning takes. */
export function tableOf(run: Survey): SoundingTable {
  const n = run.x.length;
  return {
    time: run.time,
    x: run.x,
    y: run.y,
    depth: Float32Array.from(run.depth),
    hardness: Float32Array.from(run.hardness),
    temperature: new Float32Array(n).fill(NaN),
    survey: new Int32Array(n),
  };
}

/** What is left of a survey after cleaning, as a chart takes it. */
export function keptOf(table: SoundingTable, { x, y, depth, left }: Cleaned): Record<'x' | 'y' | 'depth' | 'hardness', number[]> {
  const good = [...left.keys()].filter((i) => !left[i]);
  const pick = (values: ArrayLike<number>): number[] => good.map((i) => values[i]);
  return { x: pick(x), y: pick(y), depth: pick(depth), hardness: pick(table.hardness) };
}

/** A survey cleaned in one go. */
export function cleanedOf(run: Survey, settings?: CleanSettings): Record<'x' | 'y' | 'depth' | 'hardness', number[]> {
  const table = tableOf(run);
  return keptOf(table, cleanSoundings(table, settings));
}
