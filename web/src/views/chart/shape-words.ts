import type { ChartFeature } from '@restless-shoal/core/chart';
import { formatLength, metric } from '@restless-shoal/core/units';
import { grouped, depthText, type DepthUnit } from '../../parts/format';

/** What a shape is, in the field's words: where its top or lip lies, how far it stands out, how far it reaches. */
export function shapeWords(shape: ChartFeature, unit: DepthUnit): string {
  const depth = depthText(shape.depth, unit);
  const rise = depthText(shape.rise, unit);
  const length = formatLength(shape.size, { ...metric, depth: unit });
  switch (shape.kind) {
    case 'hump':
    case 'irregularity':
      return `top at ${depth}, ${rise} high, ${length} across`;
    case 'hole':
      return `down to ${depth}, ${rise} deep, ${length} across`;
    case 'point':
    case 'inside turn':
      return `at ${depth}, stands out ${rise}, ${length} across`;
    case 'ledge':
      return `lip at ${depth}, drops ${rise}, ${length} long`;
    case 'saddle':
      return `at ${depth}, heights ${rise} above it, ${length} apart`;
    case 'channel':
      return `at ${depth}, ${rise} below its shoulders, ${length} long`;
    case 'channel swing':
      return `at ${depth}, ${rise} below its shoulders`;
    case 'flat':
      return `at ${depth}, about ${grouped(((Math.PI / 4) * shape.size ** 2) / 10_000)} ha`;
    case 'hard spot':
      return `at ${depth}, ${length} across, hardness ${shape.rise.toFixed(2)} above its surroundings`;
    case 'hard-to-soft edge':
      return `at ${depth}, ${length} long, hardness changes by ${shape.rise.toFixed(2)}`;
  }
}

/** How sharp it is, in words. */
export const sharpnessWords = ({ kind, sharpness }: ChartFeature): string =>
  kind.startsWith('hard') ? '' : sharpness > 0.005 ? `steepest fall 1 in ${Math.round(1 / sharpness)}` : 'hardly any fall';
