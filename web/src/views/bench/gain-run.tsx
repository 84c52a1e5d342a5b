import { Minus, Plus, X } from 'lucide-react';
import { useMemo, useState } from 'react';
import {
  absorption,
  bestContrast,
  detectionCurve,
  echoLoss,
  targetStrength,
  tuningPicture,
  type ContrastTry,
  type DetectionTry,
} from '@restless-shoal/core/sonar';
import { setRig, useRig } from '../../state/rig';
import { useWaterState } from '../../state/water';
import { bench as msg, decimal, formatDepth, formatFishLength } from '../../words';
import { PracticePicture } from './practice-picture';
import { Slider } from './slider';
import { useKept } from './use-kept';

/** Tries before a setting is named. */
const FEWEST = 6;
const USUAL = { depth: 6, length: 0.08, frequency: 200, gain: 40 };
/** Gains go in steps of this; a unit's scale as a rule ends at 100. */
const STEP = 5;
/** The simulated boat's gain in dB for a setting of 0–100, as strong as a small target has it. */
const simulatedDb = (gain: number): number => (gain - 40) / 2;
const SIMULATED_LOSS = -14;

/** Two buttons and a number: a gain that is stepped. */
function GainSteps({ gain, onGain }: { gain: number; onGain: (gain: number) => void }) {
  const step = (by: number, words: string, icon: React.ReactElement): React.ReactElement => (
    <button type="button" className="btn h-14 flex-1" aria-label={words} onClick={() => onGain(Math.max(0, Math.min(100, gain + by)))}>
      {icon}
    </button>
  );
  return (
    <div className="flex items-center gap-2" role="group" aria-label={msg('gainRun.gain')}>
      {step(-STEP, msg('gainRun.lower'), <Minus aria-hidden />)}
      <b className="num min-w-28 text-center text-xl">
        {msg('gainRun.gain')} {gain}
      </b>
      {step(STEP, msg('gainRun.higher'), <Plus aria-hidden />)}
    </div>
  );
}

/** The gain at which the smallest target that matters shows, from tries up and down; kept on the rig. */
export function GainRun() {
  const { day } = useWaterState();
  const rig = useRig();
  const [set, change] = useKept('bench gain', USUAL);
  const { depth, length, gain, frequency } = set;
  const [tries, setTries] = useState<DetectionTry[]>([]);
  const [simulated, setSimulated] = useState(false);
  const [kept, setKept] = useState(false);
  const curve = useMemo(() => (tries.length >= FEWEST ? detectionCurve(tries) : null), [tries]);
  const strength = targetStrength(length, frequency);
  const picture = useMemo(
    () => (simulated ? tuningPicture(depth, strength + SIMULATED_LOSS, simulatedDb(gain), 7 + tries.length) : null),
    [simulated, depth, strength, gain, tries.length],
  );
  const said = (seen: boolean): void => {
    setTries([...tries, { level: gain, seen }]);
    setKept(false);
  };
  const whole = (v: number): string => decimal(v, 0);
  return (
    <section className="mt-8 border-t border-line pt-4" aria-label={msg('gainRun.title')}>
      <h2 className="text-lg font-bold">{msg('gainRun.title')}</h2>
      <ol className="mt-1 list-decimal pl-6">
        <li>{msg('gainRun.hang')}</li>
        <li>{msg('gainRun.steps')}</li>
      </ol>
      <label className="touch-target mt-2 flex items-center gap-2">
        <input type="checkbox" className="checkbox" checked={simulated} onChange={(e) => setSimulated(e.target.checked)} />
        {msg('gainRun.simulated')}
      </label>
      <div className="max-w-xl">
        <Slider
          label={msg('gainRun.depth')}
          words={formatDepth(depth)}
          value={depth}
          min={1}
          max={30}
          step={0.5}
          onChange={(v) => change('depth', v)}
        />
        <Slider
          label={msg('gainRun.length')}
          words={formatFishLength(length)}
          value={length}
          min={0.03}
          max={0.5}
          step={0.01}
          onChange={(v) => change('length', v)}
        />
      </div>
      {picture && <PracticePicture picture={picture} pointed={NONE} />}
      <div className="mt-2 max-w-xl">
        <GainSteps gain={gain} onGain={(v) => change('gain', v)} />
        <div className="mt-2 grid grid-cols-2 gap-2">
          <button type="button" className="btn h-14 text-base" onClick={() => said(true)}>
            {msg('gainRun.seen')}
          </button>
          <button type="button" className="btn h-14 text-base" onClick={() => said(false)}>
            {msg('gainRun.notSeen')}
          </button>
        </div>
        {tries.length > 0 && (
          <ul className="mt-2 flex flex-wrap gap-1.5" aria-label={msg('gainRun.tries')}>
            {tries.map((t, k) => (
              <li key={k}>
                <button
                  type="button"
                  className="btn btn-sm touch-target num"
                  aria-label={msg('gainRun.try', { gain: t.level, seen: t.seen ? 'yes' : 'no' })}
                  onClick={() => setTries(tries.filter((_, j) => j !== k))}
                >
                  {t.level} {t.seen ? '✓' : '–'} <X size={14} aria-hidden />
                </button>
              </li>
            ))}
          </ul>
        )}
        {!curve?.decided ? (
          <p className="mt-2 text-mute">{msg('gainRun.more')}</p>
        ) : (
          <div role="status">
            <p className="num mt-3 text-xl font-bold">
              {msg('gainRun.use', { use: whole(curve.use.value), low: whole(curve.use.low), high: whole(curve.use.high) })}
            </p>
            <p className="num text-sm text-mute">{msg('gainRun.meaning', { threshold: whole(curve.threshold.value), n: tries.length })}</p>
            <button
              type="button"
              className="btn btn-primary mt-2 h-12 w-full"
              disabled={kept}
              onClick={() => {
                const temperature = day.conditions.surface;
                const least = strength - echoLoss(depth, absorption(frequency, temperature, 0, day.salinity));
                setRig({ ...rig, gain: Math.round(curve.use.value), leastEcho: Number(least.toFixed(1)) });
                setKept(true);
              }}
            >
              {kept ? msg('gainRun.kept') : msg('gainRun.keep')}
            </button>
          </div>
        )}
      </div>
    </section>
  );
}

const NONE: [] = [];

/** The gain at which hard bottom stands out most from soft, from how bright each showed. */
export function ContrastRun() {
  const [set, change] = useKept('bench contrast', { gain: 40, hard: 8, soft: 4 });
  const [tries, setTries] = useState<ContrastTry[]>([]);
  const found = bestContrast(tries);
  const { gain, hard, soft } = set;
  const brightness = (name: 'hard' | 'soft'): React.ReactElement => (
    <Slider
      label={msg(`contrastRun.${name}`)}
      words={String(set[name])}
      value={set[name]}
      min={0}
      max={10}
      step={1}
      onChange={(v) => change(name, v)}
    />
  );
  return (
    <section className="mt-8 border-t border-line pt-4" aria-label={msg('contrastRun.title')}>
      <h2 className="text-lg font-bold">{msg('contrastRun.title')}</h2>
      <p className="mt-1">{msg('contrastRun.how')}</p>
      <div className="mt-2 max-w-xl">
        <GainSteps gain={gain} onGain={(v) => change('gain', v)} />
        {brightness('hard')}
        {brightness('soft')}
        <button type="button" className="btn h-14 w-full text-base" onClick={() => setTries([...tries, { level: gain, hard, soft }])}>
          {msg('contrastRun.add')}
        </button>
        {found && (
          <div role="status" className="num mt-2">
            <p className="text-xl font-bold">
              {msg('contrastRun.best', { gain: found.best.level, contrast: decimal(found.best.contrast, 1) })}
            </p>
            <ul className="text-sm text-mute">
              {found.levels.map((l) => (
                <li key={l.level}>{msg('contrastRun.level', { gain: l.level, contrast: decimal(l.contrast, 1), n: l.n })}</li>
              ))}
            </ul>
          </div>
        )}
      </div>
    </section>
  );
}
