import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { lensPath } from '../../parts/symbols';
import type { LookedPatch } from './looked';
import { FORWARD_ANGLE, type ViewInUse } from '../../state/views-in-use';
import { useUnits } from '../../state/units';
import { METRES_PER } from '../../parts/format';
import { formatDepth, deck as msg, term } from '../../words';

/** A mark near the boat, metres ahead and to starboard of it. */
export interface NearMark {
  id: string;
  kind: string;
  ahead: number;
  starboard: number;
}

/** A circle on the Pad: how near is too near, how far it may have moved. */
export interface PadCircle {
  ahead: number;
  starboard: number;
  radius: number;
  what: 'hold off' | 'may have moved' | 'school after a catch' | 'hold here';
}

const CIRCLES: Record<PadCircle['what'], { stroke: string; dash: string }> = {
  'hold off': { stroke: 'var(--warn)', dash: '' },
  'may have moved': { stroke: 'var(--fish)', dash: '2 6' },
  'school after a catch': { stroke: 'var(--fish)', dash: '8 6' },
  'hold here': { stroke: 'var(--act)', dash: '' },
};

interface PadProps {
  size: number;
  view: ViewInUse;
  /** Where the wind comes from relative to the bow, degrees, and its speed; null when not known. */
  wind: { relative: number; words: string } | null;
  near: NearMark[];
  kind: string;
  /** What was looked at already, with and without result. */
  looked: LookedPatch[];
  /** Circles to mind, each with what it says. */
  circles: PadCircle[];
  /** How far below the transducer the target is, m, where distances are slant ranges: nearer than that is under the boat. */
  below: number | null;
  onMark: (ahead: number, starboard: number) => void;
}

/** How far the Pad reaches, m. */
export const padReach = ({ view, range }: ViewInUse): number =>
  view === 'side-scan' || view === 'forward-facing' ? Math.max(10, range * 1.15) : 20;

/** "17.5 m starboard, 14° aft of the beam" */
export function aimWords(ahead: number, starboard: number): string {
  const reach = Math.hypot(ahead, starboard);
  if (reach < 0.7) return msg('pad.underTheBoat');
  const side = term(starboard >= 0 ? 'starboard' : 'port');
  const off = Math.round((Math.atan2(ahead, Math.abs(starboard)) * 180) / Math.PI);
  const far = formatDepth(reach).replace(' ', '\u00a0');
  if (off > 75) return msg('pad.ahead', { far });
  if (off < -75) return msg('pad.astern', { far });
  return `${far} ${side}${Math.abs(off) < 4 ? msg('pad.abeam') : msg('pad.forwardOfTheBeam', { off: Math.abs(off), off2: off > 0 ? 'yes' : 'no' })}`;
}

/** The Pad: the boat from above, bow up. A touch places the target and marks it; arrow keys aim and Enter marks. */
export function Pad({ size, view, wind, near, kind, looked, circles, below, onMark }: PadProps) {
  const { depth: unit } = useUnits();
  const svg = useRef<SVGSVGElement>(null);
  const [aim, setAim] = useState<{ ahead: number; starboard: number } | null>(null);
  const reach = padReach(view);
  const c = size / 2;
  const r = size / 2 - 8;
  const m = (metres: number): number => (metres / reach) * r;
  const at = (event: PointerEvent): { ahead: number; starboard: number } => {
    const box = svg.current!.getBoundingClientRect();
    const scale = size / box.width;
    let starboard = (((event.clientX - box.left) * scale - c) / r) * reach;
    let ahead = -(((event.clientY - box.top) * scale - c) / r) * reach;
    const far = Math.hypot(starboard, ahead);
    if (far > reach) [starboard, ahead] = [(starboard * reach) / far, (ahead * reach) / far];
    return { ahead, starboard };
  };
  const press = (event: KeyboardEvent): void => {
    const now = aim ?? { ahead: 0, starboard: 0 };
    const step = event.shiftKey ? 5 : 1;
    const moves: Record<string, [number, number]> = {
      ArrowUp: [step, 0],
      ArrowDown: [-step, 0],
      ArrowRight: [0, step],
      ArrowLeft: [0, -step],
    };
    if (event.key === 'Enter') onMark(now.ahead, now.starboard);
    else if (moves[event.key])
      setAim({
        ahead: Math.max(-reach, Math.min(reach, now.ahead + moves[event.key][0])),
        starboard: Math.max(-reach, Math.min(reach, now.starboard + moves[event.key][1])),
      });
    else return;
    event.preventDefault();
  };
  const edge = reach / METRES_PER[unit];
  const step = edge > 110 ? 50 : edge > 45 ? 20 : edge > 17 ? 10 : 5;
  const rings = Array.from({ length: Math.floor(edge / step) }, (_, i) => (i + 1) * step);
  const tint = kind === 'bait' ? 'var(--bait)' : kind === 'fish' ? 'var(--fish)' : 'var(--cover)';
  return (
    <svg
      ref={svg}
      width={size}
      height={size}
      viewBox={`0 0 ${size} ${size}`}
      role="application"
      tabIndex={0}
      aria-label={msg('pad.whereFromTheBoat', {
        reach: reach,
        below: below === null ? 'yes' : 'no',
        aim: aim ? aimWords(aim.ahead, aim.starboard) : '',
      })}
      className="cursor-crosshair touch-none select-none"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setAim(at(event));
      }}
      onPointerMove={(event) => event.buttons && setAim(at(event))}
      onPointerUp={(event) => {
        const target = at(event);
        setAim(null);
        onMark(target.ahead, target.starboard);
      }}
      onPointerCancel={() => setAim(null)}
      onKeyDown={press}
      onBlur={() => setAim(null)}
    >
      <circle cx={c} cy={c} r={r} fill="var(--surface)" stroke="var(--line)" strokeWidth="1.5" />
      <clipPath id="pad-water">
        <circle cx={c} cy={c} r={r} />
      </clipPath>
      <g clipPath="url(#pad-water)">
        {[true, false].map((seen) => (
          <path
            key={String(seen)}
            d={looked
              .filter((p) => p.seen === seen)
              .map(({ ring }) => `M${ring.map(([s, a]) => `${(c + m(s)).toFixed(1)} ${(c - m(a)).toFixed(1)}`).join('L')}Z`)
              .join('')}
            fill={seen ? 'var(--fish)' : 'var(--ink)'}
            opacity={seen ? 0.16 : 0.09}
          >
            <title>{seen ? msg('pad.lookedAtFishOr') : msg('pad.lookedAtNothingSeen')}</title>
          </path>
        ))}
        {circles.map((circle) => (
          <circle
            key={circle.what}
            cx={c + m(circle.starboard)}
            cy={c - m(circle.ahead)}
            r={Math.max(4, m(circle.radius))}
            fill={circle.what === 'hold here' ? CIRCLES[circle.what].stroke : 'none'}
            stroke={CIRCLES[circle.what].stroke}
            strokeDasharray={CIRCLES[circle.what].dash}
            strokeWidth="2.5"
          >
            <title>{circle.what}</title>
          </circle>
        ))}
      </g>
      <Swath view={view} c={c} m={m} />
      {below !== null && below > 1 && below < reach && (
        <circle cx={c} cy={c} r={m(below)} fill="var(--foot)" opacity=".14" stroke="var(--foot)" strokeWidth="1" />
      )}
      {rings.map((ring) => (
        <g key={ring}>
          <circle cx={c} cy={c} r={m(ring * METRES_PER[unit])} fill="none" stroke="var(--line)" strokeWidth="1.4" strokeDasharray="4 6" />
          {m(ring * METRES_PER[unit]) > 34 && (
            <text x={c + 5} y={c - m(ring * METRES_PER[unit]) + 15} fontSize="13" fill="var(--mute)" className="num">
              {ring} {unit}
            </text>
          )}
        </g>
      ))}
      <line x1={c} x2={c} y1={c + r} y2={c + 10} stroke="var(--mute)" strokeWidth="2" strokeDasharray="2 7" />
      <text x="14" y={c - 22} fontSize="13" fill="var(--mute)">
        {msg('pad.port')}
      </text>
      <text x={size - 14} y={c - 22} textAnchor="end" fontSize="13" fill="var(--mute)">
        {msg('pad.starboard')}
      </text>
      {near.map((mark) => {
        const [x, y] = [c + m(mark.starboard), c - m(mark.ahead)];
        return mark.kind === 'fish' ? (
          <path key={mark.id} d={lensPath(x, y, 10)} fill="var(--fish)" opacity=".6" />
        ) : mark.kind === 'blank' ? (
          <circle key={mark.id} cx={x} cy={y} r="8" fill="none" stroke="var(--ink)" strokeWidth="2" />
        ) : (
          <circle key={mark.id} cx={x} cy={y} r="5" fill={mark.kind === 'bait' ? 'var(--bait)' : 'var(--cover)'} opacity=".7" />
        );
      })}
      <path
        d={`M${c} ${c - 22}C${c + 13} ${c - 8},${c + 12} ${c + 10},${c + 9} ${c + 20}L${c - 9} ${c + 20}C${c - 12} ${c + 10},${c - 13} ${c - 8},${c} ${c - 22}Z`}
        fill="var(--ink)"
      />
      {wind && (
        <g transform={`rotate(${wind.relative} ${c} ${c})`}>
          <path d={`M${c} ${c - r + 34}l-9 -24l9 6l9 -6z`} fill="var(--act)" />
        </g>
      )}
      {wind && (
        <text x={size - 12} y={size - 10} textAnchor="end" fontSize="13" fill="var(--act)" className="num">
          {msg('pad.wind', { words: wind.words })}
        </text>
      )}
      {aim && (
        <g stroke={tint} strokeWidth="2.5" fill="none">
          <line x1={c} y1={c} x2={c + m(aim.starboard)} y2={c - m(aim.ahead)} />
          <circle cx={c + m(aim.starboard)} cy={c - m(aim.ahead)} r="26" />
          <text
            x={Math.min(size - 50, Math.max(50, c + m(aim.starboard)))}
            y={c - m(aim.ahead) + (aim.ahead > 0 ? 46 : -34)}
            fontSize="16"
            fontWeight="700"
            textAnchor="middle"
            fill={tint}
            stroke="none"
            className="num"
          >
            {formatDepth(Math.hypot(aim.ahead, aim.starboard))}
          </text>
        </g>
      )}
    </svg>
  );
}

/** What the view in use sees, as a pale patch. */
function Swath({ view, c, m }: { view: ViewInUse; c: number; m: (metres: number) => number }) {
  if (view.view === 'side-scan')
    return <rect x={c - m(view.range)} y={c - 14} width={2 * m(view.range)} height="28" fill="var(--w1)" opacity=".45" rx="4" />;
  if (view.view === 'forward-facing') {
    const half = (FORWARD_ANGLE * Math.PI) / 360;
    const [x, y] = [m(view.range) * Math.sin(half), m(view.range) * Math.cos(half)];
    return (
      <path d={`M${c} ${c}L${c - x} ${c - y}A${m(view.range)} ${m(view.range)} 0 0 1 ${c + x} ${c - y}Z`} fill="var(--w1)" opacity=".55" />
    );
  }
  return <circle cx={c} cy={c} r={Math.max(10, m(1.5))} fill="var(--w1)" opacity=".55" />;
}
