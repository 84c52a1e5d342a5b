import type { ImportPreview, PartPreview } from '@restless-shoal/core/contract';
import { catchesOf } from '@restless-shoal/core/tables';
import type { Row } from '@restless-shoal/core/logbook';
import type { Pool } from '../db/pool';
import { placesOf } from '../db/spots';
import { waterByName } from '../db/waters';
import type { ImportOptions } from './import-terms';
import { lookInto, middleOf, namesOf, partName, readerOf, type ForeignPart } from './look-into';
import type { PartRow } from './parts';
import type { Source } from './sources';

/** So many rows of a part are shown as they will be read. */
const SHOWN = 400;
const ROWS = 8;

async function previewOf(
  pool: Pool,
  water: string | null,
  { part, mapping, questions }: ForeignPart,
  told: ImportOptions['mapping'],
): Promise<PartPreview> {
  const out: PartPreview = {
    name: partName(part),
    columns: namesOf(part),
    rows: part.sample.slice(0, ROWS),
    mapping,
    questions,
    soundings: [],
    bad: { count: 0, first: [] },
    catches: null,
    fault: null,
  };
  if (questions.length) return out;
  try {
    if (mapping.as === 'soundings') {
      const read = readerOf(part, mapping);
      let line = 0;
      for await (const batch of part.rows()) {
        for (const { line: at, fields } of batch.slice(0, SHOWN - line)) {
          line++;
          const row = read(fields);
          if ('reason' in row) {
            out.bad.count++;
            if (out.bad.first.length < 5) out.bad.first.push({ line: at, column: String(row.column), reason: String(row.reason) });
          } else {
            const { latitude, longitude, depth_m, time } = row as Row;
            out.soundings.push({ latitude: Number(latitude), longitude: Number(longitude), depth_m: Number(depth_m), time: String(time) });
          }
        }
        if (line >= SHOWN) break;
      }
    } else if (mapping.as === 'catches') {
      const rows: PartRow[] = [];
      for await (const batch of part.rows()) rows.push(...batch);
      const places = [...(water ? await placesOf(pool, water) : []), ...(told?.places ?? [])];
      const { trips, responses, stops, unknownPlaces, bad, read } = catchesOf(rows, namesOf(part), mapping, places, part.file);
      out.bad = { count: bad.length, first: bad.slice(0, 5) };
      out.catches = {
        trips: trips.length,
        fish: responses.length,
        blanks: stops.filter((s) => s.row.outcome === 'nothing').length,
        rows: read,
        unknownPlaces,
      };
    }
  } catch (error) {
    out.fault = (error as Error).message;
  }
  return out;
}

/** Shows what an import would do, without doing it. @throws FormatError for a file that is broken */
export async function previewImport(
  pool: Pool,
  account: string,
  sources: Source[],
  options: Pick<ImportOptions, 'water' | 'mapping' | 'from'>,
): Promise<ImportPreview> {
  const { native, foreign, passedOver } = await lookInto(pool, account, sources, options);
  const water = await waterByName(pool, account, options.water);
  const parts: PartPreview[] = [];
  for (const one of foreign) parts.push(await previewOf(pool, water?.id ?? null, one, options.mapping));
  return {
    native: native.map(({ kind, source }) => ({ file: source.name, kind })),
    parts,
    passedOver,
    near: middleOf(water),
    zone: water?.time_zone ?? null,
  };
}
