import type { SpeciesProfile } from './profile';

export interface SeasonStage {
  name: string;
  /** Words for the Strip. */
  label: string;
}

/**
 * The season stage of a species from the surface temperature, its trend and the state of the column.
 * @param surface °C @param trend °C a day, over about ten days @param stratified whether there is a thermocline
 */
export function seasonStage(s: SpeciesProfile, surface: number, trend: number, stratified: boolean): SeasonStage {
  const stage = (name: string, label = name): SeasonStage => ({ name, label });
  const spawning = s.spawning;
  const inSpawn =
    spawning && surface >= spawning.from && surface <= spawning.to && (spawning.direction === 'rising' ? trend >= 0 : trend <= 0);
  if (inSpawn) return stage('spawning');
  if (surface < 4) return stage('winter');
  if (trend >= 0 && spawning?.direction === 'rising' && surface < spawning.from)
    return stage('pre-spawn', surface < 6 ? 'early spring' : 'before spawning');
  if (stratified) return trend < -0.08 ? stage('cooling') : stage('summer', 'summer, settled');
  if (trend < 0 && surface < 16) return surface > 8 ? stage('turnover', 'autumn, mixing') : stage('late autumn');
  return spawning && surface <= spawning.to + 3 ? stage('post-spawn', 'after spawning') : stage('summer', 'summer, mixed');
}
