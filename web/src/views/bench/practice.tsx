import { Check, Download, X } from 'lucide-react';
import { useCallback, useMemo, useRef, useState } from 'react';
import {
  judged,
  nextSkill,
  practiceRound,
  skillStates,
  type Choice,
  type PracticeRound,
  type Practised,
  type Skill,
} from '@restless-shoal/core/sonar';
import { saveFile } from '../../parts/save-file';
import { bench as msg, decimal, formatDepth } from '../../words';
import { PracticePicture } from './practice-picture';
import { Slider } from './slider';
import { usePractice } from './use-practice';

/** The next question by what was answered so far. @param only a skill that somebody wants to practise now */
function drawn(history: readonly Practised[], only: Skill | null): PracticeRound {
  const { skill, difficulty } = nextSkill(history, Math.random, only ? [only] : undefined);
  return practiceRound(skill, difficulty, Math.floor(Math.random() * 2 ** 30));
}

/** Where a number stands before it is set: beside the truth, and never on it. */
const firstOf = ({ asked }: PracticeRound): number =>
  asked.by === 'gain' ? asked.least : asked.by === 'number' ? Math.round((asked.least + asked.most) / 2 / asked.step) * asked.step : 0;

/** A choice in words: a side comes with how far. */
const choiceWords = (choice: Choice): string =>
  typeof choice === 'string'
    ? msg(`practice.choice.${choice}`)
    : msg('practice.sideAndFar', { side: choice.side, far: formatDepth(choice.far) });

/** Pictures made up from what sound does, what they hold hidden until it was answered. */
export function Practice() {
  const [history, add] = usePractice();
  const [only, setOnly] = useState<Skill | null>(null);
  const [round, setRound] = useState(() => drawn(history, null));
  const [value, setValue] = useState(() => firstOf(round));
  const [answer, setAnswer] = useState<Choice | number | null>(null);
  const png = useRef<(() => string) | null>(null);
  const ready = useCallback((take: () => string) => void (png.current = take), []);
  const { asked, skill, told } = round;
  const gain = asked.by === 'gain' ? value : 0;
  const picture = useMemo(() => round.picture(gain), [round, gain]);
  const found = answer === null ? null : judged(asked, answer);
  const give = (next: Choice | number): void => {
    if (answer !== null) return;
    setAnswer(next);
    add({ skill, at: Date.now(), difficulty: round.difficulty, right: judged(asked, next).right });
  };
  const go = (wanted = only): void => {
    const next = drawn(history, wanted);
    setRound(next);
    setValue(firstOf(next));
    setAnswer(null);
  };
  const words = (v: number): string =>
    asked.by === 'gain'
      ? msg('practice.gain', { gain: decimal(v, 0) })
      : asked.by === 'number' && asked.unit === 'n'
        ? String(v)
        : formatDepth(v);
  const touched = asked.by === 'number' && (skill === 'depth' || skill === 'thermocline') && answer === null;
  const lengths = Object.fromEntries(Object.entries(told).map(([name, v]) => [name, formatDepth(v)]));
  return (
    <div className="grid gap-5 lg:grid-cols-[minmax(0,1fr)_20rem]">
      <div>
        <p className="mb-2 text-lg font-semibold" data-testid="question">
          {msg(`practice.ask.${skill}`)}
        </p>
        <PracticePicture
          picture={picture}
          pointed={answer === null ? NONE : round.pointed}
          onTouch={touched ? (m) => setValue(Number(Math.min(asked.most, m).toFixed(1))) : undefined}
          onReady={ready}
        />
        {answer === null && asked.by === 'choice' && (
          <div className="mt-3 grid grid-cols-2 gap-2" role="group" aria-label={msg('practice.answers')}>
            {asked.options.map((option) => (
              <button key={choiceWords(option)} type="button" className="btn h-14 text-base" onClick={() => give(option)}>
                {choiceWords(option)}
              </button>
            ))}
          </div>
        )}
        {asked.by !== 'choice' && (
          <div className={`mt-2 ${answer === null ? '' : 'hidden'}`}>
            <Slider
              label={YOURS[skill] ?? ''}
              words={words(value)}
              value={value}
              min={asked.least}
              max={asked.most}
              step={asked.by === 'gain' ? 1 : asked.step}
              onChange={setValue}
            />
            {touched && <p className="text-sm text-mute">{msg('practice.orTouch')}</p>}
            <button type="button" className="btn btn-primary mt-2 h-14 w-full text-base" onClick={() => give(value)}>
              {msg('practice.thisIsIt')}
            </button>
          </div>
        )}
        {found && (
          <div className="mt-3" role="status">
            <p className={`flex items-center gap-2 text-lg font-bold ${found.right ? 'text-act' : 'text-warn'}`}>
              {found.right ? <Check aria-hidden /> : <X aria-hidden />}
              {found.right ? msg('practice.right') : msg('practice.wrong')}
              <span className="num text-base font-semibold text-ink">
                {asked.by === 'choice'
                  ? choiceWords(asked.answer)
                  : asked.by === 'gain'
                    ? msg('practice.gainWindow', { low: decimal(asked.low, 0), high: decimal(asked.high, 0) })
                    : msg('practice.itIsYouSaid', {
                        what: words(asked.unit === 'n' ? asked.answer : Number(asked.answer.toFixed(2))),
                        said: words(Number(answer)),
                      })}
              </span>
            </p>
            <p className="num mt-1 max-w-3xl">
              {msg(`practice.why.${skill}`, {
                ...lengths,
                count: told.count ?? 0,
                seconds: decimal(told.seconds ?? 0, 1),
                low: skill === 'gain' ? decimal(told.low, 0) : lengths.low,
                high: skill === 'gain' ? decimal(told.high, 0) : lengths.high,
                answer: asked.by === 'choice' && typeof asked.answer === 'string' ? asked.answer : '',
              })}
            </p>
            <button type="button" className="btn btn-primary mt-3 h-14 w-full text-base" onClick={() => go()} autoFocus>
              {msg('practice.next')}
            </button>
          </div>
        )}
        <button
          type="button"
          className="btn btn-ghost touch-target mt-2"
          onClick={() => png.current && saveFile(`${skill}.png`, png.current())}
        >
          <Download size={18} aria-hidden /> {msg('practice.save')}
        </button>
      </div>
      <Progress
        history={history}
        only={only}
        onOnly={(next) => {
          setOnly(next);
          go(next);
        }}
      />
    </div>
  );
}

const NONE: [] = [];
/** What is set by a number. */
const YOURS: Partial<Record<Skill, string>> = {
  depth: msg('practice.your.depth'),
  count: msg('practice.your.count'),
  thermocline: msg('practice.your.thermocline'),
  gain: msg('practice.your.gain'),
  height: msg('practice.your.height'),
};

/** How far each skill has come, the weakest first. */
function Progress({ history, only, onOnly }: { history: readonly Practised[]; only: Skill | null; onOnly: (only: Skill | null) => void }) {
  const states = skillStates(history).sort((a, b) => a.difficulty * a.right - b.difficulty * b.right);
  return (
    <section aria-label={msg('practice.progress')}>
      <h2 className="text-lg font-bold">{msg('practice.progress')}</h2>
      <p className="text-sm text-mute">{msg('practice.weakSooner', { n: history.length })}</p>
      <ul className="mt-2 flex flex-col gap-1">
        {states.map(({ skill, difficulty, tries, correct }) => (
          <li key={skill}>
            <button
              type="button"
              aria-pressed={only === skill}
              className={`touch-target w-full rounded px-2 py-1 text-left ${only === skill ? 'bg-surface outline-2 outline-act' : ''}`}
              onClick={() => onOnly(only === skill ? null : skill)}
            >
              <span className="flex justify-between gap-2">
                <span>{msg(`practice.skill.${skill}`)}</span>
                <span className="num text-sm text-mute">
                  {tries
                    ? msg('practice.level', { level: decimal(100 * difficulty, 0), right: correct, n: tries })
                    : msg('practice.notYet')}
                </span>
              </span>
              <span className="mt-1 block h-2.5 rounded-full bg-line">
                <span className="block h-2.5 rounded-full bg-act" style={{ width: tries ? `${Math.max(2, 100 * difficulty)}%` : 0 }} />
              </span>
            </button>
          </li>
        ))}
      </ul>
      <p className="mt-1 text-sm text-mute">{msg('practice.pressOne')}</p>
    </section>
  );
}
