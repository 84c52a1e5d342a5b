import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { SpotYield } from '../../api/queries';
import { SpotSheet, yieldWords } from '../../parts/spots';
import { Waiting } from '../../parts/waiting';
import { useSpots } from '../../state/use-spots';
import { logbook as msg } from '../../words';

/** The named places of a water: what each yielded, notes, and where it lies. */
export function Spots({ water, zone, words }: { water: string; zone: string | null; words: string }) {
  const { spots, failed, add, change, remove } = useSpots(water);
  const [open, setOpen] = useState<SpotYield | 'new' | null>(null);
  if (!spots) return <Waiting what={msg('spots.theSpots')} failed={failed} />;
  const sought = words.trim().toLowerCase();
  const shown = spots.filter((s) => `${s.name} ${s.notes ?? ''}`.toLowerCase().includes(sought));
  return (
    <div
      className="min-h-0 flex-1 overflow-y-auto p-4 max-lg:p-3"
      tabIndex={0}
      role="group"
      aria-label={msg('spots.spots')}
      data-testid="spots"
    >
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <p className="max-w-2xl text-sm text-mute">{msg('spots.placesYouFish')}</p>
        <button type="button" className="btn btn-primary touch-target" onClick={() => setOpen('new')}>
          <Plus size={18} aria-hidden /> {msg('spots.addSpot')}
        </button>
      </div>
      {!shown.length && <p className="p-4 text-mute">{spots.length ? msg('spots.noSpotMatches') : msg('spots.noSpotYet')}</p>}
      <ul>
        {shown.map((s) => (
          <li key={s.id} className="border-b border-line">
            <button type="button" className="block min-h-14 w-full rounded px-1 py-2 text-left hover:bg-surface" onClick={() => setOpen(s)}>
              <b className="block">{s.name}</b>
              <span className="num block text-sm">{yieldWords(s, zone)}</span>
              {s.notes && <span className="block text-sm text-mute">{s.notes}</span>}
            </button>
          </li>
        ))}
      </ul>
      {open && (
        <SpotSheet
          spot={open === 'new' ? null : open}
          onSave={(as) =>
            open === 'new' ? add(as, msg('spots.added', { name: as.name })) : change(open, as, msg('spots.changed', { name: as.name }))
          }
          onDelete={open === 'new' ? undefined : () => remove(open, msg('spots.deleted', { name: open.name }))}
          onClose={() => setOpen(null)}
        />
      )}
    </div>
  );
}
