import { insideRings, Raster, ringsBounds, type Point, type Rings } from '../../src/geo';
import { seeded } from '../../src/numbers';
import { DEFAULT_BOAT, NavigableWater, type NavigableInputs, type PassageArea } from '../../src/passage';

/** A rectangle of water with a bottom, far from where the plane's numbers are small. */
export const EAST = 500_000;
export const NORTH = 6_000_000;

export function depthRaster(rings: Rings, size: number, depth: (x: number, y: number) => number): Raster {
  const [bx, by, ex, ey] = ringsBounds(rings);
  const raster = new Raster(Math.floor(bx / 25) * 25, Math.floor(by / 25) * 25, size, Math.ceil((ex - bx) / size) + 26, Math.ceil((ey - by) / size) + 26); // prettier-ignore
  for (let k = 0; k < raster.data.length; k++) {
    const [x, y] = raster.centre(k);
    if (insideRings(rings, x, y)) raster.data[k] = depth(x, y);
  }
  return raster;
}

export const rectangle = (width: number, height: number): Rings => [
  [
    [EAST, NORTH],
    [EAST + width, NORTH],
    [EAST + width, NORTH + height],
    [EAST, NORTH + height],
  ],
];

export function boatWater(more: Partial<NavigableInputs> & { rings: Rings; bottom?: (x: number, y: number) => number }): NavigableWater {
  const { rings, bottom = () => 6, ...rest } = more;
  return new NavigableWater({
    rings,
    depth: depthRaster(rings, 5, bottom),
    level: 0,
    hazards: [],
    zones: [],
    boat: DEFAULT_BOAT,
    ...rest,
  });
}

/** A ragged water with islands, a bottom with shallows, and hazards of all shapes. */
export function raggedWater(seed: number): { inputs: NavigableInputs; bottom: (x: number, y: number) => number } {
  const random = seeded(seed);
  const ring = (cx: number, cy: number, radius: number, corners: number): Point[] =>
    Array.from({ length: corners }, (_, k): Point => {
      const angle = (k / corners) * 2 * Math.PI;
      const r = radius * (0.6 + 0.4 * random());
      return [cx + r * Math.cos(angle), cy + r * Math.sin(angle)];
    });
  const rings: Rings = [ring(EAST, NORTH, 260, 12)];
  for (let k = 0; k < 3; k++) rings.push(ring(EAST + 220 * (random() - 0.5), NORTH + 220 * (random() - 0.5), 12 + 30 * random(), 6));
  const [a, b, c] = [random() * 6, random() * 6, 60 + 80 * random()];
  const bottom = (x: number, y: number): number => 2.5 + 2.6 * Math.sin((x - EAST) / c + a) * Math.cos((y - NORTH) / c + b);
  const at = (): Point => [EAST + 340 * (random() - 0.5), NORTH + 340 * (random() - 0.5)];
  const hazards: PassageArea[] = [
    { type: 'Point', points: [at()] },
    { type: 'LineString', points: [at(), at(), at()] },
    { type: 'Polygon', points: ring(...at(), 30, 5) },
  ];
  return { inputs: { rings, depth: depthRaster(rings, 10, bottom), level: 0, hazards, zones: [], boat: DEFAULT_BOAT }, bottom };
}
