import { X } from 'lucide-react';
import { useState } from 'react';
import type { Spot, SpotYield, Water } from '../../api/queries';
import { SpotSheet, yieldWords } from '../../parts/spots';
import { chart as msg, formatLength, logbook } from '../../words';

interface ChosenSignProps {
  /** What was pressed: "spot ID", or "sent ID" of a mark from somebody else. */
  sign: string;
  spots: SpotYield[] | null;
  cover: Water['cover'];
  zone: string | null;
  onChange: (was: Spot, as: Omit<Spot, 'id'>, words: string) => Promise<void>;
  onRemove: (was: Spot, words: string) => Promise<void>;
  onClose: () => void;
}

/** A spot, or a mark from somebody else, that was pressed. */
export function ChosenSign({ sign, spots, cover, zone, onChange, onRemove, onClose }: ChosenSignProps) {
  const [whole, setWhole] = useState(false);
  const [kind, id] = sign.split(' ');
  const spot = kind === 'spot' ? spots?.find((s) => s.id === id) : undefined;
  const mark = kind === 'sent' ? cover.find((c) => String(c.id) === id) : undefined;
  if (!spot && !mark) return null;
  return (
    <div className="mb-2 flex items-start gap-2 border-b border-line pb-2" data-testid="chosen-sign">
      <div className="min-w-0 flex-1">
        <p className="font-bold">{spot?.name ?? mark?.name}</p>
        <p className="num text-sm">
          {spot
            ? yieldWords(spot, zone)
            : [
                msg('chosenSign.from', { source: mark!.source! }),
                mark!.within_m != null && msg('chosenSign.goodTo', { within: formatLength(mark!.within_m) }),
                mark!.placed_on,
              ]
                .filter(Boolean)
                .join(' · ')}
        </p>
        {mark && <p className="text-sm text-mute">{msg('chosenSign.inNoAnalysis')}</p>}
        {spot && (
          <button type="button" className="btn touch-target mt-1" onClick={() => setWhole(true)}>
            {msg('chosenSign.openTheSpot')}
          </button>
        )}
      </div>
      <button type="button" className="btn btn-ghost touch-target px-2" aria-label={msg('chosenSign.close')} onClick={onClose}>
        <X aria-hidden size={20} />
      </button>
      {spot && whole && (
        <SpotSheet
          spot={spot}
          onSave={(as) => onChange(spot, as, logbook('spots.changed', { name: as.name }))}
          onDelete={() => onRemove(spot, logbook('spots.deleted', { name: spot.name }))}
          onClose={() => setWhole(false)}
        />
      )}
    </div>
  );
}
