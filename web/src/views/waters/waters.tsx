import { FileUp, Plus, Settings2 } from 'lucide-react';
import { useState } from 'react';
import { useWaters, type WaterSummary } from '../../api/queries';
import { Dialog } from '../../parts/dialog';
import { grouped, zoneWords } from '../../parts/format';
import { useImporting } from '../../state/importing';
import { useUnits } from '../../state/units';
import { Backups } from './backups';
import { NewWater, type NextStep } from './new-water';
import { TrashLink } from './trash';
import { WaterSheet } from './water-sheet';
import { formatDepth, waters as msg, term } from '../../words';

/** All waters: open one, begin another, put one right. */
export function WatersView({
  current,
  onOpen,
  onMade,
}: {
  current: string;
  onOpen: (id: string) => void;
  onMade: (id: string, next: NextStep) => void;
}) {
  const { data: waters = [] } = useWaters();
  const units = useUnits();
  const importing = useImporting();
  const [adding, setAdding] = useState(false);
  const [settings, setSettings] = useState<WaterSummary | null>(null);
  const row = (w: WaterSummary) => (
    <li key={w.id} className="flex items-stretch gap-2 border-t border-line py-2">
      <button
        type="button"
        className={`min-h-14 min-w-0 flex-1 rounded-box border-2 px-3 py-1.5 text-left ${w.id === current ? 'border-act bg-surface' : 'border-transparent hover:bg-surface'}`}
        onClick={() => onOpen(w.id)}
      >
        <b className="block truncate text-lg">{w.name}</b>
        <span className="num block text-sm text-mute">
          {[
            w.kind && term(w.kind),
            w.trips ? msg('waters.trips', { trips: w.trips }) : msg('waters.noTripYet'),
            w.contacts > 0 && msg('waters.marks', { contacts: grouped(w.contacts) }),
            w.soundings
              ? msg('waters.soundings', { soundings: grouped(w.soundings) })
              : w.deepest_m !== null
                ? msg('waters.toNoChartYet', { deepest_m: formatDepth(w.deepest_m, units) })
                : msg('waters.noChartYet'),
            w.time_zone && zoneWords(w.time_zone),
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
      </button>
      <button
        type="button"
        className="btn h-auto min-h-14 px-3"
        aria-label={msg('waters.settingsOf', { name: w.name })}
        onClick={() => setSettings(w)}
      >
        <Settings2 aria-hidden />
      </button>
    </li>
  );
  const [active, archived] = [waters.filter((w) => !w.archived_at), waters.filter((w) => w.archived_at)];
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto flex max-w-2xl flex-col gap-3 p-5">
        <h1 className="text-2xl font-bold">{msg('waters.yourWaters')}</h1>
        <ul aria-label={msg('waters.waters')} className="border-b border-line">
          {active.map(row)}
        </ul>
        <div className="flex flex-wrap gap-2">
          <button type="button" className="btn btn-primary h-12" onClick={() => setAdding(true)}>
            <Plus aria-hidden /> {msg('waters.startAWater')}
          </button>
          <button type="button" className="btn h-12" onClick={() => importing(null)}>
            <FileUp aria-hidden /> {msg('waters.importANewWater')}
          </button>
        </div>
        {archived.length > 0 && (
          <details>
            <summary className="touch-target cursor-pointer content-center">
              {msg('waters.archived', { archived: archived.length })}
            </summary>
            <ul aria-label={msg('waters.archivedWaters')}>{archived.map(row)}</ul>
          </details>
        )}
        <TrashLink />
        <Backups />
        {adding && (
          <Dialog title={msg('waters.aNewWater')} onClose={() => setAdding(false)}>
            <NewWater
              onMade={(id, next) => {
                setAdding(false);
                onMade(id, next);
              }}
            />
          </Dialog>
        )}
        {settings && <WaterSheet water={settings} onClose={() => setSettings(null)} />}
      </div>
    </div>
  );
}
