import type { SunPlace } from '../lake';
import type { Point } from '../geo';
import { statement, type Statement } from '../statements';
import { holdOff } from './approach';
import { castFor, type CastPlan } from './casting';
import { driftLine, driftOf, type Drift, type DriftLine, type WindAndCurrent } from './drift';

export interface SpotToFish {
  /** m in the water's plane. */
  at: Point;
  /** Depth of the fish, m. */
  depth: number;
  secchi: number;
}

export interface Lure {
  name: string;
  /** m/s */
  sink: number;
}

export type ComeInCode =
  'come-in.downwind' | 'come-in.down-current' | 'come-in.calm' | 'come-in.shadow' | 'come-in.no-shadow' | 'come-in.shore';

export interface ComeIn {
  /** From which side, degrees true from the spot; the boat comes in toward the spot from there. */
  side: number;
  /** Distance from the person casting to the spot, m. */
  holdOff: number;
  /** Where the antenna is then. */
  hold: Point;
  /** Which way the bow points there. */
  bow: number;
  drift: Drift;
  /** A drift past it on the far side of that distance; null in a calm. */
  line: DriftLine | null;
  casts: (CastPlan & { lure: string })[];
  /** Direction of the cast from the person casting, degrees true. */
  castTo: number;
  says: Statement<ComeInCode>[];
}

/** Who stands in the boat throws a shadow of this height, m. */
const STANDING = 2.2;
/** A cast reaches so far, m. */
const CAST = 30;
const NEAREST = 10;

const turnBetween = (a: number, b: number): number => Math.abs(((a - b + 540) % 360) - 180);

/**
 * How to come in to a spot: from where the drift would carry the boat off it, so that wind and current hold it off; not with its
 * shadow over shallow fish; within deep enough water; bow and casts toward the spot. A judgement in figures, not a rule.
 * @param bow who casts, m forward of the antenna @param open whether the boat may lie at a place
 */
export function comeIn(
  spot: SpotToFish,
  forces: WindAndCurrent,
  sun: SunPlace,
  lures: Lure[],
  bow: number,
  open: (at: Point) => boolean,
): ComeIn {
  const drift = driftOf(forces);
  const off = Math.max(NEAREST, holdOff(spot.depth, spot.secchi));
  const lit = sun.height > 3 && spot.depth < 2 + spot.secchi;
  const shadow = lit ? Math.min(60, STANDING / Math.tan((sun.height * Math.PI) / 180)) : 0;
  const place = (side: number, far: number): Point => {
    const angle = (side * Math.PI) / 180;
    return [spot.at[0] + far * Math.sin(angle), spot.at[1] + far * Math.cos(angle)];
  };
  /** The less the better. */
  const cost = (side: number): number => {
    let sum = drift.speed > 0.05 ? turnBetween(side, drift.to) / 90 : 0;
    // The shadow falls away from the sun: it reaches the fish when the boat stands between.
    if (shadow > off * 0.6 && turnBetween(side, sun.azimuth) < 40) sum += 1.5;
    if (!open(place(side, off + bow))) sum += 4;
    return sum;
  };
  const straight = drift.speed > 0.05 ? drift.to : 180;
  let best = { side: straight, cost: Infinity };
  for (let k = 0; k < 24; k++) {
    const side = (straight + k * 15) % 360;
    const own = cost(side);
    if (own < best.cost - 1e-9) best = { side, cost: own };
  }
  const { side } = best;
  const away = off;
  const closing = -drift.speed * Math.cos((turnBetween(side, drift.to) * Math.PI) / 180);
  const says: Statement<ComeInCode>[] = [];
  if (drift.speed <= 0.05) says.push(statement('come-in.calm'));
  else says.push(statement(forces.currentSpeed > forces.windSpeed * 0.035 ? 'come-in.down-current' : 'come-in.downwind', { side }));
  if (shadow > off * 0.6)
    says.push(statement(turnBetween(side, sun.azimuth) < 40 ? 'come-in.shadow' : 'come-in.no-shadow', { sun: sun.azimuth }));
  if (!open(place(straight, off + bow)) && side !== straight) says.push(statement('come-in.shore'));
  return {
    side,
    holdOff: off,
    hold: place(side, away + bow),
    bow: (side + 180) % 360,
    drift,
    line: driftLine(spot.at, forces, Math.min(off, CAST * 0.8), 1, CAST),
    casts: lures.map(({ name, sink }) => ({ lure: name, ...castFor(away, spot.depth, sink, closing) })),
    castTo: (side + 180) % 360,
    says,
  };
}
