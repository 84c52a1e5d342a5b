import { useMemo, useState } from 'react';
import { findThermocline, ProfileError, tidyProfile, type ProfileSample } from '@restless-shoal/core/lake';
import { formatDepth, MeasureError, metric, parseMeasure, stepText, type UnitSystem } from '@restless-shoal/core/units';
import { Dialog } from '../../parts/dialog';
import { readNumber } from '../../parts/number-row';
import { useSay, useUnits } from '../../state/units';

export interface TypedCast {
  samples: ProfileSample[];
  /** Lines that are no reading. */
  wrong: string[];
  /** Slips that are pointed out, not refused. */
  slips: string[];
}

/** A number with a unit or without: then it is in the reader's. NaN where it is none. */
function typed(text: string | undefined, kind: 'depth' | 'temperature', units: UnitSystem): number {
  try {
    return parseMeasure(text ?? '', kind, units[kind]);
  } catch (error) {
    if (error instanceof MeasureError) return NaN;
    throw error;
  }
}

/** Reads a typed or pasted cast: a line a reading, depth, temperature and perhaps oxygen, in the reader's units or in those typed behind. */
export function readCast(text: string, units: UnitSystem = metric): TypedCast {
  const samples: ProfileSample[] = [];
  const wrong: string[] = [];
  const slips: string[] = [];
  const deep = (depth: number): string => formatDepth(depth, units);
  text.split('\n').forEach((line, i) => {
    if (!line.trim()) return;
    const words = line.trim().split(/[\s;]+|,\s+/);
    const [depth, temperature] = [typed(words[0], 'depth', units), typed(words[1], 'temperature', units)];
    const oxygen = words[2] === undefined ? null : readNumber(words[2].replace(/mg\/l$/i, ''));
    if (words.length > 3 || [depth, temperature, oxygen ?? 0].some(Number.isNaN))
      wrong.push(`line ${i + 1}: "${line.trim()}" is no depth and temperature`);
    else if (depth < 0 || temperature < -2 || temperature > 45 || (oxygen ?? 0) < 0)
      wrong.push(`line ${i + 1}: "${line.trim()}" is impossible`);
    else {
      const before = samples[samples.length - 1];
      if (before && depth < before.depth) slips.push(`line ${i + 1}: the depth goes up, from ${deep(before.depth)} to ${deep(depth)}`);
      const jump = before ? Math.abs(temperature - before.temperature) : 0;
      if (jump >= 12) slips.push(`line ${i + 1}: a jump of ${Number(stepText(jump, units)).toFixed(0)} ${units.temperature}`);
      samples.push({ depth, temperature, oxygen });
    }
  });
  return { samples, wrong, slips };
}

function Curve({ samples }: { samples: ProfileSample[] }) {
  const say = useSay();
  const tidy = useMemo(() => {
    try {
      return tidyProfile(samples);
    } catch (error) {
      if (error instanceof ProfileError) return null;
      throw error;
    }
  }, [samples]);
  if (!tidy || tidy.length < 2) return <p className="p-4 text-sm text-mute">The curve draws as you type.</p>;
  const line = findThermocline(tidy);
  const deepest = tidy[tidy.length - 1].depth;
  const warmest = Math.max(...tidy.map((s) => s.temperature)) + 1;
  const coldest = Math.min(...tidy.map((s) => s.temperature)) - 1;
  const x = (t: number): number => 10 + ((t - coldest) / (warmest - coldest)) * 170;
  const y = (z: number): number => 10 + (z / deepest) * 220;
  return (
    <svg
      viewBox="0 0 200 260"
      className="w-full"
      role="img"
      aria-label={line ? say(`thermocline at ${line.depth.toFixed(1)} m`) : 'no thermocline'}
    >
      {line && (
        <rect x="0" width="200" y={y(line.top)} height={Math.max(2, y(line.bottom) - y(line.top))} fill="var(--therm)" opacity=".25" />
      )}
      <path
        d={tidy.map((s, i) => `${i ? 'L' : 'M'}${x(s.temperature)} ${y(s.depth)}`).join('')}
        fill="none"
        stroke="var(--fish)"
        strokeWidth="3"
      />
      {tidy.map((s) => (
        <circle key={s.depth} cx={x(s.temperature)} cy={y(s.depth)} r="3.5" fill="var(--fish)" />
      ))}
      <text x="4" y="254" fontSize="13" fill="var(--ink)" data-testid="cast-line">
        {line ? say(`thermocline ${line.top.toFixed(1)}–${line.bottom.toFixed(1)} m`) : 'no thermocline'}
      </text>
    </svg>
  );
}

/** A probe cast, typed or pasted as a column. */
export function CastForm({ onSave, onClose }: { onSave: (samples: ProfileSample[]) => Promise<void>; onClose: () => void }) {
  const [text, setText] = useState('');
  const [failed, setFailed] = useState<string | null>(null);
  const units = useUnits();
  const cast = useMemo(() => readCast(text, units), [text, units]);
  return (
    <Dialog title="A cast of the water" onClose={onClose}>
      <div className="grid grid-cols-2 gap-4">
        <label>
          <span className="text-sm text-mute">
            A line a reading: depth {units.depth}, temperature {units.temperature}, oxygen mg/l if measured
          </span>
          <textarea
            aria-label="Readings"
            className="textarea num mt-1 h-56 w-full"
            placeholder={units.temperature === '°C' ? '0 19.4 9.1\n1 19.3 9.0\n2 19.1 8.9' : '0 66.9 9.1\n1 66.7 9.0\n2 66.4 8.9'}
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
        </label>
        <Curve samples={cast.samples} />
      </div>
      {[...cast.wrong, ...cast.slips].slice(0, 4).map((s) => (
        <p key={s} role="alert" className={`text-sm ${cast.wrong.includes(s) ? 'text-warn' : 'text-bait'}`}>
          {s}
        </p>
      ))}
      {failed && (
        <p role="alert" className="text-sm text-warn">
          {failed}
        </p>
      )}
      <button
        type="button"
        disabled={!cast.samples.length || cast.wrong.length > 0}
        className="btn btn-primary mt-3 h-12 w-full text-lg"
        onClick={() => void onSave(cast.samples).then(onClose, (error: Error) => setFailed(error.message))}
      >
        Log this cast, {cast.samples.length} {cast.samples.length === 1 ? 'reading' : 'readings'}
      </button>
    </Dialog>
  );
}
