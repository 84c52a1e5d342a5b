import { useState } from 'react';
import { lineForDepth, trolledDepth } from '@restless-shoal/core/passage';
import { Slider } from '../bench/slider';
import { formatDepth, formatLength, formatSpeed, plan as msg } from '../../words';

/** How much line brings a trolled lure to a depth, for passes that are trolled: an estimate, and said to be one. */
export function Trolling() {
  const [depth, setDepth] = useState(4);
  const [speed, setSpeed] = useState(1);
  const [mass, setMass] = useState(40);
  const line = lineForDepth(depth, speed, mass);
  const span = line === null ? null : trolledDepth(line, speed, mass);
  return (
    <details className="rounded-box border border-line px-3 py-2">
      <summary className="min-h-8 cursor-pointer font-semibold">{msg('troll.title')}</summary>
      <Slider label={msg('troll.depth')} words={formatDepth(depth)} value={depth} min={0.5} max={25} step={0.5} onChange={setDepth} />
      <Slider label={msg('troll.speed')} words={formatSpeed(speed)} value={speed} min={0.3} max={3} step={0.1} onChange={setSpeed} />
      <Slider label={msg('troll.mass')} words={`${mass} g`} value={mass} min={5} max={300} step={5} onChange={setMass} />
      <p className="text-sm" data-testid="line-out">
        {line === null || span === null
          ? msg('troll.none')
          : msg('troll.line', { line: formatLength(Math.round(line)), low: span.low, high: span.high })}
      </p>
    </details>
  );
}
