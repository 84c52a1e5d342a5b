import { useEffect, useRef, useState } from 'react';
import { waterAt } from '@restless-shoal/core/chart';
import { distance, metricPlane, type LatLon } from '@restless-shoal/core/geo';
import { lowLight } from '@restless-shoal/core/lake';
import { worthStopping, type Advice } from '@restless-shoal/core/passage';
import { isBite, likelySame, type Response } from '@restless-shoal/core/logbook';
import { boatAt, carriedOn, padPlace, placeTarget, type ScreenPlace } from '@restless-shoal/core/sonar';
import { deckNow } from '../../api/clock';
import { clockInZone } from '../../parts/format';
import { useBoatState } from '../../state/boat';
import type { Boat, BoatSource } from '../../state/use-boat';
import { useRig } from '../../state/rig';
import { sonarSettingsNow } from '../../state/sonar-settings';
import { useWaterState } from '../../state/water';
import { spanWithin, type DepthSpan } from '../../parts/records/column-gesture';
import { isFree, kindWords, type Kind } from '../../parts/records/kinds';
import { logged, markRow } from '../../parts/records/mark-row';
import { aimWords } from './pad';
import type { Reading } from './picture-cursor';
import type { TripRecord } from '../../parts/records/trip-record';
import type { useDeckLog } from './use-deck-log';
import { quietAfter } from './stop-panel';
import { isBlank } from '../../parts/records/tally';
import type { StopState } from './use-stop';
import { deck as msg, say, term } from '../../words';

/** Something was logged: what, and how to take it back. */
export interface Done {
  words: string;
  /** Whether it is worth a stop. */
  advice?: Advice;
  /** How the place was worked out, step by step. */
  workings?: string[];
  undo: () => void;
  /** It is being read: it goes when the next is said. */
  stay?: () => void;
  /** An earlier mark that may be the same target, in words, and what says so. */
  same?: { words: string; join: () => void };
}

/** How long it is offered to take something back, ms. */
const OFFERED_MS = 9000;
/** News of the boat older than this says nothing of where it is now, ms. */
const NEWS_HOLDS = 2000;
/** A target nearer than this is under the boat, where its sounder measures, m. */
const UNDER = 3;
/** The same thing again within this time is one touch, ms; of marks: this near to the last one, m. */
const TWICE_MS = 600;
const TWICE_M = 3;
/** Water round the boat that a press on "Nothing here" speaks of, m. */
const BLANK_RADIUS = 25;

/** Where the boat is at this moment: on from its last news, where those come several times a second. */
function whereNow(boat: Boat, source: BoatSource['source']): LatLon {
  const age = deckNow() - boat.at;
  return source === 'network' && age > 0 && age < NEWS_HOLDS ? carriedOn(boat, age / 1000) : boat.position;
}

/** Whether a view shows how far a thing is from the transducer, not how far over the ground. */
export const isSlant = (view: string, corrected: boolean): boolean => view === 'forward-facing' || (view === 'side-scan' && !corrected);

const goalOf = (goal: string | null | undefined): 'action' | 'size' | 'best' | null =>
  goal === 'action' || goal === 'size' || goal === 'best' ? goal : null;

/** Minutes until the end of dusk; a whole day where there is none. */
function minutesOfLight(now: Date, at: LatLon): number {
  const dusk = lowLight(now, at.latitude, at.longitude).windows.find((w) => w.name === 'dusk' && w.to > now);
  return dusk ? (dusk.to.getTime() - now.getTime()) / 60_000 : 1440;
}

/** What is chosen on the Deck, for the next mark. */
export interface Chosen {
  kind: Kind;
  count: number;
  /** As the Column was touched last; null before. */
  touched: DepthSpan | null;
  /** How far down the Column goes where nobody knows how deep the water is, m. */
  deepest: number;
  /** What fish are taken for; null where nobody is sure. */
  named: string | null;
}

/**
 * What the buttons of the Deck do: each press logs something, says so, and can be taken back.
 * @param onNoBoat is asked for a position where there is none
 */
export function useMarking(
  log: ReturnType<typeof useDeckLog>,
  stop: StopState,
  { kind, count, touched, deepest, named }: Chosen,
  onNoBoat: () => void,
) {
  const { water, chart, running, frame } = useWaterState();
  const { source, view, flushTrack } = useBoatState();
  const { boat } = source;
  const rig = useRig();
  const [done, setDone] = useState<Done | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const [stays, setStays] = useState(false);
  useEffect(() => setStays(false), [done]);
  useEffect(() => {
    if (!done || stays) return;
    const timer = setTimeout(() => setDone(null), OFFERED_MS);
    return () => clearTimeout(timer);
  }, [done, stays]);

  const last = useRef<{ what: string; at: number; boat: LatLon | null; ahead: number; starboard: number } | null>(null);
  /** Whether the same was logged a moment ago, of the same place: a wet finger touches twice. */
  const again = (what: string, { ahead, starboard } = { ahead: 0, starboard: 0 }): boolean => {
    const before = last.current;
    const now = { what, at: performance.now(), boat: boat?.position ?? null, ahead, starboard };
    last.current = now;
    if (before?.what !== what || now.at - before.at >= TWICE_MS) return false;
    const moved = now.boat && before.boat ? distance(now.boat, before.boat) : 0;
    return moved + Math.hypot(ahead - before.ahead, starboard - before.starboard) < TWICE_M;
  };
  const fail = (error: Error): void => {
    // What was not saved can be tapped again at once.
    last.current = null;
    setFailed(msg('useMarking.notSaved', { why: error.message }));
  };
  const attempt = (work: () => Promise<Done | null | void>): void => {
    setFailed(null);
    void work()
      .then((d) => d && setDone(d))
      .catch(fail);
  };
  const undo = (work: () => Promise<void>) => (): void => attempt(work);
  /** Work that needs to know where the boat is; the track comes first, so that what is seen lies in what was looked at. */
  const atBoat = (work: (boat: Boat, position: LatLon, at: number) => Promise<Done>): void => {
    if (!boat) return onNoBoat();
    // Of the touch: what follows may take a moment, in which the boat goes on.
    const [position, at] = [whereNow(boat, source.source), deckNow()];
    attempt(async () => {
      await flushTrack();
      return work(boat, position, at);
    });
  };

  /** Depth and hardness of a place by the chart. */
  const charted = (position: LatLon): { depth: number | null; hardness: number | null } => {
    if (!chart) return { depth: null, hardness: null };
    const at = metricPlane(chart.epsg).toMetric(position);
    const hardness = chart.hardness.at(...at);
    return { depth: waterAt(chart, at), hardness: Number.isNaN(hardness) ? null : hardness };
  };
  const under = boat ? charted(boat.position) : { depth: null, hardness: null };
  // What the sounder says now goes before what the chart said once.
  const here = { ...under, depth: boat?.depth ?? under.depth };
  const span = spanWithin(touched, here.depth ?? deepest);

  /** Whether fish just marked are worth a stop; nothing where one is being fished. */
  const advise = ({
    kind,
    count,
    confidence,
    same_as,
  }: {
    kind: string;
    count: number | null;
    confidence: number | null;
    same_as?: unknown;
  }): Advice | undefined => {
    if (kind !== 'fish' || stop.open || same_as) return undefined;
    const { stops = [], contacts = [], responses = [] } = log.detail ?? {};
    const atFish = stops.filter(
      (s) => !isBlank(s) && s.outcome !== 'unfishable' && contacts.some((c) => c.kind === 'fish' && c.stop === s.stop),
    );
    const struck = (s: (typeof stops)[number]): boolean => responses.some((r) => r.stop === s.stop && isBite(r.response));
    return worthStopping({
      goal: goalOf(running?.goal),
      count: count ?? 1,
      size: null,
      odds: confidence ?? 1,
      left: minutesOfLight(new Date(deckNow()), frame),
      patience: quietAfter(),
      tried: atFish.length,
      paid: atFish.filter(struck).length,
    });
  };

  /** What hangs free is as deep as the Column says; the rest is on the bottom. */
  const targetDepth = isFree(kind) ? (span.top + span.bottom) / 2 : here.depth;

  /** Marks what lies at a place from the transducer. @param read of a picture: when the boat was there, and what the picture says */
  const markAt = (place: ScreenPlace, read: Reading | null): void =>
    atBoat(async (now, from, touched) => {
      const then = read && boatAt(source.fixes, read.at);
      const boat = then ? { ...now, ...then } : { ...now, position: from };
      const { ahead, starboard } = place;
      const position = placeTarget(boat, ahead, starboard, rig, rig.delay);
      const there = charted(position);
      const below = Math.hypot(ahead, starboard) < UNDER ? (then ? read.floor : now.depth) : null;
      const row = markRow({
        time: new Date(then ? read.at : touched).toISOString(),
        position,
        kind,
        count,
        view: view.view,
        species: named,
        span: read?.span ?? span,
        floor: below ?? there.depth ?? read?.floor ?? here.depth,
        hardness: there.hardness,
        stop: stop.open?.stop.stop ?? null,
        sonar: sonarSettingsNow(),
      });
      const id = await log.mark(row);
      const same = likelySame(row, log.detail?.contacts ?? []);
      const write = (same_as: string | null): Promise<void> => log.write('contacts', id, { contact: id, ...row, same_as });
      const middle = row.top_m === null ? '' : msg('useMarking.atM', { top_m: (row.top_m + (row.bottom_m ?? row.top_m)) / 2 });
      return {
        words: msg('useMarking.markedWhenItWas', {
          kind: kindWords(kind, count),
          middle,
          ahead: aimWords(ahead, starboard),
          then: then ? 'yes' : 'no',
        }),
        workings: [
          ...place.workings.map(say),
          ...(rig.forward || rig.starboard
            ? [msg('useMarking.transducerMForwardM', { forward: rig.forward, starboard: rig.starboard })]
            : []),
          msg('useMarking.antennaAtCourseTarget', {
            latitude: boat.position.latitude.toFixed(6),
            longitude: boat.position.longitude.toFixed(6),
            course: boat.course.toFixed(0),
            latitude2: row.latitude.toFixed(6),
            longitude2: row.longitude.toFixed(6),
          }),
        ],
        advice: advise(row),
        undo: undo(() => log.remove('contacts', id)),
        stay: () => setStays(true),
        same: same
          ? {
              words: msg('useMarking.sameAsMOff', {
                time: clockInZone(new Date(same.contact.time), water.time_zone),
                metres: Math.round(same.metres),
              }),
              join: () =>
                attempt(async () => {
                  await write(same.contact.contact ?? same.contact.id);
                  return { words: msg('useMarking.oneTargetSeenAgain'), undo: undo(() => write(null)) };
                }),
            }
          : undefined,
      };
    });

  /** A touch on the Pad: as the screen shows it, by slant range for the views that measure it. */
  const mark = (ahead: number, starboard: number): void => {
    if (again(`mark ${kind}`, { ahead, starboard })) return;
    markAt(padPlace(ahead, starboard, targetDepth, rig.transducerDepth, isSlant(view.view, rig.corrected)), null);
  };
  const markRead = (read: Reading): void => markAt(read.place, read);

  const nothing = (): void => {
    if (again('nothing')) return;
    atBoat(async (_, position) => {
      const id = await log.nothing(logged(position), BLANK_RADIUS);
      return { words: msg('useMarking.markedNothingHereM', { blankRadius: BLANK_RADIUS }), undo: undo(() => log.remove('stops', id)) };
    });
  };

  const fishHere = (): void => {
    if (again('fish here')) return;
    atBoat(async (_, position) => {
      const id = await stop.begin(logged(position));
      return {
        words: msg('useMarking.fishingHereTheClock'),
        undo: undo(async () => {
          await log.remove('stops', id);
          stop.forget();
        }),
      };
    });
  };

  const respond = (response: Response['response']): void => {
    if (again(response)) return;
    attempt(async () => {
      // The fish that were marked at this stop say more of what bites here than what the marks to come are taken for.
      const marked = (log.detail?.contacts ?? []).filter((c) => c.kind === 'fish' && c.stop === stop.open?.stop.stop && c.species);
      const id = await stop.respond(response, {
        depth_m: Number(((span.top + span.bottom) / 2).toFixed(2)),
        species: marked.at(-1)?.species ?? named,
      });
      return {
        words: msg('useMarking.logged', { response: term(response) }),
        undo: undo(() => log.remove('responses', id)),
      };
    });
  };

  /** Takes records of the trip into the trash, with what would be left without them. */
  const remove = (words: string, gone: { record: TripRecord; id: string; row: object }[]): void =>
    attempt(async () => {
      for (const { record, id } of gone) await log.remove(record, id);
      return {
        words: msg('useMarking.deleted', { words }),
        undo: undo(async () => {
          for (const { record, id, row } of [...gone].reverse()) await log.restore(record, id, row);
        }),
      };
    });

  return {
    here,
    span,
    remove,
    offWater: boat !== null && chart !== null && under.depth === null,
    done,
    failed,
    attempt,
    fail,
    over: () => setDone(null),
    targetDepth,
    mark,
    markRead,
    nothing,
    fishHere,
    respond,
  };
}
