import type { ReactNode } from 'react';
import { bearing, distance, type LatLon } from '@restless-shoal/core/geo';
import type { Contact, Response, Stop } from '@restless-shoal/core/logbook';
import type { SpeciesProfile } from '@restless-shoal/core/species';
import { DeleteButton } from '../delete-button';
import { Dialog } from '../dialog';
import { clockInZone, depthRange } from '../format';
import type { DayEntry } from './day-entries';
import { MarkDetails } from './mark-details';
import { DepthAndPlace } from './depth-and-place';
import { OUTCOME_WORDS } from './outcome';
import { isBlank } from './tally';
import { asSent, type TripRecord } from './trip-record';
import { formatDepth, deck as msg, term } from '../../words';

const DAY_MS = 86_400_000;

export const agoWords = (ms: number): string => {
  const minutes = Math.max(0, Math.round(ms / 60_000));
  return minutes < 1
    ? msg('entrySheet.justNow')
    : minutes < 60
      ? msg('entrySheet.minAgo', { minutes })
      : msg('entrySheet.hMinAgo', { minutes: Math.floor(minutes / 60), minutes2: minutes % 60 });
};

function stopLines(stop: Stop): [string, string][] {
  const minutes = (Date.parse(stop.end) - Date.parse(stop.start)) / 60_000;
  if (isBlank(stop)) return [['what', msg('entrySheet.nothingHere')]];
  return [
    [
      'fished',
      `${minutes < 1 ? msg('entrySheet.underAMinute') : msg('entrySheet.min', { minutes: Math.round(minutes) })}${stop.rods ? msg('entrySheet.rodS', { rods: stop.rods, rods2: stop.rods > 1 ? 'yes' : 'no' }) : ''}`,
    ],
    [
      msg('entrySheet.outcome'),
      stop.outcome ? `${OUTCOME_WORDS[stop.outcome]}${stop.notes ? `: ${stop.notes}` : ''}` : msg('entrySheet.notSaidYet'),
    ],
  ];
}

/** What a fish did, in a line. */
const responseWords = (r: Response): string =>
  [
    r.species && term(r.species),
    r.length_m != null && msg('entrySheet.cm', { length_m: r.length_m }),
    r.mass_kg != null && msg('entrySheet.kg', { mass_kg: r.mass_kg }),
    r.fate && term(r.fate),
    r.lure,
    r.lure_mass_g != null && `${r.lure_mass_g} g`,
    r.lure_colour,
    r.presentation,
    r.casts != null && msg('entrySheet.cast', { casts: r.casts }),
  ]
    .filter(Boolean)
    .join(', ');

type StoredResponse = Response & { id: string };

/** One mark or blank of the day, and the way to take it out. */
export function EntrySheet({
  entry,
  responses,
  zone,
  from,
  species,
  onClose,
  onGoBack,
  onContact,
  onOutcome,
  onResponse,
  onRemove,
  extra = null,
  water,
}: {
  entry: DayEntry;
  /** What happened at a stop. */
  responses: StoredResponse[];
  /** Where the boat is, if known: the way back. */
  from: LatLon | null;
  zone: string | null;
  species: SpeciesProfile[];
  onClose: () => void;
  onGoBack: () => void;
  /** Says more of a mark. */
  onContact: (id: string, change: Partial<Contact>) => void;
  /** Says what came of a stop, also long after it. */
  onOutcome: (id: string, row: object) => void;
  /** Opens what a fish did. */
  onResponse: (id: string) => void;
  /** Of the trip. */
  water: string;
  /** What else can be done with it where it is shown. */
  extra?: ReactNode;
  /** Takes records into the trash. @param words what went */
  onRemove: (words: string, gone: { record: TripRecord; id: string; row: object }[]) => void;
}) {
  const record = entry.kind === 'contact' ? entry.contact : entry.stop;
  const lines: [string, string][] =
    entry.kind === 'contact'
      ? [
          [
            msg('entrySheet.what'),
            `${entry.contact.count ?? ''} ${term(entry.contact.kind)}${entry.contact.species ? msg('entrySheet.likely', { species: term(entry.contact.species) }) : ''}`.trim(),
          ],
          [
            term('depth'),
            entry.contact.top_m === null ? '–' : depthRange(entry.contact.top_m, entry.contact.bottom_m ?? entry.contact.top_m),
          ],
          [msg('entrySheet.water'), entry.contact.water_depth_m === null ? '–' : formatDepth(entry.contact.water_depth_m)],
          [msg('entrySheet.seenWith'), entry.contact.view === null ? '–' : term(entry.contact.view)],
        ]
      : stopLines(entry.stop);
  if (from)
    lines.push([
      msg('entrySheet.goBack'),
      msg('entrySheet.mBearingFromWhere', { from: Math.round(distance(from, record)), from2: Math.round(bearing(from, record)) }),
    ]);
  // Of a trip long past the day says more.
  if (Date.now() - entry.at < DAY_MS) lines.push([msg('entrySheet.since'), agoWords(Date.now() - entry.at)]);
  const name = entry.kind === 'contact' ? 'mark' : isBlank(entry.stop) ? 'blank' : 'stop';
  const words = entry.kind === 'contact' ? lines[0][1] : name === 'blank' ? msg('entrySheet.nothingHere') : msg('entrySheet.aStop');
  return (
    <Dialog title={clockInZone(new Date(entry.at), zone)} onClose={onClose}>
      <dl className="num grid grid-cols-[6rem_1fr] gap-y-1">
        {[...lines, [msg('entrySheet.where'), `${record.latitude.toFixed(5)}, ${record.longitude.toFixed(5)}`]].map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-mute">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      {from && (
        <button
          type="button"
          className="btn btn-primary mt-3 h-12 w-full"
          onClick={() => {
            onGoBack();
            onClose();
          }}
        >
          {msg('entrySheet.goBackToIt')}
        </button>
      )}
      {entry.kind === 'contact' && (
        <MarkDetails water={water} contact={entry.contact} species={species} onChange={(change) => onContact(entry.contact.id, change)} />
      )}
      {entry.kind === 'stop' && !isBlank(entry.stop) && (
        <label className="mt-4 flex items-center justify-between gap-3">
          {msg('entrySheet.howDidItGo')}
          <select
            className="select h-12 w-60"
            value={entry.stop.outcome ?? ''}
            onChange={(e) => {
              onOutcome(entry.stop.id, { ...asSent('stops', entry.stop), outcome: e.target.value });
              onClose();
            }}
          >
            {entry.stop.outcome === null && <option value="">{msg('entrySheet.notSaidYet')}</option>}
            {Object.entries(OUTCOME_WORDS).map(([outcome, words]) => (
              <option key={outcome} value={outcome}>
                {words}
              </option>
            ))}
          </select>
        </label>
      )}
      {responses.length > 0 && (
        <ul aria-label={msg('entrySheet.whatTheFishDid')} className="mt-3 flex flex-col gap-1">
          {responses.map((r) => (
            <li key={r.id}>
              <button type="button" className="btn h-auto min-h-11 w-full justify-start px-3 text-left" onClick={() => onResponse(r.id)}>
                <b className="capitalize">{term(r.response)}</b>
                <span className="num font-normal">{responseWords(r)}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      {entry.kind === 'contact' && (
        <DepthAndPlace contact={entry.contact} from={from} onChange={(change) => onContact(entry.contact.id, change)} />
      )}
      {extra}
      <DeleteButton
        label={msg('entrySheet.delete', { name })}
        goes={msg('entrySheet.theAtGoes', {
          name,
          kind: entry.kind === 'contact' ? msg('entrySheet.of', { words }) : '',
          at: clockInZone(new Date(entry.at), zone),
          responses: responses.length
            ? msg('entrySheet.with', {
                responses:
                  responses.length === 1
                    ? msg('entrySheet.whatAFishDid')
                    : msg('entrySheet.responsesOfFish', { responses: responses.length }),
              })
            : '',
        })}
        onDelete={() => {
          onRemove(words, [
            ...responses.map((r) => ({ record: 'responses' as const, id: r.id, row: r })),
            entry.kind === 'contact'
              ? { record: 'contacts' as const, id: record.id, row: entry.contact }
              : { record: 'stops' as const, id: record.id, row: entry.stop },
          ]);
          onClose();
        }}
      />
    </Dialog>
  );
}
