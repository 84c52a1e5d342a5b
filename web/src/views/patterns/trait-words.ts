import { COVER_AT, type SimilarityTrait } from '@restless-shoal/core/patterns';
import { decimal, formatDepth, formatLength, patterns as msg, term } from '../../words';

/** What a trait of a place is called. */
export const traitName = (trait: SimilarityTrait): string =>
  trait === 'position-near' || trait === 'position-wide'
    ? msg(`trait.${trait}`, { reach: trait === 'position-near' ? 50 : 150 })
    : msg(`trait.${trait}`);

/** A trait's value in words with its unit. */
export function traitWords(trait: SimilarityTrait, v: number): string {
  if (Number.isNaN(v)) return msg('trait.unknown');
  switch (trait) {
    case 'depth':
      return formatDepth(v);
    case 'hardness':
      return `${term(v >= 0.6 ? 'hard' : v < 0.35 ? 'soft' : 'firm')} (${decimal(v, 2)})`;
    case 'slope':
      return `${decimal(v)} %`;
    case 'position-near':
    case 'position-wide':
      return msg(v >= 0 ? 'trait.higher' : 'trait.lower', { by: Math.abs(v) });
    case 'cover':
      return term(COVER_AT[v] ?? 'open');
    case 'blown':
      return msg(v > 0.2 ? 'trait.windBlown' : v < -0.2 ? 'trait.sheltered' : 'trait.neither');
    case 'arm':
      return v < 0.01 ? msg('trait.openWater') : msg('trait.upAnArm', { percent: Math.round(100 * v) });
    default:
      return v >= 200 ? msg('trait.farOff') : msg('trait.off', { distance: formatLength(Math.round(v)) });
  }
}
