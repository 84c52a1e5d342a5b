import { seeded } from '../numbers';
import { sideScanDistance, slantRange } from './beam';
import { sideScanPing, sounderPing, type Listening } from './echo';
import type { Scene, SceneTarget } from './scene';

/** What is practised. */
export const SKILLS = ['what', 'depth', 'count', 'hardness', 'thermocline', 'past', 'gain', 'height', 'side'] as const;
export type Skill = (typeof SKILLS)[number];

/** Which side, and how far over ground, m. */
export interface SideChoice {
  side: 'port' | 'starboard';
  far: number;
}
/** Answers to choose from. */
export type Choice = 'fish' | 'bait' | 'timber' | 'weed' | 'hard' | 'soft' | 'now' | 'past' | SideChoice;

/** What is asked. */
export type Asked =
  | { by: 'choice'; options: Choice[]; answer: Choice }
  /** A number: m, or how many. Right within the tolerance. */
  | { by: 'number'; unit: 'm' | 'n'; least: number; most: number; step: number; answer: number; tolerance: number }
  /** A gain, dB, at which the target shows and the water stays clear. */
  | { by: 'gain'; least: number; most: number; low: number; high: number };

/** What is pointed out on the picture once it was answered. */
export interface PointedOut {
  what: 'fish' | 'bait' | 'timber' | 'weed' | 'bottom' | 'second-echo' | 'thermocline' | 'shadow' | 'under-the-boat';
  /** Pings from the first, from and to. */
  pings: [number, number];
  /** Depth below the surface, or slant range (to port negative), m, from and to. */
  at: [number, number];
}

/** A picture that was made up, with what it holds. */
export interface PracticePicture {
  view: 'sounder' | 'side-scan';
  /** Levels 0–255 of each ping, the oldest first; of a side-scan from the far end of port to that of starboard. */
  pings: Uint8Array[];
  /** Range of the picture, m. */
  range: number;
  transducerDepth: number;
}

/** One question. */
export interface PracticeRound {
  skill: Skill;
  /** 0 easy – 1 hard. */
  difficulty: number;
  asked: Asked;
  pointed: PointedOut[];
  /** What the reason speaks of, m, m/s or how many. */
  told: Record<string, number>;
  /** The picture. @param gain dB beside the usual */
  picture(gain?: number): PracticePicture;
}

const TRANSDUCER = 0.4;
/** Pings of a picture, and a second; samples of one. */
const PINGS = 260;
const RATE = 15;
const SAMPLES = 300;
const BEAM = 20;
const SOUND = 1470;
/** Levels at which an echo shows clearly, and up to which the water looks empty. */
const [SHOWS, EMPTY] = [120, 70];
/** The level of an echo by its strength at no gain: as the synthesiser draws it. */
const levelOf = (dB: number): number => (255 * (dB + 78)) / 70;

interface Ground {
  depth: number;
  slope: number;
  hardness: number;
}

/** The synthesised water of a round: ground, targets, thermocline. */
function sceneOf({ depth, slope, hardness }: Ground, targets: SceneTarget[], thermocline: Scene['thermocline'] = null): Scene {
  return {
    depthAt: (x, y) => depth + slope * (x + y) + 0.12 * Math.sin(0.35 * x + 0.2 * y),
    hardnessAt: () => hardness,
    near: (x, y, reach) => targets.filter((t) => Math.hypot(t.x - x, t.y - y) <= reach + t.radius),
    thermocline,
  };
}

/** Draws a round: of a skill, so hard, another for each seed. */
export function practiceRound(skill: Skill, difficulty: number, seed: number): PracticeRound {
  const random = seeded(seed * 2 + 1);
  const between = (a: number, b: number): number => a + (b - a) * random();
  const one = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const speed = between(0.8, 1.6);
  const way = (PINGS / RATE) * speed;
  const side = skill === 'height' || skill === 'side';
  const ground: Ground = {
    depth: between(6, 16),
    slope: side || skill === 'thermocline' ? 0 : between(-0.04, 0.04) * difficulty,
    hardness: skill === 'hardness' ? one([between(0.05, 0.25), between(0.75, 0.95)]) : between(0.3, 0.7),
  };
  // The harder, the fainter.
  const faint = -36 - 12 * difficulty;
  const rangeOf = (depth: number): number => Math.ceil(depth * (skill === 'hardness' ? 2.6 : 1.35) + 1);
  const range = side ? Math.ceil(2.4 * ground.depth) : rangeOf(ground.depth + Math.abs(ground.slope) * way);
  const how = (gain: number): Listening => ({
    beam: side ? 3 : BEAM,
    range,
    samples: SAMPLES,
    pulse: 0.0001,
    soundSpeed: SOUND,
    gain,
    random: seeded(seed * 2 + 2),
  });
  const oneFish = (n: number, x: number, y: number, depth: number, strength = faint): SceneTarget => ({ id: `f${n}`, kind: 'fish', x, y, depth, radius: 0, half: 0, strength }); // prettier-ignore
  const pingAt = (x: number): number => (x / way) * PINGS;
  /** Pings during which a depth straight below stays in the cone. */
  const across = (depth: number): number => pingAt((depth - TRANSDUCER) * Math.tan((BEAM / 2) * (Math.PI / 180)));
  const overFish = (x: number, depth: number): PointedOut => ({ what: 'fish', pings: [pingAt(x) - across(depth), pingAt(x) + across(depth)], at: [depth - 0.2, depth + 0.4] }); // prettier-ignore

  const drawn = (scene: Scene, asked: Asked, pointed: PointedOut[], told: Record<string, number> = {}): PracticeRound => ({
    skill,
    difficulty,
    asked,
    pointed,
    told,
    picture: (gain = 0) => {
      const listening = how(gain);
      const pings = Array.from({ length: PINGS }, (_, p) => {
        const at = { x: side ? 0 : (p / PINGS) * way, y: side ? (p / PINGS) * way : 0, depth: TRANSDUCER, heading: side ? 0 : 90 };
        if (!side) return sounderPing(scene, at, listening);
        const { port, starboard } = sideScanPing(scene, at, listening);
        return Uint8Array.from([...port].reverse().concat([...starboard]));
      });
      return { view: side ? 'side-scan' : 'sounder', pings, range, transducerDepth: TRANSDUCER };
    },
  });

  switch (skill) {
    case 'depth': {
      const [x, depth] = [between(0.3, 0.7) * way, between(0.3, 0.85) * ground.depth];
      const asked: Asked = {
        by: 'number',
        unit: 'm',
        least: 0,
        most: range,
        step: 0.1,
        answer: depth,
        tolerance: Math.max(0.3, 0.05 * depth),
      };
      return drawn(sceneOf(ground, [oneFish(1, x, 0, depth)]), asked, [overFish(x, depth)], { depth });
    }
    case 'count': {
      const n = 1 + Math.floor(random() * (4 + 8 * difficulty));
      const fish: SceneTarget[] = [];
      // Apart along the way or in depth, the less the harder.
      const apart = 1 - 0.55 * difficulty;
      for (let tries = 0; fish.length < n && tries < 400; tries++) {
        const [x, depth] = [between(0.1, 0.9) * way, between(0.3, 0.82) * ground.depth];
        if (fish.every((f) => Math.abs(pingAt(f.x - x)) > 1.1 * across(depth) * apart + 8 || Math.abs(f.depth - depth) > 1.3 * apart))
          fish.push(oneFish(fish.length, x, 0, depth));
      }
      const answer = fish.length;
      const asked: Asked = {
        by: 'number',
        unit: 'n',
        least: 0,
        most: 20,
        step: 1,
        answer,
        tolerance: answer <= 5 ? 0 : Math.round(0.2 * answer),
      };
      return drawn(sceneOf(ground, fish), asked, fish.map((f) => overFish(f.x, f.depth)), { count: answer }); // prettier-ignore
    }
    case 'what': {
      const kind = one(['fish', 'bait', 'timber', 'weed'] as const);
      const x = between(0.35, 0.65) * way;
      const bottom = ground.depth + ground.slope * x;
      const target: SceneTarget =
        kind === 'fish'
          ? oneFish(1, x, 0, between(0.4, 0.8) * bottom)
          : kind === 'bait'
            ? {
                id: 'bait',
                kind,
                x,
                y: 0,
                depth: between(0.3, 0.7) * bottom,
                radius: between(0.8, 2),
                half: between(0.3, 0.7),
                strength: faint + 2,
              }
            : kind === 'timber'
              ? { id: 'timber', kind, x, y: 0, depth: bottom - 0.9, radius: between(0.4, 0.9), half: 0.9, strength: faint + 10 }
              : { id: 'weed', kind, x, y: 0, depth: bottom - 0.35, radius: between(1.5, 3), half: 0.35, strength: faint - 2 };
      const wide = pingAt(target.radius) + across(target.depth);
      return drawn(sceneOf(ground, [target]), { by: 'choice', options: ['fish', 'bait', 'timber', 'weed'], answer: kind }, [
        {
          what: kind,
          pings: [pingAt(x) - wide, pingAt(x) + wide],
          at: [target.depth - target.half - 0.2, target.depth + target.half + 0.3],
        },
      ]);
    }
    case 'hardness': {
      const hard = ground.hardness > 0.5;
      const twice = 2 * ground.depth;
      return drawn(
        sceneOf(ground, []),
        { by: 'choice', options: ['hard', 'soft'], answer: hard ? 'hard' : 'soft' },
        [
          { what: 'bottom', pings: [0, PINGS], at: [ground.depth, ground.depth + (hard ? 0.6 : 1.4)] },
          ...(hard ? [{ what: 'second-echo', pings: [0, PINGS], at: [twice, twice + 0.8] } satisfies PointedOut] : []),
        ],
        { twice },
      );
    }
    case 'thermocline': {
      const top = between(0.3, 0.65) * ground.depth;
      const bottom = top + between(0.8, 1.6) * (1.2 - 0.5 * difficulty);
      const middle = (top + bottom) / 2;
      const asked: Asked = {
        by: 'number',
        unit: 'm',
        least: 0,
        most: range,
        step: 0.1,
        answer: middle,
        tolerance: Math.max(0.4, (bottom - top) / 2),
      };
      const fish = Array.from({ length: Math.round(4 * difficulty) }, (_, k) =>
        oneFish(k, between(0.1, 0.9) * way, 0, between(0.3, 0.8) * ground.depth),
      );
      return drawn(sceneOf(ground, fish, { top, bottom }), asked, [{ what: 'thermocline', pings: [0, PINGS], at: [top, bottom] }], {
        top,
        bottom,
      });
    }
    case 'past': {
      const now = random() < 0.5;
      const depth = between(0.4, 0.8) * ground.depth;
      // Under the boat: still in the cone at the newest ping. Past: out of it, the less far the harder.
      const gone = now ? between(0, 0.5) * across(depth) : (1.25 + (1 - difficulty) * between(0.3, 2)) * across(depth);
      const x = way - (gone / PINGS) * way;
      return drawn(
        sceneOf(ground, [oneFish(1, x, 0, depth)]),
        { by: 'choice', options: ['now', 'past'], answer: now ? 'now' : 'past' },
        [overFish(x, depth), { what: 'under-the-boat', pings: [PINGS - 4, PINGS], at: [0, ground.depth] }],
        { behind: way - x, seconds: (way - x) / speed },
      );
    }
    case 'gain': {
      const [x, depth] = [between(0.3, 0.7) * way, between(0.35, 0.75) * ground.depth];
      // Faint at no gain; noise, which is to stay low, is what gives the other end.
      const strength = -56 + 6 * (1 - difficulty) * random();
      const perDb = 255 / 70;
      const low = (SHOWS - levelOf(strength)) / perDb;
      const high = Math.max(low + 3, (EMPTY - levelOf(-74 + 0.12 * depth)) / perDb);
      return drawn(sceneOf(ground, [oneFish(1, x, 0, depth, strength)]), { by: 'gain', least: -10, most: 40, low, high }, [overFish(x, depth)], { low, high, depth }); // prettier-ignore
    }
    case 'height':
    case 'side': {
      const height = ground.depth - TRANSDUCER;
      const port = random() < 0.5;
      const y = between(0.35, 0.65) * way;
      const far = between(0.6, 1.5) * ground.depth;
      const over = skill === 'height' ? between(0.12, 0.3) * height : 0;
      const x = port ? -far : far;
      const distance = slantRange(far, height - over);
      const sign = port ? -1 : 1;
      const atRange = (a: number, b: number): [number, number] => (port ? [-b, -a] : [a, b]);
      if (skill === 'height') {
        const shadow = (distance * height) / (height - over);
        const asked: Asked = {
          by: 'number',
          unit: 'm',
          least: 0,
          most: Math.ceil(height),
          step: 0.1,
          answer: over,
          tolerance: Math.max(0.3, 0.2 * over),
        };
        return drawn(
          sceneOf(ground, [oneFish(1, x, y, ground.depth - over, faint + 4)]),
          asked,
          [
            { what: 'fish', pings: [pingAt(y) - 6, pingAt(y) + 6], at: atRange(distance - 0.2, distance + 0.4) },
            { what: 'shadow', pings: [pingAt(y) - 6, pingAt(y) + 6], at: atRange(shadow, shadow + 0.5) },
          ],
          { height, range: distance, shadow, over },
        );
      }
      const flat = sideScanDistance(distance, height);
      const round = (v: number): number => Math.round(v);
      // The slip that is made most: the slant range taken for the way over ground.
      const [right, slip] = [round(flat), Math.max(round(distance), round(flat) + 1)];
      const options = (['port', 'starboard'] as const).flatMap((which) =>
        [right, slip].map((metres): SideChoice => ({ side: which, far: metres })),
      );
      const tall = 0.8;
      const target: SceneTarget = {
        id: 'timber',
        kind: 'timber',
        x: sign * far,
        y,
        depth: ground.depth - tall / 2,
        radius: 0.5,
        half: tall / 2,
        strength: faint + 12,
      };
      return drawn(
        sceneOf(ground, [target]),
        { by: 'choice', options, answer: options[port ? 0 : 2] },
        [{ what: 'timber', pings: [pingAt(y) - 10, pingAt(y) + 10], at: atRange(distance - 0.6, distance + 0.9) }],
        { height, range: distance, flat },
      );
    }
  }
}

/** Whether an answer is right, and by how much a number is off. */
export function judged(asked: Asked, answer: Choice | number): { right: boolean; off: number | null } {
  if (asked.by === 'choice') return { right: answer === asked.answer, off: null };
  if (typeof answer !== 'number') return { right: false, off: null };
  if (asked.by === 'gain') {
    const off = answer < asked.low ? answer - asked.low : answer > asked.high ? answer - asked.high : 0;
    return { right: off === 0, off };
  }
  return { right: Math.abs(answer - asked.answer) <= asked.tolerance + 1e-9, off: answer - asked.answer };
}
