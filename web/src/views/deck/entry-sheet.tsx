import { bearing, distance, type LatLon } from '@restless-shoal/core/geo';
import type { Contact, Response, Stop } from '@restless-shoal/core/logbook';
import type { SpeciesProfile } from '@restless-shoal/core/species';
import { DeleteButton } from '../../parts/delete-button';
import { Dialog } from '../../parts/dialog';
import { clockInZone } from '../../parts/format';
import type { DayEntry } from './day-strip';
import { MarkDetails } from './mark-details';
import { DepthAndPlace } from './depth-and-place';
import { asSent, OUTCOME_WORDS } from './outcome';
import { isBlank } from './tally';
import type { DeckRecord } from './use-deck-log';
import { useSay } from '../../state/units';

export const agoWords = (ms: number): string => {
  const minutes = Math.max(0, Math.round(ms / 60_000));
  return minutes < 1 ? 'just now' : minutes < 60 ? `${minutes} min ago` : `${Math.floor(minutes / 60)} h ${minutes % 60} min ago`;
};

function stopLines(stop: Stop): [string, string][] {
  const minutes = (Date.parse(stop.end) - Date.parse(stop.start)) / 60_000;
  if (isBlank(stop)) return [['what', 'nothing here']];
  return [
    [
      'fished',
      `${minutes < 1 ? 'under a minute' : `${Math.round(minutes)} min`}${stop.rods ? `, ${stop.rods} rod${stop.rods > 1 ? 's' : ''}` : ''}`,
    ],
    ['outcome', stop.outcome ? `${OUTCOME_WORDS[stop.outcome]}${stop.notes ? `: ${stop.notes}` : ''}` : 'not said yet'],
  ];
}

/** What a fish did, in a line. */
const responseWords = (r: Response): string =>
  [
    r.species,
    r.length_m != null && `${Math.round(r.length_m * 100)} cm`,
    r.mass_kg != null && `${r.mass_kg.toFixed(1)} kg`,
    r.fate,
    r.lure,
    r.lure_mass_g != null && `${r.lure_mass_g} g`,
    r.lure_colour,
    r.presentation,
    r.casts != null && `cast ${r.casts}`,
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
  /** Takes records into the trash. @param words what went */
  onRemove: (words: string, gone: { record: DeckRecord; id: string; row: object }[]) => void;
}) {
  const say = useSay();
  const record = entry.kind === 'contact' ? entry.contact : entry.stop;
  const lines: [string, string][] =
    entry.kind === 'contact'
      ? [
          [
            'what',
            `${entry.contact.count ?? ''} ${entry.contact.kind}${entry.contact.species ? `, likely ${entry.contact.species}` : ''}`.trim(),
          ],
          [
            'depth',
            entry.contact.top_m === null
              ? '–'
              : say(`${entry.contact.top_m.toFixed(1)}–${(entry.contact.bottom_m ?? entry.contact.top_m).toFixed(1)} m`),
          ],
          ['water', entry.contact.water_depth_m === null ? '–' : say(`${entry.contact.water_depth_m.toFixed(1)} m`)],
          ['seen with', entry.contact.view ?? '–'],
        ]
      : stopLines(entry.stop);
  if (from)
    lines.push([
      'go back',
      say(`${Math.round(distance(from, record))} m, bearing ${Math.round(bearing(from, record))}°, from where the boat is now`),
    ]);
  lines.push(['since', agoWords(Date.now() - entry.at)]);
  const name = entry.kind === 'contact' ? 'mark' : isBlank(entry.stop) ? 'blank' : 'stop';
  const words = entry.kind === 'contact' ? lines[0][1] : name === 'blank' ? 'nothing here' : 'a stop';
  return (
    <Dialog title={clockInZone(new Date(entry.at), zone)} onClose={onClose}>
      <dl className="num grid grid-cols-[6rem_1fr] gap-y-1">
        {[...lines, ['where', `${record.latitude.toFixed(5)}, ${record.longitude.toFixed(5)}`]].map(([name, value]) => (
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
          Go back to it
        </button>
      )}
      {entry.kind === 'contact' && (
        <MarkDetails contact={entry.contact} species={species} onChange={(change) => onContact(entry.contact.id, change)} />
      )}
      {entry.kind === 'stop' && !isBlank(entry.stop) && (
        <label className="mt-4 flex items-center justify-between gap-3">
          What came of it?
          <select
            className="select h-12 w-60"
            value={entry.stop.outcome ?? ''}
            onChange={(e) => {
              onOutcome(entry.stop.id, { ...asSent('stops', entry.stop), outcome: e.target.value });
              onClose();
            }}
          >
            {entry.stop.outcome === null && <option value="">not said yet</option>}
            {Object.entries(OUTCOME_WORDS).map(([outcome, words]) => (
              <option key={outcome} value={outcome}>
                {words}
              </option>
            ))}
          </select>
        </label>
      )}
      {responses.length > 0 && (
        <ul aria-label="What the fish did" className="mt-3 flex flex-col gap-1">
          {responses.map((r) => (
            <li key={r.id}>
              <button type="button" className="btn h-auto min-h-11 w-full justify-start px-3 text-left" onClick={() => onResponse(r.id)}>
                <b className="capitalize">{r.response}</b>
                <span className="num font-normal">{responseWords(r)}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      {entry.kind === 'contact' && (
        <DepthAndPlace contact={entry.contact} from={from} onChange={(change) => onContact(entry.contact.id, change)} />
      )}
      <DeleteButton
        label={`Delete ${name}`}
        goes={`The ${name}${entry.kind === 'contact' ? ` of ${words}` : ''} at ${clockInZone(new Date(entry.at), zone)} goes${responses.length ? `, with ${responses.length === 1 ? 'what a fish did there' : `${responses.length} responses of fish`}` : ''}.`}
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
