import { join } from 'node:path';
import { buildChart, cleanSoundings, type SoundingTable } from '@restless-shoal/core/chart';
import type { Raster } from '@restless-shoal/core/geo';
import { makeSoundedWater, survey } from '../core/test/support/sounded-water';
import { gdalGrid, gdalPoints, readGrid, type GridFrame } from './gdal';
import { benchFolder, finish, held } from './support';

// Whole passes held back: how well a chart made from the others tells their depths. Ours gets the soundings with
// spikes and second echoes in them; GDAL gets the same soundings without.

const WATERS = Number(process.argv[2] ?? 6);
const NO_DATA = -1;
const METHODS: [name: string, method: string][] = [
  ['linear', `linear:radius=0:nodata=${NO_DATA}`],
  ['nearest', `nearest:nodata=${NO_DATA}`],
  ['inverse distance', `invdistnn:power=2:radius=120:max_points=24:nodata=${NO_DATA}`],
];

function bilinear(raster: Raster, x: number, y: number): number {
  const [gx, gy] = [(x - raster.x0) / raster.size - 0.5, (y - raster.y0) / raster.size - 0.5];
  const [i, j] = [Math.floor(gx), Math.floor(gy)];
  const [u, v] = [gx - i, gy - j];
  const k = j * raster.width + i;
  const d = raster.data;
  return (d[k] * (1 - u) + d[k + 1] * u) * (1 - v) + (d[k + raster.width] * (1 - u) + d[k + raster.width + 1] * u) * v;
}

const folder = benchFolder();
const results: boolean[] = [];
try {
  for (const spacing of [20, 30, 45]) {
    const squares = new Map<string, [sum: number, n: number]>();
    for (let seed = 1; seed <= WATERS; seed++) {
      const water = makeSoundedWater(seed);
      const run = survey(water, { seed, spacing, spikes: 0.01, doubles: 3 });
      const clean = survey(water, { seed, spacing });
      const all = [...run.x.keys()];
      const kept = all.filter((i) => run.line[i] % 5 !== 2);
      const heldBack = all.filter((i) => run.line[i] % 5 === 2);
      const unknown = new Float32Array(kept.length).fill(NaN);
      const table: SoundingTable = {
        time: Float64Array.from(kept, (i) => run.time[i]),
        x: Float64Array.from(kept, (i) => run.x[i]),
        y: Float64Array.from(kept, (i) => run.y[i]),
        depth: Float32Array.from(kept, (i) => run.depth[i]),
        hardness: unknown,
        temperature: unknown,
        survey: new Int32Array(kept.length),
      };
      const cleaned = cleanSoundings(table);
      const good = [...kept.keys()].filter((k) => !cleaned.left[k]);
      const chart = buildChart(
        32625,
        water.rings,
        {
          x: good.map((k) => cleaned.x[k]),
          y: good.map((k) => cleaned.y[k]),
          depth: good.map((k) => cleaned.depth[k]),
          hardness: good.map(() => NaN),
        },
        { size: 5 },
      );
      const frame: GridFrame = chart.depth;
      const grids: [string, Raster][] = [['ours', chart.depth]];
      const vrt = gdalPoints(
        folder.path,
        `s${spacing}w${seed}`,
        kept.map((i) => clean.x[i]),
        kept.map((i) => clean.y[i]),
        kept.map((i) => clean.depth[i]),
      );
      for (const [name, method] of METHODS) {
        const out = join(folder.path, `${name.replace(' ', '-')}-${spacing}-${seed}.tif`);
        gdalGrid(method, vrt, `s${spacing}w${seed}`, frame, out);
        grids.push([name, await readGrid(out, frame, NO_DATA)]);
      }
      // Only where all have something to say.
      for (const i of heldBack) {
        const told = grids.map(([, grid]) => bilinear(grid, clean.x[i], clean.y[i]));
        if (told.some((v) => Number.isNaN(v))) continue;
        grids.forEach(([name], g) => {
          const s = squares.get(name) ?? [0, 0];
          squares.set(name, [s[0] + (told[g] - clean.depth[i]) ** 2, s[1] + 1]);
        });
      }
    }
    const rmse = (name: string): number => Math.sqrt(squares.get(name)![0] / squares.get(name)![1]);
    console.log(
      `passes ${spacing} m apart, every fifth held back, ${WATERS} waters, ${squares.get('ours')![1]} soundings: RMSE ${[...squares.keys()].map((name) => `${name} ${rmse(name).toFixed(3)} m`).join(', ')}`,
    );
    for (const [name] of METHODS) results.push(held(`RMSE over that of ${name}, ${spacing} m`, rmse('ours') / rmse(name), '<=', 1));
  }
} finally {
  folder.remove();
}
finish(results);
