import Feature from 'ol/Feature';
import { LineString, Point, Polygon } from 'ol/geom';
import { Fill, Stroke, Style, Text } from 'ol/style';
import type { ContourLine } from '@restless-shoal/core/chart';
import type { Point as MetricPoint } from '@restless-shoal/core/geo';
import { coverStyle, css, FONT, sentStyle } from './signs';

/** Cover in the water's plane, m. */
export interface MapCover {
  kind: string;
  name: string | null;
  /** What a press on it hits. */
  sign?: string;
  /** Somebody else's: how far off it may lie, m; 0 where nobody says. */
  sent?: number;
  geometry: { type: 'Point' | 'LineString' | 'Polygon'; points: MetricPoint[] };
}

/** How far an empty map reaches from the place where the water lies, m. */
export const EMPTY_REACH = 400;
const SQUARE = 100;

/** Squares of 100 m on an empty map, and a cross where the water is said to lie: something to draw by. */
export function squares(x0: number, y0: number): Feature[] {
  const lines: Feature[] = [];
  const far = 10 * EMPTY_REACH;
  const add = (points: number[][], strong: boolean): void => {
    const line = new Feature(new LineString(points));
    line.setStyle(new Style({ stroke: new Stroke({ color: css('--ink', strong ? 0.8 : 0.13), width: strong ? 2 : 1 }) }));
    lines.push(line);
  };
  for (let d = -far; d <= far; d += SQUARE) {
    add([[x0 + d, y0 - far], [x0 + d, y0 + far]], false); // prettier-ignore
    add([[x0 - far, y0 + d], [x0 + far, y0 + d]], false); // prettier-ignore
  }
  add([[x0 - 12, y0], [x0 + 12, y0]], true); // prettier-ignore
  add([[x0, y0 - 12], [x0, y0 + 12]], true); // prettier-ignore
  return lines;
}

/** Contours with their depths along them. @param unit length of the unit that the labels are in, m */
export function contourFeatures(lines: ContourLine[], unit: number): Feature[] {
  const text = new Fill({ color: css('--ink', 0.95) });
  const halo = new Stroke({ color: css('--ground', 0.75), width: 3 });
  const depths = [...new Set(lines.map((l) => l.depth))].sort((p, q) => p - q);
  // Every fifth line is heavier and carries its depth; of a few lines all do.
  const index = (depth: number): boolean => depths.length <= 12 || (depths.indexOf(depth) + 1) % 5 === 0;
  return lines.map(({ depth, points }) => {
    const feature = new Feature(new LineString(points));
    const heavy = index(depth);
    feature.setStyle(
      new Style({
        stroke: new Stroke({ color: css('--ink', heavy ? 0.42 : 0.22), width: heavy && depths.length > 12 ? 1.5 : 1 }),
        text:
          heavy && points.length > 24
            ? new Text({
                text: String(Math.round((depth / unit) * 10) / 10),
                placement: 'line',
                font: `600 12px ${FONT}`,
                fill: text,
                stroke: halo,
                maxAngle: 0.5,
                repeat: 600,
              })
            : undefined,
      }),
    );
    return feature;
  });
}

/** A line that the boat is to go along: strong, on a light edge, so that it stands out over any depth. */
export function runFeatures(runs: MetricPoint[][]): Feature[] {
  return runs
    .filter((points) => points.length > 1)
    .map((points) => {
      const line = new Feature(new LineString(points));
      line.setStyle([
        new Style({ stroke: new Stroke({ color: css('--surface', 0.9), width: 6 }) }),
        new Style({ stroke: new Stroke({ color: css('--act'), width: 3 }) }),
      ]);
      return line;
    });
}

/** Cover, a hazard or access as it is drawn. */
export function coverFeature({ kind, name, sign, sent, geometry }: MapCover): Feature {
  const feature = new Feature(
    geometry.type === 'Point'
      ? new Point(geometry.points[0])
      : geometry.type === 'LineString'
        ? new LineString(geometry.points)
        : new Polygon([geometry.points]),
  );
  feature.setStyle(sent === undefined || geometry.type !== 'Point' ? coverStyle(kind, name) : sentStyle(name, geometry.points[0], sent));
  if (sign !== undefined) feature.set('sign', sign);
  return feature;
}
