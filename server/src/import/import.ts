import { addCover, createWater, describeWater, learnSpecies, tellOutline, waterByName, type Told, type WaterRow } from '../db/waters';
import {
  addFinding,
  emptyReport,
  FormatError,
  coverOfWaypoint,
  readCover,
  readGpx,
  readNmea,
  readOutline,
  readRecord,
  readWaterFile,
  type FileReport,
  type PlacedRow,
  type Waypoint,
} from '@restless-shoal/core/formats';
import {
  insideTest,
  metricPlane,
  OutlineError,
  outlineBox,
  outlineToRings,
  ringsCentroid,
  utmEpsg,
  type MetricPlane,
} from '@restless-shoal/core/geo';
import { BY_NAME, newId, RECORD_ORDER, records, type RecordName, type Row } from '@restless-shoal/core/logbook';
import { copyRows, emptyMerge, mergeStaged, openStaging, sumOfMerges, type MergeInput, type MergeResult } from '../db/merge';
import { transaction, type Client, type Pool } from '../db/pool';
import { wantChart } from '../db/charts';
import { touchTrips } from '../db/log';
import type { Geometry } from 'geojson';
import { catchesOf, type PartMapping } from '@restless-shoal/core/tables';
import { placesOf, rememberMappings, rememberPlaces } from '../db/spots';
import { inWords, listedRows, lookInto, mappedRows, namesOf, OpenQuestionsError, outlineInDegrees, partName, readerOf } from './look-into';
import type { FilePart, PartRow } from './parts';
import { BELONGS, MERGES, WITH_ID } from './merges';
import { contactsSent, sentCover, sentPlaces, waypointsSent } from './others';
import { NoSuchWaterError, type ImportedFile, type ImportOptions, type ImportResult } from './import-terms';
import { takePictures } from './pictures';
import { textOf, type Source } from './sources';

/**
 * Brings files into a water, all of them in one transaction: what cannot be read as a whole changes nothing.
 * @throws FormatError for a file that is unreadable, NoSuchWaterError without `create`
 */
export async function importInto(pool: Pool, account: string, sources: Source[], options: ImportOptions): Promise<ImportResult> {
  const looked = await lookInto(pool, account, sources, options);
  const { native, foreign, passedOver } = looked;
  const open = foreign.filter((f) => f.questions.length > 0);
  if (open.length) throw new OpenQuestionsError(open, foreign, options.mapping?.places ?? []);
  const used = foreign.filter((f) => f.mapping.as !== 'skip');
  for (const { part, mapping } of foreign)
    if (mapping.as === 'skip') passedOver.push({ file: `${part.file}, ${part.part}`, why: 'left out, as its mapping says' });
  if (!native.length && !used.length)
    throw new FormatError(
      `nothing to read: ${sources.map((s) => s.name).join(', ')} ${sources.length > 1 ? 'hold' : 'holds'} no record of the exchange formats, no table of positions and depths, and no map`,
    );
  return transaction(pool, async (client) => {
    await client.query('SELECT pg_advisory_xact_lock(hashtext($1))', [`import ${account}`]);
    let water = await waterByName(client, account, options.water);
    const created = !water;
    if (!water) {
      if (!options.create) throw new NoSuchWaterError(`there is no water "${options.water}" yet; add --create to make it`);
      water = await createWater(client, account, options.water);
    }
    const run = new ImportRun(client, water, { ...options, from: looked.from });
    for (const kind of ['water', 'outline', 'cover'] as const)
      for (const entry of native.filter((e) => e.kind === kind)) await run.describe(kind, entry.source);
    for (const { part, mapping } of used.filter((f) => f.mapping.as === 'outline')) await run.outlineOf(part, mapping);
    for (const record of RECORD_ORDER)
      for (const { kind, source } of native)
        if (kind === record) await (looked.from ? run.marksOf(source, 'csv') : run.record(record, source));
        else if (record === 'soundings' && kind === 'gpx' && looked.from) await run.marksOf(source, 'gpx');
        else if (record === 'soundings' && (kind === 'gpx' || kind === 'nmea')) await run.record(record, source, kind);
    for (const { part, mapping } of used)
      if (mapping.as === 'soundings') await run.soundingsOf(part, mapping);
      else if (mapping.as === 'places') await run.placesOf(part);
      else if (mapping.as === 'catches') await run.catchesOf(part, mapping);
    await run.pictures(native.filter((e) => e.kind === 'picture').map((e) => e.source), passedOver); // prettier-ignore
    await rememberMappings(client, account, foreign.map((f) => f.mapping)); // prettier-ignore
    const newSpecies = await learnSpecies(client, water.id, run.speciesMet);
    await touchTrips(client, [...run.changedTrips]);
    if (run.chartStale) await wantChart(client, water.id);
    const after = (await waterByName(client, account, options.water))!;
    const { files, unknownPlaces, chartStale } = run;
    return { water: after, created, files, passedOver, newSpecies, unknownPlaces, chartStale };
  });
}

/** Whether a row of the logbook tells of the chart: a depth under the track, the level, hardness of the bottom. */
const bearsOnChart = (record: RecordName, row: Row): boolean =>
  (record === 'track' && row.depth_m != null) ||
  (record === 'conditions' && row.water_level_m != null) ||
  (record === 'contacts' && row.hardness != null);

interface TripSpan {
  id: string;
  /** It lies in the trash, and what belongs to it with it. */
  trashed: boolean;
  start: number;
  end: number;
}

class ImportRun {
  readonly files: ImportedFile[] = [];
  readonly speciesMet = new Set<string>();
  unknownPlaces: { name: string; rows: number }[] = [];
  readonly changedTrips = new Set<string>();
  chartStale = false;
  private trips = new Map<string, TripSpan[]>();
  private stagings = 0;
  /** Whether a row of the logbook told of depth, level or hardness. */
  private bearsOnChart = false;

  constructor(
    private readonly client: Client,
    private readonly water: WaterRow,
    private readonly options: ImportOptions,
  ) {}

  async describe(kind: 'water' | 'outline' | 'cover', source: Source): Promise<void> {
    const text = await textOf(source);
    const report = emptyReport(source.name, kind);
    const merge = emptyMerge();
    const take = (told: Told): void => {
      if (told === 'left') merge.different = { count: 1, lines: [1] };
      else merge[told] = 1;
    };
    if (kind === 'water') {
      const { water, unknown } = readWaterFile(text, source.name);
      report.unknownColumns.push(...unknown);
      take(await describeWater(this.client, this.water.id, water, this.options.update));
      report.read = report.used = 1;
    } else if (kind === 'outline') {
      report.read = report.used = 1;
      take(await this.takeOutline(readOutline(text, source.name), source.name));
    } else {
      const read = readCover(text, source.name, report);
      const features = this.options.from ? sentCover(read, this.options.from) : read;
      merge.added = await addCover(this.client, this.water.id, features);
      merge.same = report.used - merge.added;
      if (merge.added) this.chartStale = true;
    }
    this.files.push({ report, merge });
  }

  private async takeOutline(outline: Geometry, file: string): Promise<Told> {
    let epsg: number;
    try {
      epsg = utmEpsg(ringsCentroid(outline));
      const plane = metricPlane(epsg);
      outlineToRings(outline, (longitude, latitude) => plane.toMetric({ latitude, longitude }));
    } catch (error) {
      if (error instanceof OutlineError) throw new FormatError(`${file}: ${error.message}`);
      throw error;
    }
    const told = await tellOutline(this.client, this.water, outline, epsg, this.options.update);
    if (told === 'added' || told === 'changed') {
      Object.assign(this.water, { outline, epsg, outline_proposed: false });
      this.chartStale = true;
    }
    return told;
  }

  /** The areas, or the closing lines, of a map file as the outline of the water. */
  async outlineOf(part: FilePart, mapping: PartMapping): Promise<void> {
    const file = partName(part);
    const report = { ...emptyReport(file, 'outline'), read: 1, used: 1 };
    const told = await this.takeOutline(outlineInDegrees(part, mapping), file);
    const merge = emptyMerge();
    if (told === 'left') merge.different = { count: 1, lines: [1] };
    else merge[told] = 1;
    this.files.push({ report, merge });
  }

  /** The points of a map file as cover, hazards and marks. */
  async placesOf(part: FilePart): Promise<void> {
    const places = sentPlaces(part.places ?? [], this.options.from);
    const report = { ...emptyReport(partName(part), 'cover'), read: part.places?.length ?? 0, used: places.length };
    const added = await addCover(this.client, this.water.id, places);
    if (added) this.chartStale = true;
    this.files.push({ report, merge: { ...emptyMerge(), added, same: places.length - added } });
  }

  /** Contacts or waypoints of somebody else as marks. */
  async marksOf(source: Source, kind: 'gpx' | 'csv'): Promise<void> {
    const { marks, report } = await (kind === 'gpx' ? waypointsSent : contactsSent)(source, this.options.from!);
    const added = await addCover(this.client, this.water.id, marks);
    this.files.push({ report, merge: { ...emptyMerge(), added, same: marks.length - added } });
  }

  /** A table of positions and depths, read as its mapping says. */
  soundingsOf(part: FilePart, mapping: PartMapping): Promise<void> {
    const read = readerOf(part, mapping);
    return this.take('soundings', partName(part), (report) => mappedRows(part, read, report));
  }

  /** A table of catches: trips, what was read of the water, stops and responses. */
  async catchesOf(part: FilePart, mapping: PartMapping): Promise<void> {
    await rememberPlaces(this.client, this.water.id, this.options.mapping?.places ?? []);
    const rows: PartRow[] = [];
    for await (const batch of part.rows()) rows.push(...batch);
    const places = await placesOf(this.client, this.water.id);
    const records = inWords(part, () => catchesOf(rows, namesOf(part), mapping, places, part.file));
    this.unknownPlaces.push(...records.unknownPlaces);
    for (const record of ['trips', 'conditions', 'stops', 'responses'] as const)
      await this.take(record, `${partName(part)}, ${record}`, (report) =>
        listedRows(record, records[record], record === 'trips' ? records.bad : [], report),
      );
  }

  /** Reads one file of a record; soundings may come as GPX or NMEA too. */
  async record(record: RecordName, source: Source, format: 'csv' | 'gpx' | 'nmea' = 'csv'): Promise<void> {
    await this.take(record, source.name, (report, waypoints) =>
      format === 'csv'
        ? readRecord(record, source.bytes(), report)
        : format === 'nmea'
          ? readNmea(source.bytes(), report)
          : readGpx(source.bytes(), report, waypoints),
    );
  }

  /** Takes the rows of a record in, from wherever they come. @param from can be asked again from the beginning */
  private async take(
    record: RecordName,
    file: string,
    from: (report: FileReport, waypoints: Waypoint[]) => AsyncGenerator<PlacedRow[]>,
  ): Promise<void> {
    let report = emptyReport(file, record);
    const waypoints: Waypoint[] = [];
    const read = (): AsyncGenerator<PlacedRow[]> => from(report, waypoints);
    if (!BELONGS[record]) await this.loadTrips();
    const extra = BELONGS[record] ?? ['trip_id'];
    const known = BY_NAME.includes(record) && BELONGS[record] ? await this.namesKnown(record) : null;
    const columns = [
      ...(WITH_ID.includes(record) ? ['id'] : []),
      ...extra,
      ...Object.keys(records[record]).filter((c) => c !== 'trip' || record === 'trips'),
    ];
    const input: MergeInput = { ...MERGES[record], columns, update: this.options.update };
    const survey = record === 'soundings' ? await this.openSurvey(file) : null;
    const touched = new Set<string>();
    const trashed = { rows: 0 };
    let merge =
      survey != null ? await this.copyNew(input, survey, () => this.placed(record, read(), report, survey, touched, trashed, known)) : null;
    if (!merge) {
      report = emptyReport(file, record);
      waypoints.length = 0;
      trashed.rows = 0;
      const staging = `incoming_${++this.stagings}`;
      await openStaging(this.client, staging, input);
      await copyRows(this.client, staging, columns, this.placed(record, read(), report, survey, touched, trashed, known));
      merge = await this.merge(record, staging, input);
    }
    merge.trashed += trashed.rows;
    if (merge.added + merge.changed > 0) {
      if (record === 'soundings' || this.bearsOnChart) this.chartStale = true;
      touched.forEach((id) => this.changedTrips.add(id));
    }
    if (waypoints.length) {
      const added = await addCover(this.client, this.water.id, waypoints.map(coverOfWaypoint));
      merge = { ...merge, added: merge.added + added, same: merge.same + waypoints.length - added };
      if (added) this.chartStale = true;
    }
    if (survey != null)
      await this.client.query('DELETE FROM surveys WHERE id = $1 AND NOT EXISTS (SELECT 1 FROM soundings WHERE survey_id = $1)', [survey]);
    this.files.push({ report, merge });
    this.options.onProgress?.(`${file}: ${report.used} of ${report.read} rows`);
  }

  /**
   * The quick way for a survey that is new as a whole: straight into the table. Null when other soundings of the same
   * time are there already; then nothing has been done.
   */
  private async copyNew(input: MergeInput, survey: number, rows: () => AsyncGenerator<PlacedRow[]>): Promise<MergeResult | null> {
    const times = { first: '9', last: '' };
    const result = emptyMerge();
    /** Whether soundings of other surveys were made meanwhile. */
    const met = async (): Promise<boolean> =>
      ((
        await this.client.query('SELECT 1 FROM soundings WHERE water_id = $1 AND time BETWEEN $2 AND $3 AND survey_id <> $4 LIMIT 1', [
          this.water.id,
          times.first,
          times.last,
          survey,
        ])
      ).rowCount ?? 0) > 0;
    const batches = rows();
    const noted = (batch: PlacedRow[]): PlacedRow[] => {
      for (const { row } of batch) {
        const time = String(row.time);
        if (time < times.first) times.first = time;
        if (time > times.last) times.last = time;
      }
      result.added += batch.length;
      return batch;
    };
    const first = await batches.next();
    if (first.done) return result;
    noted(first.value);
    if (await met()) {
      await batches.return(undefined);
      return null;
    }
    async function* all(): AsyncGenerator<PlacedRow[]> {
      yield first.value as PlacedRow[];
      for await (const batch of batches) yield noted(batch);
    }
    await this.client.query('SAVEPOINT straight');
    await copyRows(this.client, input.table, input.columns, all(), false);
    if (!(await met())) return result;
    await this.client.query('ROLLBACK TO SAVEPOINT straight');
    return null;
  }

  private async merge(record: RecordName, staging: string, input: MergeInput): Promise<MergeResult> {
    if (record !== 'contacts') return mergeStaged(this.client, staging, input);
    // Contacts with a key of their own and those without one are told apart in different ways.
    const parts: MergeResult[] = [];
    for (const part of [
      { where: 'contact IS NOT NULL', keyed: true, key: ['trip_id', 'contact'] },
      { where: 'contact IS NULL', keyed: false, key: ['trip_id', 'time', 'latitude', 'longitude', 'kind'] },
    ]) {
      const table = `${staging}_${parts.length}`;
      await this.client.query(`CREATE TEMP TABLE ${table} ON COMMIT DROP AS SELECT * FROM ${staging} WHERE ${part.where}`);
      parts.push(await mergeStaged(this.client, table, { ...input, ...part }));
    }
    return sumOfMerges(parts[0], parts[1]);
  }

  /** Names of spots or gear that are there, by kind and name in small letters. */
  private async namesKnown(record: RecordName): Promise<Map<string, string>> {
    const { rows } = await this.client.query<{ kind: string; name: string }>(
      record === 'gear'
        ? 'SELECT kind, name FROM gear WHERE account_id = $1 AND deleted_at IS NULL'
        : `SELECT '' AS kind, name FROM spots WHERE water_id = $1 AND deleted_at IS NULL`,
      [record === 'gear' ? this.water.account_id : this.water.id],
    );
    return new Map(rows.map((r) => [`${r.kind} ${r.name.toLowerCase()}`, r.name]));
  }

  /** The files of photos. */
  async pictures(sources: Source[], passedOver: ImportResult['passedOver']): Promise<void> {
    if (!sources.length) return;
    const { report, merge, unnamed } = await takePictures(this.client, this.water.id, sources, this.options.update);
    for (const file of unnamed) passedOver.push({ file, why: 'no photo of this water is called so' });
    this.files.push({ report, merge });
  }

  private async openSurvey(source: string): Promise<number> {
    return (
      await this.client.query<{ id: number }>('INSERT INTO surveys (water_id, source) VALUES ($1, $2) RETURNING id', [
        this.water.id,
        source,
      ])
    ).rows[0].id;
  }

  private async loadTrips(): Promise<void> {
    const { rows } = await this.client.query<{ id: string; trip: string; start: string; end: string | null; trashed: boolean }>(
      'SELECT id, trip, start, "end", deleted_at IS NOT NULL AS trashed FROM trips WHERE water_id = $1 ORDER BY start',
      [this.water.id],
    );
    this.trips = new Map();
    for (const row of rows) {
      const span = { id: row.id, trashed: row.trashed, start: Date.parse(row.start), end: row.end ? Date.parse(row.end) : Infinity };
      this.trips.set(row.trip, [...(this.trips.get(row.trip) ?? []), span]);
    }
  }

  /** The trip of a key; where the key was used twice, the one whose span holds the time. */
  private tripOf(key: string, time: number): TripSpan | null {
    const spans = this.trips.get(key);
    if (!spans) return null;
    return spans.find((s) => time >= s.start && time <= s.end) ?? spans[spans.length - 1];
  }

  private async *placed(
    record: RecordName,
    batches: AsyncGenerator<PlacedRow[]>,
    report: FileReport,
    survey: number | null,
    touched: Set<string>,
    trashed: { rows: number },
    known: Map<string, string> | null,
  ): AsyncGenerator<PlacedRow[]> {
    const outside = record === 'soundings' ? this.outsideTest() : null;
    for await (const batch of batches) {
      this.options.signal?.throwIfAborted();
      const out: PlacedRow[] = [];
      for (const { line, row } of batch) {
        if (WITH_ID.includes(record)) row.id = newId();
        if (record === 'soundings') {
          row.water_id = this.water.id;
          row.survey_id = survey;
          const where = outside?.(row);
          if (where) addFinding(report.odd, { line, column: 'latitude', reason: where });
        } else if (known) {
          if (record === 'gear') row.account_id = this.water.account_id;
          else row.water_id = this.water.id;
          // One name in large or small letters is one.
          const key = `${row.kind ?? ''} ${String(row.name).toLowerCase()}`;
          if (!known.has(key)) known.set(key, String(row.name));
          row.name = known.get(key)!;
        } else if (record === 'trips') row.water_id = this.water.id;
        else {
          const time = Date.parse(String(row.time ?? row.start));
          const trip = this.tripOf(String(row.trip), time);
          if (!trip) {
            report.used--;
            addFinding(report.bad, { line, column: 'trip', reason: `"${row.trip}" is no trip of this water` });
            continue;
          }
          if (trip.trashed) {
            trashed.rows++;
            continue;
          }
          row.trip_id = trip.id;
          touched.add(trip.id);
          if (time > trip.end)
            addFinding(report.odd, { line, column: row.time != null ? 'time' : 'start', reason: "is after the trip's end" });
          else if (time < trip.start)
            addFinding(report.odd, { line, column: row.time != null ? 'time' : 'start', reason: "is before the trip's start" });
          if (typeof row.species === 'string') this.speciesMet.add(row.species);
          if (bearsOnChart(record, row)) this.bearsOnChart = true;
        }
        out.push({ line, row });
      }
      if (out.length) yield out;
    }
  }

  /** A quick test where a sounding lies that is not on the water, in words; null when there is no outline to tell by. */
  private outsideTest(): ((row: Row) => string | null) | null {
    const { outline, epsg } = this.water;
    if (!outline || !epsg) return null;
    const [west, south, east, north] = outlineBox(outline);
    const near = (row: Row): boolean => {
      const [latitude, longitude] = [Number(row.latitude), Number(row.longitude)];
      return latitude > south - FAR && latitude < north + FAR && longitude > west - FAR && longitude < east + FAR;
    };
    const far = 'lies kilometres from the water; it is kept and charts nothing';
    // The edge of an outline that was proposed is no shore: soundings may well widen it.
    if (this.water.outline_proposed) return (row) => (near(row) ? null : far);
    const plane: MetricPlane = metricPlane(epsg);
    const rings = outlineToRings(outline, (longitude, latitude) => plane.toMetric({ latitude, longitude }));
    const inside = insideTest(rings);
    return (row) => {
      if (!near(row)) return far;
      const [x, y] = plane.toMetric({ latitude: Number(row.latitude), longitude: Number(row.longitude) });
      return inside(x, y) ? null : 'lies outside the outline of the water';
    };
  }
}

/** Farther than this beyond the water's box it is another water, degrees. */
const FAR = 0.05;
