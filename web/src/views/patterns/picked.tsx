import { X } from 'lucide-react';
import { useMemo, useState } from 'react';
import type { PickedContact } from '@restless-shoal/core/patterns';
import { Column } from '../../parts/column';
import { depthText, grouped, inZone } from '../../parts/format';
import { WaterMap, type MapMark } from '../../parts/water-map';
import { useUnits } from '../../state/units';
import { useWaterState } from '../../state/water';
import type { ContourLine } from '@restless-shoal/core/chart';
import { patterns as msg, term } from '../../words';

const NO_LINES: ContourLine[] = [];
const SHOWN = 120;

/** The contacts behind what was pointed at: as Columns and on the map. */
export function Picked({
  words,
  contacts,
  onFindSimilar,
  onClose,
}: {
  words: string;
  contacts: PickedContact[] | null;
  onFindSimilar: (places: [number, number][]) => void;
  onClose: () => void;
}) {
  const { water } = useWaterState();
  const { depth: unit } = useUnits();
  const [chosen, setChosen] = useState<PickedContact | null>(null);
  const marks = useMemo((): MapMark[] => (contacts ?? []).map((c, i) => ({ id: `${i}`, kind: c.kind, x: c.x, y: c.y })), [contacts]);
  const max = Math.max(5, ...(contacts ?? []).map((c) => c.water)) * 1.05;
  return (
    <aside
      aria-label={msg('picked.contactsPointedAt')}
      data-testid="picked"
      className="absolute inset-y-0 right-0 z-10 flex w-[min(33rem,100%)] flex-col border-l-2 border-act bg-surface shadow-[-8px_0_24px_rgb(0_0_0/0.18)]"
    >
      <div className="flex items-start justify-between gap-2 px-4 pt-3">
        <div>
          <h2 className="text-lg font-bold leading-tight">{words}</h2>
          <p className="num text-sm text-mute" data-testid="picked-count">
            {contacts
              ? msg('picked.targetEachOnceThe', { contacts: grouped(contacts.length), contacts2: contacts.length })
              : msg('picked.loading')}
          </p>
        </div>
        <button type="button" className="btn btn-ghost touch-target px-2" aria-label={msg('picked.close')} onClick={onClose}>
          <X aria-hidden />
        </button>
      </div>
      <div className="mx-4 mt-1 h-[38%] overflow-hidden rounded-box border border-line">
        <WaterMap
          label={msg('picked.whereTheyWere')}
          contours={NO_LINES}
          marks={marks}
          point={chosen && [chosen.x, chosen.y]}
          goTo={chosen && [chosen.x, chosen.y]}
        />
      </div>
      {chosen && (
        <div className="mx-4 mt-2 flex items-center gap-3 rounded-box border border-line p-2">
          <p className="num min-w-0 flex-1 text-sm">
            <b>
              {chosen.count > 1 ? `${chosen.count} ` : ''}
              {term(chosen.species ?? chosen.kind)}
            </b>
            {msg('picked.atOver', {
              confirmed: chosen.confirmed !== 'none' ? msg('picked.by', { confirmed: term(chosen.confirmed) }) : '',
              top: chosen.top === null ? msg('picked.noDepthGiven') : depthText(chosen.top, unit),
              water: depthText(chosen.water, unit),
            })}
            <span className="block text-mute">
              {inZone(new Date(chosen.at), water.time_zone, {
                day: 'numeric',
                month: 'short',
                year: 'numeric',
                hour: '2-digit',
                minute: '2-digit',
              })}{' '}
              · {msg('picked.surfaceC', { surface: chosen.surface })}
              {chosen.cover && chosen.cover !== 'none' ? ` · ${term(chosen.cover)}` : ''}
            </span>
          </p>
          <button type="button" className="btn btn-primary touch-target" onClick={() => onFindSimilar([[chosen.x, chosen.y]])}>
            {msg('picked.findSimilarSpots')}
          </button>
        </div>
      )}
      <ol
        className="mt-2 flex min-h-0 flex-1 flex-wrap content-start gap-x-1 gap-y-2 overflow-y-auto px-4 pb-3"
        aria-label={msg('picked.contactsAsColumns')}
      >
        {(contacts ?? []).slice(0, SHOWN).map((c, i) => {
          const depth = c.top === null ? c.water * 0.8 : (c.top + (c.bottom ?? c.top)) / 2;
          return (
            <li key={i}>
              <button
                type="button"
                className={`cursor-pointer rounded px-0.5 text-center ${chosen === c ? 'outline-2 outline-act' : ''}`}
                aria-pressed={chosen === c}
                onClick={() => setChosen(c)}
              >
                <Column
                  width={40}
                  height={92}
                  max={max}
                  bottom={c.water}
                  hardness={c.hardness}
                  thermocline={c.thermocline}
                  fish={c.kind === 'fish' ? [{ depth, count: Math.min(3, c.count) }] : []}
                  bait={c.kind === 'bait' ? { top: c.top ?? depth, bottom: c.bottom ?? depth } : null}
                  cover={c.cover && c.cover !== 'none' ? 1.5 : null}
                  label={msg('picked.atOver2', {
                    species: c.species ?? c.kind,
                    depth: depthText(depth, unit),
                    water: depthText(c.water, unit),
                  })}
                />
                <span className="num block text-[11px] leading-tight text-mute">
                  {inZone(new Date(c.at), water.time_zone, { day: 'numeric', month: 'short' })}
                </span>
              </button>
            </li>
          );
        })}
        {(contacts?.length ?? 0) > SHOWN && (
          <li className="w-full text-sm text-mute">{msg('picked.andOlderOnesAll', { contacts: grouped(contacts!.length - SHOWN) })}</li>
        )}
      </ol>
    </aside>
  );
}
