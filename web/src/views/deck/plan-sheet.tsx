import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Navigation, Trash2 } from 'lucide-react';
import { bearing, distance, type LatLon } from '@restless-shoal/core/geo';
import { keepAndSend } from '../../offline/device';
import type { PlanPlace } from '../../api/queries';
import { Dialog } from '../../parts/dialog';
import { compass, depthText } from '../../parts/format';
import { useUnits } from '../../state/units';
import { deck as msg, formatLength } from '../../words';

/** The places on the plan, the nearest first: go there, or take it off. */
export function PlanSheet({
  water,
  places,
  from,
  onGo,
  onClose,
}: {
  water: string;
  places: PlanPlace[];
  from: LatLon | null;
  onGo: (id: string) => void;
  onClose: () => void;
}) {
  const queries = useQueryClient();
  const { depth: unit } = useUnits();
  const [failed, setFailed] = useState<string | null>(null);
  const sorted = from ? [...places].sort((a, b) => distance(from, a) - distance(from, b)) : places;
  const takeOff = (id: string): void => {
    setFailed(null);
    keepAndSend('DELETE /waters/:water/plan/:place', { water, place: id })
      .then(() => queries.invalidateQueries({ queryKey: ['plan', water] }))
      .catch((error: Error) => setFailed(error.message));
  };
  return (
    <Dialog title={msg('planSheet.planPlace', { places: places.length })} onClose={onClose}>
      {failed && (
        <p role="alert" className="mb-2 border-l-4 border-warn pl-2 text-warn">
          {failed}
        </p>
      )}
      <ul className="divide-y divide-line" aria-label={msg('planSheet.placesOnThePlan')}>
        {sorted.map((p) => (
          <li key={p.id} className="flex items-center gap-2 py-2">
            <div className="min-w-0 flex-1">
              <p className="font-semibold">
                {p.name}
                {p.depth_m !== null && <span className="num font-normal">, {depthText(p.depth_m, unit)}</span>}
              </p>
              <p className="num truncate text-sm text-mute">
                {from ? `${formatLength(Math.round(distance(from, p)))} ${compass(bearing(from, p))} · ` : ''}
                {p.words}
              </p>
            </div>
            <button
              type="button"
              className="btn touch-target px-3"
              onClick={() => {
                onGo(p.id);
                onClose();
              }}
            >
              <Navigation size={18} aria-hidden /> {msg('planSheet.go')}
            </button>
            <button
              type="button"
              className="btn touch-target px-3"
              aria-label={msg('planSheet.removeFromThePlan', { name: p.name })}
              onClick={() => takeOff(p.id)}
            >
              <Trash2 size={18} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
