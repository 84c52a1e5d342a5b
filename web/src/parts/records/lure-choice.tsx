import type { StoredGear } from '../../api/queries';
import { useGear } from '../../state/use-gear';
import { deck as msg } from '../../words';

/** The lures of the gear, to be chosen by touch. */
export function LureChoice({ chosen, onChoose }: { chosen: string; onChoose: (lure: StoredGear) => void }) {
  const lures = (useGear().gear ?? []).filter((g) => g.kind === 'lure');
  if (!lures.length) return null;
  return (
    <div role="group" aria-label={msg('lureChoice.myLures')} className="flex max-h-40 flex-wrap gap-1.5 overflow-y-auto">
      {lures.map((g) => (
        <button
          key={g.id}
          type="button"
          aria-pressed={g.name === chosen}
          className={`btn h-11 max-w-full px-3 ${g.name === chosen ? 'btn-primary' : ''}`}
          onClick={() => onChoose(g)}
        >
          <span className="truncate">{[g.name, g.mass_g !== null && `${g.mass_g} g`].filter(Boolean).join(' · ')}</span>
        </button>
      ))}
    </div>
  );
}
