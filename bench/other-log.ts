import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { seeded } from '@restless-shoal/core/numbers';

// The log of somebody else: a water, fish and an angler made by other rules than those of `demo/`, which nothing here
// was tuned on, written as the files that anyone may bring. Fish follow log-linear rules of depth, hardness, the layer,
// cover and wind, with lasting spots and each day's draw for squares of 250 m.

/** What such a log holds and leaves out. */
export type LogKind = 'all' | 'no conditions' | 'no hardness' | 'no outline' | 'no ranges' | 'sweeps' | 'linked catches' | 'fishing alone';

/** One species, its chance per scan of a whole cell known. */
export interface OtherSpecies {
  name: string;
  /** Marks that were made, over those expected by one who knows the rules but not the days' draws; NaN where fish were not marked by scanning. */
  luck: number;
  /** Chance that a scan of the 25 m cell about a place shows one, on a day. @param day index in `days` */
  chance(latitude: number, longitude: number, day: number): number;
}

export interface OtherLog {
  species: OtherSpecies[];
  /** Days to forecast, in the season after the log's last, and the conditions file of each. */
  days: { at: string; conditions: string }[];
}

interface Rules {
  name: string;
  /** Fish a hectare where everything suits. */
  many: number;
  depth: number;
  deeperByDegree: number;
  spread: number;
  hard: number;
  layer: number;
  cover: number;
  wind: number;
  /** How far over the bottom, m. */
  over: number;
}

const FISH: Rules[] = [
  { name: 'zander', many: 1.5, depth: 8.5, deeperByDegree: -0.15, spread: 2.2, hard: 1.6, layer: 0.6, cover: 0.7, wind: 0.3, over: 0.6 },
  { name: 'perch', many: 3, depth: 5.5, deeperByDegree: -0.12, spread: 1.8, hard: 0.4, layer: 0.2, cover: 1.7, wind: 1, over: 1.2 },
  { name: 'pike', many: 0.8, depth: 2.2, deeperByDegree: 0.05, spread: 1.6, hard: -1.2, layer: 0, cover: 1.1, wind: 0, over: 0.8 },
];
/** Standard deviation of a day's draw for a square of 250 m, log scale. */
const DRAW = 0.8;
const SQUARE = 250;
const RANGE = 20;
const [LATITUDE, LONGITUDE] = [47.3, -35.2];
const [NORTH, EAST] = [111_200, 111_200 * Math.cos((LATITUDE * Math.PI) / 180)];
const DAY = 86_400_000;
const bump = (x: number, y: number, wide: number): number => Math.exp(-(x * x + y * y) / 2 / wide ** 2);

/** Numbers drawn from a seed. */
function drawn(seed: number): { even: () => number; normal: () => number; count: (mean: number) => number } {
  const even = seeded(seed * 7919 + 13);
  const count = (mean: number): number => {
    let [k, p, u] = [0, Math.exp(-mean), even()];
    while (u > p && k < 200) {
      u -= p;
      p *= mean / ++k;
    }
    return k;
  };
  return { even, normal: () => Math.sqrt(-2 * Math.log(1 - even())) * Math.cos(2 * Math.PI * even()), count };
}

/** The ground: depth and hardness of any place, metres from the middle of the water. */
function makeGround({ even, normal }: ReturnType<typeof drawn>) {
  const waves = Array.from({ length: 5 }, (_, k) => [(normal() * 0.18) / (k + 1), even() * 6.28]);
  const [size, narrow, turn] = [620 + 200 * even(), 0.5 + 0.4 * even(), even() * 3.14];
  const shore = (angle: number): number =>
    (size / Math.hypot(Math.cos(angle - turn), Math.sin(angle - turn) / narrow)) *
    (1 + waves.reduce((sum, [high, from], k) => sum + high * Math.cos((k + 2) * angle + from), 0));
  const [deepest, steep] = [10 + 12 * even(), 0.7 + 0.8 * even()];
  const anywhere = (): [number, number] => [normal() * size * 0.5, normal() * size * 0.5];
  const rises = Array.from({ length: 9 }, () => ({
    at: anywhere(),
    high: (even() < 0.6 ? 1 : -0.6) * (1.5 + 4 * even()),
    wide: 40 + 90 * even(),
  }));
  const inward = (x: number, y: number): number => 1 - Math.hypot(x, y) / shore(Math.atan2(y, x));
  const depth = (x: number, y: number): number => {
    const q = inward(x, y);
    if (q <= 0) return 0;
    const plain = deepest * Math.min(1, (q * 1.6) ** steep);
    return Math.max(
      0.2,
      rises.reduce((d, r) => d - r.high * Math.min(1, plain / 4) * bump(x - r.at[0], y - r.at[1], r.wide), plain),
    );
  };
  const swells = Array.from({ length: 6 }, () => [normal() / 160, normal() / 160, even() * 6.28]);
  const hard = (x: number, y: number): number =>
    1 / (1 + Math.exp(-(1.1 * swells.reduce((s, [a, b, c]) => s + Math.sin(a * x + b * y + c), 0) - 0.12 * depth(x, y) + 0.6)));
  return { shore, inward, depth, hard, deepest, anywhere };
}

/** Makes a log and writes it as a folder of files. */
export function writeOtherLog(folder: string, kind: LogKind, seed: number, trips = 60): OtherLog {
  const random = drawn(seed);
  const { even, normal, count } = random;
  const ground = makeGround(random);
  const { depth, hard, deepest, anywhere } = ground;
  const inWater = (min: number, max: number): [number, number] => {
    for (;;) {
      const [x, y] = anywhere();
      if (depth(x, y) > min && depth(x, y) < max) return [x, y];
    }
  };
  const cover = Array.from({ length: 30 }, () => ({ at: inWater(2, 9), kind: even() < 0.5 ? 'brush' : 'timber' }));
  const spots = FISH.map(() => Array.from({ length: 6 }, () => ({ at: inWater(1, 60), good: 0.8 + even() })));
  const warm = (t: number): number => 12 - 9 * Math.cos((((t / DAY) % 365.25) - 25) * (6.2832 / 365.25));
  const layerAt = (t: number): number | null => (warm(t) > 14 ? 4 + deepest * 0.12 + (20 - warm(t)) * 0.35 : null);
  let wind: [from: number, speed: number] = [0, 0];
  /** How much the wind blows on to the shore next to a place, 0–1. */
  const blown = (x: number, y: number): number => {
    const q = ground.inward(x, y);
    const [angle, from] = [Math.atan2(y, x), (wind[0] * Math.PI) / 180];
    const onto = -(Math.cos(angle) * Math.sin(from) + Math.sin(angle) * Math.cos(from));
    return q > 0.3 ? 0 : Math.max(0, onto) * Math.min(1, wind[1] / 6) * (1 - q / 0.3);
  };
  /** Fish a square metre. */
  const density = (k: number, x: number, y: number, t: number): number => {
    const [d, fish, layer] = [depth(x, y), FISH[k], layerAt(t)];
    if (d <= 0) return 0;
    let log = -((d - fish.depth - fish.deeperByDegree * (warm(t) - 12)) ** 2) / (2 * fish.spread ** 2) + fish.hard * (hard(x, y) - 0.5);
    if (layer !== null) log += fish.layer * (bump(d - layer, 0, 1.5) - (d > layer + 3 ? 1.5 : 0));
    log += fish.cover * Math.max(...cover.map((c) => bump(x - c.at[0], y - c.at[1], 15))) + fish.wind * blown(x, y);
    for (const s of spots[k]) log += s.good * bump(x - s.at[0], y - s.at[1], 45);
    return (fish.many * Math.exp(log)) / 10_000;
  };
  const shown = (d: number): number => (kind === 'sweeps' ? 0.7 : 0.6) * (d < 1.2 ? 0.6 : 1);

  const files: Record<string, string[]> = {
    trips: ['trip,start,end,purpose'],
    conditions: ['trip,time,surface_temperature_c,secchi_m,wind_from_deg,wind_speed_ms,cloud_fraction'],
    profiles: ['trip,profile,time,depth_m,temperature_c'],
    track: ['trip,time,latitude,longitude,mode,depth_m,heading_deg,view,port_range_m,starboard_range_m,sector_deg,sector_range_m'],
    contacts: ['trip,time,latitude,longitude,kind,contact,same_as,view,species,confidence,confirmed,water_depth_m,top_m,bottom_m'],
    stops: ['trip,stop,start,end,latitude,longitude,radius_m,rods,outcome'],
    soundings: [`time,latitude,longitude,depth_m${kind === 'no hardness' ? '' : ',hardness'}`],
  };
  const where = (x: number, y: number): string => `${(LATITUDE + y / NORTH).toFixed(7)},${(LONGITUDE + x / EAST).toFixed(7)}`;
  const time = (t: number): string => new Date(Math.round(t / 1000) * 1000).toISOString();
  const sound = (x: number, y: number, t: number): void => {
    const hardness = kind === 'no hardness' ? '' : `,${Math.min(1, Math.max(0, hard(x, y) + 0.07 * normal())).toFixed(2)}`;
    files.soundings.push(`${time(t)},${where(x, y)},${(depth(x, y) * (1 + 0.01 * normal())).toFixed(2)}${hardness}`);
  };
  const [marked, expected] = [new Float64Array(FISH.length), new Float64Array(FISH.length)];
  let keys = 0;
  const view = kind === 'sweeps' ? 'forward-facing' : 'side-scan';
  const mark = (trip: string, k: number, x: number, y: number, t: number): void => {
    const [fish, d] = [FISH[k], depth(x, y)];
    const key = `C${++keys}`;
    const settled = even() < 0.12;
    const taken = even() < 0.25 && (!settled || kind === 'linked catches') ? FISH[Math.floor(even() * FISH.length)].name : fish.name;
    const top = Math.max(0.3, d - fish.over - 0.4 + 0.3 * normal());
    const [px, py] = [x + 2 * normal(), y + 2 * normal()];
    const camera = settled && kind !== 'linked catches';
    const depths = `${d.toFixed(1)},${top.toFixed(1)},${(top + 0.4).toFixed(1)}`;
    files.contacts.push(
      `${trip},${time(t)},${where(px, py)},fish,${key},,${view},${taken},${camera ? '' : 0.6},${camera ? 'camera' : 'none'},${depths}`,
    );
    if (settled && !camera)
      files.contacts.push(`${trip},${time(t + 600_000)},${where(px, py)},fish,L${keys},${key},line,${fish.name},1,catch,${d.toFixed(1)},,`);
  };

  for (let n = 0; n < trips; n++) {
    const trip = `T${n + 1}`;
    const season = (n * 2) / trips;
    const start = Date.UTC(2021 + Math.floor(season), 3, 15) + (Math.floor((season % 1) * 200 + 3 * even()) + (5 + 8 * even()) / 24) * DAY;
    wind = [Math.floor(even() * 360), 1 + 6 * even()];
    const draws = new Map<string, number>();
    const draw = (k: number, x: number, y: number): number => {
      const square = `${k} ${Math.floor(x / SQUARE)} ${Math.floor(y / SQUARE)}`;
      if (!draws.has(square)) draws.set(square, Math.exp(DRAW * normal() - DRAW ** 2 / 2));
      return draws.get(square)!;
    };
    const look = (k: number, x: number, y: number, t: number, area: number): void => {
      const mean = density(k, x, y, t) * area * shown(depth(x, y));
      expected[k] += mean;
      const seen = count(mean * draw(k, x, y));
      marked[k] += seen;
      for (let i = 0; i < seen; i++) mark(trip, k, x, y, t + 2000);
    };
    let t = start;
    for (let leg = 0; leg < 7; leg++) {
      const [x0, y0] = inWater(1.5, even() < 0.6 ? 11 : 60);
      const course = even() * 6.2832;
      const [ux, uy] = [Math.sin(course), Math.cos(course)];
      t += 240_000;
      if (kind === 'fishing alone') {
        const outcome = FISH.flatMap((fish, k) => {
          let sum = 0;
          for (let a = 0; a < 20; a++) {
            const off = 25 * Math.sqrt((a + 0.5) / 20);
            sum += density(k, x0 + off * Math.cos(a * 2.4), y0 + off * Math.sin(a * 2.4), t);
          }
          return Array.from({ length: count((sum / 20) * 1963 * 0.6 * draw(k, x0, y0)) }, () => fish.name);
        });
        outcome.forEach((name) =>
          files.contacts.push(
            `${trip},${time(t + 900_000 * even())},${where(x0 + 5 * normal(), y0 + 5 * normal())},fish,F${++keys},,line,${name},1,catch,${depth(x0, y0).toFixed(1)},,`,
          ),
        );
        files.stops.push(`${trip},S${leg},${time(t)},${time(t + 900_000)},${where(x0, y0)},25,1,${outcome.length ? 'fish' : 'nothing'}`);
        t += 1_200_000;
        continue;
      }
      const steps = kind === 'sweeps' ? 8 : Math.floor(31 + 31 * even());
      for (let i = 0; i < steps; i++) {
        const step = kind === 'sweeps' ? 55 : 8;
        const [x, y] = [x0 + ux * step * i, y0 + uy * step * i];
        const d = depth(x, y);
        if (d < 0.8) break;
        sound(x, y, t);
        const fix = `${trip},${time(t)},${where(x, y)}`;
        if (kind === 'sweeps') {
          const heading = even() * 360;
          files.track.push(`${fix},sweep,${d.toFixed(1)},${heading.toFixed(0)},forward-facing,,,150,${RANGE}`);
          for (let a = 0; a < 12; a++) {
            const [off, angle] = [RANGE * Math.sqrt((a + 0.5) / 12), ((heading + 150 * (even() - 0.5)) * Math.PI) / 180];
            FISH.forEach((_, k) =>
              look(k, x + off * Math.sin(angle), y + off * Math.cos(angle), t, ((150 / 360) * Math.PI * RANGE ** 2) / 12),
            );
          }
          t += 120_000;
          continue;
        }
        const range = kind === 'no ranges' ? '' : RANGE;
        files.track.push(`${fix},scan,${d.toFixed(1)},${((course * 180) / Math.PI).toFixed(0)},side-scan,${range},${range},,`);
        // The last fix of a leg has no strip before it.
        if (i < steps - 1 && depth(x + ux * step, y + uy * step) >= 0.8)
          for (let a = 0; a < 6; a++) {
            // The range is a slant range: over the ground it reaches less far.
            const ground = Math.sqrt(Math.max(0, RANGE ** 2 - Math.max(0, d - 0.4) ** 2));
            const off = (((a + 0.5) / 6) * 2 - 1) * ground;
            const along = step * even();
            FISH.forEach((_, k) => look(k, x + ux * along + uy * off, y + uy * along - ux * off, t, (step * 2 * ground) / 6));
          }
        t += 5000;
      }
    }
    files.trips.push(`${trip},${time(start)},${time(t + 600_000)},guide`);
    files.conditions.push(
      `${trip},${time(start)},${(warm(start) + 0.4 * normal()).toFixed(1)},${(2 + 1.5 * even()).toFixed(1)},${wind[0]},${wind[1].toFixed(1)},${even().toFixed(2)}`,
    );
    for (let z = 0; n % 2 === 0 && z < deepest; z++) {
      const [layer, top] = [layerAt(start), warm(start)];
      const degrees = layer === null ? Math.max(4, top - 0.05 * z) : 6 + (top - 6) / (1 + Math.exp((z - layer) * 1.3));
      files.profiles.push(`${trip},P${n},${time(start + 600_000)},${z},${degrees.toFixed(1)}`);
    }
  }
  // Who only fishes has had the water sounded by somebody.
  if (kind === 'fishing alone')
    for (let x = -1200; x < 1200; x += 12)
      for (let y = -1200; y < 1200; y += 40) if (depth(x, y) > 0.4) sound(x, y, Date.UTC(2021, 3, 1) + files.soundings.length * 1000);

  mkdirSync(folder, { recursive: true });
  for (const [name, lines] of Object.entries(files)) {
    if (lines.length < 2 || (kind === 'no conditions' && (name === 'conditions' || name === 'profiles'))) continue;
    writeFileSync(join(folder, `${name}.csv`), `${lines.join('\n')}\n`);
  }
  const place = ([x, y]: [number, number]): [number, number] => [LONGITUDE + x / EAST, LATITUDE + y / NORTH];
  const ring = Array.from({ length: 241 }, (_, i): [number, number] => {
    const angle = ((i % 240) / 240) * 2 * Math.PI;
    return place([ground.shore(angle) * Math.cos(angle), ground.shore(angle) * Math.sin(angle)]);
  });
  const json = (name: string, value: unknown): void => writeFileSync(join(folder, name), JSON.stringify(value));
  if (kind !== 'no outline')
    json('outline.geojson', { type: 'Feature', properties: {}, geometry: { type: 'Polygon', coordinates: [ring] } });
  json('cover.geojson', {
    type: 'FeatureCollection',
    features: cover.map((c) => ({
      type: 'Feature',
      properties: { kind: 'cover', cover: c.kind },
      geometry: { type: 'Point', coordinates: place(c.at) },
    })),
  });

  const winds: [number, number][] = [
    [40, 2],
    [300, 5],
    [170, 7],
    [250, 4],
    [90, 6],
  ];
  const days = [20, 55, 95, 140, 185].map((after) => Date.UTC(2023, 3, 15) + after * DAY + 9 * 3_600_000);
  return {
    species: FISH.map(({ name }, k) => ({
      name,
      luck: expected[k] > 0 ? marked[k] / expected[k] : NaN,
      chance: (latitude, longitude, day) => {
        wind = winds[day];
        const [x, y] = [(longitude - LONGITUDE) * EAST, (latitude - LATITUDE) * NORTH];
        let mean = 0;
        for (const [dx, dy] of [
          [-8, -8],
          [8, -8],
          [-8, 8],
          [8, 8],
          [0, 0],
        ])
          mean += density(k, x + dx, y + dy, days[day]) * shown(depth(x + dx, y + dy)) * 125;
        // Over the day's draw, by the trapezium rule.
        let [sum, weights] = [0, 0];
        for (let z = -3; z <= 3; z += 0.25) {
          const weight = Math.exp((-z * z) / 2);
          sum += weight * -Math.expm1(-mean * Math.exp(DRAW * z - DRAW ** 2 / 2));
          weights += weight;
        }
        return sum / weights;
      },
    })),
    days: days.map((t, i) => ({
      at: time(t),
      conditions: `trip,time,surface_temperature_c,secchi_m,wind_from_deg,wind_speed_ms,cloud_fraction\nX,${time(t - 3_600_000)},${warm(t).toFixed(1)},2.5,${winds[i][0]},${winds[i][1]},0.5\n`,
    })),
  };
}
