import { useMemo } from 'react';
import { extremesOf, type Tide } from '@restless-shoal/core/tide';
import { clockInZone } from '../../parts/format';
import { tideLine } from '../../parts/tide-line';
import { brief as msg, formatDepth } from '../../words';

const HOUR = 3_600_000;
/** Hours before and after the moment. */
const [BEFORE, AFTER] = [6, 18];
const [WIDTH, HEIGHT, EDGE] = [400, 130, 24];

/** A day of the tide: heights over the datum, its turns with their times, and the moment. */
export function TideCurve({ tide, at, zone }: { tide: Tide; at: number; zone: string | null }) {
  const [from, to] = [at - BEFORE * HOUR, at + AFTER * HOUR];
  const line = useMemo(() => tideLine(tide, from, to, WIDTH, HEIGHT, EDGE), [tide, from, to]);
  const turns = useMemo(() => extremesOf(tide, from, to), [tide, from, to]);
  if (!line) return null;
  const { x, y } = line;
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full" role="img" aria-label={msg('tide.curve')} data-testid="tide-curve">
      <line x1={0} x2={WIDTH} y1={y(0)} y2={y(0)} stroke="var(--line)" />
      <line x1={x(at)} x2={x(at)} y1={4} y2={HEIGHT - 4} stroke="var(--fish)" strokeWidth={2} />
      <path d={line.path} fill="none" stroke="var(--act)" strokeWidth={2.5} />
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
