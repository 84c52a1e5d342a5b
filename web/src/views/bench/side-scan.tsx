import { useState } from 'react';
import { readSideScan, type Read } from '@restless-shoal/core/sonar';
import { Segments } from '../../parts/segments';
import { bench as msg, formatDepth, formatLength } from '../../words';
import { Slider } from './slider';
import { useKept } from './use-kept';

const USUAL = { height: 8, range: 14, shadow: 18, shadowLength: 3, error: 0.1 };
type What = 'stands' | 'hangs' | 'lies';

/** What a side-scan reading says: how far off, how high, each with how exactly. */
export function SideScan() {
  const [set, change] = useKept('bench side-scan', USUAL);
  const [what, setWhat] = useState<What>('hangs');
  const { height, error } = set;
  const range = what === 'hangs' ? set.range : Math.max(set.range, height);
  const shadow = Math.max(set.shadow, range);
  const read = (value: number): Read => ({ value, error });
  const answer = readSideScan({
    height: read(height),
    range: read(range),
    shadow: what === 'hangs' ? read(shadow) : null,
    shadowLength: what === 'stands' ? read(set.shadowLength) : null,
  });
  const words = ({ value, error: off }: Read): string => msg('sideScan.plusMinus', { value: formatDepth(value), error: formatDepth(off) });
  const slider = (name: keyof typeof USUAL, label: string, value: number, min: number, max: number, step = 0.1) => (
    <Slider label={label} words={formatDepth(value)} value={value} min={min} max={max} step={step} onChange={(v) => change(name, v)} />
  );
  return (
    <div className="grid gap-5 lg:grid-cols-[20rem_minmax(0,1fr)]">
      <div className="max-lg:order-2">
        <Segments
          label={msg('sideScan.whatItDoes')}
          value={what}
          options={[
            ['hangs', msg('sideScan.hangs')],
            ['stands', msg('sideScan.stands')],
            ['lies', msg('sideScan.lies')],
          ]}
          onChange={setWhat}
        />
        {slider('height', msg('sideScan.height'), height, 0.5, 60)}
        {slider('range', msg('sideScan.range'), range, 0.5, 100)}
        {what === 'hangs' && slider('shadow', msg('sideScan.shadowRange'), shadow, range, 150)}
        {what === 'stands' && slider('shadowLength', msg('sideScan.shadowLength'), set.shadowLength, 0.1, 50)}
        {slider('error', msg('sideScan.readTo'), error, 0.02, 1, 0.02)}
      </div>
      <div>
        <Drawing height={height} distance={answer.distance.value} up={(answer.over ?? answer.tall)?.value ?? 0} hangs={what === 'hangs'} />
        <dl className="num mt-3 grid max-w-xl grid-cols-[1fr_auto] gap-x-6 gap-y-1.5 text-lg">
          <dt className="text-mute">{msg('sideScan.distance')}</dt>
          <dd className="font-semibold">{words(answer.distance)}</dd>
          {answer.over && (
            <>
              <dt className="text-mute">{msg('sideScan.overBottom')}</dt>
              <dd className="font-semibold">{words(answer.over)}</dd>
              <dt className="text-mute">{msg('sideScan.belowTransducer')}</dt>
              <dd className="font-semibold">{formatDepth(height - answer.over.value)}</dd>
            </>
          )}
          {answer.tall && (
            <>
              <dt className="text-mute">{msg('sideScan.tall')}</dt>
              <dd className="font-semibold">{words(answer.tall)}</dd>
            </>
          )}
        </dl>
        <p className="mt-2 max-w-2xl text-sm text-mute">{msg('sideScan.onAFlatBottom')}</p>
      </div>
    </div>
  );
}

/** Transducer, ray, target and its shadow, true to scale. */
function Drawing({ height, distance, up, hangs }: { height: number; distance: number; up: number; hangs: boolean }) {
  // The ray over the target meets the bottom here.
  const end = up < height ? (distance * height) / (height - up) : 3 * distance;
  const wide = Math.max(end, distance, 0.6 * height) * 1.08 + 1;
  const tall = height * 1.15;
  const stroke = Math.max(tall, wide / 3) / 200;
  const size = Math.max(tall, wide / 3) / 28;
  return (
    <svg
      viewBox={`${-0.06 * wide} ${-0.12 * tall} ${1.08 * wide} ${1.12 * tall}`}
      className="max-h-[48vh] min-h-48 w-full rounded-box border border-line bg-surface"
      role="img"
      aria-label={msg('sideScan.drawing', { distance: formatLength(distance), up: formatLength(up) })}
    >
      <rect x={-0.06 * wide} y={0} width={1.08 * wide} height={height} fill="var(--w1)" opacity={0.45} />
      <rect x={-0.06 * wide} y={height} width={1.08 * wide} height={tall - height + 0.12 * tall} fill="var(--foot)" />
      {up > 0 && <line x1={distance} x2={end} y1={height} y2={height} stroke="var(--ink)" strokeWidth={3 * stroke} />}
      <line x1={0} y1={0} x2={distance} y2={height - up} stroke="var(--therm)" strokeWidth={stroke} />
      {up > 0 && (
        <line
          x1={distance}
          y1={height - up}
          x2={end}
          y2={height}
          stroke="var(--therm)"
          strokeWidth={stroke}
          strokeDasharray={`${3 * stroke}`}
        />
      )}
      {up > 0 && !hangs && <line x1={distance} x2={distance} y1={height} y2={height - up} stroke="var(--cover)" strokeWidth={4 * stroke} />}
      <circle cx={distance} cy={height - up} r={size / 2} fill="var(--fish)" />
      <circle cx={0} cy={0} r={size / 2} fill="var(--ink)" />
      <text x={distance / 2 + 1.5 * size} y={(height - up) / 2 - size / 2} fontSize={size} fill="var(--ink)" textAnchor="start">
        {formatLength(Math.hypot(distance, height - up))}
      </text>
      <text x={size} y={height - size / 2} fontSize={size} fill="var(--ink)">
        {formatLength(height)}
      </text>
    </svg>
  );
}
