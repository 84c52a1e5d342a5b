/** Lake physics: density, oxygen, light, the water column, waves. Each rule with its source. */
export { waterDensity } from './density';
export { seaWaterDensity } from './sea-water';
export { findHalocline, type Halocline } from './halocline';
export { oxygenSaturation } from './oxygen';
export { sunAndMoon, type SunAndMoon } from './sun-and-moon';
export { attenuation, lightAt, lightAtDepth, onePercentDepth, sunHeight, sunPlace, type SunPlace } from './light';
export {
  tidyProfile,
  findLayers,
  findThermocline,
  temperatureAt,
  oxygenAt,
  oxygenCurve,
  ProfileError,
  type ProfileSample,
  type WaterColumn,
  type Layers,
  type Thermocline,
} from './profile';
export { columnFor, oxygenHoldsTo, type ColumnInputs } from './model-column';
export { seasonDay } from './season-day';
export { courseOfLatitude, usualAt, usualCourse, type SurfaceReading, type UsualCourse } from './usual-course';
export {
  coolingHalf,
  formsLayers,
  overturnMargin,
  seasonScale,
  settledThermocline,
  waterYear,
  winterBelow,
  type Mixing,
  type WaterShape,
  type WaterYear,
} from './water-year';
export { waveHeight, fetchAt } from './waves';
export {
  buoyancyFrequency,
  centreOfVolume,
  frictionVelocity,
  lakeNumber,
  mixedLayerDepth,
  schmidtStability,
  thermoclineTilt,
  wedderburnNumber,
  type Hypsograph,
} from './stability';
export { columnState, type ColumnState } from './state';
export { lowLight, type LightWindow, type LowLight } from './daylight';
export type { DatedProfile } from './own-profiles';
export { isTidal, sortOf, type WaterSort } from './tidal';
