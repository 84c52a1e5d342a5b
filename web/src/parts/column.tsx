import { useId, type ReactNode } from 'react';
import { lensPath } from './symbols';
import { parts as msg } from '../words';

/** What stands in a Column, depths in metres below the surface. */
export interface ColumnThings {
  bottom: number;
  /** Nobody knows where the bottom is: the water goes on below the drawing. */
  open?: boolean;
  /** 0 soft – 1 hard: the thickness of the foot. */
  hardness?: number | null;
  thermocline?: { top: number; bottom: number } | null;
  /** Where salt water begins under fresher. */
  halocline?: { top: number; bottom: number } | null;
  /** Depth down to which there is oxygen enough. */
  oxygenTo?: number | null;
  fish?: { depth: number; count: number }[];
  bait?: { top: number; bottom: number } | null;
  /** Height of cover over the bottom. */
  cover?: number | null;
  blank?: boolean;
  /** A likely band, e.g. where fish are expected. */
  band?: { top: number; bottom: number } | null;
}

interface ColumnProps extends ColumnThings {
  width: number;
  height: number;
  /** Depth at the lower edge of the drawing. */
  max: number;
  large?: boolean;
  label?: string;
  children?: ReactNode;
}

/** A wavy line across a column. */
function wave(width: number, y: number, large: boolean): string {
  const n = (large ? 8 : 3) * 4;
  const a = large ? 2.2 : 1.4;
  return Array.from(
    { length: n + 1 },
    (_, k) => `${k ? 'L' : 'M'}${((width * k) / n).toFixed(1)} ${(y + a * Math.sin((k * Math.PI) / 2)).toFixed(1)}`,
  ).join('');
}

/**
 * The Column: a slice of water from surface to bottom, this application's alphabet. Drawn once, at every size.
 * As SVG content; `Column` wraps it.
 */
export function ColumnDrawing({
  width,
  height,
  max,
  large = false,
  bottom,
  open = false,
  hardness,
  thermocline,
  halocline,
  oxygenTo,
  fish = [],
  bait,
  cover,
  blank,
  band,
  children,
}: ColumnProps) {
  const id = useId().replace(/[^\w]/g, '');
  const y = (depth: number): number => (height * depth) / max;
  const floor = Math.min(height, y(bottom));
  const foot = hardness == null ? 3 : 3 + hardness * (large ? 16 : 7);
  const size = large ? 15 : Math.max(4, width * 0.11);
  return (
    <g>
      <defs>
        <linearGradient id={`${id}w`} x1="0" x2="0" y1="0" y2="1">
          <stop offset="0" stopColor="var(--w0)" />
          <stop offset=".3" stopColor="var(--w1)" />
          <stop offset=".62" stopColor="var(--w2)" />
          <stop offset="1" stopColor="var(--w3)" />
        </linearGradient>
        <pattern id={`${id}b`} width="7" height="7" patternUnits="userSpaceOnUse">
          <circle cx="2" cy="2" r="1.3" fill="var(--bait)" />
          <circle cx="5.5" cy="5.3" r="1.1" fill="var(--bait)" />
        </pattern>
        <pattern id={`${id}c`} width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="2.4" height="6" fill="var(--cover)" />
        </pattern>
        <clipPath id={`${id}k`}>
          <rect width={width} height={Math.max(1, floor)} rx={large ? 5 : 2} />
        </clipPath>
      </defs>
      <g clipPath={`url(#${id}k)`}>
        <rect width={width} height={height} fill={`url(#${id}w)`} />
        {oxygenTo != null && oxygenTo < bottom && (
          <rect y={y(oxygenTo)} width={width} height={floor - y(oxygenTo)} fill="var(--w4)" opacity=".55" />
        )}
        {thermocline && thermocline.top < bottom && (
          <>
            <rect y={y(thermocline.top)} width={width} height={y(thermocline.bottom - thermocline.top)} fill="var(--therm)" opacity=".22" />
            <path d={wave(width, y(thermocline.top), large)} stroke="var(--therm)" strokeWidth={large ? 2.4 : 1.3} fill="none" />
            <path d={wave(width, y(thermocline.bottom), large)} stroke="var(--therm)" strokeWidth={large ? 1.2 : 0.8} fill="none" />
          </>
        )}
        {halocline &&
          [halocline.top, halocline.bottom].map((z) => (
            <path
              key={z}
              d={`M0 ${y(z)}H${width}`}
              stroke="var(--ink)"
              strokeWidth={large ? 2 : 1.2}
              strokeDasharray={large ? '2 6' : '1 3'}
              fill="none"
            />
          ))}
        {bait && (
          <ellipse
            cx={width * 0.55}
            cy={y((bait.top + bait.bottom) / 2)}
            rx={width * 0.32}
            ry={Math.max(large ? 10 : 4, y(bait.bottom - bait.top) / 2)}
            fill={`url(#${id}b)`}
          />
        )}
        {cover != null && cover > 0 && (
          <path
            d={`M${width * 0.12} ${floor}L${width * 0.2} ${floor - y(cover) * 0.8}L${width * 0.3} ${floor - y(cover) * 0.35}L${width * 0.38} ${floor - y(cover)}L${width * 0.48} ${floor - y(cover) * 0.4}L${width * 0.56} ${floor}Z`}
            fill={`url(#${id}c)`}
            stroke="var(--cover)"
          />
        )}
      </g>
      {band && (
        <rect
          x="-2"
          y={y(band.top)}
          width={width + 4}
          height={Math.max(3, y(band.bottom - band.top))}
          rx="3"
          fill="var(--fish)"
          fillOpacity=".2"
          stroke="var(--fish)"
          strokeWidth={large ? 2.5 : 1.5}
        />
      )}
      {fish.map(({ depth, count }, i) =>
        Array.from({ length: Math.min(5, count) }, (_, k) => (
          <path
            key={`${i} ${k}`}
            d={lensPath(
              width * (0.5 + 0.22 * ((k % 3) - 1) + (i % 2 ? 0.06 : -0.04)),
              Math.min(floor - 2, y(depth) + (k > 2 ? size * 1.3 : 0) + (k % 2 ? 2 : -2)),
              size,
            )}
            fill="var(--fish)"
          />
        )),
      )}
      {blank && <circle cx={width / 2} cy={floor * 0.5} r={large ? 12 : 5} fill="var(--surface)" stroke="var(--ink)" strokeWidth="2" />}
      {!open && <rect y={floor} width={width} height={foot} fill="var(--foot)" />}
      {children}
    </g>
  );
}

export function Column({ label, ...props }: ColumnProps) {
  return (
    <svg
      width={props.width + 4}
      height={props.height + 14}
      viewBox={`-2 -2 ${props.width + 4} ${props.height + 14}`}
      role="img"
      aria-label={label ?? msg('column.waterMDeep', { bottom: props.bottom })}
    >
      <ColumnDrawing {...props} />
    </svg>
  );
}
