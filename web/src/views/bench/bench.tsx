import { useSearchParams } from 'react-router';
import { Segments } from '../../parts/segments';
import { bench as msg } from '../../words';
import { Beams } from './beams';
import { PictureReader } from './picture-reader';
import { Practice } from './practice';
import { SideScan } from './side-scan';
import { Tuning } from './tuning';

const SHOWN = ['beams', 'side-scan', 'picture', 'tuning', 'practice'] as const;
const NAMES = { beams: 'beams', 'side-scan': 'sideScan', picture: 'picture', tuning: 'tuning', practice: 'practice' } as const;
const VIEWS = { beams: Beams, 'side-scan': SideScan, picture: PictureReader, tuning: Tuning, practice: Practice };

/** The sonar's own arithmetic: what a beam shows and hides, what a picture says, how the rig is tuned, and practice at reading it. */
export function Bench() {
  const [address, setAddress] = useSearchParams();
  const show = SHOWN.find((s) => s === address.get('show')) ?? 'beams';
  const Shown = VIEWS[show];
  return (
    <div className="flex h-full flex-col">
      <header className="flex flex-wrap items-center justify-between gap-3 border-b border-line bg-surface px-4 py-3 max-lg:px-3">
        <h1 className="text-2xl font-bold">{msg('bench.bench')}</h1>
        <div className="w-[34rem] max-w-full">
          <Segments
            label={msg('bench.whatIsShown')}
            value={show}
            options={SHOWN.map((s) => [s, msg(`bench.${NAMES[s]}`)] as const)}
            onChange={(next) => setAddress(next === 'beams' ? {} : { show: next }, { replace: true })}
          />
        </div>
      </header>
      <div className="min-h-0 flex-1 overflow-y-auto p-4 max-lg:p-3" tabIndex={0} role="group" aria-label={msg(`bench.${NAMES[show]}`)}>
        <Shown />
      </div>
    </div>
  );
}
