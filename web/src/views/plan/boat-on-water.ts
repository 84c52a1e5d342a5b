import { metricPlane, outlineToRings, type Point } from '@restless-shoal/core/geo';
import type { CoverFeature } from '@restless-shoal/core/logbook';
import { DEFAULT_BOAT, type BoatOnWater, type PassageArea, type SpeedZone } from '@restless-shoal/core/passage';
import type { Water } from '../../api/queries';
import { mapCover } from '../../parts/map-cover';
import type { PlanSettings } from './settings';

/** The water as the boat of the plan meets it; null while it has no outline. */
export function boatOnWater(water: Water, epsg: number, { cruise, draught }: PlanSettings): BoatOnWater | null {
  if (!water.outline) return null;
  const plane = metricPlane(epsg);
  const cover = mapCover(water.cover, epsg);
  const hazards = cover.filter((c) => c.kind === 'hazard').map(({ geometry }): PassageArea => geometry);
  const zones = water.cover.flatMap(({ kind, geometry, speed_limit_ms: limit }): SpeedZone[] => {
    if (kind !== 'zone' || limit == null || geometry.type !== 'Polygon') return [];
    const points = geometry.coordinates[0].map(([longitude, latitude]) => plane.toMetric({ latitude, longitude }));
    return [{ limit, area: { type: 'Polygon', points } }];
  });
  return {
    rings: outlineToRings(water.outline, (longitude, latitude) => plane.toMetric({ latitude, longitude })),
    hazards,
    zones,
    boat: { ...DEFAULT_BOAT, cruise, draught },
  };
}

/** Where a boat is launched, as the chart has it: its first access. */
export function accessOf(cover: CoverFeature[]): { latitude: number; longitude: number } | null {
  const found = cover.find((c) => c.kind === 'access' && c.geometry.type === 'Point');
  if (found?.geometry.type !== 'Point') return null;
  const [longitude, latitude] = found.geometry.coordinates;
  return { latitude, longitude };
}

/** A circle as a line. */
export const circle = ([x, y]: Point, radius: number): Point[] =>
  Array.from({ length: 49 }, (_, k): Point => [x + radius * Math.sin((k / 24) * Math.PI), y + radius * Math.cos((k / 24) * Math.PI)]);

/** A boat to scale, bow at a heading, degrees from grid north, its caster so far forward of the antenna. */
export function boatShape([x, y]: Point, heading: number, length: number, bow: number): Point[] {
  const angle = (heading * Math.PI) / 180;
  const at = (ahead: number, aside: number): Point => [
    x + ahead * Math.sin(angle) + aside * Math.cos(angle),
    y + ahead * Math.cos(angle) - aside * Math.sin(angle),
  ];
  const [front, back, half] = [bow + 0.6, bow + 0.6 - length, length * 0.2];
  return [at(front, 0), at(front - length * 0.3, half), at(back, half), at(back, -half), at(front - length * 0.3, -half), at(front, 0)];
}
