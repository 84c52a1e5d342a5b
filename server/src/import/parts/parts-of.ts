import type { Source } from '../sources';
import { bytesOf, featureParts, geoJsonOf, kmlOf, shapesOf } from './features';
import { gridParts } from './grid';
import type { FilePart } from './part';
import { odsParts, xlsxParts } from './sheets';
import { textPart } from './text';

/**
 * The parts of a file that is none of our own formats; none where nothing in it can be read.
 * @param beside other files of the same folder or ZIP @throws FormatError for a broken one
 */
export async function partsOf(source: Source, beside: Source[]): Promise<FilePart[]> {
  const name = source.name.toLowerCase();
  const stem = name.replace(/\.[^.]*$/, '');
  if (/\.(xlsx|xlsm)$/.test(name)) return xlsxParts(source.name, await bytesOf(source), source.day ?? null);
  if (/\.ods$/.test(name)) return odsParts(source.name, await bytesOf(source), source.day ?? null);
  if (/\.kml$/.test(name)) return featureParts(source, kmlOf(source, (await bytesOf(source)).toString('utf8')), 4326);
  if (/\.shp$/.test(name)) {
    const { features, crs } = await shapesOf(source, (e) => beside.find((s) => s.name.toLowerCase() === `${stem}.${e}`));
    return featureParts(source, features, crs);
  }
  if (/\.(geojson|json)$/.test(name)) {
    const { features, crs } = geoJsonOf(source, (await bytesOf(source)).toString('utf8'));
    return featureParts(source, features, crs);
  }
  if (/\.tiff?$/.test(name)) return gridParts(source);
  if (/\.(dbf|prj|cpg|shx|sbn|sbx|qix|qpj|xml|html?|pdf|jpe?g|png|webp|heic|docx?|zip|kmz|gz)$/.test(name)) return [];
  const text = await textPart(source);
  return text ? [text] : [];
}
