import { sunHeight } from '@restless-shoal/core/lake';
import type { FishWorld, Pack } from './fish';
import { runOf } from './fish-rules';
import { Random } from './random';

const MINUTE = 60_000;
/** So long the fish of a tide stay where they are. */
const TIDE_SLOT = 40 * MINUTE;

/** The fish of one day: where they are at each moment. Without a tide they stay; with one they move to where it has them. */
export class DayPacks {
  /** All that were anywhere on the day: a pack that has moved on is another. */
  readonly all: Pack[] = [];
  private now: Pack[] = [];
  private until = -Infinity;
  private readonly ofDay: number;

  constructor(
    private readonly fish: FishWorld,
    private readonly start: number,
    private readonly random: Random,
  ) {
    this.ofDay = fish.tide ? random.whole(1, 1e9) : 0;
    this.at(start);
  }

  /** Those that are there at a moment. The same draws of the day, so that a pack goes on from where it was. @param t ms, never before the last one asked for */
  at(t: number): Pack[] {
    if (t < this.until) return this.now;
    const { fish, start } = this;
    const { world, tide } = fish;
    const slot = this.until === -Infinity ? 0 : Math.floor((t - start) / TIDE_SLOT);
    const moment = tide ? start + (slot + 0.5) * TIDE_SLOT : start;
    const middle = world.toLatLon(world.width / 2, world.height / 2);
    const sun = sunHeight(new Date(tide ? moment : start + 120 * MINUTE), middle.latitude, middle.longitude);
    this.now = fish.packsOn(moment, sun, tide ? new Random(this.ofDay) : this.random);
    const from = slot === 0 ? -Infinity : this.until;
    this.until = tide ? start + (slot + 1) * TIDE_SLOT : Infinity;
    for (const pack of this.now) {
      pack.id += slot * 100_000;
      pack.span = [from, this.until];
    }
    this.all.push(...this.now);
    return this.now;
  }
}

/** The cover that a pack stands by: the nearest one; timber where nothing runs. */
export function coverBy(fish: FishWorld, { x, y }: Pack): string {
  if (!fish.tide && fish.flow === null) return 'timber';
  const things = fish.world.cover.filter((c) => c.kind === 'cover');
  const off = (c: (typeof things)[number]): number => Math.hypot(c.points[0][0] - x, c.points[0][1] - y);
  return things.reduce((best, c) => (off(c) < off(best) ? c : best)).cover!;
}

/** On which side of its cover a pack is at a moment, where water runs past it; null where that is not to be told. */
export function sideOfCover(fish: FishWorld, { x, y }: Pack, t: number): string | null {
  const { stream } = fish.running(t);
  if (!stream || stream.rate < 0.15) return null;
  const off = (g: { x: number; y: number }): number => Math.hypot(g.x - x, g.y - y);
  const { cover } = runOf(
    fish.ground.reduce((best, g) => (off(g) < off(best) ? g : best)),
    { stream },
  );
  return Math.abs(cover) < 0.1 ? null : cover > 0 ? 'up-current' : 'down-current';
}
