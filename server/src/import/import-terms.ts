import type { FileReport } from '@restless-shoal/core/formats';
import type { Mapping } from '@restless-shoal/core/tables';
import type { MergeResult } from '../db/merge';
import type { WaterRow } from '../db/waters';
import { ToldError } from '../told-error';
import type { Sender } from './others';

export interface ImportOptions {
  water: string;
  create: boolean;
  update: boolean;
  /** How files of other programs are read, and what place names stand for. */
  mapping?: Pick<Mapping, 'parts' | 'places'>;
  /** Whose marks they are: only marks are taken from others, and kept apart from one's own looks. */
  from?: Sender;
  onProgress?: (words: string) => void;
  signal?: AbortSignal;
}

/** What became of one file: its report and what the merge did. */
export interface ImportedFile {
  report: FileReport;
  merge: MergeResult;
}

export interface ImportResult {
  water: WaterRow;
  created: boolean;
  files: ImportedFile[];
  passedOver: { file: string; why: string }[];
  /** Names met in the log that no profile knew. */
  newSpecies: string[];
  /** Names of places in tables of catches that stand for no spot yet. */
  unknownPlaces: { name: string; rows: number }[];
  /** Whether the chart has to be built anew. */
  chartStale: boolean;
}

/** A water that is not there and was not to be made. */
export class NoSuchWaterError extends ToldError {}
