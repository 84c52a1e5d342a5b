import { memo } from 'react';
import type { SmallMark } from '../../api/queries';
import { lensPath } from '../../parts/symbols';
import { logbook as msg } from '../../words';

const [WIDTH, GAP, FOOT] = [14, 3, 3];

/** A trip at a glance: a small Column a mark, water depth to scale. Flat, since a list draws hundreds. @param height px */
export const SmallColumns = memo(({ marks, height, max }: { marks: SmallMark[]; height: number; max: number }) => {
  const y = (depth: number): number => (height * Math.min(depth, max)) / max;
  const width = marks.length * (WIDTH + GAP);
  return (
    <svg width={width} height={height + FOOT} role="img" aria-label={msg('smallColumns.marks', { n: marks.length })} className="shrink-0">
      {marks.map(([kind, top, bottom, water, count], k) => {
        const x = k * (WIDTH + GAP);
        const floor = y(water ?? max);
        const middle = y((top + bottom) / 2);
        return (
          <g key={k} transform={`translate(${x} 0)`}>
            <rect width={WIDTH} height={floor} fill="var(--w1)" />
            {water !== null && <rect y={floor} width={WIDTH} height={FOOT} fill="var(--foot)" />}
            {kind === 'fish' ? (
              <path d={lensPath(WIDTH / 2, Math.min(floor - 2, middle), count > 3 ? 6 : 4.5)} fill="var(--fish)" />
            ) : (
              <ellipse cx={WIDTH / 2} cy={middle} rx={5} ry={Math.max(2.5, y(bottom - top) / 2)} fill="var(--bait)" />
            )}
          </g>
        );
      })}
    </svg>
  );
});

/** The depth that the Columns of a list are drawn to, m: of its deepest water but for a few. */
export function scaleOf(lists: SmallMark[][]): number {
  const waters = lists.flatMap((list) => list.map(([, , bottom, water]) => water ?? bottom)).sort((a, b) => a - b);
  return Math.max(5, waters[Math.floor(0.95 * (waters.length - 1))] ?? 5);
}
