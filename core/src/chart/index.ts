/** Soundings to chart: depth and hardness rasters, contours, the shape of the bottom, the table of cells. */
export {
  buildChart,
  cellsOf,
  chartFrom,
  laySurface,
  proposeSize,
  shapesOf,
  type BuildOptions,
  type WaterNature,
  type Chart,
  type SoundingColumns,
  type Surface,
  type Worked,
} from './build';
export {
  cleanSoundings,
  levelAt,
  overDatum,
  type CleanContext,
  type Cleaned,
  type CleanSettings,
  type CleanStep,
  type LevelReading,
  type SoundingTable,
} from './clean';
export { FEATURE_KINDS, findFeatures, type ChartFeature, type FeatureKind } from './features';
export { riverFlow, type CurrentReading, type RiverFlow } from './river-flow';
export { calibrateHardness } from './hardness';
export { mainBody } from './main-body';
export { proposeOutline } from './propose-outline';
export { emptyChart } from './empty-chart';
export { cellsAtLevel, chartAtLevel, depthAtLevel, waterAt } from './at-level';
export { packChart, unpackChart } from './pack';
export { packSoundings, unpackSoundings, type PlacedSoundings } from './pack-soundings';
export { contourLines, contourDepths, type ContourLine } from './contour-lines';
export { coverPoints, hardPoints } from './cover-points';
export { bandShare, hypsographOf, volumeBetween, type BandShare } from './hypsograph';
export { effectiveFetch, waveHeights } from './wind-on-water';
export { CELL_COLUMNS, FETCH_DIRECTIONS, FAR, type CellTable, type CoverPoints } from './cells';
export { bottomPositions, slope } from './shape';
export { tripSurface, type TripSoundings, type TripSurface } from './trip-surface';
