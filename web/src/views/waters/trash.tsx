import type { TrashItem } from '@restless-shoal/core/contract';
import { useQueryClient } from '@tanstack/react-query';
import { RotateCcw, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { sendJson } from '../../api/client';
import { useTrash } from '../../api/queries';
import { Dialog } from '../../parts/dialog';
import { clockInZone, dayInZone } from '../../parts/format';
import { refresh } from '../../state/jobs';

const DAY = 86_400_000;

const counted = (n: number | null, one: string, many: string): string | null => (n ? `${n} ${n === 1 ? one : many}` : null);

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
        title: water,
        more: [counted(trips, 'trip', 'trips'), counted(marks, 'mark', 'marks')].filter(Boolean).join(', ') || 'an empty water',
      };
    case 'trip':
      return {
        title: `Trip ${trip}`,
        more: [on, counted(marks, 'mark', 'marks'), counted(stops, 'stop', 'stops')].filter(Boolean).join(', '),
      };
    case 'stop':
      return { title: kind === 'nothing' ? 'Stop without result' : 'Stop', more: on };
    case 'contact':
      return {
        title: ['Mark:', kind === 'fish' && count ? String(count) : null, kind, species && `(${species})`].filter(Boolean).join(' '),
        more: on,
      };
    case 'response':
      return { title: kind === 'landed' ? `Fish landed${species ? ` (${species})` : ''}` : `Response: ${kind}`, more: on };
  }
}

/** Where a thing is brought back. */
function restorePath({ what, id, water_id, trip_id }: TrashItem): string {
  if (what === 'water') return `/waters/${id}/restore`;
  if (what === 'trip') return `/waters/${water_id}/trips/${id}/restore`;
  return `/trips/${trip_id}/${what === 'contact' ? 'contacts' : what === 'stop' ? 'stops' : 'responses'}/${id}/restore`;
}

/** What was deleted, and the way to have it back. */
export function TrashSheet({ onClose }: { onClose: () => void }) {
  const queries = useQueryClient();
  const { data, error } = useTrash();
  const [failed, setFailed] = useState<string | null>(null);
  const restore = async (item: TrashItem): Promise<void> => {
    setFailed(null);
    try {
      await sendJson('POST', restorePath(item), {});
      await Promise.all([
        refresh(queries),
        queries.invalidateQueries({ queryKey: ['trash'] }),
        queries.invalidateQueries({ queryKey: ['trip'] }),
      ]);
    } catch (problem) {
      setFailed((problem as Error).message);
    }
  };
  return (
    <Dialog title="Trash" onClose={onClose}>
      {(failed ?? error) && (
        <p role="alert" className="mb-2 border-l-4 border-warn pl-3 text-warn">
          {failed ?? error?.message}
        </p>
      )}
      {data && !data.items.length && <p className="text-mute">Nothing was deleted in the last {data.days} days.</p>}
      {data && data.items.length > 0 && (
        <>
          <p className="mb-2 text-sm text-mute">What you delete is kept for {data.days} days.</p>
          <ul className="max-h-[60vh] divide-y divide-line overflow-y-auto border-y border-line">
            {data.items.map((item) => {
              const { title, more } = itemWords(item);
              const left = Math.max(0, data.days - Math.floor((Date.now() - Date.parse(item.deleted_at)) / DAY));
              return (
                <li key={`${item.what} ${item.id}`} className="flex items-center gap-2 py-1.5">
                  <span className="min-w-0 flex-1">
                    <b className="block truncate">{title}</b>
                    <span className="num block text-sm text-mute">
                      {more} · {left} {left === 1 ? 'day' : 'days'} left
                    </span>
                  </span>
                  <button
                    type="button"
                    className="btn touch-target shrink-0 px-3"
                    aria-label={`Bring back ${title}`}
                    onClick={() => void restore(item)}
                  >
                    <RotateCcw size={18} aria-hidden /> Bring back
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
        <Trash2 size={18} aria-hidden /> Trash <b className="num">{data?.items.length ?? 0}</b>
      </button>
      {open && <TrashSheet onClose={() => setOpen(false)} />}
    </>
  );
}
