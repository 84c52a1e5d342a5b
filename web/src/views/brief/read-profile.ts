import type { ProfileSample } from '@restless-shoal/core/lake';
import { MeasureError, metric, parseMeasure, type UnitSystem } from '@restless-shoal/core/units';
import { readNumber } from '../../parts/read-number';
import { formatDepth, brief as msg, decimal } from '../../words';

export interface TypedProfile {
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

/** A number where one was typed; null for nothing or a dash, NaN for what is none. */
const perhaps = (text: string | undefined, unit: RegExp): number | null =>
  text === undefined || /^[-–—]$/.test(text) ? null : readNumber(text.replace(unit, ''));

/**
 * Reads a typed or pasted profile: a line a reading, depth, temperature and perhaps oxygen, in the reader's units or in those typed behind.
 * @param salty salinity comes before oxygen
 */
export function readProfile(text: string, units: UnitSystem = metric, salty = false): TypedProfile {
  const samples: ProfileSample[] = [];
  const wrong: string[] = [];
  const slips: string[] = [];
  const deep = (depth: number): string => formatDepth(depth, units);
  text.split('\n').forEach((line, i) => {
    if (!line.trim()) return;
    const words = line.trim().split(/[\s;]+|,\s+/);
    const [depth, temperature] = [typed(words[0], 'depth', units), typed(words[1], 'temperature', units)];
    const salinity = salty ? perhaps(words[2], /psu$/i) : null;
    const oxygen = perhaps(words[salty ? 3 : 2], /mg\/l$/i);
    if (words.length > (salty ? 4 : 3) || [depth, temperature, oxygen ?? 0, salinity ?? 0].some(Number.isNaN))
      wrong.push(msg('readProfile.lineIsNoDepth', { i: i + 1, line: line.trim() }));
    else if (depth < 0 || temperature < -2 || temperature > 45 || (oxygen ?? 0) < 0 || (salinity ?? 0) < 0 || (salinity ?? 0) > 45)
      wrong.push(msg('readProfile.lineIsImpossible', { i: i + 1, line: line.trim() }));
    else {
      const before = samples[samples.length - 1];
      if (before && depth < before.depth)
        slips.push(msg('readProfile.lineTheDepthGoes', { i: i + 1, depth: deep(before.depth), depth2: deep(depth) }));
      const jump = before ? Math.abs(temperature - before.temperature) : 0;
      if (jump >= 12)
        slips.push(
          msg('readProfile.lineAJumpOf', {
            i: i + 1,
            jump: `${decimal(units.temperature === '°C' ? jump : 1.8 * jump)} ${units.temperature}`,
          }),
        );
      samples.push({ depth, temperature, oxygen, ...(salinity === null ? {} : { salinity }) });
    }
  });
  return { samples, wrong, slips };
}
