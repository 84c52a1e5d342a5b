import ImageCanvasSource from 'ol/source/ImageCanvas';
import type { Rings } from '@restless-shoal/core/geo';
import { themeColour } from '../../state/theme';
import type { PlacedPicture } from './pictures';

/** A layer drawn by hand into a canvas half as large again as the map, so that a pan does not run out of it. @param draw is told the extent, m, and pixels a metre */
function canvasSource(
  projection: string,
  draw: (context: CanvasRenderingContext2D, extent: number[], scale: number) => void,
): ImageCanvasSource {
  return new ImageCanvasSource({
    projection,
    ratio: 1.5,
    canvasFunction: (extent, resolution, pixelRatio, size) => {
      const canvas = document.createElement('canvas');
      [canvas.width, canvas.height] = size;
      draw(canvas.getContext('2d')!, extent, pixelRatio / resolution);
      return canvas;
    },
  });
}

/** Draws pictures of the plane into a canvas that OpenLayers asks for, clipped to the water. */
export function pictureSource(
  projection: string,
  /** The water, to which the picture is cut; null: it is not cut. */
  ringsOf: () => Rings | null,
  draw: (context: CanvasRenderingContext2D, place: (picture: PlacedPicture, smooth: boolean) => void, size: [number, number]) => void,
): ImageCanvasSource {
  return canvasSource(projection, (context, extent, scale) => {
    const toX = (x: number): number => (x - extent[0]) * scale;
    const toY = (y: number): number => (extent[3] - y) * scale;
    const rings = ringsOf();
    if (rings) {
      context.beginPath();
      for (const ring of rings) {
        ring.forEach(([x, y], i) => (i ? context.lineTo(toX(x), toY(y)) : context.moveTo(toX(x), toY(y))));
        context.closePath();
      }
      context.clip('evenodd');
    }
    draw(
      context,
      ({ canvas: picture, extent: [x0, y0, x1, y1] }, smooth) => {
        context.imageSmoothingEnabled = smooth;
        context.imageSmoothingQuality = 'high';
        context.drawImage(picture, toX(x0), toY(y1), (x1 - x0) * scale, (y1 - y0) * scale);
      },
      [context.canvas.width, context.canvas.height],
    );
  });
}

/** A fine pattern in screen pixels: a hatch or a stipple, so that what it says does not hang on colour. */
export function pattern(kind: 'hatch' | 'stipple', colour: string): CanvasPattern {
  const tile = document.createElement('canvas');
  tile.width = tile.height = 9;
  const p = tile.getContext('2d')!;
  p.strokeStyle = p.fillStyle = colour;
  p.lineWidth = 1.3;
  p.beginPath();
  if (kind === 'hatch') {
    p.moveTo(-2, 11);
    p.lineTo(11, -2);
    p.moveTo(-2, 2);
    p.lineTo(2, -2);
    p.moveTo(7, 11);
    p.lineTo(11, 7);
    p.stroke();
  } else {
    p.arc(2.2, 2.2, 1.25, 0, 7);
    p.arc(6.8, 6.8, 1.25, 0, 7);
    p.fill();
  }
  return p.createPattern(tile, 'repeat')!;
}

/** Draws one picture as a mask for a pattern, and another beneath it. */
export function patterned(
  context: CanvasRenderingContext2D,
  place: (picture: PlacedPicture, smooth: boolean) => void,
  [width, height]: [number, number],
  { mask, under, kind, colour }: { mask: PlacedPicture; under: PlacedPicture; kind: 'hatch' | 'stipple'; colour: string },
): void {
  place(mask, false);
  context.globalCompositeOperation = 'source-in';
  context.fillStyle = pattern(kind, colour);
  context.fillRect(0, 0, width, height);
  context.globalCompositeOperation = 'destination-over';
  place(under, true);
  context.globalCompositeOperation = 'source-over';
}

/** Soundings for drawing, in the water's plane. */
export interface DrawnSoundings {
  x: Float64Array;
  y: Float64Array;
  /** 1 for those that came with the newest survey. */
  fresh: Uint8Array;
}

/** All soundings as one bitmap, written dot by dot into its pixels: a hundred thousand take a few milliseconds. */
export function soundingsSource(
  projection: string,
  drawn: () => { soundings: DrawnSoundings | null; freshOnly: boolean },
): ImageCanvasSource {
  return canvasSource(projection, (context, extent, scale) => {
    const { soundings, freshOnly } = drawn();
    if (!soundings) return;
    const { canvas } = context;
    const image = context.createImageData(canvas.width, canvas.height);
    const pixels = new Uint32Array(image.data.buffer);
    const rgba = (name: string, alpha: number): number => {
      const [r, g, b] = themeColour(name);
      return ((alpha << 24) | (b << 16) | (g << 8) | r) >>> 0;
    };
    const [plain, fresh] = [rgba('--ink', 150), rgba('--fish', 255)];
    const side = scale > 1 / 1.5 ? 3 : scale > 1 / 4 ? 2 : 1;
    const { x, y } = soundings;
    for (let k = 0; k < x.length; k++) {
      const isFresh = soundings.fresh[k] === 1;
      if (freshOnly && !isFresh) continue;
      const px = Math.round((x[k] - extent[0]) * scale);
      const py = Math.round((extent[3] - y[k]) * scale);
      const colour = isFresh && freshOnly ? fresh : plain;
      for (let dy = 0; dy < side; dy++)
        for (let dx = 0; dx < side; dx++) {
          const [cx, cy] = [px + dx, py + dy];
          if (cx >= 0 && cy >= 0 && cx < canvas.width && cy < canvas.height) pixels[cy * canvas.width + cx] = colour;
        }
    }
    context.putImageData(image, 0, 0);
  });
}
