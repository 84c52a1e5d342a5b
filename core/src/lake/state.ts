import { findThermocline, type ProfileSample } from './profile';
import { coolingHalf, formsLayers, overturnMargin, type WaterYear } from './water-year';

export type ColumnState = 'mixed' | 'weakly stratified' | 'stratified' | 'inversely stratified' | 'turning over';

/** What people report that tells of a turnover. */
const TURNOVER_SIGNS = /debris|dirty|murky|rot|smell|brown water|foam/i;

/**
 * The state of a sorted column. It turns over only in the falling half of the year of a water that had layers, once the
 * surface is nearly as cold as the deep water: a cold front in May turns nothing over.
 * @param trend of the surface temperature, °C a day @param signs free words of the day's readings
 * @param day of the season (`seasonDay`)
 */
export function columnState(samples: ProfileSample[], trend: number, year: WaterYear, day: number, signs = ''): ColumnState {
  const [top, bottom] = [samples[0].temperature, samples[samples.length - 1].temperature];
  const fall = top - bottom;
  if (top < 3.9 && fall < -0.3) return 'inversely stratified';
  const autumn = formsLayers(year) && coolingHalf(day) && top > 4 && top < year.deep + year.deepWarming + overturnMargin(year) + 1;
  // The surface has cooled to within a small margin of the bottom, and goes on cooling.
  if (autumn && trend < -0.05 && fall < 1.5 && fall > -0.5) return fall > 0.15 || TURNOVER_SIGNS.test(signs) ? 'turning over' : 'mixed';
  const line = findThermocline(samples);
  if (!line) return fall > 1 ? 'weakly stratified' : 'mixed';
  return fall < 4 ? 'weakly stratified' : 'stratified';
}
