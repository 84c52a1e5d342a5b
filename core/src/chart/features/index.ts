/** Shapes of the bottom that hold fish, with names and edges. */
export { findFeatures } from './find';
export { FEATURE_KINDS, type ChartFeature, type FeatureKind } from './types';
export { fieldOf, type Field } from './field';
