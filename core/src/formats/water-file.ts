import { ValidationError } from 'yup';
import { schemas } from '../logbook';
import { FormatError } from './csv';

/** water.json: what a water is, beside its outline. */
export interface WaterFile {
  name?: string;
  kind?: string | null;
  datum?: string | null;
  altitude_m?: number | null;
  /** Where it lies, for a water without an outline. */
  latitude?: number | null;
  longitude?: number | null;
  /** How deep it is at the most, for a water without a chart. */
  deepest_m?: number | null;
  time_zone?: string | null;
  rules?: unknown;
  forage?: string[] | null;
  rigs?: unknown;
  /** How its soundings are cleaned; see CleanSettings. */
  cleaning?: unknown;
  /** Its tide; see TideRecord. */
  tide?: unknown;
}

/** What water.json can say of a water beside its name. */
export const WATER_SETTINGS = [
  'kind',
  'datum',
  'altitude_m',
  'latitude',
  'longitude',
  'deepest_m',
  'time_zone',
  'rules',
  'forage',
  'rigs',
  'cleaning',
  'tide',
] as const;

/** Reads water.json. Unknown names in it are returned, not refused. @throws FormatError that names the field */
export function readWaterFile(text: string, file: string): { water: WaterFile; unknown: string[] } {
  let value: unknown;
  try {
    value = JSON.parse(text.replace(/^\ufeff/, ''));
  } catch (error) {
    throw new FormatError(`${file}: is not JSON: ${(error as Error).message}`);
  }
  if (typeof value !== 'object' || value === null || Array.isArray(value)) throw new FormatError(`${file}: must hold one object`);
  const raw = value as Record<string, unknown>;
  const aliases: Record<string, string> = { altitude: 'altitude_m', timeZone: 'time_zone', timezone: 'time_zone' };
  const water: Record<string, unknown> = {};
  const unknown: string[] = [];
  for (const [key, v] of Object.entries(raw)) {
    const name = aliases[key] ?? key;
    if (name === 'name' || (WATER_SETTINGS as readonly string[]).includes(name)) water[name] = v;
    else unknown.push(key);
  }
  try {
    schemas.water.validateSync({ name: 'unnamed', ...water });
  } catch (error) {
    if (error instanceof ValidationError) throw new FormatError(`${file}: ${error.path ?? ''} ${error.message}`);
    throw error;
  }
  return { water: water as WaterFile, unknown };
}
