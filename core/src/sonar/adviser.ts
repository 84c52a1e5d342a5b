import { statement, type Statement } from '../statements';
import { coneWidth, targetStrength } from './beam';
import { absorption, farthestFish } from './loss';
import { fastestFor } from './passing';

/** What the picture is for: where anglers differ, both are told. */
export type Purpose = 'fish' | 'bottom';

/** What is to be looked at, and with what. */
export interface LookPlan {
  view: 'sounder' | 'side-scan' | 'forward-facing';
  purpose: Purpose;
  /** Water below the transducer, m; the deepest that is to be passed. */
  depth: number;
  /** °C, and practical salinity. */
  temperature: number;
  salinity: number;
  /** Of the fish, m. */
  length: number;
  /** Full cone angle, degrees, and pings a second of the rig. */
  beam: number;
  rate: number;
  /** Frequencies that can be set, kHz. */
  frequencies: readonly [low: number, high: number];
  /** Weakest echo at 1 m that the tuned rig shows, dB; null where it was not tuned. */
  least: number | null;
}

export type SettingsCode =
  | 'settings.range.sounder'
  | 'settings.range.side-scan'
  | 'settings.range.forward-facing'
  | 'settings.range.seen'
  | 'settings.frequency.high'
  | 'settings.frequency.low'
  | 'settings.gain.fish'
  | 'settings.gain.bottom'
  | 'settings.speed';

/** The bottom, its second echo at twice the depth, and some below: for hardness. For fish some below the bottom is enough. */
const BELOW = { fish: 1.25, bottom: 2.3 };
/** Side-scan: range by depth at which shadows are long enough to see and the picture is not stretched thin. */
const ASIDE = { fish: 2.5, bottom: 4 };
/** Forward-facing: as far as a fish is met within half a minute of slow going, but not much beyond three depths. */
const AHEAD = 3;
/** What the water may take from an echo before a lower frequency pays, dB. */
const TAKEN = 6;
/** Pings that make a shape. */
const PINGS = 5;

/** Ranges as they can be set, m. */
const STEPS = [3, 5, 8, 10, 12, 15, 20, 25, 30, 40, 50, 60, 80, 100, 150];
const set = (metres: number): number => STEPS.find((s) => s >= metres) ?? STEPS.at(-1)!;

/** Settings to begin with, each with its reason: range, frequency, gain, speed. Lengths in m, speeds in m/s, losses in dB. */
export function adviseSettings(plan: LookPlan): Statement<SettingsCode>[] {
  const { view, purpose, depth, temperature, salinity, length, beam, rate, frequencies, least } = plan;
  const wanted = view === 'sounder' ? BELOW[purpose] * depth : view === 'side-scan' ? ASIDE[purpose] * depth : AHEAD * depth;
  const range = set(wanted);
  const [low, high] = frequencies;
  const taken = (kHz: number): number => 2 * absorption(kHz, temperature, 0, salinity) * range;
  const frequency = taken(high) <= TAKEN ? high : low;
  const out: Statement<SettingsCode>[] = [statement(`settings.range.${view}`, { range, depth, purpose })];
  if (least !== null && purpose === 'fish') {
    const far = farthestFish(length, frequency, temperature, least, salinity);
    if (far < range) out.push(statement('settings.range.seen', { far, length, strength: targetStrength(length, frequency) }));
  }
  out.push(
    statement(frequency === high ? 'settings.frequency.high' : 'settings.frequency.low', {
      frequency,
      other: frequency === high ? low : high,
      taken: taken(high),
      range,
    }),
    statement(`settings.gain.${purpose}`),
  );
  // From a side-scan's narrow beam the way along the track is what is short of pings.
  const fastest = fastestFor(PINGS, view === 'side-scan' ? 0.5 * range : depth, view === 'side-scan' ? 1 : beam, length, rate);
  out.push(statement('settings.speed', { speed: Math.min(5, fastest), pings: PINGS, width: coneWidth(depth, beam) }));
  return out;
}
