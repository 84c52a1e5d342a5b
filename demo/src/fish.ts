import { insideRings, type Point } from '@restless-shoal/core/geo';
import { Climate, type Weather } from './climate';
import { Random, smoothNoise } from './random';
import type { World } from './world';

/** A pack of fish or a ball of bait on one day, as it truly is. */
export interface Pack {
  id: number;
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
}

/** Places of the world sampled every 25 m, with what fish care about. */
interface Ground {
  x: number;
  y: number;
  depth: number;
  hard: number;
  channel: number;
  wood: number;
  weed: number;
  /** How much higher than the water round it, m. */
  rise: number;
  /** How far the shore lies in each of eight directions, m. */
  reach: number[];
}

const STEP = 25;

/**
 * The fish of a demo water. Their rules are written for this world alone: they choose places by products of wants,
 * keep to favourite spots for years, and spread anew each day.
 */
export class FishWorld {
  readonly ground: Ground[] = [];
  private readonly lasting: Record<string, (x: number, y: number) => number>;

  constructor(
    readonly world: World,
    readonly climate: Climate,
  ) {
    const wood = world.cover.filter((c) => c.kind === 'cover').map((c) => c.points[0]);
    const weed = world.cover.filter((c) => c.kind === 'weed').map((c) => middle(c.points));
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
          wood: nearness(wood, x, y, 22),
          weed: nearness(weed, x, y, 45),
          rise: ringDepth(world, x, y, 70) - depth,
          reach: Array.from({ length: 8 }, (_, k) => reach(world, x, y, k)),
        });
      }
    this.lasting = Object.fromEntries(
      ['zander', 'perch', 'pike', 'bream', 'vendace', 'smelt', 'roach'].map((name, k) => [
        name,
        smoothNoise(world.seed * 17 + 100 + k, 110),
      ]),
    );
  }

  /** How much a species wants a place on a day, before the day's own chance. */
  want(species: string, g: Ground, w: Weather, sun: number, rising: boolean): number {
    const t = w.surface;
    const floor = w.thermocline != null && w.deepOxygen < 4 ? w.thermocline + 0.3 : 40;
    const lasting = Math.exp(0.9 * this.lasting[species](g.x, g.y));
    const blown = Math.max(0, g.reach[(Math.round(w.windFrom / 45) + 8) % 8] - g.reach[(Math.round(w.windFrom / 45) + 12) % 8]) / 1500;
    const bell = (mean: number, spread: number): number => Math.exp(-0.5 * ((g.depth - mean) / spread) ** 2);
    switch (species) {
      case 'zander': {
        if (rising && t > 9.5 && t < 15) return lasting * bell(3.2, 1.1) * (0.1 + 2 * g.hard ** 2);
        const best = t < 9.5 ? 10 : w.thermocline != null ? Math.min(floor - 0.9, 7.2) - (sun < 8 ? 1.4 : 0) : 9;
        const edge = 0.25 + 1.6 * g.hard * g.hard + 0.9 * Math.max(0, g.rise) * 0.6 + 0.7 * g.channel * (1 - g.channel) * 4 * 0.5;
        return lasting * bell(best, 1.3 + 0.06 * best) * edge * (1 + 1.7 * g.wood) * (1 + 0.8 * Math.min(1, blown));
      }
      case 'perch': {
        const best = t < 8 ? 8.5 : t < 15 ? 3.2 : w.thermocline != null ? 4.6 : 6.5;
        return lasting * bell(best, 1.5) * (0.3 + 0.8 * g.weed + 0.9 * g.wood + 0.7 * Math.max(0, g.rise)) * (1 + 0.5 * Math.min(1, blown));
      }
      case 'pike': {
        const best = t < 12 ? 2.2 : t > 20 ? 5.2 : 3.4;
        return lasting * bell(best, 1.2) * (0.12 + 1.6 * g.weed + 0.7 * g.wood);
      }
      case 'bream':
        return lasting * bell(t < 9 ? 9 : 5.5, 1.8) * (1.1 - g.hard);
      case 'roach':
        return lasting * bell(t < 9 ? 7 : 2.6, 1.6) * (0.2 + 1.2 * g.weed + 0.5 * g.wood);
      case 'smelt':
        return lasting * (g.depth > 5 ? 1 : 0.05) * (0.4 + 1.8 * Math.min(1, blown)) * (0.5 + g.channel);
      default:
        return lasting * (g.depth > (w.thermocline ?? 7) ? 1 : 0.03) * (0.6 + Math.min(1, blown));
    }
  }

  /** Mean packs of a species on the whole water. */
  static readonly PACKS: Record<string, number> = { zander: 170, perch: 210, pike: 150, bream: 60, vendace: 90, smelt: 100, roach: 80 };

  /** The packs of a day: where and how deep, drawn anew each day about the lasting wants. */
  packsOn(t: number, sun: number, random: Random): Pack[] {
    const w = this.climate.on(t);
    const rising = this.climate.on(t).surface > this.climate.on(t - 12 * 86_400_000).surface;
    const packs: Pack[] = [];
    const bait: Point[] = [];
    for (const species of ['vendace', 'smelt', 'roach', 'zander', 'perch', 'pike', 'bream']) {
      const mood = smoothNoise(Math.floor(random.even(1, 1e6)), 260);
      const running = new Float64Array(this.ground.length);
      let sum = 0;
      this.ground.forEach((g, i) => {
        const food = species === 'zander' || species === 'perch' ? 1 + 1.2 * nearness(bait, g.x, g.y, 70) : 1;
        running[i] = sum += this.want(species, g, w, sun, rising) * Math.exp(0.8 * mood(g.x, g.y)) * food;
      });
      const n = random.poisson(FishWorld.PACKS[species] * Math.exp(random.normal(0, 0.25)) * (w.surface < 6 ? 0.6 : 1));
      for (let k = 0; k < n; k++) {
        const g = this.ground[random.weighted(running)];
        const pack = this.packAt(species, g, w, packs.length, random);
        packs.push(pack);
        if (pack.bait) bait.push([pack.x, pack.y]);
      }
    }
    return packs;
  }

  private packAt(species: string, g: Ground, w: Weather, id: number, random: Random): Pack {
    const [x, y] = [g.x + random.even(-12, 12), g.y + random.even(-12, 12)];
    const water = Math.max(0.4, this.world.depth(x, y));
    const isBait = ['vendace', 'smelt', 'roach'].includes(species);
    const ceiling = w.thermocline != null && w.deepOxygen < 4 ? w.thermocline : water;
    let depth: number;
    if (species === 'vendace') depth = Math.min(water - 0.8, (w.thermocline ?? 7) + random.normal(-0.3, 0.8));
    else if (species === 'smelt') depth = Math.min(water - 0.8, random.even(2, 5));
    else if (species === 'roach') depth = water * random.even(0.35, 0.8);
    else depth = Math.min(water, ceiling) - Math.abs(random.normal(0, species === 'zander' ? 0.7 : species === 'perch' ? 1.1 : 0.9)) - 0.15;
    depth = Math.min(water - 0.1, Math.max(0.3, depth));
    const count = isBait
      ? random.whole(80, 600)
      : species === 'pike'
        ? 1
        : species === 'bream'
          ? random.whole(4, 25)
          : random.whole(1, species === 'perch' ? 14 : 6);
    const big = random.even() + (species === 'zander' ? 0.05 * (depth - 5) : 0);
    return {
      id,
      species,
      bait: isBait,
      x,
      y,
      depth,
      half: isBait ? random.even(0.4, 1.2) : 0.15 + 0.06 * count,
      count,
      size: big > 0.85 ? 'large' : big > 0.4 ? 'medium' : 'small',
      water,
      byCover: g.wood > 0.4,
    };
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

/** exp(−distance/scale) to the nearest point; nothing beyond four scales. */
function nearness(points: Point[], x: number, y: number, scale: number): number {
  const reach = 4 * scale;
  let nearest = reach * reach;
  for (const p of points) {
    const dx = p[0] - x;
    if (dx > reach || dx < -reach) continue;
    const dy = p[1] - y;
    const square = dx * dx + dy * dy;
    if (square < nearest) nearest = square;
  }
  return nearest < reach * reach ? Math.exp(-Math.sqrt(nearest) / scale) : 0;
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
