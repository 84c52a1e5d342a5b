import type { Contact } from '@restless-shoal/core/logbook';
import type { LatLon } from '@restless-shoal/core/geo';
import type { SonarSettings } from '../../state/sonar-settings';
import type { DepthSpan } from './column-gesture';
import type { Kind } from './kinds';

/** What is known when a mark is made. Depths in metres below the surface; null where nobody knows. */
export interface Marked {
  time: string;
  position: LatLon;
  kind: Kind;
  /** Fish only. */
  count: number;
  view: Contact['view'];
  /** Taken for this species; null when nobody says. */
  species: string | null;
  span: DepthSpan;
  /** Depth of the water at the target. */
  floor: number | null;
  hardness: number | null;
  stop: string | null;
  /** What the sonar was set to; null where nobody says. */
  sonar: SonarSettings | null;
}

/** How sure a species is that was only seen on the screen: odds, no proof. */
const BY_SCREEN = 0.7;

const cut = (value: number | null, digits: number): number | null => (value === null ? null : Number(value.toFixed(digits)));

/** A position as it is logged: to the centimetre. */
export const logged = ({ latitude, longitude }: LatLon): LatLon => ({ latitude: cut(latitude, 7)!, longitude: cut(longitude, 7)! });

/** What stands on the bottom reaches down to it, wherever the Column was touched. */
const STANDING: Kind[] = ['cover', 'weed', 'hazard'];

/** The contact that a mark becomes: nothing hangs below the bottom, what stands there reaches it, the bottom itself has no extent. */
export function markRow({ time, position, kind, count, view, species, span, floor, hardness, stop, sonar }: Marked) {
  const deepest = floor ?? Infinity;
  const top = Math.min(span.top, deepest);
  const bottom = STANDING.includes(kind) ? (floor ?? span.bottom) : Math.min(span.bottom, deepest);
  const fish = kind === 'fish';
  return {
    time,
    stop,
    ...logged(position),
    kind,
    view,
    rig: sonar?.rig ?? null,
    settings: sonar?.settings ?? null,
    species: fish ? species : null,
    confidence: fish && species !== null ? BY_SCREEN : null,
    confirmed: 'none' as const,
    count: fish ? count : null,
    top_m: kind === 'bottom' ? null : cut(top, 2),
    bottom_m: kind === 'bottom' ? null : cut(Math.max(top, bottom), 2),
    water_depth_m: cut(floor, 2),
    hardness: cut(hardness, 2),
  };
}
