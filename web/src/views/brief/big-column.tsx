import { useMemo, useRef, type PointerEvent } from 'react';
import { lightAt, oxygenHoldsTo } from '@restless-shoal/core/lake';
import { windowInputs, windowOn, type Day } from '@restless-shoal/core/forecast';
import { suitability, suitabilityStep, type SpeciesProfile } from '@restless-shoal/core/species';
import { ColumnDrawing } from '../../parts/column';
import { useUnits } from '../../state/units';
import { depthTicks } from '../../parts/format';
import { formatTemperature, formatDepth, brief as msg, term } from '../../words';

interface BigColumnProps {
  day: Day;
  species: SpeciesProfile[];
  chosen: string;
  /** Whether the chosen one spawns, by the season. */
  spawning: boolean;
  tilt: number;
  /** A thermocline dragged to where the sounder shows it. */
  onThermocline: (line: { top: number; bottom: number }) => void;
}

/** Room for words below the deepest water. */
const LABELS = 20;

/** Draws how well each depth suits as a shape about a line, as wide as it suits, between two depths. */
function suitsShape(
  suits: { whole: number }[],
  maxDepth: number,
  x: number,
  y: (z: number) => number,
): (top: number, bottom: number) => string {
  const step = suitabilityStep(maxDepth);
  const at = (z: number): string => `${y(z).toFixed(1)}`;
  const half = (z: number): number => 15 * suits[Math.min(suits.length - 1, Math.round(z / step))].whole;
  return (top, bottom) => {
    const depths = Array.from({ length: 61 }, (_, k) => top + ((bottom - top) * k) / 60);
    const left = depths.map((z) => `${(x - half(z)).toFixed(1)} ${at(z)}`);
    const right = depths.reverse().map((z) => `${(x + half(z)).toFixed(1)} ${at(z)}`);
    return `M${[...left, ...right].join('L')}Z`;
  };
}

/** The water's column today: temperature, oxygen and light down it, the thermocline across it, and what each species can use beside it. */
export function BigColumn({ day, species, chosen, spawning, tilt, onThermocline }: BigColumnProps) {
  const { column, maxDepth, sunHeight } = day;
  const { secchi } = day.conditions;
  const units = useUnits();
  const svg = useRef<SVGSVGElement>(null);
  const dragging = useRef<'top' | 'bottom' | null>(null);
  const [width, height] = [430, 340];
  const x0 = 34;
  const cw = 150;
  const max = Math.ceil(maxDepth / 2) * 2 + (maxDepth > 12 ? 1 : 0.5);
  const h = height - 30;
  const y = (z: number): number => (h * z) / max;
  const { samples, thermocline } = column;
  const warmest = Math.max(24, ...samples.map((s) => s.temperature));
  const line = (value: (s: (typeof samples)[number]) => number | null): string =>
    samples
      .flatMap((s, i) => {
        const v = value(s);
        return v === null || s.depth > maxDepth ? [] : [`${i ? 'L' : 'M'}${(cw * v).toFixed(1)} ${y(s.depth).toFixed(1)}`];
      })
      .join('');
  // Worked out once a day and species, not at every move of a finger on the thermocline.
  const windows = useMemo(
    () =>
      species.map((s) => {
        const spawns = s.name === chosen ? spawning : undefined;
        return { s, w: windowOn(s, day, spawns), suits: suitability(s, windowInputs(s, day, spawns)) };
      }),
    [species, day, chosen, spawning],
  );
  const held = windows.map(({ s, w, suits }, i) => {
    // As far apart as they find room, names under them.
    const gap = Math.min(84, (width - x0 - cw) / windows.length);
    const x = x0 + cw + gap / 2 - 15 + i * gap;
    return { s, w, x, suits: suitsShape(suits, maxDepth, x + 15, y) };
  });
  const chosenSpecies = species.find((s) => s.name === chosen)!;
  const holds = oxygenHoldsTo(samples, chosenSpecies.leastOxygen);
  const one = samples[samples.length - 1];
  const move = (edge: 'top' | 'bottom', depth: number): void => {
    if (!thermocline) return;
    const z = Math.round(Math.min(maxDepth, Math.max(0.3, depth)) * 10) / 10;
    onThermocline(
      edge === 'top'
        ? { top: Math.min(z, thermocline.bottom - 0.2), bottom: thermocline.bottom }
        : { top: thermocline.top, bottom: Math.max(z, thermocline.top + 0.2) },
    );
  };
  const drag = (event: PointerEvent): void => {
    if (!dragging.current) return;
    const box = svg.current!.getBoundingClientRect();
    move(dragging.current, ((((event.clientY - box.top) * (height + LABELS)) / box.height - 14) / h) * max);
  };
  const told = [
    ...(thermocline
      ? [
          `${msg('bigColumn.thermoclineM', { top: thermocline.top, bottom: thermocline.bottom })}, ${
            column.modelled || (column.measuredTo ?? 0) < thermocline.depth
              ? msg('bigColumn.modelledM', { spread: column.spread })
              : msg('bigColumn.measured')
          }`,
        ]
      : []),
    ...(thermocline && tilt > 0.15 ? [msg('bigColumn.mDeeperOnThe', { tilt })] : []),
    ...(holds !== null ? [msg('bigColumn.belowMUnderMg', { holds, leastOxygen: chosenSpecies.leastOxygen })] : []),
  ];
  return (
    <>
      <svg
        viewBox={`0 0 ${width} ${height + LABELS}`}
        className="h-auto w-full max-w-[460px]"
        ref={svg}
        role="group"
        aria-label={msg('bigColumn.columnOfTheDeepest', {
          maxDepth: maxDepth,
          temperature: samples[0].temperature,
          temperature2: one.temperature,
        })}
      >
        <g transform="translate(0,14)">
          {depthTicks(maxDepth, units.depth).map(({ depth, major, label }) => (
            <g key={depth}>
              {major && <line x1={x0 - 8} x2={x0 - 3} y1={y(depth)} y2={y(depth)} stroke="var(--mute)" />}
              {label !== null && (
                <text x={x0 - 12} y={y(depth) + 5} textAnchor="end" fontSize="14" fill="var(--ink)" className="num">
                  {label}
                </text>
              )}
            </g>
          ))}
          <g transform={`translate(${x0},0)`}>
            <ColumnDrawing
              width={cw}
              height={h}
              max={max}
              bottom={maxDepth}
              hardness={0.3}
              thermocline={thermocline}
              halocline={day.halocline}
              oxygenTo={holds}
              large
            />
            {Array.from({ length: 12 }, (_, k) => (
              <rect
                key={k}
                x={cw - 9}
                y={y((maxDepth * k) / 12)}
                width="9"
                height={y(maxDepth / 12)}
                fill="#fff2b0"
                opacity={sunHeight > 0 ? 0.85 * lightAt((maxDepth * (k + 0.5)) / 12, secchi) : 0}
              />
            ))}
            <path d={line((s) => s.temperature / warmest)} fill="none" stroke="var(--ground)" strokeWidth="6" opacity=".6" />
            <path d={line((s) => s.temperature / warmest)} fill="none" stroke="var(--fish)" strokeWidth="3" />
            <path
              d={line((s) => (s.oxygen == null ? null : s.oxygen / 14))}
              fill="none"
              stroke="var(--surface)"
              strokeWidth="3"
              strokeDasharray="7 5"
            />
            <text x="6" y="17" fontSize="14" fontWeight="700" fill="var(--ink)" className="num">
              {formatTemperature(samples[0].temperature)}
            </text>
            <text x="44" y={y(maxDepth) - 8} fontSize="14" fontWeight="700" fill="#fff" className="num">
              {formatTemperature(one.temperature)}
            </text>
          </g>
          {held.map(
            ({ s, w, suits }) =>
              !w.empty && (
                <g key={s.name} fill={s.isForage ? 'var(--bait)' : 'var(--fish)'} opacity={s.name === chosen ? 1 : 0.55}>
                  <path d={suits(0, maxDepth)} opacity="0.35" />
                  <path d={suits(w.top, w.bottom)} />
                </g>
              ),
          )}
          {thermocline &&
            [thermocline.top, thermocline.bottom].map((z) => (
              <line key={z} x1={x0 + cw} x2={width} y1={y(z)} y2={y(z)} stroke="var(--therm)" strokeDasharray="2 5" />
            ))}
          {/* Words stand on the ground, above the lines. */}
          {held.map(({ s, w, x }) => (
            <g key={s.name} className="num" textAnchor="middle" fontSize="12" stroke="var(--ground)" strokeWidth="4" paintOrder="stroke">
              {w.empty ? (
                <text x={x + 15} y={y(1)} fontSize="13" fill="var(--warn)">
                  {msg('bigColumn.none')}
                </text>
              ) : (
                <>
                  <text x={x + 15} y={w.top < 0.6 ? -3 : y(w.top) - 5} fill="var(--mute)">
                    {formatDepth(w.top, units, false)}
                  </text>
                  <text x={x + 15} y={y(w.bottom) + 34} fill="var(--mute)">
                    {msg('bigColumn.to', { bottom: formatDepth(w.bottom, units, false) })}
                  </text>
                </>
              )}
              <text
                x={x + 15}
                y={y(w.empty ? 2 : w.bottom) + 18}
                fontSize="13"
                fontWeight={s.name === chosen ? 700 : 400}
                fill="var(--ink)"
              >
                {term(s.name)}
              </text>
            </g>
          ))}
          {thermocline &&
            (['top', 'bottom'] as const).map((edge) => (
              <g
                key={edge}
                role="slider"
                tabIndex={0}
                aria-label={msg('bigColumn.topOfTheThermocline', { edge: edge === 'top' ? 'yes' : 'no' })}
                aria-orientation="vertical"
                aria-valuemin={0.3}
                aria-valuemax={Number(maxDepth.toFixed(1))}
                aria-valuenow={Number(thermocline[edge].toFixed(1))}
                aria-valuetext={formatDepth(thermocline[edge])}
                className="cursor-ns-resize touch-none print:hidden"
                onPointerDown={(event) => {
                  event.currentTarget.setPointerCapture(event.pointerId);
                  dragging.current = edge;
                }}
                onPointerMove={drag}
                onPointerUp={() => (dragging.current = null)}
                onPointerCancel={() => (dragging.current = null)}
                onKeyDown={(event) => {
                  const step = event.key === 'ArrowUp' ? -0.1 : event.key === 'ArrowDown' ? 0.1 : 0;
                  if (!step) return;
                  event.preventDefault();
                  move(edge, thermocline[edge] + step * (event.shiftKey ? 10 : 1));
                }}
              >
                <circle cx={x0 + cw * 0.5} cy={y(thermocline[edge])} r="20" fill="transparent" />
                <circle cx={x0 + cw * 0.5} cy={y(thermocline[edge])} r="7" fill="var(--surface)" stroke="var(--therm)" strokeWidth="3" />
              </g>
            ))}
        </g>
      </svg>
      <p className="num text-sm text-mute">{told.join('; ')}</p>
    </>
  );
}
