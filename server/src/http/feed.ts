import { Router } from 'express';
import type { InferType } from 'yup';
import type { plantedTarget } from '@restless-shoal/core/contract';
import { destination, metricPlane, type LatLon, type MetricPlane, type Point } from '@restless-shoal/core/geo';
import { sPass } from '@restless-shoal/core/passage';
import { targetStrength, type SceneTarget } from '@restless-shoal/core/sonar';
import { loadChart } from '../db/charts';
import type { Pool } from '../db/pool';
import { SimulatedBoat, SimulatedSonar, straightOn, waterScene, type WaterScene } from '../devices';
import { coverOf } from '../db/waters';
import type { Feed } from '../feed';
import { on } from './on';
import { waterOf } from './waters';

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
  on(router, 'GET /feed', () => {
    return state();
  });
  on(router, 'PUT /feed', async ({ body }) => {
    feed.listenTo(body);
    return state();
  });
  on(router, 'DELETE /feed', () => {
    endSimulation();
    feed.listenTo(null);
    return state();
  });
  on(router, 'POST /waters/:water/simulated-boat', async ({ request, body }) => {
    const { id, epsg } = await waterOf(pool, request);
    const { latitude, longitude, course, speed, length, spacing } = body;
    const [chart, cover] = await Promise.all([loadChart(pool, id), coverOf(pool, id)]);
    const from: LatLon = { latitude, longitude };
    const plane = epsg ? metricPlane(epsg) : null;
    const pass = length && spacing ? { start: [0, 0] as Point, heading: course, length, spacing } : null;
    endSimulation();
    if (chart && plane) {
      const planted = body.targets?.map((t, i) => asTarget(t, i, plane)) ?? null;
      water = { plane, scene: waterScene(chart, plane, cover, body.thermocline ?? null, planted, SEED) };
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
      at && { hears: new SimulatedSonar(at.scene, body.companions ?? []), toMetric: (position) => at.plane.toMetric(position) },
    );
    const ports = await boat.start();
    // A simulation is not what the boat listens to the next day.
    feed.listenTo({ host: '127.0.0.1', ...ports }, false);
    return { ...state(), ...ports };
  });
  // Where the simulated boat really is, or was, and what is in the water round it: what marks are measured against.
  on(router, 'GET /feed/truth', ({ request }) => {
    const at = Number(request.query.at ?? Date.now());
    if (!boat || !Number.isFinite(at)) return null;
    const truth = boat.truth(at);
    const targets = water?.scene
      .near(...water.plane.toMetric(truth.position), TOLD)
      .map(({ id, kind, x, y, depth }) => ({ id, kind, ...water!.plane.toLatLon([x, y]), depth }));
    return { at, ...truth, targets: targets ?? [] };
  });
  on(router, 'GET /feed/news', ({ request, response }) => {
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
