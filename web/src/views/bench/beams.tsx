import { useRef, type PointerEvent } from 'react';
import {
  absorption,
  coneWidth,
  deadZone,
  echoLoss,
  farthestFish,
  fastestFor,
  fastestPings,
  passing,
  separation,
  soundSpeedIn,
  targetStrength,
} from '@restless-shoal/core/sonar';
import { bench as msg, decimal, formatDepth, formatFishLength, formatSpeed, formatTemperature } from '../../words';
import { useRig } from '../../state/rig';
import { useWaterState } from '../../state/water';
import { Adviser } from './adviser';
import { Slider } from './slider';
import { useKept } from './use-kept';

/** So many pings make a shape that can be told. */
const ENOUGH = 5;
/** Lines of a picture from the surface to its range. */
const LINES = 600;
const USUAL = { depth: 10, fishDepth: 8, beam: 20, slope: 0, frequency: 200, pulse: 0.1, rate: 15, speed: 1.5, length: 0.5, range: 15 };

/** A small length: in centimetres or inches. */
const small = (metres: number): string => (metres < 1 ? formatFishLength(metres) : formatDepth(metres));
const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/** What a cone shows and hides, true to scale, and what follows from it. */
export function Beams() {
  const { day } = useWaterState();
  const { salinity } = day;
  const rig = useRig();
  const temperature = day.conditions.surface;
  const [set, change] = useKept('bench beams', USUAL);
  const { depth, beam, slope, frequency, pulse, rate, speed, length, range } = set;
  const fishDepth = Math.min(set.fishDepth, depth - 0.1);
  const c = soundSpeedIn(temperature, salinity);
  const zone = deadZone(depth, beam, pulse / 1000, slope, c);
  const most = fastestPings(range, c);
  const pings = Math.min(rate, most);
  const fish = passing(fishDepth, beam, length, speed, pings, Math.max(range / LINES, separation({ length: pulse / 1000 }, c)));
  const loss = absorption(frequency, temperature, 0, salinity);
  const hidden = depth - fishDepth < zone.under;
  const beyond = range < depth;
  const slider = (name: keyof typeof USUAL, label: string, words: string, min: number, max: number, step: number) => (
    <Slider label={label} words={words} value={set[name]} min={min} max={max} step={step} onChange={(v) => change(name, v)} />
  );
  return (
    <div className="grid gap-x-5 gap-y-3 lg:grid-cols-[20rem_minmax(0,1fr)] lg:grid-rows-[auto_auto_1fr]">
      <div className="max-lg:order-2 lg:row-span-3">
        {slider('depth', msg('beams.depth'), formatDepth(depth), 1, 60, 0.5)}
        {slider('slope', msg('beams.slope'), `${decimal(slope, 0)}°`, 0, 40, 1)}
        {slider('fishDepth', msg('beams.fishDepth'), formatDepth(fishDepth), 0.5, 60, 0.1)}
        {slider('length', msg('beams.fishLength'), formatFishLength(length), 0.05, 1.5, 0.05)}
        {slider('beam', msg('beams.cone'), `${decimal(beam, 0)}°`, 5, 60, 1)}
        {slider('frequency', msg('beams.frequency'), `${decimal(frequency, 0)} kHz`, 50, 1200, 10)}
        {slider('pulse', msg('beams.pulse'), `${decimal(pulse, 2)} ms`, 0.02, 1, 0.02)}
        {slider('range', msg('beams.range'), formatDepth(range), 3, 100, 1)}
        {slider('rate', msg('beams.pingRate'), msg('beams.aSecond', { n: decimal(rate, 0) }), 1, 50, 1)}
        {slider('speed', msg('beams.speed'), formatSpeed(speed), 0, 8, 0.1)}
      </div>
      {/* Seen while a slider is moved, also where it lies below. */}
      <div className="z-10 bg-base-200 max-lg:sticky max-lg:-top-3">
        <Section
          depth={depth}
          beam={beam}
          slope={slope}
          fishDepth={fishDepth}
          length={length}
          seen={zone.firstBottom - (c * pulse) / 2000}
          onFish={(v) => change('fishDepth', v)}
        />
      </div>
      <ul className="num flex max-w-3xl max-lg:order-3 flex-col gap-1.5" aria-label={msg('beams.whatFollows')}>
        <li>{msg('beams.footprint', { width: formatDepth(coneWidth(depth, beam)), fishWidth: formatDepth(fish.width) })}</li>
        <li>{msg('beams.hides', { under: small(zone.under), edge: small(zone.deepEdge), sloping: slope > 0 ? 'yes' : 'no' })}</li>
        <li className={hidden || beyond ? 'font-semibold text-warn' : ''}>
          {beyond
            ? msg('beams.rangeTooShort', { depth: formatDepth(depth) })
            : hidden
              ? msg('beams.fishHidden')
              : msg(`beams.shape.${fish.shape}`, {
                  pings: Number.isFinite(fish.pings) ? decimal(fish.pings, 0) : '∞',
                  arch: small(fish.arch),
                })}
        </li>
        {speed > 0 && <li>{msg('beams.drawn', { drawn: formatDepth(fish.drawn), length: formatFishLength(length) })}</li>}
        <li>{msg('beams.fastest', { n: ENOUGH, speed: formatSpeed(fastestFor(ENOUGH, fishDepth, beam, length, pings)) })}</li>
        <li className={rate > most ? 'text-warn' : ''}>
          {msg(rate > most ? 'beams.pingsOverlap' : 'beams.pingsFit', { range: formatDepth(range), most: decimal(most, 0) })}
        </li>
        <li>
          {msg('beams.separation', {
            apart: small(separation({ length: pulse / 1000 }, c)),
            wide: small(separation({ bandwidth: 0.2 * frequency * 1000 }, c)),
          })}
        </li>
        <li>
          {msg('beams.loss', {
            strength: decimal(targetStrength(length, frequency), 0),
            depth: formatDepth(fishDepth),
            spreading: decimal(echoLoss(fishDepth, 0), 0),
            absorbed: decimal(2 * loss * fishDepth, 1),
            range: formatDepth(range),
            far: decimal(2 * loss * range, 1),
            temperature: formatTemperature(temperature),
          })}
        </li>
        {rig.gain !== null && rig.leastEcho !== null && (
          <li>
            {msg('beams.seenTo', {
              gain: decimal(rig.gain, 0),
              far: formatDepth(farthestFish(length, frequency, temperature, rig.leastEcho, salinity)),
            })}
          </li>
        )}
      </ul>
      <div className="max-lg:order-4 lg:col-start-2">
        <Adviser plan={{ depth, temperature, salinity, length, beam, rate, least: rig.leastEcho }} />
      </div>
    </div>
  );
}

/** Boat, cone, bottom, what is hidden and the fish, true to scale. The fish is dragged up and down. */
function Section({
  depth,
  beam,
  slope,
  fishDepth,
  length,
  seen,
  onFish,
}: {
  depth: number;
  beam: number;
  slope: number;
  fishDepth: number;
  length: number;
  /** From this range on the bottom's echo covers everything, m. */
  seen: number;
  onFish: (depth: number) => void;
}) {
  const drawing = useRef<SVGSVGElement>(null);
  const half = radians(beam / 2);
  const tilt = Math.tan(radians(slope));
  const wide = Math.max(1.05 * depth, 0.7 * coneWidth(depth, beam), 3);
  const deepest = depth + wide * tilt;
  const height = Math.min(deepest, 2.4 * depth) + 0.06 * depth;
  const bottom = (x: number): number => depth + x * tilt;
  // Where the edges of the cone meet the bottom: x = z·tan φ on z = depth + x·tilt.
  const meets = (angle: number): [number, number] => {
    const t = Math.tan(angle);
    const z = 1 - t * tilt > 0.02 ? depth / (1 - t * tilt) : height / Math.cos(angle);
    return [z * t, z];
  };
  const [deep, shallow] = [meets(half), meets(-half)];
  const arc = Array.from({ length: 25 }, (_, k) => {
    const angle = -half + (2 * half * k) / 24;
    return [seen * Math.sin(angle), seen * Math.cos(angle)];
  });
  const points = (list: number[][]): string => list.map(([x, y]) => `${x.toFixed(3)},${y.toFixed(3)}`).join(' ');
  const drag = (event: PointerEvent<SVGSVGElement>): void => {
    if (event.buttons !== 1 || !drawing.current) return;
    const box = drawing.current.getBoundingClientRect();
    const scale = Math.min(box.width / (2 * wide), box.height / (1.06 * height));
    const top = (box.height - 1.06 * height * scale) / 2;
    const at = (event.clientY - box.top - top) / scale - 0.06 * height;
    onFish(Number(Math.min(depth - 0.1, Math.max(0.5, at)).toFixed(1)));
  };
  const stroke = height / 250;
  const fish = Math.max(length, height / 45);
  const step = [0.5, 1, 2, 5, 10, 20].find((s) => deepest / s <= 7) ?? 50;
  return (
    <svg
      ref={drawing}
      viewBox={`${-wide} ${-0.06 * height} ${2 * wide} ${1.06 * height}`}
      className="max-h-[52vh] min-h-56 w-full touch-none max-lg:max-h-[32vh] rounded-box border border-line bg-surface"
      role="img"
      aria-label={msg('beams.drawing', { depth: formatDepth(depth), cone: decimal(beam, 0) })}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        drag(e);
      }}
      onPointerMove={drag}
    >
      <rect x={-wide} y={0} width={2 * wide} height={height} fill="var(--w1)" opacity={0.45} />
      {Array.from({ length: Math.floor(height / step) }, (_, k) => (k + 1) * step).map((d) => (
        <g key={d}>
          <line x1={-wide} x2={wide} y1={d} y2={d} stroke="var(--line)" strokeWidth={stroke / 2} />
          <text x={-wide + height / 80} y={d - height / 160} fontSize={height / 22} fill="var(--mute)">
            {formatDepth(d)}
          </text>
        </g>
      ))}
      <polygon points={points([[0, 0], shallow, [0, depth], deep])} fill="var(--therm)" opacity={0.18} />
      <polygon points={points([...arc, deep, [0, depth], shallow])} fill="var(--fish)" opacity={0.35} />
      <polygon
        points={points([
          [-wide, bottom(-wide)],
          [wide, bottom(wide)],
          [wide, height],
          [-wide, height],
        ])}
        fill="var(--foot)"
      />
      <line x1={0} y1={0} x2={shallow[0]} y2={shallow[1]} stroke="var(--therm)" strokeWidth={stroke} />
      <line x1={0} y1={0} x2={deep[0]} y2={deep[1]} stroke="var(--therm)" strokeWidth={stroke} />
      <path d={`M${-height / 14} 0 Q0 ${height / 24} ${height / 14} 0 Z`} fill="var(--ink)" transform={`translate(0 ${-height / 60})`} />
      <g transform={`translate(0 ${fishDepth})`}>
        <ellipse rx={fish / 2} ry={fish / 6} fill="var(--fish)" stroke="var(--surface)" strokeWidth={stroke / 2} />
        <path d={`M${0.4 * fish} 0 L${0.65 * fish} ${-0.18 * fish} L${0.65 * fish} ${0.18 * fish} Z`} fill="var(--fish)" />
      </g>
    </svg>
  );
}
