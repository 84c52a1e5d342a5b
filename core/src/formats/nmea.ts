import type { Row } from '../logbook';
import { FormatError } from './csv';
import { textLines } from './lines';
import { addFinding, type FileReport, type PlacedRow } from './record-reader';

/** One sentence of NMEA 0183 with a right checksum. */
export interface Sentence {
  /** Three letters: RMC, DPT … (the talker before them is left away). */
  type: string;
  fields: string[];
}

/** XOR of the characters between $ and *. */
export function nmeaChecksum(body: string): number {
  let sum = 0;
  for (let i = 0; i < body.length; i++) sum ^= body.charCodeAt(i);
  return sum;
}

/** A sentence as it goes on the wire, with its checksum and without the line break. */
export const nmeaSentence = (body: string): string => `$${body}*${nmeaChecksum(body).toString(16).toUpperCase().padStart(2, '0')}`;

/** Reads a sentence; what a logger put before the $ is passed over. @returns what is wrong, as text, when it is none */
export function readSentence(text: string): Sentence | string {
  const start = text.search(/[$!]/);
  if (start < 0) return 'holds no sentence';
  const star = text.indexOf('*', start);
  if (star < 0) return 'is cut short: it has no checksum';
  const body = text.slice(start + 1, star);
  const said = text.slice(star + 1, star + 3);
  if (!/^[0-9a-f]{2}$/i.test(said)) return 'is cut short: its checksum is not whole';
  if (parseInt(said, 16) !== nmeaChecksum(body))
    return `has the checksum ${said.toUpperCase()} where ${nmeaChecksum(body).toString(16).toUpperCase().padStart(2, '0')} is right`;
  const fields = body.split(',');
  return { type: fields[0].slice(-3), fields };
}

/** A number of a field; null when there is none. */
export const numberIn = (text: string | undefined): number | null => {
  if (text === undefined || text.trim() === '') return null;
  const n = Number(text);
  return Number.isFinite(n) ? n : null;
};

/** ddmm.mmmm and a hemisphere as degrees; null when it is none. */
export function degreesIn(text: string | undefined, hemisphere: string | undefined): number | null {
  const m = /^(\d{1,3})(\d\d(?:\.\d+)?)$/.exec(text ?? '');
  if (!m || !/^[NSEW]$/.test(hemisphere ?? '') || Number(m[2]) >= 60) return null;
  const value = Number(m[1]) + Number(m[2]) / 60;
  const most = hemisphere === 'N' || hemisphere === 'S' ? 90 : 180;
  return value > most ? null : hemisphere === 'S' || hemisphere === 'W' ? -value : value;
}

/** Milliseconds of a day in hhmmss.ss; null when it is none. */
function clockIn(text: string | undefined): number | null {
  const m = /^([01]\d|2[0-3])([0-5]\d)([0-5]\d(?:\.\d+)?|60(?:\.0+)?)$/.exec(text ?? '');
  return m ? Math.round((Number(m[1]) * 3600 + Number(m[2]) * 60 + Number(m[3])) * 1000) : null;
}

interface NmeaFix {
  at: number;
  latitude: number;
  longitude: number;
  course: number | null;
  speed: number | null;
}

interface Reading {
  line: number;
  depth: number;
  /** A better sentence for the same ping takes the place of a worse one. */
  rank: number;
}

const DAY = 86_400_000;
/** m/s */
export const KNOT = 0.514444;
/** Positions farther apart in time are not joined, ms. */
const JOIN = 10_000;
/**
 * The depth of the water that a sentence tells, m; null where it tells none. DPT, DBS and DBT of NMEA 0183.
 * @param f its fields, the first being its type
 */
export function depthOf(type: string, f: string[]): number | null {
  if (type !== 'DPT') return numberIn(f[3]) ?? scaled(f[1], 0.3048) ?? scaled(f[5], 1.8288);
  const depth = numberIn(f[1]);
  // A positive offset is from the transducer up to the surface; a negative one is to the keel and says nothing of the water.
  return depth === null ? null : depth + Math.max(0, numberIn(f[2]) ?? 0);
}

/** DPT knows its offset, DBS is from the surface, DBT from the transducer. */
const RANK: Record<string, number> = { DPT: 3, DBS: 2, DBT: 1 };

/**
 * Turns sentences into soundings: depths between two positions are spread evenly between them. Depths before the first
 * position, and positions before the first date (RMC or ZDA), say nothing yet.
 */
export class NmeaReader {
  private date: number | null = null;
  private fix: NmeaFix | null = null;
  private readings: Reading[] = [];
  private temperature: number | null = null;
  private heading: number | null = null;
  /** Depths that came without a position or a date. */
  homeless = 0;

  /** Takes a sentence in. @returns the soundings that it completes */
  take(line: number, { type, fields: f }: Sentence): PlacedRow[] {
    switch (type) {
      case 'RMC':
        if (f[2] === 'V') return [];
        this.date = dateIn(f[9]) ?? this.date;
        return this.place(clockIn(f[1]), degreesIn(f[3], f[4]), degreesIn(f[5], f[6]), numberIn(f[8]), scaled(f[7], KNOT));
      case 'ZDA':
        if (numberIn(f[2]) && numberIn(f[3]) && numberIn(f[4])) this.date = Date.UTC(Number(f[4]), Number(f[3]) - 1, Number(f[2]));
        return [];
      case 'GGA':
        return f[6] === '0' ? [] : this.place(clockIn(f[1]), degreesIn(f[2], f[3]), degreesIn(f[4], f[5]));
      case 'GLL':
        return f[6] === 'V' ? [] : this.place(clockIn(f[5]), degreesIn(f[1], f[2]), degreesIn(f[3], f[4]));
      case 'VTG':
        if (this.fix) {
          this.fix.course = numberIn(f[1]) ?? this.fix.course;
          this.fix.speed = scaled(f[5], KNOT) ?? this.fix.speed;
        }
        return [];
      case 'HDT':
      case 'HDG':
        this.heading = numberIn(f[1]);
        return [];
      case 'MTW':
        this.temperature = numberIn(f[1]);
        return [];
      case 'DPT':
      case 'DBS':
      case 'DBT':
        return this.sound(line, depthOf(type, f), type);
      default:
        return [];
    }
  }

  private sound(line: number, depth: number | null, type: string): PlacedRow[] {
    if (depth === null || !(depth > 0)) return [];
    if (!this.fix) {
      this.homeless++;
      return [];
    }
    const last = this.readings[this.readings.length - 1];
    // The same ping said twice in two ways, one line after the other.
    if (last && line - last.line <= 2 && last.rank !== RANK[type]) {
      if (RANK[type] > last.rank) Object.assign(last, { depth, rank: RANK[type] });
      last.line = line;
      return [];
    }
    this.readings.push({ line, depth, rank: RANK[type] });
    return [];
  }

  private place(
    clock: number | null,
    latitude: number | null,
    longitude: number | null,
    course: number | null = null,
    speed: number | null = null,
  ): PlacedRow[] {
    if (clock === null || latitude === null || longitude === null || this.date === null) return [];
    let at = this.date + clock;
    if (this.fix) {
      // Past midnight the date comes a sentence late.
      if (at < this.fix.at - DAY / 2) at += DAY;
      else if (at > this.fix.at + DAY / 2 && at - DAY >= this.fix.at) at -= DAY;
      if (at === this.fix.at) {
        this.fix.course ??= course;
        this.fix.speed ??= speed;
        return [];
      }
    }
    const next: NmeaFix = { at, latitude, longitude, course, speed };
    const rows = this.close(next);
    this.fix = next;
    return rows;
  }

  /** Soundings of the depths since the last position. @param next the position that follows, if one does */
  private close(next: NmeaFix | null): PlacedRow[] {
    const { fix, readings } = this;
    this.readings = [];
    if (!fix) return [];
    const joined = next !== null && next.at > fix.at && next.at - fix.at <= JOIN;
    return readings.map(({ line, depth }, k): PlacedRow => {
      const share = joined ? k / readings.length : 0;
      const row: Row = {
        time: new Date(Math.round(fix.at + (joined ? share * (next.at - fix.at) : k))).toISOString(),
        latitude: round(fix.latitude + (joined ? share * (next.latitude - fix.latitude) : 0), 8),
        longitude: round(fix.longitude + (joined ? share * (next.longitude - fix.longitude) : 0), 8),
        depth_m: round(depth, 3),
        temperature_c: this.temperature,
        hardness: null,
        heading_deg: this.heading ?? fix.course,
        speed_ms: fix.speed === null ? null : round(fix.speed, 3),
      };
      return { line, row };
    });
  }

  /** Soundings still open when the log ends. */
  end(): PlacedRow[] {
    return this.close(null);
  }
}

const round = (v: number, digits: number): number => Number(v.toFixed(digits));
/** A number of a field in other units. */
export const scaled = (text: string | undefined, factor: number): number | null => {
  const n = numberIn(text);
  return n === null ? null : n * factor;
};

function dateIn(text: string | undefined): number | null {
  const m = /^(\d\d)(\d\d)(\d\d)$/.exec(text ?? '');
  if (!m || Number(m[2]) < 1 || Number(m[2]) > 12 || Number(m[1]) < 1 || Number(m[1]) > 31) return null;
  // Two digits of a year: from 80 on the last century.
  return Date.UTC((Number(m[3]) >= 80 ? 1900 : 2000) + Number(m[3]), Number(m[2]) - 1, Number(m[1]));
}

/**
 * Soundings of an NMEA 0183 log, as the bytes come. Sentences with a wrong checksum are listed and left out.
 * @throws FormatError when the file holds no sentence at all
 */
export async function* readNmea(bytes: AsyncIterable<Uint8Array> | Iterable<Uint8Array>, report: FileReport): AsyncGenerator<PlacedRow[]> {
  const reader = new NmeaReader();
  let sentences = 0;
  let lines = 0;
  for await (const batch of textLines(bytes, report.file)) {
    const rows: PlacedRow[] = [];
    for (const { line, text } of batch) {
      if (text.trim() === '') continue;
      lines++;
      report.read++;
      const sentence = readSentence(text);
      if (typeof sentence === 'string') {
        addFinding(report.bad, { line, column: '', reason: sentence });
        continue;
      }
      sentences++;
      report.used++;
      rows.push(...possible(reader.take(line, sentence), report));
    }
    if (!sentences && lines > 1000) break;
    if (rows.length) yield rows;
  }
  if (!sentences) throw new FormatError(`${report.file}: ${lines ? 'holds no NMEA 0183 sentence with a right checksum' : 'is empty'}`);
  const rest = possible(reader.end(), report);
  if (rest.length) yield rest;
  if (reader.homeless)
    addFinding(report.odd, {
      line: 0,
      column: '',
      reason: `${reader.homeless} depths came before any position with a date, and are no soundings`,
    });
}

/** Leaves out what no water has. */
function possible(rows: PlacedRow[], report: FileReport): PlacedRow[] {
  return rows.filter(({ line, row }) => {
    if (Number(row.depth_m) <= 12_000) return true;
    addFinding(report.bad, { line, column: 'depth_m', reason: `${row.depth_m} m is impossible` });
    return false;
  });
}
