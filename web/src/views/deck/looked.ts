import { CELL, metricPlane, utmEpsg, type LatLon, type Point } from '@restless-shoal/core/geo';
import { areaLookedAt, scanSwaths, tripInPlane, type Fix, type TrackFix } from '@restless-shoal/core/logbook';
import { fromBoat } from '@restless-shoal/core/sonar';
import type { Boat } from '../../state/use-boat';
import type { RecordedFix } from '../../state/use-recorder';

/** Fixes drawn on the Pad at most: the latest. */
const DRAWN = 900;

const asFix = (f: RecordedFix, x: number, y: number, turn: number): Fix => ({
  at: Date.parse(f.time),
  x,
  y,
  mode: f.mode,
  view: f.view,
  depth: f.depth_m,
  heading: f.heading_deg === null ? null : f.heading_deg - turn,
  port: f.port_range_m,
  starboard: f.starboard_range_m,
  sectorAngle: f.sector_deg,
  sectorRange: f.sector_range_m,
});

/** A patch that was looked at, starboard to the right, ahead up, m; and whether fish or bait were seen about there. */
export interface LookedPatch {
  ring: Point[];
  seen: boolean;
}

/** Something seen within so far of a patch was seen in it, m: half of the cell that a look is. */
const ABOUT = CELL / 2;

/**
 * What was looked at round the boat, as the Pad draws it.
 * @param reach of the Pad, m @param depth under the boat where the track has none, m @param seen places of fish and bait
 */
export function lookedAround(boat: Boat, recorded: RecordedFix[], reach: number, depth: number | null, seen: LatLon[]): LookedPatch[] {
  const round = (place: LatLon, margin: number): Point | null => {
    const { ahead, starboard } = fromBoat(boat, place);
    return Math.hypot(ahead, starboard) < reach + margin ? [starboard, ahead] : null;
  };
  const near: Fix[] = [];
  for (const f of recorded.slice(-DRAWN)) {
    const at = round(f, 60);
    if (at) near.push(asFix(f, ...at, boat.course));
  }
  const marks = seen.map((place) => round(place, ABOUT)).filter((p) => p !== null);
  return scanSwaths(near, () => depth ?? 5).map(({ patch: { points: ring, minX, maxX, minY, maxY } }) => ({
    ring,
    seen: marks.some(([x, y]) => x > minX - ABOUT && x < maxX + ABOUT && y > minY - ABOUT && y < maxY + ABOUT),
  }));
}

/** Water looked at on a trip, hectares, each place once. @param depthAt depth of a place in the plane of `epsg`, m */
export function hectaresLookedAt(track: TrackFix[], epsg: number | null, depthAt: (x: number, y: number) => number): number {
  if (!track.length) return 0;
  const plane = metricPlane(epsg ?? utmEpsg(track[0]));
  const { fixes } = tripInPlane(plane, { track, stops: [], contacts: [], responses: [] });
  return areaLookedAt(scanSwaths(fixes, depthAt).map((s) => s.patch)) / 10_000;
}
