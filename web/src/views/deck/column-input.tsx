import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { ColumnDrawing } from '../../parts/column';
import { formatDepth, sayIn } from '@restless-shoal/core/units';
import { useUnits } from '../../state/units';
import { depthTicks } from '../../parts/format';

export interface DepthSpan {
  top: number;
  bottom: number;
}

interface ColumnInputProps {
  width: number;
  height: number;
  bottom: number | null;
  hardness: number | null;
  thermocline: { top: number; bottom: number } | null;
  oxygenTo: number | null;
  span: DepthSpan;
  count: number;
  kind: string;
  onChange: (span: DepthSpan) => void;
}

const HALF = 0.5;

/** The Column as an input: one touch sets the depth, give or take half a metre; its two handles refine top and bottom. */
export function ColumnInput({ width, height, bottom, hardness, thermocline, oxygenTo, span, count, kind, onChange }: ColumnInputProps) {
  const units = useUnits();
  const number = (depth: number): string => formatDepth(depth, units, false);
  const svg = useRef<SVGSVGElement>(null);
  const drag = useRef<'top' | 'bottom' | 'both' | null>(null);
  const floor = bottom ?? 12;
  const max = Math.max(5, Math.ceil((floor + 1) / 2) * 2);
  const h = height - 26;
  const left = 40;
  const cw = width - left - 46;
  const y = (depth: number): number => 10 + (h * depth) / max;
  const depthAt = (event: PointerEvent): number => {
    const box = svg.current!.getBoundingClientRect();
    const depth = (((event.clientY - box.top) * (height / box.height) - 10) / h) * max;
    return Math.round(Math.min(floor, Math.max(0, depth)) * 10) / 10;
  };
  const around = (depth: number): DepthSpan => ({
    top: Math.max(0, Number((depth - HALF).toFixed(1))),
    bottom: Math.min(floor, Number((depth + HALF).toFixed(1))),
  });
  const down = (event: PointerEvent): void => {
    event.currentTarget.setPointerCapture(event.pointerId);
    const handle = (event.target as Element).getAttribute('data-edge') as 'top' | 'bottom' | null;
    drag.current = handle ?? 'both';
    if (!handle) onChange(around(depthAt(event)));
  };
  const move = (event: PointerEvent): void => {
    if (!drag.current) return;
    const depth = depthAt(event);
    if (drag.current === 'both') onChange(around(depth));
    else if (drag.current === 'top') onChange({ top: Math.min(depth, span.bottom), bottom: span.bottom });
    else onChange({ top: span.top, bottom: Math.max(depth, span.top) });
  };
  const press = (event: KeyboardEvent): void => {
    const step = (event.shiftKey ? 1 : 0.1) * (event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0);
    const grow = event.key === 'ArrowRight' ? 0.1 : event.key === 'ArrowLeft' ? -0.1 : 0;
    if (!step && !grow) return;
    event.preventDefault();
    const top = Math.min(floor, Math.max(0, span.top + step - grow / 2));
    onChange({ top: Number(top.toFixed(2)), bottom: Number(Math.min(floor, Math.max(top, span.bottom + step + grow / 2)).toFixed(2)) });
  };
  const middle = (span.top + span.bottom) / 2;
  const tint = kind === 'bait' ? 'var(--bait)' : kind === 'fish' ? 'var(--fish)' : kind === 'thermocline' ? 'var(--therm)' : 'var(--cover)';
  return (
    <svg
      ref={svg}
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="slider"
      tabIndex={0}
      aria-label="How deep"
      aria-orientation="vertical"
      aria-valuemin={0}
      aria-valuemax={Number(floor.toFixed(1))}
      aria-valuenow={Number(middle.toFixed(1))}
      aria-valuetext={sayIn(units, `${span.top.toFixed(1)} to ${span.bottom.toFixed(1)} m`)}
      className="cursor-pointer touch-none select-none"
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={() => (drag.current = null)}
      onPointerCancel={() => (drag.current = null)}
      onKeyDown={press}
    >
      {depthTicks(max, units.depth).map(({ depth, major, label }) => (
        <g key={depth}>
          <line x1={major ? 26 : 30} x2={left - 4} y1={y(depth)} y2={y(depth)} stroke="var(--mute)" strokeWidth={major ? 1.6 : 1} />
          {label !== null && (
            <text x="22" y={y(depth) + 5} textAnchor="end" fontSize="15" fill="var(--ink)" className="num">
              {label}
            </text>
          )}
        </g>
      ))}
      <g transform={`translate(${left},10)`}>
        <ColumnDrawing
          width={cw}
          height={h}
          max={max}
          large
          bottom={floor}
          hardness={hardness}
          thermocline={thermocline}
          oxygenTo={oxygenTo}
          fish={kind === 'fish' ? [{ depth: middle, count: Math.min(3, count) }] : []}
          bait={kind === 'bait' ? span : null}
          cover={kind === 'cover' || kind === 'weed' ? Math.max(0.4, floor - span.top) : null}
        >
          <rect
            x="-3"
            y={y(span.top) - 10}
            width={cw + 6}
            height={Math.max(4, y(span.bottom) - y(span.top))}
            fill="none"
            stroke={tint}
            strokeWidth="3"
            rx="6"
          />
          {(['top', 'bottom'] as const).map((edge) => (
            <g key={edge}>
              <circle cx={cw / 2} cy={y(span[edge]) - 10} r="8" fill="var(--surface)" stroke={tint} strokeWidth="3" pointerEvents="none" />
              <circle
                data-edge={edge}
                cx={cw / 2}
                cy={y(span[edge]) - 10 + (edge === 'top' ? -8 : 8)}
                r="20"
                fill="transparent"
                className="cursor-ns-resize"
              />
            </g>
          ))}
        </ColumnDrawing>
      </g>
      <g className="num" fontSize="16" fontWeight="700">
        <text x={left + cw + 7} y={y(span.top) + 2} fill={tint}>
          {number(span.top)}
        </text>
        <text x={left + cw + 7} y={Math.max(y(span.bottom) + 8, y(span.top) + 18)} fill={tint}>
          {number(span.bottom)}
        </text>
        {bottom !== null && (
          <text x={left + cw + 7} y={Math.max(y(floor) + 14, y(span.bottom) + 28)} fill="var(--ink)">
            {number(floor)}
          </text>
        )}
      </g>
    </svg>
  );
}
