import { FormatError } from '@restless-shoal/core/formats';
import { databaseTrouble } from '../../db/pool';
import type { Source } from '../sources';
import { bytesOf, featureParts, featuresOf } from './features';
import { gridParts } from './grid';
import type { FilePart } from './part';
import { sheetParts } from './sheets';
import { textPart } from './text';

/** What a reader of somebody else's format trips over is a fault of the file; a full disk or a file that is gone is not. */
function asDamaged(file: string, error: unknown): unknown {
  const { code } = (error ?? {}) as { code?: unknown };
  if (error instanceof FormatError || databaseTrouble(error) || (typeof code === 'string' && /^E[A-Z]+$/.test(code))) return error;
  return new FormatError(`${file}: is damaged and cannot be read`, { cause: error });
}

/** No text of a database holds a zero byte. */
const clean = (name: string): string => name.replaceAll('\u0000', '');

/**
 * The parts of a file that is none of our own formats; none where nothing in it can be read.
 * @param beside other files of the same folder or ZIP @throws FormatError for a broken one
 */
export async function partsOf(source: Source, beside: Source[]): Promise<FilePart[]> {
  try {
    return (await anyParts(source, beside)).map((part) => ({
      ...part,
      part: clean(part.part),
      columns: part.columns && part.columns.map(clean),
      rows: async function* () {
        try {
          yield* part.rows();
        } catch (error) {
          throw asDamaged(source.name, error);
        }
      },
    }));
  } catch (error) {
    throw asDamaged(source.name, error);
  }
}

async function anyParts(source: Source, beside: Source[]): Promise<FilePart[]> {
  const name = source.name.toLowerCase();
  const stem = name.replace(/\.[^.]*$/, '');
  if (/\.(xlsx|xlsm)$/.test(name)) return sheetParts('xlsx', source.name, await bytesOf(source), source.day ?? null);
  if (/\.ods$/.test(name)) return sheetParts('ods', source.name, await bytesOf(source), source.day ?? null);
  const kind = /\.kml$/.test(name) ? 'kml' : /\.shp$/.test(name) ? 'shape' : /\.(geojson|json)$/.test(name) ? 'geojson' : null;
  if (kind) {
    const { features, crs } = await featuresOf(source, kind, (e) => beside.find((s) => s.name.toLowerCase() === `${stem}.${e}`));
    return featureParts(source, features, crs);
  }
  if (/\.tiff?$/.test(name)) return gridParts(source);
  if (/\.(dbf|prj|cpg|shx|sbn|sbx|qix|qpj|xml|html?|pdf|jpe?g|png|webp|heic|docx?|zip|kmz|gz)$/.test(name)) return [];
  const text = await textPart(source);
  return text ? [text] : [];
}
