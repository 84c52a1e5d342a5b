import type { TrashItem } from '@restless-shoal/core/contract';
import { useQueryClient } from '@tanstack/react-query';
import { RotateCcw, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { ask } from '../../api/client';
import { useTrash } from '../../api/queries';
import { Dialog } from '../../parts/dialog';
import { clockInZone, dayInZone } from '../../parts/format';
import { refresh } from '../../state/jobs';
import { waters as msg, term } from '../../words';
import { told } from '../../parts/told';

const DAY = 86_400_000;

const counted = (n: number | null, key: 'trash.trips' | 'trash.marks' | 'trash.stops'): string | null => (n ? msg(key, { n }) : null);

/** What a thing in the trash is, in words. */
function itemWords({ what, kind, species, count, trip, water, time, time_zone, trips, marks, stops }: TrashItem): {
  title: string;
  more: string;
} {
  const when = time ? `${dayInZone(new Date(time), time_zone)} ${clockInZone(new Date(time), time_zone)}` : '';
  const on = `${when}, ${water}`;
  switch (what) {
    case 'water':
      return {
        title: water ?? '',
        more: [counted(trips, 'trash.trips'), counted(marks, 'trash.marks')].filter(Boolean).join(', ') || msg('trash.anEmptyWater'),
      };
    case 'trip':
      return {
        title: msg('trash.trip', { trip: trip ?? '' }),
        more: [on, counted(marks, 'trash.marks'), counted(stops, 'trash.stops')].filter(Boolean).join(', '),
      };
    case 'stop':
      return { title: kind === 'nothing' ? msg('trash.stopWithoutResult') : msg('trash.stop'), more: on };
    case 'contact':
      return {
        title: msg('trash.mark', {
          what: [kind === 'fish' && count ? String(count) : null, term(kind ?? ''), species && `(${term(species)})`]
            .filter(Boolean)
            .join(' '),
        }),
        more: on,
      };
    case 'response':
      return {
        title:
          kind === 'landed'
            ? msg('trash.fishLanded', { species: species ? ` (${term(species)})` : '' })
            : msg('trash.response', { kind: term(kind ?? '') }),
        more: on,
      };
    case 'reading':
      return { title: msg('trash.reading'), more: on };
    case 'spot':
      return { title: msg('trash.spot', { name: kind ?? '' }), more: water ?? '' };
    case 'photo':
      return { title: msg('trash.photo'), more: on };
    case 'gear':
      return { title: msg('trash.gear', { name: kind ?? '' }), more: '' };
  }
}

const RECORDS = { contact: 'contacts', stop: 'stops', response: 'responses', reading: 'conditions', photo: 'photos' } as const;

/** Brings a thing back to where it was. */
const restored = ({ what, id, water_id, trip_id }: TrashItem): Promise<unknown> =>
  what === 'water'
    ? ask('POST /waters/:water/restore', { water: id })
    : what === 'trip'
      ? ask('POST /waters/:water/trips/:trip/restore', { water: water_id!, trip: id })
      : what === 'spot'
        ? ask('POST /waters/:water/spots/:spot/restore', { water: water_id!, spot: id })
        : what === 'gear'
          ? ask('POST /gear/:id/restore', { id })
          : ask(`POST /trips/:trip/${RECORDS[what]}/:id/restore`, { trip: trip_id!, id });

/** What was deleted, and the way to have it back. */
export function TrashSheet({ onClose }: { onClose: () => void }) {
  const queries = useQueryClient();
  const { data, error } = useTrash();
  const [failed, setFailed] = useState<string | null>(null);
  const restore = async (item: TrashItem): Promise<void> => {
    setFailed(null);
    try {
      await restored(item);
      await Promise.all([
        refresh(queries),
        queries.invalidateQueries({ queryKey: ['trash'] }),
        queries.invalidateQueries({ queryKey: ['trip'] }),
      ]);
    } catch (problem) {
      setFailed(told(problem));
    }
  };
  return (
    <Dialog title={msg('trash.trash')} onClose={onClose}>
      {(failed ?? error) && (
        <p role="alert" className="mb-2 border-l-4 border-warn pl-3 text-warn">
          {failed ?? error?.message}
        </p>
      )}
      {data && !data.items.length && <p className="text-mute">{msg('trash.nothingWasDeletedIn', { days: data.days })}</p>}
      {data && data.items.length > 0 && (
        <>
          <p className="mb-2 text-sm text-mute">{msg('trash.whatYouDeleteIs', { days: data.days })}</p>
          <ul className="max-h-[60vh] divide-y divide-line overflow-y-auto border-y border-line">
            {data.items.map((item) => {
              const { title, more } = itemWords(item);
              const left = Math.max(0, data.days - Math.floor((Date.now() - Date.parse(item.deleted_at)) / DAY));
              return (
                <li key={`${item.what} ${item.id}`} className="flex items-center gap-2 py-1.5">
                  <span className="min-w-0 flex-1">
                    <b className="block truncate">{title}</b>
                    <span className="num block text-sm text-mute">{msg('trash.dayLeft', { more, left })}</span>
                  </span>
                  <button
                    type="button"
                    className="btn touch-target shrink-0 px-3"
                    aria-label={msg('trash.bringBack', { title })}
                    onClick={() => void restore(item)}
                  >
                    <RotateCcw size={18} aria-hidden /> {msg('trash.bringBack2')}
                  </button>
                </li>
              );
            })}
          </ul>
        </>
      )}
    </Dialog>
  );
}

/** Opens the trash, where something lies in it. */
export function TrashLink() {
  const { data } = useTrash();
  const [open, setOpen] = useState(false);
  if (!data?.items.length && !open) return null;
  return (
    <>
      <button type="button" className="btn btn-ghost touch-target self-start px-2" onClick={() => setOpen(true)}>
        <Trash2 size={18} aria-hidden /> {msg('trash.trash')} <b className="num">{data?.items.length ?? 0}</b>
      </button>
      {open && <TrashSheet onClose={() => setOpen(false)} />}
    </>
  );
}
