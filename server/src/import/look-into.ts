import type { Geometry, Position } from 'geojson';
import { addFinding, FormatError, type FileReport, type PlacedRow } from '@restless-shoal/core/formats';
import { outlineBox, type LatLon } from '@restless-shoal/core/geo';
import { rowContradiction, type RecordName, type Row } from '@restless-shoal/core/logbook';
import {
  columnNames,
  guessPart,
  mappingText,
  soundingReader,
  type KnownPlace,
  type PartMapping,
  type Question,
} from '@restless-shoal/core/tables';
import type { Pool } from '../db/pool';
import { rememberedMappings } from '../db/spots';
import { waterByName, type WaterRow } from '../db/waters';
import { partsOf, toDegreesOf, type FilePart } from './parts';
import { kindOf, PRODUCT, recordOfName, textOf, type Source, type SourceKind } from './sources';
import type { ImportOptions } from './import-terms';
import { NOT_TAKEN, OTHERS_FILE, senderOf, type Sender } from './others';

/** A part of another program's file, with how it will be read and what is still open. */
export interface ForeignPart {
  part: FilePart;
  mapping: PartMapping;
  questions: Question[];
}

export interface LookedInto {
  native: { kind: SourceKind; source: Source }[];
  foreign: ForeignPart[];
  passedOver: { file: string; why: string }[];
  /** Whose marks they are, where they are not one's own. */
  from?: Sender;
}

/** Something cannot be known from the files, and nobody is there to be asked. The mapping is left to be completed. */
export class OpenQuestionsError extends FormatError {
  constructor(
    open: ForeignPart[],
    readonly parts: ForeignPart[],
    readonly places: KnownPlace[],
  ) {
    super(
      open.flatMap(({ part, questions, mapping }) => questions.map((q) => `${partName(part)}: ${questionWords(q, mapping)}`)).join('\n'),
    );
  }

  /** mapping.json, to be completed. */
  get text(): string {
    return mappingText(
      this.parts.map((p) => p.mapping),
      this.places,
    );
  }
}

const columnOf = (mapping: PartMapping, ...targets: string[]): string => mapping.columns.find((c) => targets.includes(c.to))?.from ?? '?';

/** What is asked, in words, with the field of mapping.json that answers it. */
function questionWords(question: Question, mapping: PartMapping): string {
  switch (question) {
    case 'columns':
      return `what its columns hold is not known (columns: ${mapping.columns.map((c) => c.from).join(', ')}); say where and how deep, or as: "skip"`;
    case 'unit':
      return `the unit of "${columnOf(mapping, 'depth', 'elevation')}" is not known: m, ft, fathom or cm (unit of the column)`;
    case 'sign':
      return `"${columnOf(mapping, 'depth', 'elevation')}" holds positive and negative numbers: do depths grow downwards, or are they negative? (sign: "down" or "up")`;
    case 'level':
      return `"${columnOf(mapping, 'elevation')}" holds heights: how high did the water’s surface stand in the same system, m? (level)`;
    case 'zone':
      return `the time zone of "${columnOf(mapping, 'time', 'date')}" is not known (zone: "UTC", "+02:00" or a name such as "Europe/Berlin")`;
    case 'order':
      return `whether "${columnOf(mapping, 'time', 'date')}" has the day or the month first is not known (order: "dmy" or "mdy")`;
    case 'crs':
      return `the coordinate system of "${columnOf(mapping, 'x')}" and "${columnOf(mapping, 'y')}" is not known (crs: its EPSG code)`;
    case 'hours':
      return `whether "${columnOf(mapping, 'hours')}" is of each place or of the whole day is not known (hours: "place" or "day")`;
    case 'axes':
      return 'which of the first two columns is the latitude is not known (columns: "to": "latitude" and "longitude")';
  }
}

export const partName = ({ file, part }: FilePart): string => (part === 'table' ? file : `${file}, ${part}`);

/** Names of a part's columns, its own or numbers. */
export const namesOf = ({ columns, sample }: FilePart): string[] => columns ?? columnNames(Math.max(0, ...sample.map((r) => r.length)));

/** Middle of a water, where that is known. */
export function middleOf(water: WaterRow | null): LatLon | null {
  if (water?.outline) {
    const [west, south, east, north] = outlineBox(water.outline);
    return { latitude: (south + north) / 2, longitude: (west + east) / 2 };
  }
  return water && water.latitude !== null && water.longitude !== null ? { latitude: water.latitude, longitude: water.longitude } : null;
}

/** How far a sounding may lie from its water for a coordinate system to be the right one, degrees. */
const NEAR = 0.5;

/** The UTM zone of the water, where the first positions come to lie at it. */
function systemOf(part: FilePart, mapping: PartMapping, near: LatLon | null): number | null {
  if (!near) return null;
  const names = namesOf(part);
  const [x, y] = ['x', 'y'].map((to) => names.indexOf(mapping.columns.find((c) => c.to === to)?.from ?? ''));
  if (x < 0 || y < 0 || !part.sample.length) return null;
  const zone = Math.min(60, Math.max(1, Math.floor((near.longitude + 180) / 6) + 1));
  const code = (near.latitude >= 0 ? 32600 : 32700) + zone;
  const [longitude, latitude] = toDegreesOf(code)!(Number(part.sample[0][x]), Number(part.sample[0][y]));
  return Math.abs(latitude - near.latitude) < NEAR && Math.abs(longitude - near.longitude) < NEAR ? code : null;
}

/**
 * Looks into files before they are imported: which are ours, what the others seem to hold, and what has to be asked.
 * A mapping that was given goes before one that was used for files that look the same, and that before a guess.
 */
export async function lookInto(
  pool: Pool,
  account: string,
  sources: Source[],
  { water: name, mapping: given, from: named }: Pick<ImportOptions, 'water' | 'mapping' | 'from'>,
): Promise<LookedInto> {
  const said = sources.find((s) => s.name.toLowerCase() === OTHERS_FILE);
  const from = named ?? (said && senderOf(await textOf(said), said.name));
  const out: LookedInto = { native: [], foreign: [], passedOver: [], from };
  const water = await waterByName(pool, account, name);
  const near = middleOf(water);
  // An export of ours holds products beside the records that they are made from.
  const ours = sources.some((s) => /^(soundings|trips)\.csv$/i.test(s.name));
  const photos = sources.some((s) => s.name.toLowerCase() === 'photos.csv');
  const parts: { source: Source; part: FilePart; guess: ReturnType<typeof guessPart> }[] = [];
  for (const source of sources) {
    if (source === said) continue;
    const kind = await kindOf(source, ours);
    if (kind === 'picture' && !photos) {
      out.passedOver.push({ file: source.name, why: 'a picture, and no photos.csv that names it' });
      continue;
    }
    if (kind) {
      // Somebody may send no more than his marks, written by this program.
      if (kind === 'gpx' && !(from && !ours) && (await isOurs(source)))
        out.passedOver.push({ file: source.name, why: 'a product, made from the records' });
      else out.native.push({ kind, source });
      continue;
    }
    if ((ours && PRODUCT.test(source.name)) || (said && source.name.toLowerCase() === 'marks.geojson')) {
      out.passedOver.push({ file: source.name, why: 'a product, made from the records' });
      continue;
    }
    const found = await partsOf(source, sources);
    if (!found.length && !/\.(dbf|prj|cpg|shx|sbn|sbx|qix|qpj)$/i.test(source.name))
      out.passedOver.push({ file: source.name, why: 'no known record' });
    for (const part of found) {
      const guess = guessPart({ ...part, near });
      // A sheet of free words beside the one that counts is no question.
      if (guess.mapping.as === 'skip' && /^sheet/.test(part.part) && found.length > 1) guess.questions.length = 0;
      if (guess.questions.includes('crs')) {
        const code = systemOf(part, guess.mapping, near);
        if (code !== null) {
          guess.mapping.crs = code;
          guess.questions.splice(guess.questions.indexOf('crs'), 1);
        }
      }
      parts.push({ source, part, guess });
    }
  }
  const remembered = await rememberedMappings(pool, account, parts.map((p) => p.guess.mapping.signature)); // prettier-ignore
  for (const { source, part, guess } of parts) {
    const { signature, day } = guess.mapping;
    const told = given?.parts.find((m) => m.signature === signature) ?? remembered.get(signature);
    // Nothing in it speaks for another program's log: by its name it was meant as ours, and is told what it lacks.
    const record = recordOfName(source.name);
    if (!told && record && record !== 'soundings' && guess.questions.includes('columns')) {
      out.native.push({ kind: record, source });
      continue;
    }
    const mapping = told ? { ...told, day: told.day ?? day } : guess.mapping;
    out.foreign.push({ part, mapping, questions: told ? openIn(mapping) : guess.questions });
  }
  return from ? marksAlone(out) : out;
}

/** What is taken from others: marks and areas. */
function marksAlone(looked: LookedInto): LookedInto {
  const isMark = (kind: SourceKind): boolean => kind === 'gpx' || kind === 'cover' || kind === 'contacts';
  const left = (file: string): { file: string; why: string } => ({ file, why: NOT_TAKEN });
  return {
    ...looked,
    native: looked.native.filter((n) => isMark(n.kind)),
    foreign: looked.foreign.flatMap((f) =>
      f.part.places?.length ? [{ ...f, mapping: { ...f.mapping, as: 'places' as const }, questions: [] }] : [],
    ),
    passedOver: [
      ...looked.passedOver,
      ...looked.native.filter((n) => !isMark(n.kind)).map((n) => left(n.source.name)),
      ...looked.foreign.filter((f) => !f.part.places?.length).map((f) => left(partName(f.part))),
    ],
  };
}

/** What a mapping that somebody wrote leaves open. */
function openIn(mapping: PartMapping): Question[] {
  const has = (...targets: string[]): boolean => mapping.columns.some((c) => targets.includes(c.to));
  const open: Question[] = [];
  if (mapping.as !== 'soundings' && mapping.as !== 'catches') return open;
  if (mapping.as === 'soundings' && !((has('latitude') && has('longitude')) || (has('x') && has('y')))) open.push('columns');
  if (mapping.as === 'soundings' && !has('depth', 'elevation')) open.push('columns');
  if (has('depth', 'elevation') && !mapping.columns.find((c) => c.to === 'depth' || c.to === 'elevation')!.unit) open.push('unit');
  if (mapping.as === 'soundings' && mapping.sign === null) open.push('sign');
  if (mapping.as === 'soundings' && has('elevation') && !has('depth') && mapping.level === null) open.push('level');
  if (has('x') && !has('latitude') && mapping.crs === null) open.push('crs');
  if (has('time', 'date') && mapping.order === null) open.push('order');
  if (has('time', 'date') && mapping.order !== 'unix' && mapping.zone === null) open.push('zone');
  if (mapping.as === 'catches' && has('hours') && has('place') && mapping.hours === null) open.push('hours');
  return open;
}

/** Whether a GPX file is one that we wrote. */
async function isOurs(source: Source): Promise<boolean> {
  for await (const chunk of source.bytes())
    return /<gpx[^>]*creator="Restless Shoal"/.test(Buffer.from(chunk.subarray(0, 2000)).toString('latin1'));
  return false;
}

/** Says of which part of which file a fault speaks. @throws FormatError */
export function inWords<T>(part: FilePart, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (error instanceof RangeError) throw new FormatError(`${partName(part)}: ${error.message}`);
    throw error;
  }
}

/** What reads the rows of a part as soundings. @throws FormatError when its mapping leaves something open */
export const readerOf = (part: FilePart, mapping: PartMapping): ReturnType<typeof soundingReader> =>
  inWords(part, () => soundingReader(mapping, { names: namesOf(part), toDegrees: mapping.crs === null ? null : toDegreesOf(mapping.crs) }));

/** The soundings of a part; rows that are none are listed. */
export async function* mappedRows(
  part: FilePart,
  read: ReturnType<typeof soundingReader>,
  report: FileReport,
): AsyncGenerator<PlacedRow[]> {
  for await (const batch of part.rows()) {
    const rows: PlacedRow[] = [];
    for (const { line, fields } of batch) {
      report.read++;
      const row = read(fields);
      if ('reason' in row) addFinding(report.bad, { line, column: String(row.column), reason: String(row.reason) });
      else rows.push({ line, row: row as Row });
    }
    report.used += rows.length;
    if (rows.length) yield rows;
  }
}

/** Rows that were made from a table. */
export async function* listedRows(
  record: RecordName,
  list: PlacedRow[],
  bad: { line: number; column: string; reason: string }[],
  report: FileReport,
): AsyncGenerator<PlacedRow[]> {
  report.read = list.length + bad.length;
  for (const finding of bad) addFinding(report.bad, finding);
  const rows = list.filter(({ line, row }) => {
    const wrong = rowContradiction(record, row);
    if (wrong) addFinding(report.bad, { line, ...wrong });
    return !wrong;
  });
  report.used = rows.length;
  if (rows.length) yield await Promise.resolve(rows.map(({ line, row }) => ({ line, row: { ...row } })));
}

/** The outline of a part in degrees. */
export function outlineInDegrees(part: FilePart, mapping: PartMapping): Geometry {
  if (!part.outline) throw new FormatError(`${partName(part)}: holds no area and no closing line`);
  const toDegrees = mapping.crs === null ? null : inWords(part, () => toDegreesOf(mapping.crs!));
  const move = (value: unknown): unknown =>
    Array.isArray(value) && typeof value[0] === 'number'
      ? toDegrees
        ? toDegrees(value[0], value[1] as number)
        : (value as Position).slice(0, 2)
      : (value as unknown[]).map(move);
  const moved = (g: Geometry): Geometry =>
    g.type === 'GeometryCollection'
      ? { ...g, geometries: g.geometries.map(moved) }
      : ({ ...g, coordinates: move(g.coordinates) } as Geometry);
  return moved(part.outline);
}
