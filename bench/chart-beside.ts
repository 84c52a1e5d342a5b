import { parentPort } from 'node:worker_threads';
import { cellsOf, contourLines, type ContourLine, type Surface, type Worked } from '@restless-shoal/core/chart';
import { Raster } from '@restless-shoal/core/geo';
import { SHORE } from './chart-water';

/** What the second thread of a build answers. */
export interface Beside {
  worked: Worked;
  contours: ContourLine[];
}

const raster = ({ x0, y0, size, width, height, data }: Raster): Raster => new Raster(x0, y0, size, width, height, data);
parentPort!.on('message', (sent: Surface) => {
  const surface = { ...sent, depth: raster(sent.depth), hardness: raster(sent.hardness) };
  const answer: Beside = { worked: cellsOf(surface, [SHORE]), contours: contourLines(surface.depth) };
  parentPort!.postMessage(answer);
});
