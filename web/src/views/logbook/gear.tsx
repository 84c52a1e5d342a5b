import { Plus } from 'lucide-react';
import { useState } from 'react';
import { GEAR_KINDS } from '@restless-shoal/core/logbook';
import type { StoredGear } from '../../api/queries';
import { Waiting } from '../../parts/waiting';
import { useGear } from '../../state/use-gear';
import { decimal, formatDepth, formatLength, logbook as msg } from '../../words';
import { GearSheet } from './gear-sheet';

/** A piece of gear, in a line. */
const gearWords = (g: StoredGear): string =>
  [
    g.mass_g !== null && `${decimal(g.mass_g, Number.isInteger(g.mass_g) ? 0 : 1)} g`,
    g.colour,
    g.presentation,
    g.sink_ms !== null && msg('gear.sinks', { rate: formatDepth(g.sink_ms) }),
    g.length_m !== null && formatLength(g.length_m),
    g.draught_m !== null && msg('gear.draws', { draught: formatDepth(g.draught_m) }),
    g.settings,
    g.notes,
  ]
    .filter(Boolean)
    .join(' · ');

/** Rods, lures, rigs and boats: kept once, chosen by touch on the Deck. */
export function Gear({ words }: { words: string }) {
  const { gear, failed, add, change, remove } = useGear();
  const [open, setOpen] = useState<StoredGear | 'new' | null>(null);
  if (!gear) return <Waiting what={msg('gear.theGear')} failed={failed} />;
  const sought = words.trim().toLowerCase();
  const shown = gear.filter((g) => `${g.name} ${gearWords(g)}`.toLowerCase().includes(sought));
  return (
    <div
      className="min-h-0 flex-1 overflow-y-auto p-4 max-lg:p-3"
      tabIndex={0}
      role="group"
      aria-label={msg('gear.gear')}
      data-testid="gear"
    >
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <p className="max-w-2xl text-sm text-mute">{msg('gear.whatYouFishWith')}</p>
        <button type="button" className="btn btn-primary touch-target" onClick={() => setOpen('new')}>
          <Plus size={18} aria-hidden /> {msg('gear.add')}
        </button>
      </div>
      {!shown.length && <p className="p-4 text-mute">{gear.length ? msg('gear.noneMatches') : msg('gear.noneYet')}</p>}
      {GEAR_KINDS.map((kind) => {
        const own = shown.filter((g) => g.kind === kind);
        return own.length === 0 ? null : (
          <section key={kind} aria-label={msg(`gear.${kind}s`)} className="mb-4">
            <h2 className="text-lg font-bold">{msg(`gear.${kind}s`)}</h2>
            <ul>
              {own.map((g) => (
                <li key={g.id} className="border-b border-line">
                  <button
                    type="button"
                    className="block min-h-14 w-full rounded px-1 py-2 text-left hover:bg-surface"
                    onClick={() => setOpen(g)}
                  >
                    <b className="block">{g.name}</b>
                    <span className="num block text-sm text-mute">{gearWords(g) || msg('gear.nothingMore')}</span>
                  </button>
                </li>
              ))}
            </ul>
          </section>
        );
      })}
      {open && (
        <GearSheet
          gear={open === 'new' ? null : open}
          taken={gear}
          onSave={(as) =>
            open === 'new' ? add(as, msg('gear.added', { name: as.name! })) : change(open, as, msg('gear.changed', { name: as.name! }))
          }
          onDelete={open === 'new' ? undefined : () => remove(open, msg('gear.deleted', { name: open.name }))}
          onClose={() => setOpen(null)}
        />
      )}
    </div>
  );
}
