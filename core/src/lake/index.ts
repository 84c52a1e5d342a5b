/** Lake physics: density, oxygen, light, the water column, waves. Each rule with its source. */
export { waterDensity } from './density';
export { oxygenSaturation } from './oxygen';
export { attenuation, lightAt, onePercentDepth, sunHeight } from './light';
export {
  tidyProfile,
  findThermocline,
  temperatureAt,
  oxygenAt,
  ProfileError,
  type ProfileSample,
  type WaterColumn,
  type Thermocline,
} from './profile';
export { columnFor, oxygenHoldsTo, seasonDay, settledThermocline, type ColumnInputs } from './model-column';
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
export { usableLayer, type LayerNeeds } from './oxygen-layer';
export { lightWindows, type LightWindow } from './daylight';
export type { DatedCast } from './own-casts';
export { isTidal } from './tidal';
