import type { ChartFeature } from '@restless-shoal/core/chart';
import { metric } from '@restless-shoal/core/units';
import { depthText, type DepthUnit } from '../../parts/format';
import { formatLength, chart as msg, decimal } from '../../words';

/** What a shape is, in the field's words: where its top or lip lies, how far it stands out, how far it reaches. */
export function shapeWords(shape: ChartFeature, unit: DepthUnit): string {
  const depth = depthText(shape.depth, unit);
  const rise = depthText(shape.rise, unit);
  const length = formatLength(shape.size, { ...metric, depth: unit });
  switch (shape.kind) {
    case 'hump':
    case 'reef':
    case 'bank':
    case 'irregularity':
      return msg('shapeWords.topAtHighAcross', { depth, rise, length });
    case 'hole':
      return msg('shapeWords.downToDeepAcross', { depth, rise, length });
    case 'point':
    case 'inside turn':
      return msg('shapeWords.atStandsOutAcross', { depth, rise, length });
    case 'ledge':
    case 'drop-off':
      return msg('shapeWords.lipAtDropsLong', { depth, rise, length });
    case 'saddle':
      return msg('shapeWords.atHeightsAboveIt', { depth, rise, length });
    case 'channel':
    case 'gully':
      return msg('shapeWords.atBelowItsShoulders', { depth, rise, length });
    case 'channel swing':
      return msg('shapeWords.atBelowItsShoulders2', { depth, rise });
    case 'flat':
      return msg('shapeWords.atAboutHa', { depth, pi: (Math.PI / 4) * shape.size ** 2 });
    case 'eddy':
      return msg('shapeWords.eddyWideLong', { depth, wide: formatLength(shape.rise, { ...metric, depth: unit }), length });
    case 'seam':
      return msg('shapeWords.seamLong', { depth, length });
    case 'hard spot':
      return msg('shapeWords.atAcrossHardnessAbove', { depth, length, rise: decimal(shape.rise, 2) });
    case 'hard-to-soft edge':
      return msg('shapeWords.atLongHardnessChanges', { depth, length, rise: decimal(shape.rise, 2) });
  }
}

/** How sharp it is, in words. */
export const sharpnessWords = ({ kind, sharpness }: ChartFeature): string =>
  kind.startsWith('hard')
    ? ''
    : sharpness > 0.005
      ? msg('shapeWords.steepestFallIn', { sharpness: Math.round(1 / sharpness) })
      : msg('shapeWords.hardlyAnyFall');
