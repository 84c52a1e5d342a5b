import type { Point } from '../geo';
import { statement, type Statement } from '../statements';
import type { WindAndCurrent } from './drift';

export interface AnchorInputs extends WindAndCurrent {
  /** Depth where the anchor falls, m. */
  depth: number;
  /** From the water to the bow roller, and the length of the boat, m. */
  bowHeight: number;
  boatLength: number;
  /** Line out, m. */
  rode: number;
  /** 0 soft – 1 hard; NaN where not known. */
  hardness: number;
  /** Weed, timber, or a reef or wreck on the bottom there. */
  cover: 'weed' | 'timber' | 'reef' | null;
  /** Height of the waves there, m. */
  waves: number;
}

export type AnchorCode =
  | 'anchor.bow-only'
  | 'anchor.scope'
  | 'anchor.deep'
  | 'anchor.hard'
  | 'anchor.weed'
  | 'anchor.timber'
  | 'anchor.reef'
  | 'anchor.across'
  | 'anchor.waves';

/** Sheering to either side of the way it lies, degrees: a small boat on one anchor. A judgement. */
export const YAW = { calm: 180, steady: 35, across: 70 };
/** Scope that holds in a light and in a fresh wind: length of line over depth and height of the bow. */
export const SCOPE = { light: 5, fresh: 7 };
const FRESH = 8;

export interface AnchorAnswer {
  /** Line over depth and height of the bow. */
  scope: number;
  /** Line that the depth and the wind want, m. */
  wanted: number;
  /** How far the boat's stern comes from the anchor, m. */
  swing: number;
  /** How far back from the anchor the bow lies, m. */
  bowBack: number;
  /** Where the boat lies from the anchor, degrees true; null in a calm: anywhere. */
  lies: number | null;
  /** Degrees to either side that it sheers. */
  yaw: number;
  says: Statement<AnchorCode>[];
}

/** Pull of wind on the hull over that of the current, at equal speeds: air is 830 times thinner, the area above water five times larger and rougher. */
const WIND_TO_CURRENT = 1 / 130;

/**
 * A boat on one anchor from the bow: scope, swing circle, which way it lies between wind and current, how far it sheers, and
 * whether depth and bottom suit. Swing: √(rode² − (depth + bow height)²) + boat length.
 */
export function anchored(inputs: AnchorInputs): AnchorAnswer {
  const { depth, bowHeight, boatLength, rode, windFrom, windSpeed, currentTo, currentSpeed, hardness, cover, waves } = inputs;
  const drop = depth + bowHeight;
  const scope = rode / drop;
  const wanted = drop * (windSpeed >= FRESH ? SCOPE.fresh : SCOPE.light);
  const bowBack = Math.sqrt(Math.max(0, rode ** 2 - drop ** 2));
  const rad = (d: number): number => (d * Math.PI) / 180;
  const [w, c] = [windSpeed ** 2 * WIND_TO_CURRENT, currentSpeed ** 2];
  const x = -w * Math.sin(rad(windFrom)) + c * Math.sin(rad(currentTo));
  const y = -w * Math.cos(rad(windFrom)) + c * Math.cos(rad(currentTo));
  const still = Math.hypot(w, c) < 0.004;
  const between = Math.abs(((windFrom + 180 - currentTo + 540) % 360) - 180);
  // Two pulls of like strength that do not agree: it ranges between them and snatches.
  const across = !still && Math.min(w, c) > 0.25 * Math.max(w, c) && between > 45;
  const says: Statement<AnchorCode>[] = [statement('anchor.bow-only')];
  if (scope < SCOPE.light) says.push(statement('anchor.scope', { scope, rode: wanted }));
  if (drop * 3 > 90) says.push(statement('anchor.deep', { depth }));
  if (hardness > 0.75) says.push(statement('anchor.hard'));
  if (cover) says.push(statement(`anchor.${cover}`));
  if (across) says.push(statement('anchor.across', { between }));
  if (waves > boatLength / 10) says.push(statement('anchor.waves', { height: waves }));
  return {
    scope,
    wanted,
    swing: bowBack + boatLength,
    bowBack,
    lies: still ? null : ((Math.atan2(x, y) * 180) / Math.PI + 360) % 360,
    yaw: still ? YAW.calm : across ? YAW.across : YAW.steady,
    says,
  };
}

/** Where to let the anchor go so that the bow lies at a place, m; null in a calm, when it lies anywhere. */
export function anchorFor(bow: Point, { bowBack, lies }: Pick<AnchorAnswer, 'bowBack' | 'lies'>): Point | null {
  if (lies === null) return null;
  const angle = (lies * Math.PI) / 180;
  return [bow[0] - bowBack * Math.sin(angle), bow[1] - bowBack * Math.cos(angle)];
}

/** What the turn of the tide does to a boat at anchor. */
export interface TurnAtAnchor {
  /** Where the bow lies before and after it, m. */
  before: Point;
  after: Point;
  /** How far the bow moves, and the circle that the stern may sweep meanwhile, m. */
  moves: number;
  sweeps: number;
  /** Degrees by which the boat swings. */
  turns: number;
}

/**
 * Where a boat lies before and after the turn of the tide, on one anchor that holds: it swings about it, and in slack water
 * may lie anywhere within the circle.
 * @param before @param after what pulls before and after; the length of line is the same
 * @returns null where one of both is a calm, in which it lies anywhere
 */
export function turnAtAnchor(anchor: Point, before: AnchorAnswer, after: AnchorAnswer): TurnAtAnchor | null {
  if (before.lies === null || after.lies === null) return null;
  const bow = ({ lies, bowBack }: AnchorAnswer): Point => [
    anchor[0] + bowBack * Math.sin((lies! * Math.PI) / 180),
    anchor[1] + bowBack * Math.cos((lies! * Math.PI) / 180),
  ];
  const [a, b] = [bow(before), bow(after)];
  return {
    before: a,
    after: b,
    moves: Math.hypot(b[0] - a[0], b[1] - a[1]),
    sweeps: Math.max(before.swing, after.swing),
    turns: Math.abs(((after.lies - before.lies + 540) % 360) - 180),
  };
}

/** How much of the swing leaves the target within a cast, 0–1: share of the sheer, in steps of a degree. */
export function inCast(
  anchor: Point,
  { bowBack, lies, yaw }: Pick<AnchorAnswer, 'bowBack' | 'lies' | 'yaw'>,
  target: Point,
  cast: number,
): number {
  let within = 0;
  const middle = lies ?? 0;
  for (let d = -yaw; d <= yaw; d++) {
    const angle = ((middle + d) * Math.PI) / 180;
    const [x, y] = [anchor[0] + bowBack * Math.sin(angle), anchor[1] + bowBack * Math.cos(angle)];
    if (Math.hypot(x - target[0], y - target[1]) <= cast) within++;
  }
  return within / (2 * yaw + 1);
}

/**
 * Two anchors from the bow, a spread apart about the way it lies: the boat then sheers so little as the lines let it.
 * @returns where each goes, m, for the bow to lie at a place
 */
export function twoAnchors(bow: Point, answer: Pick<AnchorAnswer, 'bowBack' | 'lies'>, spread = 60): [Point, Point] | null {
  if (answer.lies === null) return null;
  const each = (turn: number): Point => anchorFor(bow, { ...answer, lies: answer.lies! + turn })!;
  return [each(-spread / 2), each(spread / 2)];
}
