import { Router } from 'express';
import { array, number, object, string, type InferType } from 'yup';
import { destination, metricPlane, type LatLon, type MetricPlane, type Point } from '@restless-shoal/core/geo';
import { sPass } from '@restless-shoal/core/passage';
import { targetStrength, type SceneTarget } from '@restless-shoal/core/sonar';
import { loadChart } from '../db/charts';
import type { Pool } from '../db/pool';
import { COMPANIONS, SimulatedBoat, SimulatedSonar, straightOn, waterScene, type WaterScene } from '../devices';
import { coverOf } from '../db/waters';
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
  echoPort: number().strict().typeError('must be a number').integer('must be a whole number').min(1, 'must be from 1 to 65535').max(65535, 'must be from 1 to 65535').nullable(), // prettier-ignore
})
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict();

const finite = (least: number, most: number) =>
  number()
    .strict()
    .typeError('must be a number')
    .min(least, `must be from ${least} to ${most}`)
    .max(most, `must be from ${least} to ${most}`);
const plantedTarget = object({
  kind: string()
    .oneOf(['fish', 'bait', 'timber'] as const, 'must be fish, bait or timber')
    .required('is missing'),
  latitude: finite(-90, 90).required('is missing'),
  longitude: finite(-180, 180).required('is missing'),
  /** Of its middle, m below the surface. */
  depth: finite(0, 500).required('is missing'),
  /** Of a fish, m. */
  length: finite(0.02, 5),
  radius: finite(0, 50),
  height: finite(0, 50),
}).noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`);
const simulationRequest = object({
  latitude: finite(-90, 90).required('is missing'),
  longitude: finite(-180, 180).required('is missing'),
  course: finite(0, 360).required('is missing'),
  speed: finite(0, 30).required('is missing'),
  /** Lines of an S-pass, m; straight on without. */
  length: finite(1, 100_000).nullable(),
  spacing: finite(1, 10_000).nullable(),
  /** What goes along with it and may be taken for fish. */
  companions: array(
    string()
      .oneOf([...COMPANIONS], `must be one of ${COMPANIONS.join(', ')}`)
      .required('is missing'),
  ),
  thermocline: object({ top: finite(0, 500).required('is missing'), bottom: finite(0, 500).required('is missing') })
    .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
    .nullable(),
  /** Things in the water, in place of those made up for practice. */
  targets: array(plantedTarget).nullable(),
})
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict();

type Planted = InferType<typeof plantedTarget>;
const STRENGTH = { bait: -38, timber: -30 };

/** A planted thing as a sonar meets it. */
function asTarget(
  { kind, latitude, longitude, depth, length = 0.45, radius = 2, height = 2 }: Planted,
  id: number,
  plane: MetricPlane,
): SceneTarget {
  const [x, y] = plane.toMetric({ latitude, longitude });
  const at = { id: `${kind} ${id}`, kind, x, y, depth };
  return kind === 'fish'
    ? { ...at, radius: 0, half: 0, strength: targetStrength(length) }
    : { ...at, radius, half: height / 2, strength: STRENGTH[kind] };
}

/** Of the life made up for practice. */
const SEED = 20;
/** More than this waiting for a page, bytes, and it misses pings. */
const BEHIND = 500_000;
/** How far round the boat the truth tells of, m. */
const TOLD = 80;

/** The boat's network, and the simulated boat that can stand in for it. */
export function feedRoutes(pool: Pool, feed: Feed): Router {
  const router = Router();
  let boat: SimulatedBoat | null = null;
  let water: { scene: WaterScene; plane: MetricPlane } | null = null;
  const state = () => ({ ...feed.state, simulated: boat !== null });
  const endSimulation = (): void => {
    boat?.stop();
    boat = water = null;
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
    const { id, epsg } = await waterOf(pool, request);
    const asked = await simulationRequest.validate(request.body);
    const { latitude, longitude, course, speed, length, spacing } = asked;
    const [chart, cover] = await Promise.all([loadChart(pool, id), coverOf(pool, id)]);
    const from: LatLon = { latitude, longitude };
    const plane = epsg ? metricPlane(epsg) : null;
    const pass = length && spacing ? { start: [0, 0] as Point, heading: course, length, spacing } : null;
    endSimulation();
    if (chart && plane) {
      const planted = asked.targets?.map((t, i) => asTarget(t, i, plane)) ?? null;
      water = { plane, scene: waterScene(chart, plane, cover, asked.thermocline ?? null, planted, SEED) };
    }
    const at = water;
    boat = new SimulatedBoat(
      {
        speed,
        at: pass
          ? (travelled) => {
              const { at, course: heading } = sPass(pass, travelled);
              const [east, north] = at;
              const turn = (Math.atan2(east, north) * 180) / Math.PI;
              return { position: destination(from, turn, Math.hypot(east, north)), course: heading };
            }
          : straightOn(from, course),
        depthAt: (position) => {
          const depth = at ? at.scene.depthAt(...at.plane.toMetric(position)) : NaN;
          return depth > 0 ? depth : null;
        },
      },
      at && { hears: new SimulatedSonar(at.scene, asked.companions ?? []), toMetric: (position) => at.plane.toMetric(position) },
    );
    const ports = await boat.start();
    // A simulation is not what the boat listens to the next day.
    feed.listenTo({ host: '127.0.0.1', ...ports }, false);
    response.status(201).json({ ...state(), ...ports });
  });
  // Where the simulated boat really is, or was, and what is in the water round it: what marks are measured against.
  router.get('/feed/truth', (request, response) => {
    const at = Number(request.query.at ?? Date.now());
    if (!boat || !Number.isFinite(at)) return void response.json(null);
    const truth = boat.truth(at);
    const targets = water?.scene
      .near(...water.plane.toMetric(truth.position), TOLD)
      .map(({ id, kind, x, y, depth }) => ({ id, kind, ...water!.plane.toLatLon([x, y]), depth }));
    response.json({ at, ...truth, targets: targets ?? [] });
  });
  router.get('/feed/news', (request, response) => {
    // no-transform: compression would hold back what has just happened.
    response.writeHead(200, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store, no-transform' });
    response.write(': here\n\n');
    const ends = [feed.onNews((news) => response.write(`data: ${JSON.stringify(news)}\n\n`))];
    if (request.query.echoes !== undefined)
      ends.push(
        feed.onEcho((line, at) => {
          // A page that cannot keep up misses pings rather than hearing them late.
          if (response.writableLength < BEHIND) response.write(`event: echo\nid: ${at}\ndata: ${line}\n\n`);
        }),
      );
    const beat = setInterval(() => response.write(': still here\n\n'), 15_000);
    request.on('close', () => {
      ends.forEach((end) => end());
      clearInterval(beat);
    });
  });
  return router;
}
