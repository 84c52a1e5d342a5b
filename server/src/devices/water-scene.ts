import type { Chart } from '@restless-shoal/core/chart';
import { cellCentre, type MetricPlane, type Point } from '@restless-shoal/core/geo';
import type { CoverFeature } from '@restless-shoal/core/logbook';
import { targetStrength, type Scene, type SceneTarget } from '@restless-shoal/core/sonar';

/** Reproducible chance. */
function chance(seed: number): () => number {
  let state = (seed % 2147483646) + 1;
  return () => (state = (state * 16807) % 2147483647) / 2147483647;
}

/** Bucket of the lookup by place, m. */
const BUCKET = 25;
/** Things drawn of one area of weed, at most. */
const STALKS = 400;
/** Hard enough and rough enough where the chart does not know. */
const HARDNESS = 0.4;

const single = (id: string, x: number, y: number, depth: number, length: number): SceneTarget => ({
  id,
  kind: 'fish',
  x,
  y,
  depth,
  radius: 0,
  half: 0,
  strength: targetStrength(length),
});

/** Timber and weed of a water's cover, as a sonar meets them. */
function standing(cover: CoverFeature[], plane: MetricPlane, depthAt: (x: number, y: number) => number): SceneTarget[] {
  const out: SceneTarget[] = [];
  const add = (kind: 'timber' | 'weed', [x, y]: Point, tall: number, radius: number, strength: number): void => {
    const bottom = depthAt(x, y);
    const height = Math.min(tall, bottom * 0.8);
    if (bottom > 0.5) out.push({ id: `${kind} ${out.length}`, kind, x, y, depth: bottom - height / 2, radius, half: height / 2, strength });
  };
  for (const { kind, geometry, height_m } of cover) {
    if (kind !== 'cover' && kind !== 'weed') continue;
    const to = (p: readonly number[]): Point => plane.toMetric({ longitude: p[0], latitude: p[1] });
    const rings =
      geometry.type === 'Polygon'
        ? [geometry.coordinates[0]]
        : geometry.type === 'MultiPolygon'
          ? geometry.coordinates.map((p) => p[0])
          : [];
    if (geometry.type === 'Point') add('timber', to(geometry.coordinates), height_m ?? 2, 2.5, -30);
    else if (geometry.type === 'LineString') geometry.coordinates.forEach((p) => add('timber', to(p), height_m ?? 1.5, 2, -30));
    for (const ring of rings) {
      const points = ring.map(to);
      const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
      const random = chance(points.length + Math.round(xs[0]));
      const middle: Point = [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2];
      for (let k = 0; k < STALKS; k++) {
        // Between the middle and the edge: inside wherever the area bulges outward.
        const edge = points[Math.floor(random() * points.length)];
        const share = Math.sqrt(random());
        const at: Point = [middle[0] + share * (edge[0] - middle[0]), middle[1] + share * (edge[1] - middle[1])];
        if (kind === 'weed') add('weed', at, height_m ?? 1, 1, -44);
        else if (k < STALKS / 8) add('timber', at, height_m ?? 2, 2, -30);
      }
    }
  }
  return out;
}

/** Fish and bait for practice: about timber and scattered over the water, the same for the same seed. Not where the log's fish were. */
function living(chart: Chart, timber: SceneTarget[], seed: number): SceneTarget[] {
  const random = chance(seed);
  const out: SceneTarget[] = [];
  const fish = (x: number, y: number, up: number): void => {
    const bottom = chart.depth.between(x, y);
    if (bottom > 1.5) out.push(single(`fish ${out.length}`, x, y, Math.max(0.8, bottom - up), 0.25 + 0.35 * random()));
  };
  for (const t of timber)
    if (t.kind === 'timber' && random() < 0.5)
      for (let k = Math.floor(1 + 3 * random()); k > 0; k--) {
        const turn = 2 * Math.PI * random();
        fish(t.x + (3 + 3 * random()) * Math.cos(turn), t.y + (3 + 3 * random()) * Math.sin(turn), 0.6 + 1.6 * random());
      }
  const { cells } = chart;
  for (let i = 0; i < cells.count; i++) {
    if (!(cells.depth[i] > 2)) continue;
    const [x, y] = cellCentre(cells.column[i], cells.row[i]).map((v) => v + 20 * (random() - 0.5));
    // A pack here and there, close to the bottom.
    if (random() < 0.35)
      for (let k = Math.floor(3 + 6 * random()); k > 0; k--)
        fish(x + 16 * (random() - 0.5), y + 16 * (random() - 0.5), 0.5 + 2.5 * random());
    if (random() < 0.05 && cells.depth[i] > 4)
      out.push({
        id: `bait ${out.length}`,
        kind: 'bait',
        x,
        y,
        depth: cells.depth[i] * (0.3 + 0.35 * random()),
        radius: 1.5 + 2.5 * random(),
        half: 0.5 + 0.7 * random(),
        strength: -38,
      });
  }
  return out;
}

export interface WaterScene extends Scene {
  /** Everything in it. */
  targets: SceneTarget[];
}

/**
 * The water of a chart as a sonar meets it: its bottom and hardness, its cover, and what lives in it.
 * @param planted things put there; without them there is made-up life by the seed
 */
export function waterScene(
  chart: Chart,
  plane: MetricPlane,
  cover: CoverFeature[],
  thermocline: Scene['thermocline'],
  planted: SceneTarget[] | null,
  seed: number,
): WaterScene {
  const depthAt = (x: number, y: number): number => chart.depth.between(x, y);
  const stands = standing(cover, plane, depthAt);
  const targets = [...stands, ...(planted ?? living(chart, stands, seed))];
  const buckets = new Map<string, SceneTarget[]>();
  for (const t of targets) {
    const key = `${Math.floor(t.x / BUCKET)} ${Math.floor(t.y / BUCKET)}`;
    if (buckets.has(key)) buckets.get(key)!.push(t);
    else buckets.set(key, [t]);
  }
  return {
    targets,
    depthAt,
    hardnessAt: (x, y) => {
      const hard = chart.hardness.between(x, y);
      return Number.isNaN(hard) ? HARDNESS : hard;
    },
    near: (x, y, reach) => {
      const out: SceneTarget[] = [];
      for (let c = Math.floor((x - reach - 5) / BUCKET); c <= (x + reach + 5) / BUCKET; c++)
        for (let r = Math.floor((y - reach - 5) / BUCKET); r <= (y + reach + 5) / BUCKET; r++)
          for (const t of buckets.get(`${c} ${r}`) ?? []) if (Math.hypot(t.x - x, t.y - y) <= reach + t.radius) out.push(t);
      return out;
    },
    thermocline,
  };
}
