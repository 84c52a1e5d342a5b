import { STRATEGIES, type Strategy } from '@restless-shoal/core/forecast';
import { sortOf } from '@restless-shoal/core/lake';

/** The strategies that say something of a water: that of current only where the water runs. */
export const strategiesOf = ({ kind, tide }: { kind: string | null; tide?: unknown }): Strategy[] =>
  STRATEGIES.filter((s) => s !== 'current' || sortOf(kind, tide != null) !== 'lake');
