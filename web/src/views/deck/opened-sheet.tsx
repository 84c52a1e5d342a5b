import type { Dispatch } from 'react';
import type { LatLon } from '@restless-shoal/core/geo';
import type { SpeciesProfile } from '@restless-shoal/core/species';
import type { TripDetail } from '../../api/queries';
import { term } from '../../words';
import { EntryPhotos, FishPhotos } from '../../parts/photos';
import type { DayEntry } from '../../parts/records/day-entries';
import type { DeckAction } from './deck-state';
import { EntrySheet } from '../../parts/records/entry-sheet';
import { asSent } from '../../parts/records/trip-record';
import { ResponseSheet } from '../../parts/records/response-sheet';
import type { useDeckLog } from './use-deck-log';
import type { useMarking } from './use-marking';
import { keyOf } from './way-back';

/** The entry of the day, or what a fish did, that is open over the Deck: read, put right, deleted. */
export function OpenedSheet({
  entry,
  response,
  detail,
  water,
  species,
  zone,
  from,
  log,
  marking,
  act,
}: {
  entry: DayEntry | null;
  response: TripDetail['responses'][number] | null;
  detail: TripDetail | null;
  water: string;
  species: SpeciesProfile[];
  zone: string | null;
  /** Where the boat is. */
  from: LatLon | null;
  log: ReturnType<typeof useDeckLog>;
  marking: Pick<ReturnType<typeof useMarking>, 'attempt' | 'remove'>;
  act: Dispatch<DeckAction>;
}) {
  const { attempt, remove } = marking;
  if (response)
    return (
      <ResponseSheet
        key={response.id}
        response={response}
        species={species}
        zone={zone}
        onChange={(change) => attempt(() => log.write('responses', response.id, { ...asSent('responses', response), ...change }))}
        extra={
          detail && (
            <FishPhotos
              water={water}
              detail={detail}
              zone={zone}
              fish={response}
              onTime={(time) => attempt(() => log.write('responses', response.id, { ...asSent('responses', response), time }))}
            />
          )
        }
        onRemove={() => remove(term(response.response), [{ record: 'responses', id: response.id, row: response }])}
        onClose={() => act({ type: 'response', response: null })}
      />
    );
  if (!entry) return null;
  return (
    <EntrySheet
      water={water}
      entry={entry}
      zone={zone}
      responses={entry.kind === 'stop' ? (detail?.responses ?? []).filter((r) => r.stop === entry.stop.stop) : []}
      from={from}
      species={species}
      onClose={() => act({ type: 'open', entry: null })}
      onGoBack={() => act({ type: 'go', to: keyOf(entry) })}
      onContact={(id, change) =>
        entry.kind === 'contact' &&
        attempt(() => log.write('contacts', id, { ...asSent('contacts', entry.contact), ...change }, entry.contact.version))
      }
      onOutcome={(id, row) => attempt(() => log.write('stops', id, row, entry.kind === 'stop' ? entry.stop.version : undefined))}
      extra={
        detail && (
          <div className="mt-4">
            <EntryPhotos
              water={water}
              detail={detail}
              zone={zone}
              entry={entry}
              onPlace={(place) =>
                entry.kind === 'contact' &&
                attempt(() =>
                  log.write('contacts', entry.contact.id, { ...asSent('contacts', entry.contact), ...place }, entry.contact.version),
                )
              }
            />
          </div>
        )
      }
      onRemove={remove}
      onResponse={(id) => act({ type: 'response', response: id })}
    />
  );
}
