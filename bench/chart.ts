import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import { chartFrom, cleanSoundings, laySurface, shapesOf } from '@restless-shoal/core/chart';
import { Raster } from '@restless-shoal/core/geo';
import { smoothNoise } from '../core/test/support/sounded-water';
import type { Beside } from './chart-beside';
import { SHORE, SIDE } from './chart-water';
import { gdalGrid, gdalPoints } from './gdal';
import { benchFolder, finish, held, peakMemory, seconds, timed } from './support';

// A million soundings to a million cells, with contours and features, beside gdal_grid (linear) and gdal_contour on
// the same points in the same run. Then ten million soundings in a process of their own, for its memory.

interface Soundings {
  time: Float64Array;
  x: Float64Array;
  y: Float64Array;
  depth: Float32Array;
}

/** Passes 25 m apart over a rolling bottom, as many soundings as asked for. */
function make(n: number): Soundings {
  const [broad, narrow] = [smoothNoise(1, 900), smoothNoise(2, 160)];
  const out: Soundings = { time: new Float64Array(n), x: new Float64Array(n), y: new Float64Array(n), depth: new Float32Array(n) };
  const passes = SIDE / 25;
  const each = Math.ceil(n / passes);
  for (let i = 0; i < n; i++) {
    const pass = Math.floor(i / each);
    const along = ((i % each) * SIDE) / each;
    const scatter = Math.sin(i * 12.9898) * 43758.5453;
    const noise = scatter - Math.floor(scatter) - 0.5;
    out.time[i] = i * 400;
    out.x[i] = pass * 25 + 12 + noise;
    out.y[i] = pass % 2 ? along : SIDE - along;
    out.depth[i] = 10 + 6 * broad(out.x[i], out.y[i]) + narrow(out.x[i], out.y[i]) + 0.1 * noise;
  }
  return out;
}

/** Builds as the server does: the bottom in one thread, then its shapes in that one, cells and contours in another. */
async function build({ time, x, y, depth }: Soundings, beside: Worker): Promise<{ features: number; contours: number; cells: number }> {
  const n = x.length;
  const unknown = new Float32Array(n).fill(NaN);
  const cleaned = cleanSoundings({ time, x, y, depth, hardness: unknown, temperature: unknown, survey: new Int32Array(n) });
  const surface = laySurface(32625, [SHORE], { ...cleaned, hardness: unknown }, { size: 5, shore: null });
  const other = new Promise<Beside>((done, failed) => beside.once('message', done).once('error', failed));
  beside.postMessage(surface);
  const features = shapesOf(surface);
  const { worked, contours } = await other;
  const { x0, y0, size: side, width, height, data } = worked.distance;
  const distance = new Raster(x0, y0, side, width, height, data);
  const chart = chartFrom(surface, features, { ...worked, distance }, cleaned.steps);
  return { features: chart.features.length, contours: contours.length, cells: chart.depth.data.length };
}

const besideThread = (): Worker => new Worker(fileURLToPath(new URL('./bench-chart-beside.mjs', import.meta.url)));

if (process.argv[2] === 'ten-million') {
  const started = performance.now();
  const beside = besideThread();
  const built = await build(make(10_000_000), beside);
  await beside.terminate();
  console.log(JSON.stringify({ ...built, took: (performance.now() - started) / 1000, peak: peakMemory() }));
} else {
  const folder = benchFolder();
  const results: boolean[] = [];
  try {
    const made = make(1_000_000);
    const beside = besideThread();
    const vrt = gdalPoints(folder.path, 'points', made.x, made.y, made.depth);
    const [ours, theirs]: [number[], number[]] = [[], []];
    for (let round = 0; round < 3; round++) {
      const started = performance.now();
      const built = await build(made, beside);
      ours.push((performance.now() - started) / 1000);
      const tif = join(folder.path, `grid${round}.tif`);
      const grid = gdalGrid('linear', vrt, 'points', { x0: 0, y0: 0, size: 5, width: 1000, height: 1000 }, tif);
      const contour = timed('gdal_contour', ['-q', '-a', 'depth', '-i', '2', tif, join(folder.path, `contours${round}.geojson`)]);
      theirs.push(grid + contour);
      console.log(
        `round ${round + 1}: ours ${seconds(ours[round])} (${built.cells} cells, ${built.features} features, ${built.contours} contours, cleaning and the table of 25 m cells included); gdal_grid ${seconds(grid)} + gdal_contour ${seconds(contour)}`,
      );
    }
    const middle = (times: number[]): number => times.sort((a, b) => a - b)[1];
    await beside.terminate();
    console.log(`peak memory ${peakMemory()} MB`);
    results.push(held('times as fast as GDAL', middle(theirs) / middle(ours), '>=', 3));
  } finally {
    folder.remove();
  }
  const ten = spawnSync(process.execPath, [fileURLToPath(import.meta.url), 'ten-million'], { encoding: 'utf8' });
  if (ten.status !== 0) throw new Error(ten.stderr);
  const { took, peak, cells } = JSON.parse(ten.stdout) as { took: number; peak: number; cells: number };
  console.log(`10,000,000 soundings to ${cells} cells: ${seconds(took)}, peak memory ${peak} MB`);
  results.push(held('peak memory of ten million soundings', peak / 1000, '<=', 4, ' GB'));
  finish(results);
}
