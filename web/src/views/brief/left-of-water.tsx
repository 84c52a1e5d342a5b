import { useEffect, useMemo, useRef } from 'react';
import type { Chart } from '@restless-shoal/core/chart';
import { CELL, ringsBounds, type Rings } from '@restless-shoal/core/geo';
import { themeColour, useTheme } from '../../state/theme';

/** Pixels of the drawing to one of the page, and room round the water, px. */
const [SHARP, ROOM] = [2, 6];

type Colour = readonly number[];

/** A picture of a grid, a pixel a cell, with where it lies, m. */
interface GridPicture {
  canvas: HTMLCanvasElement;
  x0: number;
  y0: number;
  size: number;
}

/** @param at column, row from the south, and colour of each cell that has one */
function gridPicture(
  x0: number,
  y0: number,
  size: number,
  width: number,
  height: number,
  at: (put: (i: number, j: number, c: Colour) => void) => void,
): GridPicture {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [width, height];
  const context = canvas.getContext('2d')!;
  const image = context.createImageData(width, height);
  at((i, j, c) => image.data.set([c[0], c[1], c[2], 255], ((height - 1 - j) * width + i) * 4));
  context.putImageData(image, 0, 0);
  return { canvas, x0, y0, size };
}

/** A small map of what a depth window leaves: bottom inside it, pale where the water column is inside over a deeper bottom, and out. */
export function LeftOfWater({
  chart,
  rings,
  window,
  waves,
  label,
}: {
  chart: Chart;
  /** Shores of the water, m. */
  rings: Rings;
  window: { top: number; bottom: number; empty: boolean };
  /** Height of the waves on each cell, m, to be shown instead; darker is higher. */
  waves: Float32Array | null;
  label: string;
}) {
  const ref = useRef<HTMLCanvasElement>(null);
  const theme = useTheme();
  const { top, bottom, empty } = window;
  const [x0, y0, x1, y1] = useMemo(() => ringsBounds(rings), [rings]);
  useEffect(() => {
    const canvas = ref.current!;
    const [act, line, ground] = [themeColour('--act'), themeColour('--line'), themeColour('--ground')];
    const pale = act.map((v, k) => v * 0.4 + line[k] * 0.6);
    const { cells, depth } = chart;
    let picture: GridPicture;
    if (waves) {
      const [c0, r0] = [Math.floor(x0 / CELL) - 1, Math.floor(y0 / CELL) - 1];
      const highest = Math.max(0.05, waves.reduce((a, b) => Math.max(a, b), 0)); // prettier-ignore
      picture = gridPicture(c0 * CELL, r0 * CELL, CELL, Math.ceil(x1 / CELL) - c0 + 1, Math.ceil(y1 / CELL) - r0 + 1, (put) => {
        for (let i = 0; i < cells.count; i++) {
          const t = 0.15 + (0.85 * waves[i]) / highest;
          put(cells.column[i] - c0, cells.row[i] - r0, ground.map((v, k) => v + (act[k] - v) * t)); // prettier-ignore
        }
      });
    } else
      picture = gridPicture(depth.x0, depth.y0, depth.size, depth.width, depth.height, (put) => {
        for (let k = 0; k < depth.data.length; k++) {
          const d = depth.data[k];
          if (Number.isNaN(d)) continue;
          put(k % depth.width, Math.floor(k / depth.width), empty || d < top ? line : d <= bottom ? act : pale);
        }
      });
    const draw = (): void => {
      const wide = canvas.clientWidth * SHARP;
      const scale = (wide - 2 * ROOM) / (x1 - x0);
      [canvas.width, canvas.height] = [wide, Math.round((y1 - y0) * scale) + 2 * ROOM];
      const context = canvas.getContext('2d')!;
      const toX = (x: number): number => ROOM + (x - x0) * scale;
      const toY = (y: number): number => ROOM + (y1 - y) * scale;
      context.beginPath();
      for (const ring of rings) {
        ring.forEach(([x, y], i) => (i ? context.lineTo(toX(x), toY(y)) : context.moveTo(toX(x), toY(y))));
        context.closePath();
      }
      context.save();
      context.clip('evenodd');
      context.imageSmoothingEnabled = true;
      context.imageSmoothingQuality = 'high';
      const { canvas: cellsOf, size } = picture;
      context.drawImage(
        cellsOf,
        toX(picture.x0),
        toY(picture.y0 + cellsOf.height * size),
        cellsOf.width * size * scale,
        cellsOf.height * size * scale,
      );
      context.restore();
      context.strokeStyle = `rgb(${themeColour('--ink').join(',')})`;
      context.lineWidth = 1.6;
      context.stroke();
    };
    draw();
    const watch = new ResizeObserver(() => canvas.clientWidth * SHARP !== canvas.width && draw());
    watch.observe(canvas);
    return () => watch.disconnect();
  }, [chart, rings, x0, y0, x1, y1, top, bottom, empty, waves, theme]);
  return (
    <canvas
      ref={ref}
      role="img"
      aria-label={label}
      // As high as the water is long: a narrow one fills the width, a tall one does not push the cautions away.
      style={{ aspectRatio: `${x1 - x0} / ${y1 - y0}`, maxHeight: '22rem' }}
      className="mx-auto block w-full rounded-box border border-line bg-surface object-contain"
    />
  );
}
