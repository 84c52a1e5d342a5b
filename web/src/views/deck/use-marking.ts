import { useEffect, useState } from 'react';
import { metricPlane, type LatLon } from '@restless-shoal/core/geo';
import { likelySame, type Response } from '@restless-shoal/core/logbook';
import { carriedOn, placeTarget } from '@restless-shoal/core/sonar';
import { deckNow } from '../../api/clock';
import { clockInZone } from '../../parts/format';
import { useBoatState } from '../../state/boat';
import type { Boat, BoatSource } from '../../state/use-boat';
import { useWaterState } from '../../state/water';
import type { DepthSpan } from './column-input';
import { kindWords, type Kind } from './kinds';
import { logged, markRow } from './mark-row';
import { aimWords } from './pad';
import type { useDeckLog } from './use-deck-log';
import type { StopState } from './use-stop';

/** Something was logged: what, and how to take it back. */
export interface Done {
  words: string;
  undo: () => void;
  /** An earlier mark that may be the same target, in words, and what says so. */
  same?: { words: string; join: () => void };
}

/** How long it is offered to take something back, ms. */
const OFFERED_MS = 9000;
/** News of the boat older than this says nothing of where it is now, ms. */
const NEWS_HOLDS = 2000;
/** A target nearer than this is under the boat, where its sounder measures, m. */
const UNDER = 3;
/** Water round the boat that a press on "Nothing here" speaks of, m. */
const BLANK_RADIUS = 25;

/** Where the boat is at this moment: on from its last news, where those come several times a second. */
function whereNow(boat: Boat, source: BoatSource['source']): LatLon {
  const age = deckNow() - boat.at;
  return source === 'network' && age > 0 && age < NEWS_HOLDS ? carriedOn(boat, age / 1000) : boat.position;
}

/** What is chosen on the Deck, for the next mark. */
export interface Chosen {
  kind: Kind;
  count: number;
  span: DepthSpan;
  named: boolean;
}

/**
 * What the buttons of the Deck do: each press logs something, says so, and can be taken back.
 * @param onNoBoat is asked for a position where there is none
 */
export function useMarking(
  log: ReturnType<typeof useDeckLog>,
  stop: StopState,
  { kind, count, span, named }: Chosen,
  onNoBoat: () => void,
) {
  const { water, chart, species } = useWaterState();
  const { source, view, flushTrack } = useBoatState();
  const { boat } = source;
  const [done, setDone] = useState<Done | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  useEffect(() => {
    if (!done) return;
    const timer = setTimeout(() => setDone(null), OFFERED_MS);
    return () => clearTimeout(timer);
  }, [done]);

  const fail = (error: Error): void => setFailed(`Not saved: ${error.message}`);
  const attempt = (work: () => Promise<Done | null | void>): void => {
    setFailed(null);
    void work()
      .then((d) => d && setDone(d))
      .catch(fail);
  };
  const undo = (work: () => Promise<void>) => (): void => attempt(work);
  /** Work that needs to know where the boat is; the track comes first, so that what is seen lies in what was looked at. */
  const atBoat = (work: (boat: Boat, position: LatLon) => Promise<Done>): void => {
    if (!boat) return onNoBoat();
    const position = whereNow(boat, source.source);
    attempt(async () => {
      await flushTrack();
      return work(boat, position);
    });
  };

  /** Depth and hardness of a place by the chart. */
  const charted = (position: LatLon): { depth: number | null; hardness: number | null } => {
    if (!chart) return { depth: null, hardness: null };
    const [x, y] = metricPlane(chart.epsg).toMetric(position);
    const [depth, hardness] = [chart.depth.at(x, y), chart.hardness.at(x, y)];
    return { depth: Number.isNaN(depth) ? null : depth, hardness: Number.isNaN(hardness) ? null : hardness };
  };
  const under = boat ? charted(boat.position) : { depth: null, hardness: null };
  // What the sounder says now goes before what the chart said once.
  const here = { ...under, depth: boat?.depth ?? under.depth };

  const mark = (ahead: number, starboard: number): void =>
    atBoat(async (boat, from) => {
      const position = placeTarget({ ...boat, position: from }, ahead, starboard);
      const there = charted(position);
      const row = markRow({
        time: new Date(deckNow()).toISOString(),
        position,
        kind,
        count,
        view: view.view,
        species: named ? species.name : null,
        span,
        floor: (Math.hypot(ahead, starboard) < UNDER ? boat.depth : null) ?? there.depth ?? here.depth,
        hardness: there.hardness,
        stop: stop.open?.stop.stop ?? null,
      });
      const id = await log.mark(row);
      const same = likelySame(row, log.detail?.contacts ?? []);
      const write = (same_as: string | null): Promise<void> => log.write('contacts', id, { contact: id, ...row, same_as });
      const middle = row.top_m === null ? '' : ` at ${((row.top_m + (row.bottom_m ?? row.top_m)) / 2).toFixed(1)} m`;
      return {
        words: `Marked ${kindWords(kind, count)}${middle}, ${aimWords(ahead, starboard)}`,
        undo: undo(() => log.remove('contacts', id)),
        same: same
          ? {
              words: `Same as ${clockInZone(new Date(same.contact.time), water.time_zone)}, ${same.metres.toFixed(0)} m off?`,
              join: () =>
                attempt(async () => {
                  await write(same.contact.contact ?? same.contact.id);
                  return { words: 'One target, seen again', undo: undo(() => write(null)) };
                }),
            }
          : undefined,
      };
    });

  const nothing = (): void =>
    atBoat(async (_, position) => {
      const id = await log.nothing(logged(position), BLANK_RADIUS);
      return { words: `Marked: nothing here, ${BLANK_RADIUS} m round the boat`, undo: undo(() => log.remove('stops', id)) };
    });

  const fishHere = (): void =>
    atBoat(async (_, position) => {
      const id = await stop.begin(logged(position));
      return {
        words: 'Fishing here: the clock runs',
        undo: undo(async () => {
          await log.remove('stops', id);
          stop.forget();
        }),
      };
    });

  const respond = (response: Response['response']): void =>
    attempt(async () => {
      const id = await stop.respond(response, {
        depth_m: Number(((span.top + span.bottom) / 2).toFixed(2)),
        species: response === 'landed' || named ? species.name : null,
      });
      return { words: `Logged: ${response}`, undo: undo(() => log.remove('responses', id)) };
    });

  return {
    here,
    offWater: boat !== null && chart !== null && under.depth === null,
    done,
    failed,
    attempt,
    fail,
    over: () => setDone(null),
    mark,
    nothing,
    fishHere,
    respond,
  };
}
