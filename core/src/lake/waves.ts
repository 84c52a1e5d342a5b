import { insideRings, type Rings } from '../geo';

/**
 * Height of depth-limited wind waves, m.
 * @param wind wind speed, m/s @param fetch m @param depth mean depth over the fetch, m
 * Source: Shore Protection Manual 1984, with UA = 0.71·U^1.23.
 */
export function waveHeight(wind: number, fetch: number, depth: number): number {
  if (wind <= 0 || fetch <= 0 || depth <= 0) return 0;
  const g = 9.81;
  const ua = 0.71 * wind ** 1.23;
  const limit = Math.tanh(0.53 * ((g * depth) / ua ** 2) ** 0.75);
  return ((ua ** 2 * 0.283) / g) * limit * Math.tanh((0.00565 * Math.sqrt((g * fetch) / ua ** 2)) / limit);
}

/**
 * Way the wind has over open water before it reaches a point, m, along one ray.
 * @param from direction the wind comes from, degrees true @param step ray step, m
 */
export function fetchAt(rings: Rings, x: number, y: number, from: number, step = 25, most = 20000): number {
  const dx = Math.sin((from * Math.PI) / 180) * step;
  const dy = Math.cos((from * Math.PI) / 180) * step;
  let length = 0;
  for (let px = x + dx, py = y + dy; length < most && insideRings(rings, px, py); px += dx, py += dy) length += step;
  return length;
}
