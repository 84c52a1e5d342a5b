import { useState } from 'react';
import { adviseSettings, type LookPlan, type Purpose } from '@restless-shoal/core/sonar';
import { Segments } from '../../parts/segments';
import { bench as msg, capital, say, term } from '../../words';

const VIEWS = ['sounder', 'side-scan', 'forward-facing'] as const;
const PURPOSES = ['fish', 'bottom'] as const;
/** Frequencies that most rigs can be set to, kHz. */
const FREQUENCIES = [200, 800] as const;

/** Settings to begin with, each with its reason; where anglers differ, by what the picture is for. */
export function Adviser({ plan }: { plan: Omit<LookPlan, 'view' | 'purpose' | 'frequencies'> }) {
  const [view, setView] = useState<LookPlan['view']>('sounder');
  const [purpose, setPurpose] = useState<Purpose>('fish');
  return (
    <section className="mt-4 max-w-3xl border-t border-line pt-3" aria-label={msg('adviser.title')}>
      <h2 className="mb-2 text-lg font-bold">{msg('adviser.title')}</h2>
      <Segments label={msg('adviser.view')} value={view} options={VIEWS.map((v) => [v, capital(term(v))] as const)} onChange={setView} />
      <div className="mt-2">
        <Segments
          label={msg('adviser.for')}
          value={purpose}
          options={PURPOSES.map((p) => [p, msg(`adviser.${p}`)] as const)}
          onChange={setPurpose}
        />
      </div>
      <ul className="num mt-2 flex flex-col gap-1.5">
        {adviseSettings({ ...plan, view, purpose, frequencies: FREQUENCIES }).map((s) => (
          <li key={s.code}>{say(s)}</li>
        ))}
      </ul>
    </section>
  );
}
