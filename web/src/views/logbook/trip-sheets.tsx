import { MapPin } from 'lucide-react';
import type { Dispatch, SetStateAction } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import type { LatLon } from '@restless-shoal/core/geo';
import type { Row } from '@restless-shoal/core/logbook';
import type { LoggedTrip, StoredReading, TripDetail, TripRow } from '../../api/queries';
import { dayInZone } from '../../parts/format';
import { EntryPhotos, FishPhotos } from '../../parts/photos';
import { ConditionsForm } from '../../parts/records/conditions-form';
import type { DayEntry } from '../../parts/records/day-entries';
import { EntrySheet } from '../../parts/records/entry-sheet';
import { logged } from '../../parts/records/mark-row';
import { ResponseSheet } from '../../parts/records/response-sheet';
import { useSpots } from '../../state/use-spots';
import { useWaterState } from '../../state/water';
import { logbook as msg, term } from '../../words';
import { ChangesSheet } from './changes-sheet';
import { SpotSheet } from '../../parts/spots';
import { TripSheet } from './trip-sheet';
import type { useTripLog } from './use-trip-log';

/** What of a trip is open over its page. */
export type OpenInTrip =
  | { what: 'entry' | 'response'; id: string }
  | { what: 'reading'; reading: StoredReading | null }
  | { what: 'trip' }
  | { what: 'spot'; at: LatLon }
  | { what: 'changes' }
  | null;

export const idOfEntry = (e: DayEntry): string => (e.kind === 'contact' ? e.contact.id : e.stop.id);

/** Other trips on the water, those nearest in time first. */
const nearest = (trips: LoggedTrip[], id: string, water: string, start: Date): LoggedTrip[] =>
  trips
    .filter((t) => t.id !== id && t.water_id === water)
    .sort((a, b) => Math.abs(Date.parse(a.start) - start.getTime()) - Math.abs(Date.parse(b.start) - start.getTime()))
    .slice(0, 6);

/** What of a mark was changed, for the way back. */
const changeWords = (change: object): string => {
  const names = Object.keys(change);
  const what = names.includes('latitude') ? 'place' : names.includes('top_m') ? 'depth' : names.includes('species') ? 'species' : 'other';
  return msg(`changed.${what}`);
};

/** The record of a trip, or the trip itself, that is open over its page: read, put right, deleted. */
export function TripSheets({
  open,
  onOpen,
  trips,
  row,
  detail,
  entries,
  log,
  attempt,
}: {
  open: OpenInTrip;
  onOpen: Dispatch<SetStateAction<OpenInTrip>>;
  trips: LoggedTrip[];
  row: TripRow;
  detail: TripDetail;
  entries: DayEntry[];
  log: ReturnType<typeof useTripLog>;
  attempt: (work: Promise<void>) => Promise<void>;
}) {
  const { water, sort } = useWaterState();
  const navigate = useNavigate();
  const [address] = useSearchParams();
  const spots = useSpots(water.id);
  const zone = water.time_zone;
  const start = new Date(row.start);
  const entry = open?.what === 'entry' ? entries.find((e) => idOfEntry(e) === open.id) : undefined;
  const response = open?.what === 'response' ? detail.responses.find((r) => r.id === open.id) : undefined;
  // Whatever was opened from it stays open.
  const entryClosed = (): void => onOpen((o) => (o?.what === 'entry' ? null : o));
  return (
    <>
      {entry && (
        <EntrySheet
          key={idOfEntry(entry)}
          water={water.id}
          entry={entry}
          responses={entry.kind === 'stop' ? detail.responses.filter((r) => r.stop === entry.stop.stop) : []}
          zone={zone}
          from={null}
          species={water.species}
          onClose={() => entryClosed()}
          onGoBack={() => undefined}
          onContact={(_, change) =>
            entry.kind === 'contact' && void attempt(log.change('contacts', [entry.contact], () => change as Row, changeWords(change)))
          }
          onOutcome={(_, as) =>
            entry.kind === 'stop' && void attempt(log.change('stops', [entry.stop], () => as as Row, msg('tripPage.stopChanged')))
          }
          onResponse={(r) => onOpen({ what: 'response', id: r })}
          extra={
            <>
              <div className="mt-4">
                <EntryPhotos
                  water={water.id}
                  detail={detail}
                  zone={zone}
                  entry={entry}
                  onPlace={(place) =>
                    entry.kind === 'contact' &&
                    void attempt(log.change('contacts', [entry.contact], () => ({ ...logged(place) }), changeWords(place)))
                  }
                />
              </div>
              <button
                type="button"
                className="btn mt-3 h-12 w-full"
                onClick={() => onOpen({ what: 'spot', at: logged(entry.kind === 'contact' ? entry.contact : entry.stop) })}
              >
                <MapPin size={18} aria-hidden /> {msg('tripPage.saveAsSpot')}
              </button>
            </>
          }
          onRemove={(words, gone) => void attempt(log.remove(gone, msg('tripPage.deleted', { words })))}
        />
      )}
      {response && (
        <ResponseSheet
          key={response.id}
          response={response}
          species={water.species}
          zone={zone}
          onChange={(change) => void attempt(log.change('responses', [response], () => change as Row, msg('tripPage.fishChanged')))}
          extra={
            <FishPhotos
              water={water.id}
              detail={detail}
              zone={zone}
              fish={response}
              onTime={(time) => void attempt(log.change('responses', [response], () => ({ time }), msg('tripPage.fishChanged')))}
            />
          }
          onRemove={() =>
            void attempt(
              log.remove(
                [{ record: 'responses', id: response.id, row: response }],
                msg('tripPage.deleted', { words: term(response.response) }),
              ),
            )
          }
          onClose={() => onOpen(null)}
        />
      )}
      {open?.what === 'reading' && (
        <ConditionsForm
          reading={open.reading}
          running={sort !== 'lake'}
          onSave={(read) =>
            open.reading
              ? log.change(
                  'conditions',
                  [open.reading as StoredReading & { id: string }],
                  () => read as Row,
                  msg('tripPage.readingChanged'),
                )
              : log.add('conditions', { time: row.start, ...(read as Row) }, msg('tripPage.readingAdded')).then(() => undefined)
          }
          onClose={() => onOpen(null)}
        />
      )}
      {open?.what === 'trip' && (
        <TripSheet
          trip={row}
          zone={zone}
          marks={detail.contacts.length}
          near={nearest(trips, row.id, water.id, start)}
          onMerge={(other) => log.mergeWith(other, msg('tripPage.tripsMerged'))}
          onSplit={(moment) => log.splitAt(moment, msg('tripPage.tripSplit'))}
          onSave={(change) => log.changeTrip(change, msg('tripPage.tripChanged'))}
          onDelete={async () => {
            await log.removeTrip(msg('tripPage.tripDeleted', { day: dayInZone(start, zone) }));
            void navigate({ pathname: '/logbook', search: address.toString() });
          }}
          onClose={() => onOpen(null)}
        />
      )}
      {open?.what === 'spot' && (
        <SpotSheet
          spot={null}
          at={open.at}
          onSave={(as) => spots.add(as, msg('spots.added', { name: as.name }))}
          onClose={() => onOpen(null)}
        />
      )}
      {open?.what === 'changes' && <ChangesSheet trip={row.id} zone={zone} onClose={() => onOpen(null)} />}
    </>
  );
}
