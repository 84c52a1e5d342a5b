import { seeded } from '../numbers';
import { sounderPing } from './echo';
import type { PracticePicture } from './practice-round';
import type { Scene } from './scene';

/** Pings of the picture, and a second; once up and down takes so long, s, and goes so far, m. */
const PINGS = 220;
const RATE = 15;
const [TURN, FAR] = [6, 0.5];
/** How much deeper than the target the bottom lies, m. */
const CLEAR = 3;
const TRANSDUCER = 0.4;

/**
 * What a simulated boat's sounder shows while it lies still over a small target that is raised and lowered.
 * @param depth of the target, m @param strength of it, dB @param gain dB
 */
export function tuningPicture(depth: number, strength: number, gain: number, seed: number): PracticePicture {
  const random = seeded(seed);
  const range = Math.ceil((depth + CLEAR) * 1.2);
  const pings = Array.from({ length: PINGS }, (_, p) => {
    const at = depth + FAR * Math.sin((2 * Math.PI * p) / RATE / TURN);
    const scene: Scene = {
      depthAt: () => depth + CLEAR,
      hardnessAt: () => 0.5,
      near: () => [{ id: 'lure', kind: 'lure', x: 0.1, y: 0, depth: at, radius: 0, half: 0, strength }],
      thermocline: null,
    };
    return sounderPing(scene, { x: 0, y: 0, depth: TRANSDUCER, heading: 0 }, { beam: 20, range, samples: 300, pulse: 0.0001, soundSpeed: 1470, gain, random }); // prettier-ignore
  });
  return { view: 'sounder', pings, range, transducerDepth: TRANSDUCER };
}
