/** The statistics that patterns rest on, each with its source. */
export { seeded } from '../../numbers';
export { normalQuantile, studentQuantile, studentTail } from './student';
export { fisherExact, wilson, shareOf, type Share, type ShareRow } from './proportion';
export { falseDiscovery } from './false-discovery';
export { fitGlm, straightLine, type GlmFit, type StraightLine } from './regression';
export { clusterVariance, makeClusters, type Clusters } from './clusters';
export { WithinTrips, rateRatio, type RateRatio } from './within-trips';
