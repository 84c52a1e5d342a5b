import { useQueryClient } from '@tanstack/react-query';
import { FileUp, PencilLine } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { parseMeasure, toUnit } from '@restless-shoal/core/units';
import { ask } from '../../api/client';
import { useImporting } from '../../state/importing';
import { useUnits } from '../../state/units';
import { useWaterState } from '../../state/water';
import { brief as msg } from '../../words';
import { told } from '../../parts/told';

/** What a Brief without depths goes by, to be typed in, and what would make it better. */
export function ToKnowMore() {
  const { water, conditions, setWhatIf, ground } = useWaterState();
  const units = useUnits();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const importing = useImporting();
  const shown = (metres: number | null): string => (metres === null ? '' : toUnit(metres, 'depth', units).toFixed(1));
  const [deepest, setDeepest] = useState(shown(water.deepest_m));
  const [clarity, setClarity] = useState(shown(conditions.secchi));
  const [failed, setFailed] = useState<string | null>(null);
  const metresOf = (text: string, least: number, most: number): number => {
    const metres = parseMeasure(text, 'depth', units.depth);
    if (!(metres >= least && metres <= most)) throw new RangeError();
    return metres;
  };
  const save = async (): Promise<void> => {
    setFailed(null);
    try {
      const deep = deepest.trim() ? metresOf(deepest, 0.3, 1700) : null;
      const secchi = clarity.trim() ? metresOf(clarity, 0.05, 80) : null;
      if (secchi !== null && Math.abs(secchi - conditions.secchi) > 0.04) setWhatIf({ secchi });
      if (deep !== water.deepest_m) {
        await ask('PUT /waters/:water', { water: water.id }, { body: { name: water.name, deepest_m: deep } });
        await queries.invalidateQueries({ queryKey: ['water', water.id] });
      }
    } catch (error) {
      setFailed(error instanceof RangeError ? msg('toKnowMore.depthAndClarityMust') : told(error));
    }
  };
  const field = 'grid grid-cols-[1fr_6rem_2rem] items-center gap-2';
  return (
    <section aria-label={msg('toKnowMore.whatThisIsBased')} className="flex flex-col gap-2">
      <h2 className="font-semibold">{msg('toKnowMore.noDepthsYetThis')}</h2>
      <form
        className="flex flex-col gap-1.5"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <label className={field}>
          <span className="text-sm">{msg('toKnowMore.deepestWater')}</span>
          <input className="input num h-11" inputMode="decimal" value={deepest} onChange={(e) => setDeepest(e.target.value)} />
          {units.depth}
        </label>
        <label className={field}>
          <span className="text-sm">{msg('toKnowMore.claritySecchi')}</span>
          <input className="input num h-11" inputMode="decimal" value={clarity} onChange={(e) => setClarity(e.target.value)} />
          {units.depth}
        </label>
        {failed && (
          <p role="alert" className="text-sm text-warn">
            {failed}
          </p>
        )}
        <button type="submit" className="btn touch-target">
          {msg('toKnowMore.updateTheBrief')}
        </button>
      </form>
      <p className="mt-2 text-sm text-mute">
        {water.outline ? msg('toKnowMore.depthsWouldHelpMost') : msg('toKnowMore.anOutlineWouldHelp')}
      </p>
      <div className="grid grid-cols-2 gap-2 print:hidden">
        <button type="button" className="btn touch-target px-2" onClick={() => importing(water.name)}>
          <FileUp size={18} aria-hidden /> {msg('toKnowMore.importFiles')}
        </button>
        {!water.outline && (
          <button type="button" className="btn touch-target px-2" onClick={() => void navigate(ground ? '/chart?tool=draw' : '/waters')}>
            <PencilLine size={18} aria-hidden /> {ground ? msg('toKnowMore.drawOutline') : msg('toKnowMore.setPosition')}
          </button>
        )}
      </div>
    </section>
  );
}
