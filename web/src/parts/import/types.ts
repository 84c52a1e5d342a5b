import type { PartMapping, Question } from '@restless-shoal/core/tables';

/** What an import would make of a part of another program's file. */
export interface PartPreview {
  name: string;
  columns: string[];
  rows: string[][];
  mapping: PartMapping;
  questions: Question[];
  soundings: { latitude: number; longitude: number; depth_m: number; time: string }[];
  bad: { count: number; first: { line: number; column: string; reason: string }[] };
  catches: { trips: number; fish: number; blanks: number; rows: number; unknownPlaces: { name: string; rows: number }[] } | null;
  fault: string | null;
}

export interface ImportPreview {
  native: { file: string; kind: string }[];
  parts: PartPreview[];
  passedOver: { file: string; why: string }[];
  near: { latitude: number; longitude: number } | null;
  zone: string | null;
}

/** A place name of a table of catches, and where it lies. */
export interface NamedPlace {
  name: string;
  latitude: number;
  longitude: number;
}
