import { STRATEGIES, type Strategy } from '@restless-shoal/core/forecast';
import { runs } from '@restless-shoal/core/lake';

/** The strategies that say something of a water: that of current only where the water runs. */
export const strategiesOf = ({ kind, tide }: { kind: string | null; tide?: unknown }): Strategy[] =>
  STRATEGIES.filter((s) => s !== 'current' || runs(kind, tide != null));
