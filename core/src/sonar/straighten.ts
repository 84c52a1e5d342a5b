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

/** The map's numbers: x = (xx·X + xy·Y + x0)/w, y alike, w = wx·X + wy·Y + 1. */
function mapping(corners: Corners, width: number, height: number) {
  if (!isScreen(corners)) throw new RangeError('corners');
  const [a, b, c, d] = corners;
  const [dx1, dx2, sx] = [b.x - c.x, d.x - c.x, a.x - b.x + c.x - d.x];
  const [dy1, dy2, sy] = [b.y - c.y, d.y - c.y, a.y - b.y + c.y - d.y];
  const under = dx1 * dy2 - dx2 * dy1;
  const [g, h] = [(sx * dy2 - dx2 * sy) / under, (dx1 * sy - sx * dy1) / under];
  return {
    xx: (b.x - a.x + g * b.x) / width,
    xy: (d.x - a.x + h * d.x) / height,
    x0: a.x,
    yx: (b.y - a.y + g * b.y) / width,
    yy: (d.y - a.y + h * d.y) / height,
    y0: a.y,
    wx: g / width,
    wy: h / height,
  };
}

/**
 * Where a point of the straightened picture lies in the photo: the projective map that takes a rectangle to four corners, which is how a
 * flat screen looks from any side.
 * @param width @param height of the straightened picture, px
 * @throws RangeError where the corners are none of a screen
 * Source: Heckbert 1989, Fundamentals of texture mapping and image warping, §2.2.3.
 */
export function straightToPhoto(corners: Corners, width: number, height: number): (x: number, y: number) => Pixel {
  const m = mapping(corners, width, height);
  return (x, y) => {
    const w = m.wx * x + m.wy * y + 1;
    return { x: (m.xx * x + m.xy * y + m.x0) / w, y: (m.yx * x + m.yy * y + m.y0) / w };
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
  const { xx, xy, x0, yx, yy, y0, wx, wy } = mapping(corners, width, height);
  const { data: from } = photo;
  const [lastX, lastY, row] = [photo.width - 1, photo.height - 1, 4 * photo.width];
  const data = new Uint8ClampedArray(4 * width * height);
  // Millions of pixels: nothing is made for each.
  for (let y = 0, to = 0; y < height; y++)
    for (let x = 0; x < width; x++, to += 4) {
      const w = wx * (x + 0.5) + wy * (y + 0.5) + 1;
      const px = Math.max(0, Math.min(lastX, (xx * (x + 0.5) + xy * (y + 0.5) + x0) / w - 0.5));
      const py = Math.max(0, Math.min(lastY, (yx * (x + 0.5) + yy * (y + 0.5) + y0) / w - 0.5));
      const [left, top] = [px | 0, py | 0];
      const [fx, fy] = [px - left, py - top];
      const upper = top * row + 4 * left;
      const right = left < lastX ? 4 : 0;
      const lower = top < lastY ? upper + row : upper;
      for (let k = 0; k < 3; k++) {
        const above = from[upper + k] + fx * (from[upper + right + k] - from[upper + k]);
        const below = from[lower + k] + fx * (from[lower + right + k] - from[lower + k]);
        data[to + k] = above + fy * (below - above);
      }
      data[to + 3] = 255;
    }
  return { width, height, data };
}
