import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { ColumnDrawing } from '../column';
import { useUnits } from '../../state/units';
import { depthTicks } from '../format';
import { beginTouch, columnScale, endTouch, moveTouch, yOfDepth, type ColumnTouch, type DepthSpan } from './column-gesture';
import { formatDepth, deck as msg } from '../../words';

interface ColumnInputProps {
  width: number;
  height: number;
  /** Depth of the water here, m; null where nobody knows: the Column then goes down to `deepest`. */
  bottom: number | null;
  deepest: number;
  hardness: number | null;
  thermocline: { top: number; bottom: number } | null;
  oxygenTo: number | null;
  span: DepthSpan;
  count: number;
  kind: string;
  onChange: (span: DepthSpan) => void;
}

/** Room above the surface and below the drawing, px. */
const [HEAD, FOOT] = [10, 16];

/** The Column as an input: a tap sets the depth, give or take half a metre; a drag on an edge moves it, another draws a new span. */
export function ColumnInput({
  width,
  height,
  bottom,
  deepest,
  hardness,
  thermocline,
  oxygenTo,
  span,
  count,
  kind,
  onChange,
}: ColumnInputProps) {
  const units = useUnits();
  const number = (depth: number): string => formatDepth(depth, units, false);
  const svg = useRef<SVGSVGElement>(null);
  const touch = useRef<ColumnTouch | null>(null);
  const floor = bottom ?? deepest;
  const h = height - HEAD - FOOT;
  const usual = columnScale(floor, HEAD, h);
  // What is touched stays where it is while the boat goes on over other depths.
  const [held, setHeld] = useState<ColumnTouch['scale'] | null>(null);
  const scale = held ?? usual;
  const { max } = scale;
  const left = 40;
  const cw = width - left - 46;
  const y = (depth: number): number => yOfDepth(scale, depth);
  const yOf = (event: PointerEvent): number => {
    const box = svg.current!.getBoundingClientRect();
    return (event.clientY - box.top) * (height / box.height);
  };
  const go = (event: PointerEvent): void => {
    if (!touch.current) return;
    const moved = moveTouch(touch.current, yOf(event));
    touch.current = moved.touch;
    onChange(moved.span);
  };
  const down = (event: PointerEvent): void => {
    event.currentTarget.setPointerCapture(event.pointerId);
    touch.current = beginTouch(scale, span, yOf(event));
    setHeld(scale);
    go(event);
  };
  const up = (event: PointerEvent): void => {
    if (touch.current) onChange(endTouch(touch.current, yOf(event)));
    touch.current = null;
    setHeld(null);
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
      aria-label={msg('columnInput.howDeep')}
      aria-orientation="vertical"
      aria-valuemin={0}
      aria-valuemax={Number(floor.toFixed(1))}
      aria-valuenow={Number(middle.toFixed(1))}
      aria-valuetext={msg('columnInput.toM', { top: span.top, bottom: span.bottom })}
      className="cursor-pointer touch-none select-none"
      onPointerDown={down}
      onPointerMove={go}
      onPointerUp={up}
      onPointerCancel={() => {
        if (touch.current) onChange(touch.current.before);
        touch.current = null;
        setHeld(null);
      }}
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
      <g transform={`translate(${left},${HEAD})`}>
        <ColumnDrawing
          width={cw}
          height={h}
          max={max}
          large
          bottom={bottom ?? max}
          open={bottom === null}
          hardness={hardness}
          thermocline={thermocline}
          oxygenTo={oxygenTo}
          fish={kind === 'fish' ? [{ depth: middle, count: Math.min(3, count) }] : []}
          bait={kind === 'bait' ? span : null}
          cover={kind === 'cover' || kind === 'weed' ? Math.max(0.4, floor - span.top) : null}
        >
          <rect
            x="-3"
            y={y(span.top) - HEAD}
            width={cw + 6}
            height={Math.max(4, y(span.bottom) - y(span.top))}
            fill="none"
            stroke={tint}
            strokeWidth="3"
            rx="6"
          />
          {(['top', 'bottom'] as const).map((edge) => (
            <circle key={edge} cx={cw / 2} cy={y(span[edge]) - HEAD} r="8" fill="var(--surface)" stroke={tint} strokeWidth="3" />
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
