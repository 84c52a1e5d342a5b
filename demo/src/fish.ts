import { insideRings, type Point } from '@restless-shoal/core/geo';
import { streamOf, tideOf, tideState, type TideRecord } from '@restless-shoal/core/tide';
import { Climate, type Weather } from './climate';
import type { FishKind, FishRules, Ground, Setting } from './fish-rules';
import { Random, smoothNoise } from './random';
import type { World } from './world';

/** A pack of fish or a ball of bait on one day, as it truly is. */
export interface Pack {
  id: number;
  kind: FishKind;
  species: string;
  bait: boolean;
  x: number;
  y: number;
  /** Depth of its middle below the surface, and its half-height, m. */
  depth: number;
  half: number;
  count: number;
  size: 'small' | 'medium' | 'large';
  water: number;
  byCover: boolean;
  /** From when to when it is there, ms: with a tide it moves on. */
  span: [from: number, to: number];
}

const STEP = 25;

/** How far lasting places stretch, m. */
const PLACE_SCALE = 110;
/** How much the day's own chance counts (log scale), and how far it stretches, m. */
const MOOD = 0.8;
const MOOD_SCALE = 260;

/** The fish of a made-up water: they choose places by the water's rules, keep to favourite spots for years, and spread anew each day. */
export class FishWorld {
  readonly ground: Ground[] = [];
  private readonly lasting: Map<string, Float64Array>;

  constructor(
    readonly world: World,
    readonly climate: Climate,
    readonly rules: FishRules,
    /** Its tide, and the mean flow of a river, m/s. */
    readonly tide: TideRecord | null = null,
    readonly flow: number | null = null,
  ) {
    const wood = world.cover.filter((c) => c.kind === 'cover').map((c) => c.points[0]);
    const byWood = new Nearness(wood, 22);
    const byWeed = new Nearness(
      world.cover.filter((c) => c.kind === 'weed').map((c) => middle(c.points)),
      45,
    );
    for (let y = STEP / 2; y < world.height; y += STEP)
      for (let x = STEP / 2; x < world.width; x += STEP) {
        const depth = world.depth(x, y);
        if (depth <= 0.3 || !insideRings(world.outline, x, y)) continue;
        this.ground.push({
          x,
          y,
          depth,
          hard: world.hardness(x, y),
          channel: world.channel(x, y),
          wood: byWood.at(x, y),
          weed: byWeed.at(x, y),
          rise: ringDepth(world, x, y, 70) - depth,
          reach: Array.from({ length: 8 }, (_, k) => reach(world, x, y, k)),
          uphill: uphill(world, x, y),
          toCover: wayTo(wood, x, y, 90),
          flow: world.flowAt?.(x, y).along ?? null,
          seam: seamNear(world, x, y),
        });
      }
    this.lasting = new Map(
      rules.map((kind) => {
        const noise = smoothNoise(world.seed * 17 + 100 + kind.places, PLACE_SCALE);
        return [kind.name, Float64Array.from(this.ground, (g) => Math.exp((kind.lasting ?? 0.9) * noise(g.x, g.y)))];
      }),
    );
  }

  /** What fish know of a day. */
  setting(t: number, sun: number): Setting {
    const weather = this.climate.on(t);
    return {
      weather,
      sun,
      rising: weather.surface > this.climate.on(t - 12 * 86_400_000).surface,
      floor: weather.thermocline != null && weather.deepOxygen < 4 ? weather.thermocline + 0.3 : 40,
      ...this.running(t, weather),
    };
  }

  /** How the water runs at a moment: by the tide, or as a river that is higher in wet weather. */
  running(t: number, { pressure }: Weather = this.climate.on(t)): Pick<Setting, 'stream' | 'fromHigh' | 'tide'> {
    if (this.flow !== null) {
      const stream = { set: 90, rate: this.flow * (1 + 0.25 * Math.tanh((1000 - pressure) / 8)) };
      return { stream, fromHigh: 0, tide: 0 };
    }
    const tide = tideOf(this.tide);
    const state = tide && tideState(tide, t);
    return { stream: state && streamOf(this.tide, t, state), fromHigh: state?.fromHigh ?? 0, tide: state?.height ?? 0 };
  }

  /** Depth of the water at a place and a time, m. */
  depthAt(x: number, y: number, t: number): number {
    return this.world.depth(x, y) + (this.tide ? tideOf(this.tide)!.height(t) : 0);
  }

  /** How much a kind wants each place of the ground on a day, its lasting places counted, before the day's own chance. */
  wants(kind: FishKind, setting: Setting): Float64Array {
    const lasting = this.lasting.get(kind.name)!;
    const blown = (g: Ground): number => {
      const k = Math.round(setting.weather.windFrom / 45) + 8;
      return Math.max(0, g.reach[k % 8] - g.reach[(k + 4) % 8]) / 1500;
    };
    return Float64Array.from(this.ground, (g, i) => lasting[i] * kind.want(g, setting, blown(g)));
  }

  /** Where the day's own chance draws a kind, and how many packs of it there are. */
  private dayOf(
    kind: FishKind,
    wants: Float64Array,
    bait: Point[],
    weather: Weather,
    random: Random,
  ): { running: Float64Array; mean: number } {
    const mood = smoothNoise(Math.floor(random.even(1, 1e6)), MOOD_SCALE);
    const running = new Float64Array(this.ground.length);
    const fed = kind.food ? new Nearness(bait, 70) : null;
    let sum = 0;
    this.ground.forEach((g, i) => {
      const food = fed ? 1 + kind.food * fed.at(g.x, g.y) : 1;
      running[i] = sum += wants[i] * Math.exp(MOOD * mood(g.x, g.y)) * food;
    });
    return { running, mean: kind.packs * Math.exp(random.normal(0, 0.25)) * (weather.surface < 6 ? 0.6 : 1) };
  }

  /** The packs of a day: where and how deep, drawn anew each day about the lasting wants. */
  packsOn(t: number, sun: number, random: Random): Pack[] {
    const setting = this.setting(t, sun);
    const packs: Pack[] = [];
    const bait: Point[] = [];
    for (const kind of this.rules) {
      const { running, mean } = this.dayOf(kind, this.wants(kind, setting), bait, setting.weather, random);
      const n = random.poisson(mean);
      for (let k = 0; k < n; k++) {
        const g = this.ground[random.weighted(running)];
        const pack = this.packAt(kind, g, setting, packs.length, random);
        packs.push(pack);
        if (pack.bait) bait.push([pack.x, pack.y]);
      }
    }
    return packs;
  }

  /**
   * Chance that a scan of each place of the ground shows at least one pack of a kind, to one who knows the rules and
   * the lasting places but not the day's own draws: the mean over so many draws.
   * @param seen chance that a scan of a whole cell shows a pack in it, by place of the ground
   */
  knownChance(name: string, t: number, sun: number, seen: (g: Ground) => number, draws: number, random: Random): Float64Array {
    const setting = this.setting(t, sun);
    const wants = new Map(this.rules.map((kind) => [kind.name, this.wants(kind, setting)]));
    const total = new Float64Array(this.ground.length);
    const wanted = this.rules.find((kind) => kind.name === name)!;
    for (let draw = 0; draw < draws; draw++) {
      const bait: Point[] = [];
      for (const kind of wanted.food ? this.rules.filter((k) => k.bait) : []) {
        const { running, mean } = this.dayOf(kind, wants.get(kind.name)!, bait, setting.weather, random);
        const n = random.poisson(mean);
        const found: Point[] = [];
        for (let k = 0; k < n; k++) {
          const g = this.ground[random.weighted(running)];
          found.push([g.x + random.even(-12, 12), g.y + random.even(-12, 12)]);
        }
        bait.push(...found);
      }
      const { running, mean } = this.dayOf(wanted, wants.get(name)!, bait, setting.weather, random);
      const sum = running[running.length - 1];
      for (let i = 0; i < total.length; i++) {
        const rate = (mean * (running[i] - (i ? running[i - 1] : 0))) / sum;
        total[i] -= Math.expm1(-rate * seen(this.ground[i])) / draws;
      }
    }
    return total;
  }

  private packAt(kind: FishKind, g: Ground, setting: Setting, id: number, random: Random): Pack {
    const [x, y] = [g.x + random.even(-12, 12), g.y + random.even(-12, 12)];
    const water = Math.max(0.4, this.world.depth(x, y) + setting.tide);
    const depth = Math.min(water - 0.1, Math.max(0.3, kind.depth(water, setting, random)));
    const [least, most] = kind.count;
    const count = least === most ? least : random.whole(least, most);
    const big = random.even() + kind.largerBelow * (depth - 5);
    return {
      id,
      kind,
      species: kind.name,
      bait: kind.bait,
      x,
      y,
      depth,
      half: kind.bait ? random.even(0.4, 1.2) : 0.15 + 0.06 * count,
      count,
      size: big > 0.85 ? 'large' : big > 0.4 ? 'medium' : 'small',
      water,
      byCover: g.wood > 0.4,
      span: [-Infinity, Infinity],
    };
  }

  /** Draws for the truth of a test day, apart from those that made the log. */
  drawsOf(n: number): Random {
    return new Random(this.world.seed * 9973 + 7 * n + 1);
  }

  /** What the sounder's thermocline would be measured as. */
  profile(t: number, depth: number): { temperature: number; oxygen: number } {
    const w = this.climate.on(t);
    return { temperature: Climate.temperature(w, depth), oxygen: Climate.oxygen(w, depth) };
  }
}

const middle = (points: Point[]): Point => [
  points.reduce((s, p) => s + p[0], 0) / points.length,
  points.reduce((s, p) => s + p[1], 0) / points.length,
];

/** exp(−distance/scale) to the nearest of some points; nothing beyond four scales. */
class Nearness {
  private readonly reach: number;
  private readonly by = new Map<number, Point[]>();
  constructor(
    points: Point[],
    private readonly scale: number,
  ) {
    this.reach = 4 * scale;
    for (const p of points) {
      const key = this.key(Math.floor(p[0] / this.reach), Math.floor(p[1] / this.reach));
      const list = this.by.get(key);
      if (list) list.push(p);
      else this.by.set(key, [p]);
    }
  }

  private key(i: number, j: number): number {
    return i * 65536 + j;
  }

  at(x: number, y: number): number {
    const { reach, scale } = this;
    const [ci, cj] = [Math.floor(x / reach), Math.floor(y / reach)];
    let nearest = reach * reach;
    for (let i = ci - 1; i <= ci + 1; i++)
      for (let j = cj - 1; j <= cj + 1; j++)
        for (const p of this.by.get(this.key(i, j)) ?? []) {
          const dx = p[0] - x;
          const dy = p[1] - y;
          const square = dx * dx + dy * dy;
          if (square < nearest) nearest = square;
        }
    return nearest < reach * reach ? Math.exp(-Math.sqrt(nearest) / scale) : 0;
  }
}

/** How near the seam of an eddy is, 0–1. */
function seamNear(world: World, x: number, y: number): number {
  const seam = world.flowAt?.(x, y).seam ?? null;
  return seam === null ? 0 : Math.exp(-seam / 20);
}

/** Which way the bottom rises, metres per metre over 50 m. */
function uphill(world: World, x: number, y: number): [number, number] {
  const at = (dx: number, dy: number): number => Math.max(0, world.depth(x + dx, y + dy));
  return [(at(-STEP, 0) - at(STEP, 0)) / (2 * STEP), (at(0, -STEP) - at(0, STEP)) / (2 * STEP)];
}

/** The way to the nearest of some points within reach, of length one; nothing at the point itself. */
function wayTo(points: Point[], x: number, y: number, within: number): [number, number] {
  let [nearest, way]: [number, [number, number]] = [within, [0, 0]];
  for (const [px, py] of points) {
    const d = Math.hypot(px - x, py - y);
    if (d < nearest) [nearest, way] = [d, d > STEP / 2 ? [(px - x) / d, (py - y) / d] : [0, 0]];
  }
  return way;
}

function ringDepth(world: World, x: number, y: number, radius: number): number {
  let sum = 0;
  for (let k = 0; k < 8; k++)
    sum += Math.max(0, world.depth(x + radius * Math.cos((k * Math.PI) / 4), y + radius * Math.sin((k * Math.PI) / 4)));
  return sum / 8;
}

function reach(world: World, x: number, y: number, k: number): number {
  const [dx, dy] = [Math.sin((k * Math.PI) / 4) * 60, Math.cos((k * Math.PI) / 4) * 60];
  let n = 0;
  while (n < 40 && world.depth(x + dx * (n + 1), y + dy * (n + 1)) > 0) n++;
  return n * 60;
}
