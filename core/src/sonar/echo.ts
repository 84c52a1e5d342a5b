import { absorption } from './loss';
import type { Scene, SceneTarget, Transducer } from './scene';

/** How a sonar listens. */
export interface Listening {
  /** Full angle of the cone at half power, degrees. */
  beam: number;
  /** Range of the picture, m. */
  range: number;
  /** Samples along the range. */
  samples: number;
  /** Pulse length, s. */
  pulse: number;
  /** m/s */
  soundSpeed: number;
  /** Added to every echo, dB: too high and noise fills the picture. */
  gain: number;
  /** kHz: what the water absorbs is made up for, and noise with it; absent, as much as at some 500 kHz. */
  frequency?: number;
  /** Random numbers, 0–1. */
  random: () => number;
}

/** Weakest and strongest echo that a picture tells apart, dB after the loss over the range was made up for. */
const FLOOR = -78;
const CEILING = -8;
/** Level of the noise at no gain, dB, and how it grows with the range where no frequency is said, dB a metre. */
const NOISE = -74;
const NOISE_RISE = 0.12;
/** Water that absorption is worked out for, °C. */
const WATER = 15;

const radians = (degrees: number): number => (degrees * Math.PI) / 180;
const power = (dB: number): number => 10 ** (dB / 10);

/** Loss of a beam off its axis, there and back, dB. @param angle degrees off the axis */
const offAxis = (angle: number, beam: number): number => -6.02 * (angle / (beam / 2)) ** 2;

/** A picture's column being added up: echo power by sample. */
class Column {
  readonly power: Float64Array;
  constructor(private readonly how: Listening) {
    this.power = new Float64Array(how.samples);
    const rise = how.frequency === undefined ? NOISE_RISE : 2 * absorption(how.frequency, WATER);
    for (let i = 0; i < how.samples; i++) {
      const noise = NOISE + rise * ((i * how.range) / how.samples);
      // Exponential power: what many small unrelated echoes add up to.
      this.power[i] = power(noise) * -Math.log(1 - how.random());
    }
  }

  /** An echo as long as the pulse. @param from range of its beginning, m */
  echo(from: number, dB: number): void {
    const { samples, range, pulse, soundSpeed } = this.how;
    const step = range / samples;
    const length = Math.max(step, (soundSpeed * pulse) / 2);
    const [first, last] = [Math.floor(from / step), Math.floor((from + length) / step)];
    for (let i = Math.max(0, first); i <= Math.min(samples - 1, last); i++) this.power[i] += power(dB);
  }

  /** Darkens a stretch to noise. @param from @param to m */
  shadow(from: number, to: number): void {
    const { samples, range } = this.how;
    for (let i = Math.max(0, Math.ceil((from / range) * samples)); i < Math.min(samples, (to / range) * samples); i++)
      this.power[i] = Math.min(this.power[i], power(NOISE + 2) * -Math.log(1 - this.how.random()));
  }

  levels(): Uint8Array {
    return Uint8Array.from(this.power, (p) => {
      const dB = 10 * Math.log10(p + 1e-12) + this.how.gain;
      return Math.max(0, Math.min(255, Math.round((255 * (dB - FLOOR)) / (CEILING - FLOOR))));
    });
  }
}

/** The single echoes of a target: one for a fish, a cloud of small ones for what is larger. */
function* echoesOf(target: SceneTarget, random: () => number): Generator<{ x: number; y: number; depth: number; dB: number }> {
  const { x, y, depth, radius, half, strength, kind } = target;
  if (radius === 0) {
    yield { x, y, depth, dB: strength };
    return;
  }
  const n = kind === 'bait' ? 40 : 24;
  for (let i = 0; i < n; i++) {
    const [angle, reach, up] = [2 * Math.PI * random(), radius * Math.sqrt(random()), 2 * random() - 1];
    yield {
      x: x + reach * Math.cos(angle),
      y: y + reach * Math.sin(angle),
      depth: depth + half * up,
      dB: strength - 10 * Math.log10(n / 4),
    };
  }
}

/**
 * One ping of a sounder over a water: the cone's echoes by slant range, bottom with its hardness and second echo,
 * fish whose arches follow from the geometry, the dead zone above the bottom from the spread of the cone.
 * @returns levels 0–255, the nearest first
 */
export function sounderPing(scene: Scene, at: Transducer, how: Listening): Uint8Array {
  const column = new Column(how);
  const { beam, range, random } = how;
  const spread = Math.tan(radians(beam)) * range;
  for (const target of scene.near(at.x, at.y, spread + 3))
    for (const e of echoesOf(target, random)) {
      const below = e.depth - at.depth;
      if (below <= 0) continue;
      const aside = Math.hypot(e.x - at.x, e.y - at.y);
      const loss = offAxis((Math.atan2(aside, below) * 180) / Math.PI, beam);
      if (loss > -40) column.echo(Math.hypot(aside, below), e.dB + loss + 2 * (random() - 0.5));
    }
  if (scene.thermocline) {
    const { top, bottom } = scene.thermocline;
    for (let d = top; d < bottom; d += range / how.samples) {
      // Densest in the middle.
      const dense = 1 - Math.abs((2 * (d - top)) / (bottom - top) - 1);
      if (d > at.depth && random() < 0.6 * dense) column.echo(d - at.depth, -68 + 6 * random());
    }
  }
  // The bottom comes back from the whole cone, rings farther out later and weaker; soft ground swallows most of it.
  const rings = 7;
  for (let k = 0; k < rings; k++) {
    const angle = (beam * 0.75 * k) / (rings - 1);
    const around = k === 0 ? 1 : 6;
    for (let j = 0; j < around; j++) {
      const turn = (2 * Math.PI * j) / around;
      const guess = scene.depthAt(at.x, at.y) - at.depth;
      const aside = (k === 0 ? 0 : Math.tan(radians(angle))) * guess;
      const [x, y] = [at.x + aside * Math.cos(turn), at.y + aside * Math.sin(turn)];
      const depth = scene.depthAt(x, y) - at.depth;
      if (!(depth > 0)) continue;
      const hard = scene.hardnessAt(x, y);
      const dB = -26 + 14 * hard + offAxis(angle, beam) * (1.5 - hard) - 10 * Math.log10(around);
      column.echo(Math.hypot(depth, aside), dB + 2 * (random() - 0.5));
      if (k === 0) {
        // Sound that goes into soft ground comes back late and fading; hard ground throws it up to the surface and down again.
        for (let s = 0.1; s < 0.6 + 0.8 * (1 - hard); s += 0.1) column.echo(depth + s, dB - 6 - 16 * s);
        if (hard > 0.5) column.echo(2 * depth + at.depth, dB - 16 - 10 * (1 - hard));
      }
    }
  }
  return column.levels();
}

/**
 * One ping of a side-scan: what comes back from port and from starboard by slant range, the dark water column first,
 * each thing with its shadow behind it.
 */
export function sideScanPing(scene: Scene, at: Transducer, how: Listening): { port: Uint8Array; starboard: Uint8Array } {
  const here = scene.depthAt(at.x, at.y);
  const height = here - at.depth;
  const things = scene.near(at.x, at.y, how.range + 3);
  const side = (sign: 1 | -1): Uint8Array => {
    const column = new Column(how);
    const turn = radians(at.heading + sign * 90);
    const [east, north] = [Math.sin(turn), Math.cos(turn)];
    const step = how.range / how.samples;
    if (height > 0)
      for (let i = Math.ceil(height / step); i < how.samples; i++) {
        const flat = Math.sqrt(Math.max(0, (i * step) ** 2 - height ** 2));
        const [x, y] = [at.x + flat * east, at.y + flat * north];
        const depth = scene.depthAt(x, y);
        if (!(depth > 0)) break;
        // Brighter where hard, and where the ground faces the beam.
        const tilt = (here - depth) / Math.max(1, flat);
        column.power[i] +=
          power(-46 + 16 * scene.hardnessAt(x, y) + 12 * Math.max(-0.6, Math.min(0.6, tilt))) * -Math.log(1 - how.random());
      }
    for (const target of things)
      for (const e of echoesOf(target, how.random)) {
        const [dx, dy] = [e.x - at.x, e.y - at.y];
        const out = dx * east + dy * north;
        const along = dx * north - dy * east;
        if (out <= 0) continue;
        const loss = offAxis((Math.atan2(Math.abs(along), out) * 180) / Math.PI, how.beam);
        if (loss < -25) continue;
        const below = e.depth - at.depth;
        const range = Math.hypot(out, below);
        column.echo(range, e.dB + loss + 8);
        // The ray that grazes it meets the bottom farther out: a shadow apart, if it hangs free.
        if (below > 0 && below < height && target.kind !== 'bait') {
          const behind = (range * height) / below;
          const long = target.radius > 0 ? target.radius : 0.3;
          column.shadow(target.radius > 0 ? range + 0.2 : behind, behind + long);
        }
      }
    return column.levels();
  };
  return { port: side(-1), starboard: side(1) };
}

/**
 * One picture of a forward-facing sonar: a fan from level ahead down to straight below.
 * @param sector how wide it sees to the sides, degrees @param rows directions from level (0) to straight down
 * @returns levels, row by row, the nearest sample first
 */
export function forwardPicture(scene: Scene, at: Transducer, how: Listening, sector: number, rows: number): Uint8Array {
  const picture = new Uint8Array(rows * how.samples);
  const [east, north] = [Math.sin(radians(at.heading)), Math.cos(radians(at.heading))];
  const columns = Array.from({ length: rows }, () => new Column(how));
  const wide = 90 / (rows - 1);
  for (const target of scene.near(at.x, at.y, how.range + 3))
    for (const e of echoesOf(target, how.random)) {
      const [dx, dy] = [e.x - at.x, e.y - at.y];
      const [ahead, aside] = [dx * east + dy * north, dx * north - dy * east];
      const flat = Math.hypot(ahead, aside);
      if (flat > 1 && (ahead <= 0 || Math.abs((Math.atan2(aside, ahead) * 180) / Math.PI) > sector / 2)) continue;
      const below = e.depth - at.depth;
      const down = (Math.atan2(below, flat) * 180) / Math.PI;
      for (let row = 0; row < rows; row++) {
        const loss = offAxis(down - row * wide, 2 * wide);
        if (loss > -30) columns[row].echo(Math.hypot(flat, below), e.dB + loss + 4);
      }
    }
  columns.forEach((column, row) => {
    const angle = radians(row * wide);
    // The bottom is met where the ray first falls under it.
    for (let r = 1; r < how.range; r += how.range / how.samples) {
      const flat = r * Math.cos(angle);
      const [x, y] = [at.x + flat * east, at.y + flat * north];
      if (at.depth + r * Math.sin(angle) < scene.depthAt(x, y)) continue;
      column.echo(r, -40 + 18 * (scene.hardnessAt(x, y) || 0));
      column.shadow(r + 0.6, how.range);
      break;
    }
    picture.set(column.levels(), row * how.samples);
  });
  return picture;
}
