import { Router } from 'express';
import { number, object, string } from 'yup';
import { metricPlane, type LatLon } from '@restless-shoal/core/geo';
import { sPass } from '@restless-shoal/core/passage';
import { loadChart } from '../db/charts';
import type { Pool } from '../db/pool';
import { SimulatedBoat, straightOn } from '../devices';
import type { Feed } from '../feed';
import { waterOf } from './waters';

const settingsRequest = object({
  host: string()
    .strict()
    .typeError('must be text')
    .trim()
    .matches(/^[A-Za-z0-9.:_-]{1,253}$/, 'is no host name or address')
    .required('is missing'),
  port: number().strict().typeError('must be a number').integer('must be a whole number').min(1, 'must be from 1 to 65535').max(65535, 'must be from 1 to 65535').required('is missing'), // prettier-ignore
})
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict();

const finite = (least: number, most: number) =>
  number()
    .strict()
    .typeError('must be a number')
    .min(least, `must be from ${least} to ${most}`)
    .max(most, `must be from ${least} to ${most}`);
const simulationRequest = object({
  latitude: finite(-90, 90).required('is missing'),
  longitude: finite(-180, 180).required('is missing'),
  course: finite(0, 360).required('is missing'),
  speed: finite(0, 30).required('is missing'),
  /** Lines of an S-pass, m; straight on without. */
  length: finite(1, 100_000).nullable(),
  spacing: finite(1, 10_000).nullable(),
})
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict();

/** The boat's network, and the simulated boat that can stand in for it. */
export function feedRoutes(pool: Pool, feed: Feed): Router {
  const router = Router();
  let boat: SimulatedBoat | null = null;
  const state = () => ({ ...feed.state, simulated: boat !== null });
  const endSimulation = (): void => {
    boat?.stop();
    boat = null;
  };
  router.get('/feed', (_request, response) => {
    response.json(state());
  });
  router.put('/feed', async (request, response) => {
    const settings = await settingsRequest.validate(request.body);
    feed.listenTo(settings);
    response.json(state());
  });
  router.delete('/feed', (_request, response) => {
    endSimulation();
    feed.listenTo(null);
    response.json(state());
  });
  router.post('/waters/:water/simulated-boat', async (request, response) => {
    const water = await waterOf(pool, request);
    const { latitude, longitude, course, speed, length, spacing } = await simulationRequest.validate(request.body);
    const chart = await loadChart(pool, water.id);
    const from: LatLon = { latitude, longitude };
    const plane = water.epsg ? metricPlane(water.epsg) : null;
    const pass = plane && length && spacing ? { start: plane.toMetric(from), heading: course, length, spacing } : null;
    endSimulation();
    boat = new SimulatedBoat({
      speed,
      at: pass
        ? (travelled) => {
            const { at, course: heading } = sPass(pass, travelled);
            return { position: plane!.toLatLon(at), course: heading };
          }
        : straightOn(from, course),
      depthAt: (position) => {
        const depth = chart && plane ? chart.depth.at(...plane.toMetric(position)) : NaN;
        return depth > 0 ? depth : null;
      },
    });
    const port = await boat.start();
    // A simulation is not what the boat listens to the next day.
    feed.listenTo({ host: '127.0.0.1', port }, false);
    response.status(201).json({ ...state(), port });
  });
  // Where the simulated boat really is, or was: what marks are measured against.
  router.get('/feed/truth', (request, response) => {
    const at = Number(request.query.at ?? Date.now());
    response.json(boat && Number.isFinite(at) ? { at, ...boat.truth(at) } : null);
  });
  router.get('/feed/news', (request, response) => {
    // no-transform: compression would hold back what has just happened.
    response.writeHead(200, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store, no-transform' });
    response.write(': here\n\n');
    const end = feed.onNews((news) => response.write(`data: ${JSON.stringify(news)}\n\n`));
    const beat = setInterval(() => response.write(': still here\n\n'), 15_000);
    request.on('close', () => {
      end();
      clearInterval(beat);
    });
  });
  return router;
}
