import { fromByteArray, toByteArray } from 'base64-js';

interface Listened {
  /** Slant range of the end of the picture, m. */
  range: number;
  /** Below the surface, m. */
  transducerDepth: number;
}

/** One ping of a sounder or a down-beam: levels 0–255, the nearest first. */
export interface SounderEcho extends Listened {
  view: 'sounder' | 'down-beam';
  /** Full angle of the cone, degrees. */
  beam: number;
  levels: Uint8Array;
}

/** One ping of a side-scan: both sides, the nearest first. */
export interface SideScanEcho extends Listened {
  view: 'side-scan';
  port: Uint8Array;
  starboard: Uint8Array;
}

/** One picture of a forward-facing sonar: rows from level ahead to straight down. */
export interface ForwardEcho extends Listened {
  view: 'forward-facing';
  rows: number;
  /** How wide it sees to the sides, degrees. */
  sector: number;
  /** Degrees to starboard of the bow. */
  bearing: number;
  /** Row by row, the nearest sample of each first. */
  levels: Uint8Array;
}

export type Echo = SounderEcho | SideScanEcho | ForwardEcho;

/** The longest run of samples that is read. */
const MOST = 65_536;

/** What is wrong with a line. */
class Unread extends Error {}

/**
 * Reads one line of an echo stream (docs/echo-stream.md): a JSON object with `view`, `range_m`, `transducer_depth_m` and levels in
 * base64. @returns the echo, or in words what is wrong with the line
 */
export function readEcho(line: string): Echo | string {
  try {
    const said = JSON.parse(line) as unknown;
    if (said === null || typeof said !== 'object' || Array.isArray(said)) return 'the line is no object';
    const o = said as Record<string, unknown>;
    const number = (name: string, min: number, max: number, unsaid?: number): number => {
      const value = o[name] ?? unsaid;
      if (typeof value !== 'number' || !(value >= min && value <= max)) throw new Unread(`${name} must be from ${min} to ${max}`);
      return value;
    };
    const levels = (name: string): Uint8Array => {
      const text = o[name];
      if (typeof text !== 'string') throw new Unread(`${name} is missing`);
      let bytes: Uint8Array;
      try {
        bytes = toByteArray(text);
      } catch {
        throw new Unread(`${name} is no base64`);
      }
      if (bytes.length < 2 || bytes.length > MOST) throw new Unread(`${name} must hold from 2 to ${MOST} samples`);
      return bytes;
    };
    const listened = { range: number('range_m', 0.5, 2000), transducerDepth: number('transducer_depth_m', 0, 50, 0) };
    switch (o.view) {
      case 'sounder':
      case 'down-beam':
        return { view: o.view, ...listened, beam: number('beam_deg', 0.1, 179, 20), levels: levels('levels') };
      case 'side-scan': {
        const [port, starboard] = [levels('port'), levels('starboard')];
        return port.length === starboard.length
          ? { view: 'side-scan', ...listened, port, starboard }
          : 'port and starboard differ in length';
      }
      case 'forward-facing': {
        const rows = number('rows', 2, 1000);
        const all = levels('levels');
        if (all.length % rows) return 'levels cannot be shared out over rows';
        return {
          view: 'forward-facing',
          ...listened,
          rows,
          sector: number('sector_deg', 0.1, 360, 20),
          bearing: number('bearing_deg', -360, 360, 0),
          levels: all,
        };
      }
      default:
        return 'view must be sounder, down-beam, side-scan or forward-facing';
    }
  } catch (error) {
    return error instanceof Unread ? error.message : 'the line is no JSON';
  }
}

/** The line of an echo, without its end. */
export function writeEcho(echo: Echo): string {
  const { view, range, transducerDepth } = echo;
  const head = { view, range_m: range, transducer_depth_m: transducerDepth };
  if (echo.view === 'side-scan')
    return JSON.stringify({ ...head, port: fromByteArray(echo.port), starboard: fromByteArray(echo.starboard) });
  const levels = fromByteArray(echo.levels);
  return JSON.stringify(
    echo.view === 'forward-facing'
      ? { ...head, rows: echo.rows, sector_deg: echo.sector, bearing_deg: echo.bearing, levels }
      : { ...head, beam_deg: echo.beam, levels },
  );
}
