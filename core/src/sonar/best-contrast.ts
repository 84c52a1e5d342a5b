/** How strong hard and soft bottom showed at a setting, on one scale. */
export interface ContrastTry {
  /** The setting: gain, dB or steps. */
  level: number;
  hard: number;
  soft: number;
}

/** A setting's contrast. */
export interface LevelContrast {
  level: number;
  /** Mean of hard less soft. */
  contrast: number;
  n: number;
}

/**
 * The setting at which hard bottom stands out most from soft: too little and neither shows, too much and both are at the top of the scale.
 * Of settings that do as well the lowest.
 * @returns all levels that were tried, in order, and the best; null before two levels were tried
 */
export function bestContrast(tries: readonly ContrastTry[]): { levels: LevelContrast[]; best: LevelContrast } | null {
  const levels = [...new Set(tries.map((t) => t.level))]
    .sort((a, b) => a - b)
    .map((level): LevelContrast => {
      const own = tries.filter((t) => t.level === level);
      return { level, contrast: own.reduce((s, t) => s + t.hard - t.soft, 0) / own.length, n: own.length };
    });
  if (levels.length < 2) return null;
  return { levels, best: levels.reduce((a, b) => (b.contrast > a.contrast ? b : a)) };
}
