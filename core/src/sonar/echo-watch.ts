import { bottomOf, type SounderColumn } from './read-picture';

/** What sends back sound beside a boat and is no fish. */
export type Clutter = 'lure' | 'weight' | 'wash';

/** Something free of the bottom, as it came by. Depths in metres below the surface. */
export interface EchoTrace {
  /** The ping in which it is nearest: it was straight below then. */
  ping: number;
  /** Of its upper edge there. */
  depth: number;
  /** The first and the last ping that saw it, how deep it was at the last, and how many did. */
  first: number;
  last: number;
  lastDepth: number;
  pings: number;
  /** Strongest level. */
  level: number;
  /** Thickest it was in one ping, m. */
  thick: number;
  /** What it looks like: one body, a cloud clear of the bottom, or something that stands on the bottom. */
  form: 'single' | 'mass' | 'standing';
  /** What somebody said that it is, if no fish. */
  clutter: Clutter | null;
}

interface Open extends EchoTrace {
  /** Where it was, ping by ping. */
  path: PathPoint[];
  lastLow: number;
  /** Pings in which it reached down to the bottom. */
  joined: number;
}

/** A thing in one ping: its upper and lower edge. */
interface PathPoint {
  ping: number;
  top: number;
  low: number;
}

/** A thing as it is at a point of the picture. */
export interface EchoAt {
  trace: EchoTrace;
  /** The ping nearest to that point, and the upper edge in it. */
  ping: number;
  depth: number;
}

/** Something that was named once: the depths between which it was seen. */
interface Named {
  kind: Clutter;
  top: number;
  low: number;
}

/** What stands out of the noise by this much counts as an echo, of 255. */
const OUT_OF_NOISE = 55;
/** Echoes nearer to each other than this in one ping are one thing, m. */
const ONE_THING = 0.45;
/** How far a thing may rise or sink from one ping to the next, m. */
const NEXT_PING = 0.5;
/** Pings that may miss it. */
const MISSED = 2;
/** How far beyond the depths it was seen between a named lure or weight is known again, m. */
const KNOWN_AGAIN = 0.25;
/** A point of the picture farther from a thing than this is not on it: pings, and metres. */
const NEAR_PINGS = 12;
const NEAR_M = 1;
/** Pings of a thing that are remembered. */
const PATH = 2000;
/** Thicker than this is no single body, m. */
const THICK = 0.7;

/**
 * Plain detector of a sounder's picture, ping by ping: joins echoes of following pings, and reads the depth of each
 * where it is nearest, the top of its arch. What was named once (a lure, a weight on a wire, wash) is followed, known
 * again, and kept apart from what may be fish.
 */
export class EchoWatch {
  private open: Open[] = [];
  private readonly done: Open[] = [];
  private named: Named[] = [];

  /** @param min pings that have to see a thing @param keep how many things are remembered */
  constructor(
    private readonly min = 3,
    private readonly keep = 400,
  ) {}

  /** Takes the next ping. @param ping its number; pings are numbered on without gaps */
  take(column: SounderColumn, ping: number): void {
    const { levels, range, transducerDepth } = column;
    const metres = (sample: number): number => transducerDepth + (sample * range) / levels.length;
    const bottom = bottomOf(column) ?? Infinity;
    const threshold = Uint8Array.from(levels).sort()[levels.length >> 1] + OUT_OF_NOISE;
    const echoes: { top: number; low: number; level: number; joined: boolean }[] = [];
    for (let i = 1; i < levels.length - 1 && metres(i) < bottom - 0.3; i++) {
      if (levels[i] < threshold || levels[i] < levels[i - 1]) continue;
      let level = 0;
      const from = i;
      while (i < levels.length && levels[i] >= threshold) level = Math.max(level, levels[i++]);
      const [top, low] = [metres(from), Math.min(bottom, metres(i - 1))];
      const above = echoes.at(-1);
      if (above && top - above.low < ONE_THING) Object.assign(above, { low, level: Math.max(above.level, level) });
      else echoes.push({ top, low, level, joined: false });
    }
    for (const e of echoes) e.joined = bottom - e.low < ONE_THING;
    const taken = new Set<Open>();
    for (const e of echoes) {
      let known: Open | null = null;
      for (const o of this.open) {
        if (taken.has(o)) continue;
        const off = Math.abs(o.lastDepth - e.top);
        // A cloud's edge is ragged: it goes on as long as it overlaps.
        const same = off < NEXT_PING || (o.thick > THICK && e.top < o.lastLow && e.low > o.lastDepth);
        if (same && (!known || off < Math.abs(known.lastDepth - e.top))) known = o;
      }
      if (!known) {
        known = this.begin(e.top, e.low, ping);
        this.open.push(known);
      } else if (e.top < known.depth) Object.assign(known, { depth: e.top, ping });
      taken.add(known);
      known.pings++;
      known.level = Math.max(known.level, e.level);
      known.thick = Math.max(known.thick, e.low - e.top);
      if (e.joined) known.joined++;
      Object.assign(known, { last: ping, lastDepth: e.top, lastLow: e.low });
      known.path.push({ ping, top: e.top, low: e.low });
      if (known.path.length > PATH) known.path.splice(0, PATH / 4);
      this.follow(known);
    }
    const still = (o: Open): boolean => ping - o.last <= MISSED;
    this.done.push(...this.open.filter((o) => !still(o) && o.pings >= this.min));
    this.open = this.open.filter(still);
    this.done.splice(0, this.done.length - this.keep);
  }

  private begin(top: number, low: number, ping: number): Open {
    const trace: Open = {
      ping,
      depth: top,
      first: ping,
      last: ping,
      pings: 0,
      level: 0,
      thick: 0,
      form: 'single',
      clutter: null,
      lastDepth: top,
      lastLow: low,
      joined: 0,
      path: [],
    };
    const again = this.named.find((n) =>
      n.kind === 'wash'
        ? top < n.low
        : top > n.top - KNOWN_AGAIN && top < n.low + KNOWN_AGAIN && !this.open.some((o) => o.clutter === n.kind && ping - o.last <= 1),
    );
    if (again) trace.clutter = again.kind;
    return trace;
  }

  /** A named thing is where its echo was last. */
  private follow(trace: Open): void {
    const named = this.named.find((n) => n.kind === trace.clutter);
    if (!named) return;
    // Wash is a layer under the surface; what hangs is as tall as its depths differ.
    named.top = Math.min(named.top, trace.lastDepth);
    named.low = Math.max(named.low, named.kind === 'wash' ? trace.lastLow : trace.lastDepth);
  }

  /** What came by so far, the oldest first. */
  get traces(): EchoTrace[] {
    return [...this.done, ...this.open.filter((o) => o.pings >= this.min)].map(shown).sort((a, b) => a.ping - b.ping);
  }

  private nearest(ping: number, depth: number): { open: Open; there: PathPoint } | null {
    let best: { open: Open; there: PathPoint } | null = null;
    let off = 1;
    for (const open of [...this.done, ...this.open]) {
      if (ping < open.first - NEAR_PINGS || ping > open.last + NEAR_PINGS) continue;
      for (const there of open.path) {
        const along = Math.abs(there.ping - ping) / NEAR_PINGS;
        if (along > 1) continue;
        const up = Math.max(there.top - depth, depth - there.low, 0) / NEAR_M;
        const d = Math.hypot(along, up);
        if (d < off) [best, off] = [{ open, there }, d];
      }
    }
    return best;
  }

  /** The thing at a point of the picture, or nearest to it within a metre and a dozen pings. */
  at(ping: number, depth: number): EchoAt | null {
    const found = this.nearest(ping, depth);
    return found && { trace: shown(found.open), ping: found.there.ping, depth: found.there.top };
  }

  /**
   * Says once what a thing is that is no fish: it is followed, and known again when it was lost.
   * @returns whether there was something at that point
   */
  name(ping: number, depth: number, kind: Clutter): boolean {
    const trace = this.nearest(ping, depth)?.open;
    if (!trace) return false;
    this.named = this.named.filter((n) => n.kind !== kind);
    const low = kind === 'wash' ? Math.max(trace.lastLow, trace.depth + trace.thick) : Math.max(trace.depth, trace.lastDepth);
    this.named.push({ kind, top: Math.min(trace.depth, trace.lastDepth), low });
    trace.clutter = kind;
    // What is in the picture already and would be known again is the same thing.
    if (kind === 'wash') for (const o of [...this.done, ...this.open]) if (o.depth < this.named.at(-1)!.low) o.clutter ??= kind;
    return true;
  }

  /** Out of the water: similar echoes may be fish again from now on. */
  unname(kind: Clutter): void {
    this.named = this.named.filter((n) => n.kind !== kind);
    for (const o of this.open) if (o.clutter === kind) o.clutter = null;
  }

  get clutter(): Clutter[] {
    return this.named.map((n) => n.kind);
  }
}

const shown = ({ lastLow: _low, path: _path, joined, ...trace }: Open): EchoTrace => ({
  ...trace,
  form: joined > trace.pings / 3 ? 'standing' : trace.thick > THICK ? 'mass' : 'single',
});

/** What a run of pings shows, numbered from 0. @param least pings that have to see a thing */
export function traces(columns: SounderColumn[], least = 3): EchoTrace[] {
  const watch = new EchoWatch(least, Infinity);
  columns.forEach((column, ping) => watch.take(column, ping));
  return watch.traces;
}
