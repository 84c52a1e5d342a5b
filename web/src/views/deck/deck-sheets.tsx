import { lazy, Suspense, useMemo } from 'react';
import type { TrackFix } from '@restless-shoal/core/logbook';
import { usePlan } from '../../state/use-plan';
import { keepAndSend } from '../../offline/device';
import { useBoatState } from '../../state/boat';
import { useWaterState } from '../../state/water';
import { Dialog } from '../../parts/dialog';
import { Bag } from '../../parts/records/bag';
import { ConditionsForm } from '../../parts/records/conditions-form';
import { tripAsSent } from '../../parts/records/trip-record';
import { deck as msg } from '../../words';
import { EndTrip } from './end-trip';
import { hectaresLookedAt } from './looked';
import { TrackSheet } from './track-sheet';
import type { useDeckLog } from './use-deck-log';
import type { useMarking } from './use-marking';

// What only goes with a server comes when it is asked for, so that the Deck is there sooner.
const BoatSheet = lazy(() => import('./boat-sheet').then((m) => ({ default: m.BoatSheet })));
const PlanSheet = lazy(() => import('./plan-sheet').then((m) => ({ default: m.PlanSheet })));

export type DeckSheet = 'boat' | 'water' | 'end' | 'track' | 'plan' | 'bag';

/** The sheets that the Deck opens over itself, one at a time. */
export function DeckSheets({
  sheet,
  log,
  fishing,
  corrected,
  attempt,
  onDeleted,
  onSheet,
  onGo,
}: {
  sheet: DeckSheet | null;
  log: ReturnType<typeof useDeckLog>;
  /** Whether a stop is open. */
  fishing: boolean;
  /** What was done last: a correction of the track is told by it. */
  corrected: unknown;
  attempt: ReturnType<typeof useMarking>['attempt'];
  /** The trip was deleted; `back` brings it back. */
  onDeleted: (back: () => Promise<void>) => void;
  onSheet: (sheet: DeckSheet | null) => void;
  /** Where to go, by the key of a place of the plan. */
  onGo: (key: string) => void;
}) {
  const { water, chart, day, sort, running, log: waterLog } = useWaterState();
  const { source, recorded, flushTrack } = useBoatState();
  const plan = usePlan(water.id);
  const close = (): void => onSheet(null);
  // What the server has of the track, and what this page has recorded since: put together when a sheet asks for it.
  const asked = sheet === 'end' || sheet === 'track';
  const track = useMemo((): TrackFix[] => {
    if (!asked) return [];
    const served = log.detail?.track ?? [];
    const mine = new Map(recorded.map((f) => [f.time, f]));
    const key = running?.trip ?? '';
    return [...served.filter((f) => !mine.has(f.time)), ...[...mine.values()].map((f) => ({ ...f, trip: key }))].sort((a, b) =>
      a.time.localeCompare(b.time),
    );
    // What is recorded grows in place; a correction says so through `done`.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [asked, sheet, log.detail, running, corrected]);
  const hectares = useMemo(() => hectaresLookedAt(track, chart?.epsg ?? null, (x, y) => chart?.depth.at(x, y) ?? NaN), [track, chart]);
  return (
    <>
      {sheet === 'boat' && (
        <Suspense fallback={null}>
          <BoatSheet source={source} water={water.id} chart={chart} thermocline={day.column.thermocline} onClose={close} />
        </Suspense>
      )}
      {sheet === 'water' && <ConditionsForm running={sort !== 'lake'} onSave={log.read} onClose={close} />}
      {sheet === 'bag' && running && (
        <Dialog title={msg('deckSheets.bag')} onClose={close}>
          <Bag
            trip={running}
            responses={log.detail?.responses ?? []}
            species={water.species}
            zone={water.time_zone}
            onRules={(rules) =>
              attempt(async () => {
                await keepAndSend(
                  'PUT /waters/:water/trips/:trip',
                  { water: water.id, trip: running.id },
                  { ...tripAsSent(running), ...rules },
                );
                close();
              })
            }
          />
        </Dialog>
      )}
      {sheet === 'plan' && (
        <Suspense fallback={null}>
          <PlanSheet water={water.id} places={plan.data ?? []} from={source.boat?.position ?? null} onGo={onGo} onClose={close} />
        </Suspense>
      )}
      {sheet === 'track' && (
        <TrackSheet
          fixes={track}
          zone={water.time_zone}
          onMode={({ from, to }, mode) =>
            attempt(async () => {
              await flushTrack();
              for (const fix of recorded) if (fix.time >= from && fix.time <= to) fix.mode = mode;
              await keepAndSend('PUT /trips/:trip/track/mode', { trip: running!.id }, { from, to, mode });
            })
          }
          onClose={close}
        />
      )}
      {sheet === 'end' && (
        <EndTrip
          detail={log.detail}
          readings={waterLog.readings.filter((r) => r.trip === running?.trip).length}
          open={fishing}
          simulated={source.simulated}
          hectares={hectares}
          onTrack={() => onSheet('track')}
          onDiscard={() => {
            close();
            attempt(async () => onDeleted(await log.discard()));
          }}
          onReadWater={() => onSheet('water')}
          onClose={close}
          onEnd={() => {
            close();
            attempt(async () => {
              await flushTrack();
              await log.end();
            });
          }}
        />
      )}
    </>
  );
}
