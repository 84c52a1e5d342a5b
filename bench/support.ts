import { spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A folder for a bench, that the database's user may enter; removed at the end. */
export function benchFolder(): { path: string; remove: () => void } {
  const path = mkdtempSync(join(tmpdir(), 'shoal-bench-'));
  chmodSync(path, 0o755);
  return { path, remove: () => rmSync(path, { recursive: true, force: true }) };
}

/** Runs a program to its end. @returns seconds @throws when it fails */
export function timed(program: string, args: string[]): number {
  const started = performance.now();
  const run = spawnSync(program, args, { encoding: 'utf8' });
  if (run.error) throw run.error;
  if (run.status !== 0) throw new Error(`${program} failed: ${run.stderr}`);
  return (performance.now() - started) / 1000;
}

export const seconds = (s: number): string => `${s.toFixed(2)} s`;

/** What the reference work takes on a machine as bars were set for, ms. */
const USUAL_MS = 800;

/** How much slower than usual this machine is now, by a fixed piece of work; 1 where it is not: bars of time are scaled by it. */
export function slowness(): number {
  const began = performance.now();
  let seed = 1;
  const numbers = Float64Array.from({ length: 2e6 }, () => (seed = (seed * 48271) % 2147483647));
  numbers.sort();
  let sum = 0;
  for (let round = 0; round < 20; round++) for (let k = 0; k < numbers.length; k++) sum += Math.sqrt(numbers[k]);
  return sum === 0 ? 1 : Math.max(1, (performance.now() - began) / USUAL_MS);
}

/** The most memory this process has used, MB. */
export const peakMemory = (): number => Math.round(process.resourceUsage().maxRSS / 1024);

/** Prints a figure against its bar. @returns whether it holds */
export function held(what: string, figure: number, sign: '>=' | '<=', bar: number, unit = ''): boolean {
  const holds = sign === '>=' ? figure >= bar : figure <= bar;
  console.log(`${holds ? 'holds ' : 'MISSED'} ${what}: ${figure.toFixed(3)}${unit} (bar ${sign} ${bar}${unit})`);
  return holds;
}

/** Ends a bench by what held. */
export function finish(results: boolean[]): void {
  const missed = results.filter((r) => !r).length;
  console.log(missed ? `${missed} of ${results.length} bars missed` : `all ${results.length} bars hold`);
  process.exitCode = missed ? 1 : 0;
}
