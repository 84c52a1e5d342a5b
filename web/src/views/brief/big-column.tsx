import { useRef, type PointerEvent } from 'react';
import { lightAt, oxygenHoldsTo, type WaterColumn } from '@restless-shoal/core/lake';
import { depthWindow, type DepthRule, type SpeciesProfile } from '@restless-shoal/core/species';
import { ColumnDrawing } from '../../parts/column';
import { formatDepth } from '@restless-shoal/core/units';
import { useSay, useUnits } from '../../state/units';
import { depthTicks } from '../../parts/format';
import { Say } from '../../parts/say';

interface BigColumnProps {
  column: WaterColumn;
  secchi: number;
  maxDepth: number;
  sunHeight: number;
  species: SpeciesProfile[];
  chosen: string;
  tilt: number;
  rule?: DepthRule;
  /** A thermocline dragged to where the sounder shows it. */
  onThermocline: (line: { top: number; bottom: number }) => void;
}

/** The water's column today: temperature, oxygen and light down it, the thermocline across it, and what each species can use beside it. */
export function BigColumn({ column, secchi, maxDepth, sunHeight, species, chosen, tilt, rule, onThermocline }: BigColumnProps) {
  const units = useUnits();
  const say = useSay();
  const svg = useRef<SVGSVGElement>(null);
  const dragging = useRef<'top' | 'bottom' | null>(null);
  const [width, height] = [430, 400];
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
  const held = species.map((s, i) => ({
    s,
    w: depthWindow(s, { column, secchi, maxDepth, sunHeight, rule }),
    x: x0 + cw + 26 + i * 56,
  }));
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
    move(dragging.current, ((((event.clientY - box.top) * height) / box.height - 14) / h) * max);
  };
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="h-auto w-full max-w-[460px]"
      ref={svg}
      role="group"
      aria-label={say(
        `Column of the deepest water, ${maxDepth.toFixed(1)} m: ${samples[0].temperature.toFixed(1)} °C at the surface, ${one.temperature.toFixed(1)} °C at the bottom`,
      )}
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
            {say(`${samples[0].temperature.toFixed(1)} °C`)}
          </text>
          <text x="44" y={y(maxDepth) - 8} fontSize="14" fontWeight="700" fill="#fff" className="num">
            {say(`${one.temperature.toFixed(1)} °C`)}
          </text>
        </g>
        {held.map(
          ({ s, w, x }) =>
            !w.empty && (
              <rect
                key={s.name}
                x={x}
                y={y(w.top)}
                width="30"
                height={Math.max(3, y(w.bottom - w.top))}
                rx="7"
                fill={s.isForage ? 'var(--bait)' : 'var(--fish)'}
                opacity={s.name === chosen ? 1 : 0.45}
              />
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
                none
              </text>
            ) : (
              <>
                <text x={x + 15} y={w.top < 0.6 ? -3 : y(w.top) - 5} fill="var(--mute)">
                  {formatDepth(w.top, units, false)}
                </text>
                <text x={x + 15} y={y(w.bottom) + 34} fill="var(--mute)">
                  to {formatDepth(w.bottom, units, false)}
                </text>
              </>
            )}
            <text x={x + 15} y={y(w.empty ? 2 : w.bottom) + 18} fontSize="13" fontWeight={s.name === chosen ? 700 : 400} fill="var(--ink)">
              {s.name}
            </text>
          </g>
        ))}
        {thermocline && (
          <g fontSize="13" fill="var(--therm)">
            <text x={x0 + cw + 20} y={y(max) - 80}>
              <Say>
                thermocline {thermocline.top.toFixed(1)}–{thermocline.bottom.toFixed(1)} m
              </Say>
            </text>
            <text x={x0 + cw + 20} y={y(max) - 62}>
              <Say>{column.modelled ? `modelled, ±${column.spread.toFixed(1)} m` : 'measured'}</Say>
            </text>
            {tilt > 0.15 && (
              <text x={x0 + cw + 20} y={y(max) - 44}>
                <Say>{tilt.toFixed(1)} m deeper on the wind-blown side</Say>
              </text>
            )}
          </g>
        )}
        {thermocline &&
          (['top', 'bottom'] as const).map((edge) => (
            <g
              key={edge}
              role="slider"
              tabIndex={0}
              aria-label={`${edge === 'top' ? 'Top' : 'Bottom'} of the thermocline`}
              aria-orientation="vertical"
              aria-valuemin={0.3}
              aria-valuemax={Number(maxDepth.toFixed(1))}
              aria-valuenow={Number(thermocline[edge].toFixed(1))}
              aria-valuetext={say(`${thermocline[edge].toFixed(1)} m`)}
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
        {holds !== null && (
          <text x={x0 + cw + 20} y={y(max) - 22} fontSize="13" fill="var(--mute)">
            <Say>
              below {holds.toFixed(1)} m under {chosenSpecies.leastOxygen} mg/l oxygen
            </Say>
          </text>
        )}
      </g>
    </svg>
  );
}
