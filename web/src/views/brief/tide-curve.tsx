import { useMemo } from 'react';
import { extremesOf, type Tide } from '@restless-shoal/core/tide';
import { clockInZone } from '../../parts/format';
import { brief as msg, formatDepth } from '../../words';

const HOUR = 3_600_000;
/** Hours before and after the moment. */
const [BEFORE, AFTER] = [6, 18];
const [WIDTH, HEIGHT, EDGE] = [400, 130, 24];
const STEP = 10 * 60_000;

/** A day of the tide: heights over the datum, its turns with their times, and the moment. */
export function TideCurve({ tide, at, zone }: { tide: Tide; at: number; zone: string | null }) {
  const [from, to] = [at - BEFORE * HOUR, at + AFTER * HOUR];
  const curve = useMemo(() => {
    const points: { at: number; height: number }[] = [];
    for (let t = from; t <= to; t += STEP) points.push({ at: t, height: tide.height(t) });
    return points.filter((p) => !Number.isNaN(p.height));
  }, [tide, from, to]);
  const turns = useMemo(() => extremesOf(tide, from, to), [tide, from, to]);
  if (!curve.length) return null;
  const heights = curve.map((p) => p.height);
  const [low, high] = [Math.min(0, ...heights), Math.max(...heights)];
  const x = (t: number): number => ((t - from) / (to - from)) * WIDTH;
  const y = (h: number): number => HEIGHT - EDGE - ((h - low) / Math.max(0.1, high - low)) * (HEIGHT - 2 * EDGE);
  // Where the table says nothing the line is broken.
  const path = curve
    .map((p, i) => `${i > 0 && p.at - curve[i - 1].at <= STEP ? 'L' : 'M'}${x(p.at).toFixed(1)} ${y(p.height).toFixed(1)}`)
    .join(' ');
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full" role="img" aria-label={msg('tide.curve')} data-testid="tide-curve">
      <line x1={0} x2={WIDTH} y1={y(0)} y2={y(0)} stroke="var(--line)" />
      <line x1={x(at)} x2={x(at)} y1={4} y2={HEIGHT - 4} stroke="var(--fish)" strokeWidth={2} />
      <path d={path} fill="none" stroke="var(--act)" strokeWidth={2.5} />
      <circle cx={x(at)} cy={y(tide.height(at))} r={4.5} fill="var(--fish)" />
      {turns.map((t) => {
        const anchor = x(t.at) < 48 ? 'start' : x(t.at) > WIDTH - 48 ? 'end' : 'middle';
        return (
          <text
            key={t.at}
            x={x(t.at)}
            y={t.high ? y(t.height) - 9 : y(t.height) + 17}
            textAnchor={anchor}
            fontSize={12}
            fill="currentColor"
            className="num"
          >
            {clockInZone(new Date(t.at), zone)} · {formatDepth(t.height)}
          </text>
        );
      })}
    </svg>
  );
}
