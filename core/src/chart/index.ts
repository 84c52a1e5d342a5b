/** Soundings to chart: depth and hardness rasters, contours, the shape of the bottom, the table of cells. */
export { buildChart, proposeSize, type Chart, type SoundingColumns } from './build';
export { proposeOutline } from './propose-outline';
export { packChart, unpackChart } from './pack';
export { contourLines, contourDepths, type ContourLine } from './contour-lines';
export { coverPoints } from './cover-points';
export { bandShare, hypsographOf, type BandShare } from './hypsograph';
export { effectiveFetch, waveHeights } from './wind-on-water';
export { CELL_COLUMNS, FETCH_DIRECTIONS, FAR, type CellTable, type CoverPoints } from './cells';
export { bottomPosition, slope, windowMean } from './shape';
