import type { Geometry } from 'geojson';
import type { CoverFeature } from '@restless-shoal/core/logbook';

/** A row of a part, with its place in the file. */
export interface PartRow {
  line: number;
  fields: string[];
}

/** One part of a file of another program: a table, a sheet, the points, lines or areas of a map file, a grid. */
export interface FilePart {
  file: string;
  /** "table", "sheet Spring", "points", "lines", "areas" or "grid". */
  part: string;
  /** Names of its columns; null where its first row may be the first of the data. */
  columns: string[] | null;
  /** Its first rows. */
  sample: string[][];
  /** EPSG code of its x and y, where the file says so; 4326 for degrees. */
  crs: number | null;
  /** The day that the file was written; null where nobody knows. */
  day: string | null;
  /** All its rows, in order, without the one that names the columns. */
  rows: () => AsyncIterable<PartRow[]>;
  /** What bounds a water, of areas and lines. */
  outline?: Geometry;
  /** What its points are where they are no soundings. */
  places?: CoverFeature[];
}

/** So many rows are shown and guessed from. */
export const SAMPLE = 200;
