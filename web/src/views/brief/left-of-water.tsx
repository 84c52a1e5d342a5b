import { useEffect, useRef } from 'react';
import type { CellTable } from '@restless-shoal/core/chart';
import { themeColour, useTheme } from '../../state/theme';

/** A thumbnail of what a depth window leaves: bottom inside it, pale where the water column is inside over a deeper bottom, and out. */
export function LeftOfWater({
  cells,
  window,
  waves,
  label,
}: {
  cells: CellTable;
  window: { top: number; bottom: number; empty: boolean };
  /** Height of the waves on each cell, m, to be shown instead; darker is higher. */
  waves: Float32Array | null;
  label: string;
}) {
  const ref = useRef<HTMLCanvasElement>(null);
  const theme = useTheme();
  const { top, bottom, empty } = window;
  useEffect(() => {
    const canvas = ref.current!;
    let [c0, c1, r0, r1] = [Infinity, -Infinity, Infinity, -Infinity];
    for (let i = 0; i < cells.count; i++) {
      c0 = Math.min(c0, cells.column[i]);
      c1 = Math.max(c1, cells.column[i]);
      r0 = Math.min(r0, cells.row[i]);
      r1 = Math.max(r1, cells.row[i]);
    }
    [canvas.width, canvas.height] = [c1 - c0 + 3, r1 - r0 + 3];
    const context = canvas.getContext('2d')!;
    const image = context.createImageData(canvas.width, canvas.height);
    const [act, line] = [themeColour('--act'), themeColour('--line')];
    const ground = themeColour('--ground');
    const highest = waves
      ? Math.max(
          0.05,
          waves.reduce((a, b) => Math.max(a, b), 0),
        )
      : 1;
    const pale = act.map((v, k) => v * 0.4 + line[k] * 0.6);
    for (let i = 0; i < cells.count; i++) {
      const d = cells.depth[i];
      if (Number.isNaN(d)) continue;
      const t = waves ? waves[i] / highest : 0;
      const c = waves ? ground.map((v, k) => v + (act[k] - v) * (0.15 + 0.85 * t)) : empty || d < top ? line : d <= bottom ? act : pale;
      const o = ((r1 - cells.row[i] + 1) * canvas.width + cells.column[i] - c0 + 1) * 4;
      image.data.set([c[0], c[1], c[2], 255], o);
    }
    context.putImageData(image, 0, 0);
  }, [cells, top, bottom, empty, waves, theme]);
  return (
    <canvas
      ref={ref}
      role="img"
      aria-label={label}
      className="block w-full rounded-box border border-line bg-surface [image-rendering:auto]"
    />
  );
}
