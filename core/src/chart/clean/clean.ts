import { soundSpeedIn } from '../../sonar';
import { crossingSpread } from './crossings';
import { repairDoubles } from './doubles';
import { markJumps } from './jumps';
import { estimateLag, shiftAlong } from './lag';
import { levelAt, overDatum, type LevelReading } from './level';
import { markSpikes } from './spikes';
import { legsOf, passesOf, type Pass, type CleanSettings, type CleanStep, type SoundingTable } from './table';

export interface CleanContext {
  /** Readings of the level, sorted by time; heights over the datum or over anything fixed. */
  levels: LevelReading[];
  altitude: number | null;
  /** Tidal water: readings are high and low water. */
  tidal: boolean;
  /** Practical salinity of the water; 0: fresh. */
  salinity: number;
}

export interface Cleaned {
  x: Float64Array;
  y: Float64Array;
  /** Metres below datum. */
  depth: Float32Array;
  /** 1 for soundings that are left out. */
  left: Uint8Array;
  steps: CleanStep[];
}

/** Legs by what logged them: a survey each, and the tracks of all trips together (it is one boat). */
function bySource(legs: Pass[], survey: Int32Array): Pass[][] {
  const groups = new Map<number, Pass[]>();
  for (const leg of legs) {
    const source = Math.max(-1, survey[leg.from]);
    const group = groups.get(source);
    if (group) group.push(leg);
    else groups.set(source, [leg]);
  }
  return [...groups.values()];
}

const NO_CONTEXT: CleanContext = { levels: [], altitude: null, tidal: false, salinity: 0 };

/**
 * Cleans the soundings of a water, step by step: position jumps, second echoes, spikes, the lag of the depth behind the
 * position, transducer depth, sound speed, level. The table itself stays as it was.
 */
export function cleanSoundings(table: SoundingTable, settings: CleanSettings = {}, context: CleanContext = NO_CONTEXT): Cleaned {
  const passes = passesOf(table);
  const [x, y, depth] = [table.x.slice(), table.y.slice(), table.depth.slice()];
  const legs = legsOf(table, passes);
  const left = new Uint8Array(depth.length);
  const steps: CleanStep[] = [];
  const spread = (): number | null => crossingSpread(x, y, depth, legs, left);
  let before = spread();
  const step = (name: CleanStep['name'], on: boolean, work: () => Partial<Pick<CleanStep, 'leftOut' | 'changed' | 'words'>>): void => {
    const done = on ? work() : {};
    const touched = (done.leftOut ?? 0) + (done.changed ?? 0) > 0;
    const after = touched ? spread() : before;
    steps.push({ name, on, leftOut: 0, changed: 0, words: on ? '' : 'switched off', ...done, before, after });
    before = after;
  };

  step('position jumps', settings.jumps !== false, () => {
    const leftOut = markJumps({ time: table.time, x, y }, passes, left);
    return { leftOut, words: leftOut ? 'fixes far off the track or reached at an impossible speed' : 'none found' };
  });
  step('second echo', settings.doubles !== false, () => {
    const changed = repairDoubles({ x, y }, depth, passes, left);
    return { changed, words: changed ? 'twice or half the depth between two leaps: brought back' : 'none found' };
  });
  step('spikes', settings.spikes !== false, () => {
    const leftOut = markSpikes(depth, passes, left);
    return { leftOut, words: leftOut ? 'single depths far from their neighbours along the pass' : 'none found' };
  });
  step('time lag', settings.lag !== false, () => {
    let changed = 0;
    const found: string[] = [];
    for (const own of bySource(legs, table.survey)) {
      const lag = estimateLag({ ...table, x, y, depth }, own, left);
      if (!lag || lag.seconds === 0) continue;
      for (const pass of own) {
        const [sx, sy] = shiftAlong({ time: table.time, x, y }, pass, lag.seconds);
        x.set(sx, pass.from);
        y.set(sy, pass.from);
        changed += pass.to - pass.from;
      }
      found.push(`${lag.seconds.toFixed(1)} s (opposite passes ${lag.before.toFixed(2)} → ${lag.after.toFixed(2)} m apart)`);
    }
    const some = found.slice(0, 4).join('; ') + (found.length > 4 ? ` and ${found.length - 4} more` : '');
    return { changed, words: found.length ? `depth older than position by ${some}` : 'no lag to be seen' };
  });
  step('transducer depth', Boolean(settings.transducer_m), () => {
    for (let i = 0; i < depth.length; i++) depth[i] += settings.transducer_m!;
    return { changed: depth.length, words: `${settings.transducer_m} m added to every depth` };
  });
  step('sound speed', Boolean(settings.assumed_sound_ms), () => {
    let changed = 0;
    for (let i = 0; i < depth.length; i++) {
      if (Number.isNaN(table.temperature[i])) continue;
      depth[i] *= soundSpeedIn(table.temperature[i], context.salinity) / settings.assumed_sound_ms!;
      changed++;
    }
    return { changed, words: `from ${settings.assumed_sound_ms} m/s to that of the water's temperature; without a temperature left alone` };
  });
  step('water level', settings.level !== false, () => {
    const { readings, base } = overDatum(context.levels, context.altitude);
    let changed = 0;
    let [low, high] = [Infinity, -Infinity];
    for (let i = 0; readings.length && i < depth.length; i++) {
      const level = levelAt(readings, table.time[i], context.tidal);
      if (Number.isNaN(level) || level === 0) continue;
      depth[i] -= level;
      changed++;
      low = Math.min(low, level);
      high = Math.max(high, level);
    }
    return {
      changed,
      words: changed
        ? `${low.toFixed(2)} to ${high.toFixed(2)} m above ${base ? `datum (taken as ${base} m)` : 'datum'} taken off${context.tidal ? ', by the tide between high and low water' : ''}`
        : 'no reading of the level near in time',
    };
  });
  // What lies above the datum is no water then; on a coast it is ground that falls dry.
  const wet = context.tidal ? table.depth : depth;
  for (let i = 0; i < depth.length; i++) if (!(wet[i] > 0 && Number.isFinite(depth[i]))) left[i] = 1;
  return { x, y, depth, left, steps };
}
