import { expose } from 'comlink';
import { unpackChart } from '@restless-shoal/core/chart';
import { groupProfiles, type WaterFrame } from '@restless-shoal/core/forecast';
import type { ProfileRow, Reading } from '@restless-shoal/core/logbook';
import type { SpeciesProfile } from '@restless-shoal/core/species';
import {
  unpackLogbook,
  WaterPatterns,
  type CombinationSearch,
  type HeatCell,
  type MoodFactor,
  type Pointed,
  type Question,
  type SimilarityWeights,
} from '@restless-shoal/core/patterns';

/** What a log is opened with. */
export interface PatternsInputs {
  chart: Uint8Array;
  /** The answer of /logbook, as it came. */
  logbook: Uint8Array;
  frame: WaterFrame;
  readings: Reading[];
  profiles: ProfileRow[];
  species: SpeciesProfile[];
  timeZone: string;
}

let patterns: WaterPatterns | null = null;
let search = 0;

const opened = (): WaterPatterns => {
  if (!patterns) throw new Error('no log is open');
  return patterns;
};

/** Lets other questions in. */
const pause = (): Promise<void> => new Promise((done) => setTimeout(done));

// A thin shell round core: the whole log is laid out here once, then asked.
const api = {
  open(
    inputs: PatternsInputs,
    onProgress: (share: number) => void,
  ): { looks: number; outside: number; trips: { id: string; start: number }[] } {
    patterns = new WaterPatterns(
      unpackLogbook(inputs.logbook),
      unpackChart(inputs.chart),
      {
        frame: inputs.frame,
        readings: inputs.readings.map((row) => ({ at: Date.parse(row.time), row })).sort((a, b) => a.at - b.at),
        profiles: groupProfiles(inputs.profiles),
        timeZone: inputs.timeZone,
      },
      inputs.species,
      (share) => onProgress(share),
    );
    const { table } = patterns;
    return { looks: table.count, outside: table.outside, trips: table.trips.map(({ id, start }) => ({ id, start })) };
  },
  basis: (question: Question) => opened().select(question).n,
  where: (question: Question, key: string, smooth: boolean, headline: boolean) => opened().where(question, key, { smooth, headline }),
  windows: (question: Question) => opened().windows(question),
  heat: (question: Question, keys: [string, string]): { cells: HeatCell[]; classes: [number[], number[]] } => opened().heat(question, keys),
  /** Null when another search or a cancel came in between. */
  async search(question: Question, onProgress: (share: number) => void): Promise<(CombinationSearch & { enough: boolean }) | null> {
    const own = ++search;
    const steps = opened().search(question);
    let rested = performance.now();
    for (;;) {
      const step = steps.next();
      if (step.done) return step.value;
      if (performance.now() - rested < 40) continue;
      onProgress(step.value);
      await pause();
      if (own !== search) return null;
      rested = performance.now();
    }
  },
  cancelSearch(): void {
    search++;
  },
  mood: (question: Question, factor: MoodFactor) => opened().mood(question, factor),
  sizes: (question: Question) => opened().sizes(question),
  marks: (question: Question) => opened().marks(question),
  whereTheyHang: (question: Question) => opened().whereTheyHang(question),
  views: () => opened().views,
  names: () => opened().names(),
  debates: (question: Question) => opened().debates(question),
  years: (question: Question) => opened().years(question),
  pick: (question: Question, pointed: Pointed) => opened().pick(question, pointed),
  goodStops: (question: Question) => opened().goodStops(question),
  similarSpots: (question: Question, places: [number, number][], at: number, weights: SimilarityWeights) =>
    opened().similarSpots(question, places, at, weights),
};

export type PatternsWorker = typeof api;

expose(api);
