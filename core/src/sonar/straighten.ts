/** A point of a picture, px from its upper left corner. */
export interface Pixel {
  x: number;
  y: number;
}

/** The corners of what was a rectangle: upper left, upper right, lower right, lower left. */
export type Corners = readonly [Pixel, Pixel, Pixel, Pixel];

/** How many times a side may be longer than the one across from it before the picture was taken too much from the side. */
const MOST_SLANTED = 4;

/** Twice the area that a corner's two sides span; positive where the corners go round clockwise on a screen. */
const turn = (a: Pixel, b: Pixel, c: Pixel): number => (b.x - a.x) * (c.y - b.y) - (b.y - a.y) * (c.x - b.x);

/** Whether corners can be those of a screen that was photographed: going round clockwise, no side a point, none far longer than the one across. */
export function isScreen(corners: Corners): boolean {
  const side = (k: number): number => Math.hypot(corners[(k + 1) % 4].x - corners[k].x, corners[(k + 1) % 4].y - corners[k].y);
  const round = [0, 1, 2, 3].every((k) => turn(corners[k], corners[(k + 1) % 4], corners[(k + 2) % 4]) > 0);
  return round && [0, 1].every((k) => Math.max(side(k), side(k + 2)) <= MOST_SLANTED * Math.min(side(k), side(k + 2)));
}

/** Size of the straightened picture, px: as long as the longer of each two sides. */
export function straightSize([a, b, c, d]: Corners): { width: number; height: number } {
  const length = (p: Pixel, q: Pixel): number => Math.hypot(p.x - q.x, p.y - q.y);
  return { width: Math.round(Math.max(length(a, b), length(d, c))), height: Math.round(Math.max(length(a, d), length(b, c))) };
}

/**
 * Where a point of the straightened picture lies in the photo: the projective map that takes a rectangle to four corners, which is how a
 * flat screen looks from any side.
 * @param width @param height of the straightened picture, px
 * @throws RangeError where the corners are none of a screen
 * Source: Heckbert 1989, Fundamentals of texture mapping and image warping, §2.2.3.
 */
export function straightToPhoto(corners: Corners, width: number, height: number): (x: number, y: number) => Pixel {
  if (!isScreen(corners)) throw new RangeError('corners');
  const [a, b, c, d] = corners;
  const [dx1, dx2, sx] = [b.x - c.x, d.x - c.x, a.x - b.x + c.x - d.x];
  const [dy1, dy2, sy] = [b.y - c.y, d.y - c.y, a.y - b.y + c.y - d.y];
  const under = dx1 * dy2 - dx2 * dy1;
  const [g, h] = [(sx * dy2 - dx2 * sy) / under, (dx1 * sy - sx * dy1) / under];
  const [xu, xv] = [b.x - a.x + g * b.x, d.x - a.x + h * d.x];
  const [yu, yv] = [b.y - a.y + g * b.y, d.y - a.y + h * d.y];
  return (x, y) => {
    const [u, v] = [x / width, y / height];
    const w = 1 + g * u + h * v;
    return { x: (a.x + xu * u + xv * v) / w, y: (a.y + yu * u + yv * v) / w };
  };
}

/** Pixels of a picture, red, green, blue and opacity by turns. */
export interface Pixels {
  width: number;
  height: number;
  data: Uint8ClampedArray;
}

/**
 * The straightened picture: each of its pixels between the four of the photo about it.
 * @param most pixels of the result at most; a larger one is made smaller
 */
export function straightened(photo: Pixels, corners: Corners, most: number): Pixels {
  const full = straightSize(corners);
  const scale = Math.min(1, Math.sqrt(most / (full.width * full.height)));
  const [width, height] = [Math.max(1, Math.round(full.width * scale)), Math.max(1, Math.round(full.height * scale))];
  const at = straightToPhoto(corners, width, height);
  const data = new Uint8ClampedArray(4 * width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const from = at(x + 0.5, y + 0.5);
      const [px, py] = [Math.max(0, Math.min(photo.width - 1, from.x - 0.5)), Math.max(0, Math.min(photo.height - 1, from.y - 0.5))];
      const [left, top] = [Math.min(photo.width - 2, Math.floor(px)), Math.min(photo.height - 2, Math.floor(py))];
      const [fx, fy] = [px - Math.max(0, left), py - Math.max(0, top)];
      const first = 4 * (Math.max(0, top) * photo.width + Math.max(0, left));
      const [right, below] = [photo.width > 1 ? 4 : 0, photo.height > 1 ? 4 * photo.width : 0];
      for (let channel = 0; channel < 4; channel++) {
        const k = first + channel;
        const upper = photo.data[k] + fx * (photo.data[k + right] - photo.data[k]);
        const lower = photo.data[k + below] + fx * (photo.data[k + below + right] - photo.data[k + below]);
        data[4 * (y * width + x) + channel] = upper + fy * (lower - upper);
      }
    }
  return { width, height, data };
}
