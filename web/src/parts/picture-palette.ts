import type { Theme } from '../state/theme';

/** From no echo to the strongest: one even run from ground to ink by day, from dark to a warm pale tone by night. */
const STOPS: Record<Theme, string[]> = {
  day: ['#f6f3e8', '#ddd3dc', '#ae98b6', '#745a86', '#3d2352', '#140a1c'],
  night: ['#0a090b', '#211a27', '#44334e', '#785a76', '#b58f8f', '#ecd3b4'],
};

const channels = (hex: string): number[] => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16));

/** Colours of the levels 0–255 as a canvas holds them (ABGR of little-endian machines). */
export function palette(theme: Theme): Uint32Array {
  const stops = STOPS[theme].map(channels);
  return Uint32Array.from({ length: 256 }, (_, level) => {
    const along = (level / 255) * (stops.length - 1);
    const i = Math.min(stops.length - 2, Math.floor(along));
    const [r, g, b] = stops[i].map((from, k) => Math.round(from + (stops[i + 1][k] - from) * (along - i)));
    return ((255 << 24) | (b << 16) | (g << 8) | r) >>> 0;
  });
}
