import { oxygenAt, temperatureAt, type ProfileSample } from './profile';

/** What a species needs of the water. */
export interface LayerNeeds {
  /** It leaves water warmer than this, °C. */
  upper: number;
  /** It leaves water with less oxygen than this, mg/l. */
  leastOxygen: number;
}

/**
 * The layer a species can use, m: temperature below its upper limit and oxygen above its least (the squeeze).
 * The thickest such layer of the column, its edges found to 5 cm.
 * @returns null when the squeeze leaves nothing
 */
export function usableLayer(
  samples: ProfileSample[],
  { upper, leastOxygen }: LayerNeeds,
  bottom = samples[samples.length - 1].depth,
): { top: number; bottom: number } | null {
  const step = 0.05;
  const usable = (z: number): boolean => temperatureAt(samples, z) <= upper && (oxygenAt(samples, z) ?? Infinity) >= leastOxygen;
  let best: { top: number; bottom: number } | null = null;
  let start: number | null = null;
  for (let k = 0; k <= Math.round(bottom / step); k++) {
    const z = k * step;
    if (usable(z)) {
      start ??= z;
      if (!best || z - start > best.bottom - best.top) best = { top: start, bottom: z };
    } else start = null;
  }
  return best && best.bottom > best.top ? best : null;
}
