/** Linear algebra, statistics and random numbers under their textbook names, each with its source. */
export { seeded } from './random';
export { normalQuantile, studentQuantile, studentTail } from './student';
export { splitByTrips, wilson, shareOf, type Share, type ShareRow, type SplitRow } from './proportion';
export { falseDiscovery } from './false-discovery';
export { fitGlm, straightLine, type GlmFit, type StraightLine } from './regression';
export { clusterVariance, makeClusters, squaresOf, type Clusters } from './clusters';
export { WithinTrips, rateRatio, type RateRatio } from './within-trips';
export { rateOf, type Rate } from './rate';
export { choleskyInPlace, choleskySolve, invertFactor, inverseEntry } from './linear-algebra';
