import type { Chart } from '../chart';
import { metricPlane, type LatLon } from '../geo';
import { surfaceReadings } from '../forecast';
import { usualCourse, type UsualCourse } from '../lake';
import { findSpecies, neutralProfile, type SpeciesProfile } from '../species';
import { conditionsOf, heatMap, searchCombinations, type CombinationSearch, type HeatCell } from './combinations';
import { classCount, classLabel, covariate, CovariateValues, type Covariate, type CovariateContext } from './covariates';
import { selectionCurve, type SelectionCurve } from './curve';
import { dayWindows, type DayWindow } from './depth-window';
import { effectiveEffort, fitDetection, type ViewDetection } from './detection';
import { bottomOf, lookTable, type LogContact, type Logbook, type LookTable, type LookTarget } from './look-table';
import { markLives, returnsOf, type MarkLife } from './marks';
import { Moments, stagesOfLog, type WaterLogbook } from './moments';
import type { Label } from './label';
import { moodBy, moodRows, stopClocks, type MoodFactor, type MoodLine, type MoodRow, type StopClock } from './mood';
import { nameReport, settledTargets, type NameReport } from './names';
import type { Settled } from './signs';
import { straightLine, type StraightLine } from '../numbers';
import { debates, type Debate } from './debates';
import { pick, select, targetTest, timeTest, type Question, type Selected } from './question';
import { repeatability, type Repeatability } from './repeatability';
import { selection, type SelectionClass } from './selection';
import { standOut, type StandOutTest } from './stand-out';
import { findSimilarSpots, type SimilarSpot, type SimilarityWeights } from './similar-spots';
import { whereTheyHang, type WhereTheyHang } from './where-they-hang';

/** Selection along one covariate, ready for drawing. */
export interface WhereAnswer {
  key: string;
  classes: (SelectionClass & { label: Label })[];
  curve: SelectionCurve | null;
  /** Scan looks at which the covariate was not known. */
  notKnown: number;
  /** Whether enough was seen to speak of a pattern, and what it would take. */
  enough: boolean;
  /** Whether anything stands out, by one test for the whole question; null where too little was seen, or nobody asked. */
  standOut: StandOutTest | null;
}

/** A contact behind a bar, a cell or a point, as a Column shows it. */
export interface PickedContact {
  /** Id of the contact's record; null for a fish that was hooked without having been marked. */
  id: string | null;
  trip: number;
  at: number;
  x: number;
  y: number;
  kind: string;
  species: string | null;
  confirmed: string;
  count: number;
  size: string | null;
  water: number;
  top: number | null;
  bottom: number | null;
  hardness: number | null;
  cover: string | null;
  thermocline: { top: number; bottom: number } | null;
  surface: number;
}

/** A stop where something took a lure. */
export interface GoodStop {
  id: string;
  trip: number;
  at: number;
  x: number;
  y: number;
  bites: number;
}

/** What was pointed at. */
export type Pointed =
  | { at: 'class'; key: string; class: number }
  | { at: 'cell'; keys: [string, string]; classes: [number, number] }
  | { at: 'trip'; trip: number }
  | { at: 'conditions'; keys: string[] }
  | { at: 'all' };

/** Schools (contacts apart in place or trip), or fish with a length, and trips below which no pattern is spoken of. */
export const LEAST_TARGETS = 12;
export const LEAST_PATTERN_TRIPS = 4;

/** The newest trips whose depth windows are worked out. */
const WINDOWS_SHOWN = 60;

/** The patterns of one water's log: laid out once, then asked by questions. */
export class WaterPatterns {
  readonly table: LookTable;
  readonly views: ViewDetection[];
  private readonly effort: Float64Array;
  private readonly course: UsualCourse;
  private readonly moments: Moments;
  private readonly contexts = new Map<string, CovariateContext>();
  private readonly valuesOf = new Map<string, CovariateValues>();
  /** The last few questions with what they leave; the newest last. */
  private readonly asked = new Map<string, Selected>();
  private settledKept: Settled[] | null = null;
  private clocksKept: StopClock[] | null = null;
  private moodKept: MoodRow[] | null = null;
  /** Contacts by trip and key. */
  private readonly contactOf: Map<string, LogContact>;
  private readonly toMetric: (p: LatLon) => { x: number; y: number };

  constructor(
    private readonly logbook: Logbook,
    private readonly chart: Chart,
    private readonly days: WaterLogbook,
    private readonly known: SpeciesProfile[],
    onProgress?: (share: number) => void,
  ) {
    this.table = lookTable(logbook, chart, days, (share) => onProgress?.(0.9 * share));
    this.views = fitDetection(this.table);
    this.effort = effectiveEffort(this.table, this.views);
    this.course = usualCourse(surfaceReadings(days.readings), days.frame.latitude, days.frame.altitude);
    this.moments = new Moments(days);
    this.contactOf = new Map(logbook.contacts.map((c) => [`${c.trip_id} ${c.contact ?? c.id}`, c]));
    const plane = metricPlane(chart.epsg);
    this.toMetric = (p) => {
      const [x, y] = plane.toMetric(p);
      return { x, y };
    };
    onProgress?.(1);
  }

  private speciesOf(question: Question): SpeciesProfile {
    return this.known.find((s) => s.name === question.species) ?? this.known[0] ?? neutralProfile(question.species ?? 'bait');
  }

  private context(question: Question): CovariateContext {
    const species = this.speciesOf(question);
    let context = this.contexts.get(species.name);
    if (!context) {
      context = { species, stageAt: stagesOfLog(species, this.days, this.course) };
      this.contexts.set(species.name, context);
    }
    return context;
  }

  /** Values of covariates for a question's species. */
  values(question: Question): CovariateValues {
    const { species } = this.context(question);
    let values = this.valuesOf.get(species.name);
    if (!values) this.valuesOf.set(species.name, (values = new CovariateValues(this.table, this.context(question))));
    return values;
  }

  select(question: Question): Selected {
    const key = JSON.stringify(question);
    const found = this.asked.get(key) ?? select(this.table, this.effort, question, this.context(question), this.known, this.days.timeZone);
    this.asked.delete(key);
    this.asked.set(key, found);
    // A page asks of two at most; what was asked before is likely to be asked again.
    if (this.asked.size > 4) this.asked.delete(this.asked.keys().next().value!);
    return found;
  }

  private speaks({ n }: Selected): boolean {
    return n.schools >= LEAST_TARGETS && n.trips >= LEAST_PATTERN_TRIPS;
  }

  /** What they choose of one covariate, against where the boat looked. */
  where(
    question: Question,
    key: string,
    { smooth = false, headline = true, ...options }: { smooth?: boolean; headline?: boolean; resamples?: number } = {},
  ): WhereAnswer {
    const selected = this.select(question);
    const c: Covariate = covariate(key);
    const all = this.values(question).classesOf(key);
    const classes = pick(all, selected.scans);
    const looks = { used: selected.used, effort: selected.effort, classes, clusters: selected.clusters };
    const rows = selection(looks, { classes: classCount(c), within: c.within, ...options });
    const numbers = this.values(question).of(key);
    return {
      key,
      classes: rows.map((r) => ({ ...r, label: classLabel(c, r.class) })).filter((r) => r.looks > 0),
      curve:
        !smooth || c.labels || !this.speaks(selected)
          ? null
          : selectionCurve(looks, pick(numbers, selected.scans), { within: c.within, resamples: options.resamples }),
      notKnown: classes.reduce((s, k) => s + (k < 0 ? 1 : 0), 0),
      enough: this.speaks(selected),
      standOut: headline && this.speaks(selected) ? standOut(looks, { classes: classCount(c), within: c.within, runs: !c.labels }) : null,
    };
  }

  /** The depth windows of the days, and how their middle moved with the surface temperature. */
  windows(question: Question): { days: DayWindow[]; withTemperature: StraightLine | null } {
    const days = dayWindows(this.select(question), this.values(question), { max: WINDOWS_SHOWN });
    const points = days.flatMap((d): [number, number][] => (d.byBottom ? [[d.surface, (d.byBottom.top + d.byBottom.bottom) / 2]] : []));
    return { days, withTemperature: points.length >= LEAST_PATTERN_TRIPS ? straightLine(points) : null };
  }

  heat(question: Question, keys: [string, string]): { cells: HeatCell[]; classes: [number[], number[]] } {
    return heatMap(this.select(question), this.values(question), keys);
  }

  /** Combinations, step by step: see `searchCombinations`. */
  *search(question: Question): Generator<number, CombinationSearch & { enough: boolean }> {
    const selected = this.select(question);
    if (!this.speaks(selected)) return { found: [], tried: 0, enough: false };
    return { ...(yield* searchCombinations(selected, conditionsOf(selected, this.values(question)))), enough: true };
  }

  /** Responses to lures that a question leaves. */
  private moods(question: Question): MoodRow[] {
    if (!this.moodKept) {
      this.moodKept = moodRows(this.table, this.logbook.responses, this.logbook.stops, this.contactOf, this.toMetric, this.moments);
    }
    const keep = timeTest(question, this.context(question), this.days.timeZone);
    const named = (name: string | null | undefined): boolean => name != null && findSpecies(name, this.known)?.name === question.species;
    return this.moodKept.filter(({ response }) => {
      const at = Date.parse(response.time);
      if (!keep(at, this.moments.at(at))) return false;
      return (
        question.species === null ||
        named(response.species ?? (response.contact ? this.contactOf.get(`${response.trip_id} ${response.contact}`)?.species : null))
      );
    });
  }

  mood(question: Question, factor: MoodFactor): { lines: MoodLine[]; few: number; notKnown: number; n: number } {
    const rows = this.moods(question);
    return { ...moodBy(rows, factor), n: rows.length };
  }

  /** Size of landed fish against depth, and share of large marks by size of the pack. */
  sizes(question: Question): { byDepth: StraightLine | null; points: [depth: number, metres: number][] } {
    const points = this.moods(question).flatMap(({ response }): [number, number][] =>
      response.response === 'landed' && response.length_m != null && response.depth_m != null
        ? [[response.depth_m, response.length_m]]
        : [],
    );
    return { byDepth: points.length >= LEAST_TARGETS ? straightLine(points) : null, points };
  }

  whereTheyHang(question: Question): WhereTheyHang {
    return whereTheyHang(this.select(question));
  }

  marks(question: Question): MarkLife[] {
    return markLives(this.select(question));
  }

  private settled(): Settled[] {
    if (!this.settledKept) {
      const caught = new Map<string, string>();
      for (const r of this.logbook.responses)
        if (r.contact && r.species && (r.response === 'landed' || r.response === 'lost'))
          caught.set(`${r.trip_id} ${r.contact}`, r.species);
      this.settledKept = settledTargets(this.logbook.contacts, caught, (name) => findSpecies(name, this.known)?.name ?? name);
    }
    return this.settledKept;
  }

  names(): NameReport {
    return nameReport(this.settled());
  }

  /** The debates, each with this log's answer for the looks and the species asked about. */
  debates(question: Question): Debate[] {
    const selected = this.select(question);
    this.clocksKept ??= stopClocks(this.table, this.logbook.stops, this.logbook.responses, this.logbook.contacts);
    return debates({
      selected,
      values: this.values(question),
      clocks: this.clocksKept,
      mood: this.moods(question),
      settled: this.settled(),
      contacts: this.logbook.contacts,
      again: returnsOf(selected)
        .filter((r) => r.hours < 24)
        .map((r) => ({ atCover: r.atCover, trip: r.trip, yes: r.found })),
    });
  }

  years(question: Question): Repeatability | null {
    const { stageAt } = this.context(question);
    const first = new Map<number, number>();
    for (let i = this.table.count - 1; i >= 0; i--) first.set(this.table.trip[i], i);
    const year = (trip: number): number => new Date(this.table.trips[trip].start).getUTCFullYear();
    return repeatability(this.select(question), this.values(question), year, (trip) => {
      const i = first.get(trip)!;
      return stageAt(this.table.from[i], this.table.moment[i].day.conditions.surface);
    });
  }

  /** The contacts behind what was pointed at, the newest first, each target once. */
  pick(question: Question, pointed: Pointed): PickedContact[] {
    const selected = this.select(question);
    const values = this.values(question);
    const inside = this.pointedTest(selected, values, pointed);
    const seen = new Set<number>();
    return selected.targets
      .filter((t) => inside(t.look))
      .sort((a, b) => b.at - a.at)
      .filter((t) => {
        if (seen.has(t.number)) return false;
        seen.add(t.number);
        return true;
      })
      .map((t) => this.picked(t));
  }

  private pointedTest(selected: Selected, values: CovariateValues, pointed: Pointed): (look: number) => boolean {
    const scan = (look: number): boolean => this.table.kind[look] === 0;
    switch (pointed.at) {
      case 'class': {
        const classes = values.classesOf(pointed.key);
        return (look) => scan(look) && classes[look] === pointed.class;
      }
      case 'cell': {
        const [a, b] = pointed.keys.map((key) => values.classesOf(key));
        return (look) => scan(look) && a[look] === pointed.classes[0] && b[look] === pointed.classes[1];
      }
      case 'trip':
        return (look) => this.table.trip[look] === pointed.trip;
      case 'conditions': {
        const wanted = conditionsOf(selected, values).filter((c) => pointed.keys.includes(c.key));
        const at = new Map(Array.from(selected.scans, (i, k) => [i, k]));
        return (look) => at.has(look) && wanted.every((c) => c.holds[at.get(look)!]);
      }
      case 'all':
        return () => true;
    }
  }

  private picked(t: LookTarget): PickedContact {
    const { table } = this;
    const i = t.look;
    const place = t.contact ? this.toMetric(t.contact) : { x: table.x[i], y: table.y[i] };
    const line = table.moment[i].day.column.thermocline;
    const hardness = table.chart.cells.hardness[table.cell[i]];
    return {
      id: t.contact?.id ?? null,
      trip: table.trip[i],
      at: t.at,
      ...place,
      kind: t.kind,
      species: t.species,
      confirmed: t.confirmed,
      count: t.count,
      size: t.size,
      water: t.contact?.water_depth_m ?? bottomOf(table, i),
      top: t.top,
      bottom: t.bottom,
      hardness: Number.isNaN(hardness) ? null : hardness,
      cover: t.contact?.cover ?? null,
      thermocline: line && { top: line.top, bottom: line.bottom },
      surface: table.moment[i].day.conditions.surface,
    };
  }

  /** Stops that paid, the newest first: something of the question was struck, hooked or landed there. */
  goodStops(question: Question, most = 40): GoodStop[] {
    const tripAt = new Map(this.table.trips.map((t, i) => [t.id, i]));
    const bites = new Map<string, number>();
    for (const { response, took } of this.moods(question))
      if (took && response.stop) {
        const key = `${response.trip_id} ${response.stop}`;
        bites.set(key, (bites.get(key) ?? 0) + 1);
      }
    return this.logbook.stops
      .flatMap((stop): GoodStop[] => {
        const [n, trip] = [bites.get(`${stop.trip_id} ${stop.stop}`), tripAt.get(stop.trip_id)];
        return n && trip !== undefined ? [{ id: stop.id, trip, at: Date.parse(stop.start), ...this.toMetric(stop), bites: n }] : [];
      })
      .sort((a, b) => b.at - a.at)
      .slice(0, most);
  }

  /** Places like those chosen, for a species and a moment. @param places metres in the chart's plane */
  similarSpots(
    question: Question,
    places: [x: number, y: number][],
    at: number,
    weights: SimilarityWeights,
    count?: number,
  ): { spots: SimilarSpot[]; chosen: number } {
    const cells = this.chart.cells;
    const chosen = places.flatMap(([x, y]) => {
      // The nearest cell with a depth, within 60 m: a contact may stand on the edge of what was sounded.
      let [best, nearest] = [-1, 60];
      for (let i = 0; i < cells.count; i++) {
        if (Number.isNaN(cells.depth[i])) continue;
        const d = Math.hypot((cells.column[i] + 0.5) * 25 - x, (cells.row[i] + 0.5) * 25 - y);
        if (d < nearest) [best, nearest] = [i, d];
      }
      return best < 0 ? [] : [best];
    });
    if (!chosen.length) return { spots: [], chosen: 0 };
    const is = targetTest(question, this.known);
    const seen = new Map<number, { looked: number; saw: number; last: number }>();
    for (let i = 0; i < this.table.count; i++) {
      const tally = seen.get(this.table.cell[i]) ?? { looked: 0, saw: 0, last: 0 };
      tally.looked++;
      tally.last = Math.max(tally.last, this.table.to[i]);
      for (let k = this.table.first[i]; k < this.table.first[i + 1]; k++) if (is(this.table.targets[k])) tally.saw++;
      seen.set(this.table.cell[i], tally);
    }
    return { spots: findSimilarSpots(this.table, this.moments.at(at), chosen, weights, seen, count).spots, chosen: chosen.length };
  }
}
