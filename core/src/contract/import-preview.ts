import type { PartMapping, Question } from '../tables';

/** What an import would make of a part of another program's file. */
export interface PartPreview {
  name: string;
  columns: string[];
  /** Its first rows, as they are. */
  rows: string[][];
  mapping: PartMapping;
  questions: Question[];
  /** The first soundings, as they will be stored. */
  soundings: { latitude: number; longitude: number; depth_m: number; time: string }[];
  /** Rows of those looked at that cannot be read, with the first reasons. */
  bad: { count: number; first: { line: number; column: string; reason: string }[] };
  /** What a table of catches comes to; null for others. */
  catches: { trips: number; fish: number; blanks: number; rows: number; unknownPlaces: { name: string; rows: number }[] } | null;
  /** Why it cannot be read as the mapping says. */
  fault: string | null;
}

/** What an import would do, shown before it is done. */
export interface ImportPreview {
  /** Files of our own formats, which need no mapping. */
  native: { file: string; kind: string }[];
  parts: PartPreview[];
  passedOver: { file: string; why: string }[];
  /** Where the water lies, if that is known, and its own time zone. */
  near: { latitude: number; longitude: number } | null;
  zone: string | null;
}
