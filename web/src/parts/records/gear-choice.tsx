import type { StoredGear } from '../../api/queries';
import { useGear } from '../../state/use-gear';
import { deck as msg } from '../../words';

interface GearChoiceProps {
  kind: 'lure' | 'rod';
  /** The name of the one in use. */
  chosen: string;
  onChoose: (piece: StoredGear) => void;
}

/** The lures or rods of the gear, to be chosen by touch. */
export function GearChoice({ kind, chosen, onChoose }: GearChoiceProps) {
  const own = (useGear().gear ?? []).filter((g) => g.kind === kind);
  if (!own.length) return null;
  return (
    <div role="group" aria-label={msg(`gearChoice.${kind}`)} className="flex max-h-40 flex-wrap gap-1.5 overflow-y-auto">
      {own.map((g) => (
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
