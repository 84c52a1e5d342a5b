import { Circle as CircleGeometry } from 'ol/geom';
import { Circle, Fill, Icon, RegularShape, Stroke, Style, Text } from 'ol/style';
import type { Point as MetricPoint } from '@restless-shoal/core/geo';
import { themeColour } from '../../state/theme';
import { lensPath } from '../symbols';

/** A colour of the theme as CSS. */
export const css = (name: string, alpha = 1): string => `rgba(${themeColour(name).join(',')},${alpha})`;
export const FONT = '"Atkinson Hyperlegible Next Variable", sans-serif';

/** Text on the map with a halo of the ground, readable over any depth. */
export const label = (text: string, options: ConstructorParameters<typeof Text>[0] = {}): Text =>
  new Text({
    text,
    font: `600 13px ${FONT}`,
    fill: new Fill({ color: css('--ink') }),
    stroke: new Stroke({ color: css('--surface', 0.85), width: 3.5 }),
    ...options,
  });

function svgIcon(body: string, width: number, height: number): Icon {
  return new Icon({
    // Words give way to each other, signs never.
    declutterMode: 'none',
    src: `data:image/svg+xml,${encodeURIComponent(`<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${body}</svg>`)}`,
  });
}

/** Small enough that a season of marks still shows the bottom; bait is an open dot, fish a full one. */
export function dotStyle(kind: string): Style {
  const colour =
    kind === 'fish' ? '--fish' : kind === 'bait' ? '--bait' : kind === 'thermocline' ? '--therm' : kind === 'hazard' ? '--warn' : '--cover';
  const image =
    kind === 'fish'
      ? new Circle({ radius: 1.9, fill: new Fill({ color: css(colour, 0.85) }) })
      : new Circle({ radius: 1.6, stroke: new Stroke({ color: css(colour, 0.9), width: 1.1 }) });
  return new Style({ image, zIndex: kind === 'fish' ? 2 : 1 });
}

export function markStyle(kind: string): Style {
  const halo = css('--surface', 0.9);
  if (kind === 'fish')
    return new Style({
      image: svgIcon(`<path d="${lensPath(10, 7, 7)}" fill="${css('--fish')}" stroke="${halo}" stroke-width="1.2"/>`, 21, 14),
      zIndex: 3,
    });
  if (kind === 'bait')
    return new Style({
      image: svgIcon(
        [
          [3, 4],
          [7, 2],
          [11, 5],
          [5, 8],
          [9, 9],
        ]
          .map(([x, y]) => `<circle cx="${x}" cy="${y}" r="1.7" fill="${css('--bait')}" stroke="${halo}" stroke-width=".7"/>`)
          .join(''),
        14,
        12,
      ),
      zIndex: 2,
    });
  if (kind === 'blank')
    return new Style({
      image: new Circle({
        radius: 5,
        stroke: new Stroke({ color: css('--ink'), width: 2 }),
        fill: new Fill({ color: css('--surface', 0.5) }),
      }),
      zIndex: 1,
    });
  if (kind === 'stop')
    return new Style({
      image: new Circle({ radius: 6, fill: new Fill({ color: css('--act') }), stroke: new Stroke({ color: halo, width: 2 }) }),
      zIndex: 2,
    });
  if (kind === 'cover' || kind === 'weed')
    return new Style({
      image: svgIcon(
        `<path d="M2 12L5 4L7 8L9 1L12 12Z" fill="${css('--cover', 0.5)}" stroke="${css('--cover')}" stroke-width="1.5"/>`,
        14,
        14,
      ),
      zIndex: 1,
    });
  if (kind === 'hazard')
    return new Style({
      image: svgIcon(`<path d="M8 2L15 14H1Z" fill="${halo}" stroke="${css('--warn')}" stroke-width="2"/>`, 16, 16),
      zIndex: 4,
    });
  return new Style({ image: new Circle({ radius: 4, fill: new Fill({ color: css('--therm') }) }), zIndex: 1 });
}

/** Shapes of the bottom: an outline in ink, a tick of colour by what it is; the chosen one stands out. */
export function shapeStyle(kind: string, chosen: boolean): Style[] {
  const hard = kind === 'hard spot' || kind === 'hard-to-soft edge';
  const high = kind === 'hump' || kind === 'point' || kind === 'irregularity' || kind === 'saddle' || kind === 'reef' || kind === 'bank';
  const colour = hard ? '--foot' : high ? '--fish' : '--therm';
  const under = new Style({
    stroke: new Stroke({ color: css('--surface', chosen ? 0.95 : 0.6), width: chosen ? 7 : 3.5 }),
    zIndex: chosen ? 4 : 1,
  });
  const over = new Style({
    stroke: new Stroke({
      color: css(colour, chosen ? 1 : 0.9),
      width: chosen ? 3.5 : 1.7,
      lineDash: kind === 'flat' || kind === 'seam' || hard ? [7, 4] : undefined,
    }),
    fill: new Fill({ color: css(colour, chosen ? 0.18 : 0) }),
    zIndex: chosen ? 5 : 2,
  });
  return [under, over];
}

/** A mark that somebody sent, as far about as it may lie. @param within m, 0 where nobody says */
export function sentStyle(name: string | null, at: MetricPoint, within: number): Style[] {
  const ring = new Style({
    image: new RegularShape({
      points: 4,
      radius: 8,
      // Names may give way to each other, what they name never does.
      declutterMode: 'obstacle',
      fill: new Fill({ color: css('--surface', 0.9) }),
      stroke: new Stroke({ color: css('--mute'), width: 2.5 }),
    }),
    text: name ? label(name, { offsetY: 18, overflow: true }) : undefined,
    zIndex: 3,
  });
  if (!within) return [ring];
  const about = new Style({
    geometry: new CircleGeometry(at, within),
    stroke: new Stroke({ color: css('--mute', 0.8), width: 1.5, lineDash: [4, 6] }),
    zIndex: 1,
  });
  return [ring, about];
}

/** Cover drawn or placed by hand, by what it is. */
export function coverStyle(kind: string, name: string | null): Style {
  const colour =
    kind === 'hazard'
      ? '--warn'
      : kind === 'hard'
        ? '--foot'
        : kind === 'access' || kind === 'mark' || kind === 'zone' || kind === 'area'
          ? '--act'
          : '--cover';
  const point =
    kind === 'hazard' || kind === 'cover' || kind === 'weed'
      ? (markStyle(kind).getImage() ?? undefined)
      : new Circle({
          radius: 6,
          declutterMode: 'obstacle',
          fill: new Fill({ color: css('--surface', 0.9) }),
          stroke: new Stroke({ color: css(colour), width: 2.5 }),
        });
  return new Style({
    image: point,
    stroke: new Stroke({
      color: css(colour, 0.95),
      width: 2.4,
      lineDash: kind === 'weed' ? [3, 4] : kind === 'zone' || kind === 'area' ? [8, 6] : undefined,
    }),
    fill: new Fill({ color: css(colour, kind === 'zone' || kind === 'area' ? 0.07 : 0.16) }),
    text: name ? label(name, { offsetY: kind === 'hazard' ? 20 : 16, overflow: true }) : undefined,
    zIndex: kind === 'hazard' ? 6 : kind === 'area' ? 2 : 3,
  });
}
