import { useSearchParams } from 'react-router';
import { Segments } from '../../parts/segments';
import { bench as msg } from '../../words';
import { Beams } from './beams';
import { SideScan } from './side-scan';
import { Tuning } from './tuning';

const SHOWN = ['beams', 'side-scan', 'tuning'] as const;
const NAMES = { beams: 'beams', 'side-scan': 'sideScan', tuning: 'tuning' } as const;

/** The sonar's own arithmetic: what a beam shows and hides, and what a side-scan reading says. */
export function Bench() {
  const [address, setAddress] = useSearchParams();
  const show = SHOWN.find((s) => s === address.get('show')) ?? 'beams';
  return (
    <div className="flex h-full flex-col">
      <header className="flex flex-wrap items-center justify-between gap-3 border-b border-line bg-surface px-4 py-3 max-lg:px-3">
        <h1 className="text-2xl font-bold">{msg('bench.bench')}</h1>
        <div className="w-80 max-w-full">
          <Segments
            label={msg('bench.whatIsShown')}
            value={show}
            options={[
              ['beams', msg('bench.beams')],
              ['side-scan', msg('bench.sideScan')],
              ['tuning', msg('bench.tuning')],
            ]}
            onChange={(next) => setAddress(next === 'beams' ? {} : { show: next }, { replace: true })}
          />
        </div>
      </header>
      <div className="min-h-0 flex-1 overflow-y-auto p-4 max-lg:p-3" tabIndex={0} role="group" aria-label={msg(`bench.${NAMES[show]}`)}>
        {show === 'beams' ? <Beams /> : show === 'side-scan' ? <SideScan /> : <Tuning />}
      </div>
    </div>
  );
}
