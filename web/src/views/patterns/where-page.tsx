import { useState } from 'react';
import { classOf, COVARIATES, covariate, type Pointed, type WhereAnswer } from '@restless-shoal/core/patterns';
import { Exports } from '../../parts/e-chart';
import { dayInZone, grouped } from '../../parts/format';
import { Waiting } from '../../parts/waiting';
import { useWaterState } from '../../state/water';
import { useAnswer, type OpenLog } from '../../workers/use-patterns-worker';
import { HeatTable, heatRows } from './heat-table';
import { BAIT, besideQuestion, type Asked } from './question-address';
import { Together } from './together';
import { WhereChart, whereRows } from './where-chart';
import { WindowsChart, windowRows } from './windows-chart';
import { capital, chosenRuns, mostlyLooked, runsWords, runWords } from './words';
import { toUnit } from '@restless-shoal/core/units';
import { useSay, useUnits } from '../../state/units';
import { Say } from '../../parts/say';

interface WherePageProps {
  log: OpenLog;
  asked: Asked;
  species: string;
  logged: string[];
  onAsk: (change: Partial<Asked>) => void;
  onPoint: (pointed: Pointed, words: string) => void;
  onTwins: (pointed: Pointed) => void;
}

type Picture = (() => string) | null;

/** Where they were, against where the boat looked: the main chart, what goes together, the days' windows, two covariates against each other. */
export function WherePage({ log, asked, species, logged, onAsk, onPoint, onTwins }: WherePageProps) {
  const { water } = useWaterState();
  const say = useSay();
  const { question, by, heat, beside, smooth } = asked;
  const { answer, failed } = useAnswer(log, ['where', question, by, smooth], (ask) => ask.where(question, by, smooth));
  const other = besideQuestion(question, beside);
  const set = useAnswer(log, ['where', other?.question, by, smooth], (ask) =>
    other ? ask.where(other.question, by, smooth) : Promise.resolve(null),
  );
  const windows = useAnswer(log, ['windows', question], (ask) => ask.windows(question)).answer;
  const heats = useAnswer(log, ['heat', question, heat], async (ask) => ({ keys: heat, ...(await ask.heat(question, heat)) })).answer;
  const [window, setWindow] = useState<'byBottom' | 'byTarget'>('byBottom');
  const [pictures, setPictures] = useState<Record<string, Picture>>({});
  const keep =
    (name: string) =>
    (picture: Picture): void =>
      setPictures((p) => ({ ...p, [name]: picture }));
  if (!answer) return <Waiting what="the looks of this water" failed={failed ?? log.failed} />;
  const c = covariate(answer.key);
  const panel = 'flex min-h-0 min-w-0 flex-col';
  const small = 'select select-sm touch-target text-ellipsis bg-surface pr-7!';
  const pictureOf = (name: string): (() => string) | undefined => pictures[name] ?? undefined;
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)_25.5rem] grid-rows-[minmax(0,1fr)_15rem] max-lg:block max-lg:overflow-y-auto">
      <section aria-label="What they choose" className={`${panel} border-b border-line p-4 pb-1 max-lg:h-[38rem]`}>
        <h1 className="text-[22px] font-bold leading-tight" data-testid="headline">
          {answer.enough ? <Headline answer={answer} species={species} /> : 'Too little to speak of a pattern'}
        </h1>
        <p className="text-sm text-mute">
          {answer.enough ? (
            <>
              Contacts against what {c.within === 'trip' ? 'the same looking on the same trip' : 'all looking'} would give by chance; band
              80 %, from resampling trips.
              {c.within === 'log' && ' A whole trip shares it: the season goes with it.'}
              {answer.notKnown > 0 && ` Not known at ${grouped(answer.notKnown)} looks.`}
            </>
          ) : (
            'It takes 12 contacts on 4 trips with scanned water. Mark what you see on the Deck, the blanks as well; or take a filter off.'
          )}
        </p>
        <div className="flex flex-wrap items-center gap-2">
          <select aria-label="By" className={`${small} w-64`} value={by} onChange={(e) => onAsk({ by: e.target.value })}>
            {COVARIATES.map((v) => (
              <option key={v.key} value={v.key}>
                by {say(v.name)}
              </option>
            ))}
          </select>
          <select
            aria-label="Beside it"
            className={`${small} w-40`}
            value={beside ?? ''}
            onChange={(e) => onAsk({ beside: e.target.value || null })}
          >
            <option value="">alone</option>
            {question.species !== null && <option value={BAIT}>with bait</option>}
            {logged
              .filter((name) => name !== question.species)
              .map((name) => (
                <option key={name} value={`fish:${name}`}>
                  with {name}
                </option>
              ))}
            {['large', 'medium', 'small'].map((size) => (
              <option key={size} value={`size:${size}`}>
                with {size} ones
              </option>
            ))}
            {(['before spawning', 'spawning', 'after spawning', 'summer', 'cooling', 'turnover', 'late autumn'] as const).map((stage) => (
              <option key={stage} value={`stage:${stage}`}>
                in {stage}
              </option>
            ))}
          </select>
          {!c.labels && (
            <label className="flex min-h-8 items-center gap-1.5 text-sm">
              <input
                type="checkbox"
                className="checkbox checkbox-sm rounded"
                checked={smooth}
                onChange={(e) => onAsk({ smooth: e.target.checked })}
              />
              smooth
            </label>
          )}
          {other && answer.enough && (
            <span className="text-sm font-bold">
              <span className="text-fish">● {species}</span> <span className="text-act">◆ {other.name}</span>
            </span>
          )}
          <span className="ml-auto" />
          <Exports name={`Selection by ${c.name}`} picture={pictureOf('where')} rows={() => whereRows(answer)} />
        </div>
        {answer.enough && (
          <div className="min-h-0 flex-1" data-testid="where">
            <WhereChart
              answer={answer}
              beside={other && set.answer ? { answer: set.answer, name: other.name } : null}
              smooth={smooth}
              onReady={keep('where')}
              onPress={(index) => {
                // A point of the curve stands for the class that it lies in.
                const at = smooth && answer.curve ? classOf(c, answer.curve.x[index]) : answer.classes[index]?.class;
                const row = answer.classes.find((r) => r.class === at);
                if (row) onPoint({ at: 'class', key: answer.key, class: row.class }, `${capital(c.name)} ${row.name} ${c.unit}`.trim());
              }}
            />
          </div>
        )}
      </section>
      <div className={`${panel} border-b border-l border-line bg-surface max-lg:h-96 max-lg:border-l-0`}>
        <Together log={log} question={question} onPoint={onPoint} onTwins={onTwins} />
      </div>
      <section aria-label="The day’s depth window" className={`${panel} px-4 pt-2 max-lg:h-72`}>
        <div className="flex items-center justify-between gap-2 text-sm">
          <h2>
            <b>The day’s depth window</b>, 70 % of contacts{windows?.withTemperature && <Trend slope={windows.withTemperature} />}
            <span className="text-mute"> · faint: as narrow by chance</span>
          </h2>
          <span className="flex shrink-0 items-center">
            <select
              aria-label="Depth window by"
              className={`${small} w-36`}
              value={window}
              onChange={(e) => setWindow(e.target.value as typeof window)}
            >
              <option value="byBottom">bottom depth</option>
              <option value="byTarget">their own depth</option>
            </select>
            {windows && <Exports name="Depth windows" picture={pictureOf('windows')} rows={() => windowRows(windows.days, window)} />}
          </span>
        </div>
        <div className="min-h-0 flex-1" data-testid="windows">
          {windows && windows.days.length > 0 ? (
            <WindowsChart
              days={windows.days}
              by={window}
              zone={water.time_zone}
              onReady={keep('windows')}
              onPress={(trip) => onPoint({ at: 'trip', trip }, dayInZone(new Date(log.trips[trip].start), water.time_zone))}
            />
          ) : (
            <p className="pt-4 text-sm text-mute">{windows ? 'No contacts with scanned water yet.' : 'working it out …'}</p>
          )}
        </div>
      </section>
      <section
        aria-label="Two against each other"
        className={`${panel} border-l border-line bg-surface px-3 pt-2 max-lg:h-80 max-lg:border-l-0`}
      >
        <div className="flex items-center gap-1 text-sm">
          {([0, 1] as const).map((k) => (
            <select
              key={k}
              aria-label={k ? 'Heat map, across' : 'Heat map, down'}
              className={`${small} min-w-0 flex-1`}
              value={heat[k]}
              onChange={(e) => {
                const next: [string, string] = k ? [heat[0], e.target.value] : [e.target.value, heat[1]];
                onAsk({ heat: next[0] === next[1] ? [heat[1], heat[0]] : next });
              }}
            >
              {COVARIATES.map((v) => (
                <option key={v.key} value={v.key}>
                  {say(v.name)}
                </option>
              ))}
            </select>
          ))}
        </div>
        <div className="flex items-center justify-between gap-1 text-xs text-mute">
          <p>bold: contacts a hectare as far as the view shows; small: looks</p>
          {heats && <Exports name="Two against each other" picture={pictureOf('heat')} rows={() => heatRows(heats)} />}
        </div>
        <div className="min-h-0 flex-1" data-testid="heat">
          {heats && (
            <HeatTable
              {...heats}
              onReady={keep('heat')}
              onPress={(cell) =>
                onPoint(
                  { at: 'cell', keys: heats.keys, names: [heats.names[0][cell.a], heats.names[1][cell.b]] },
                  `${capital(covariate(heats.keys[0]).name)} ${heats.names[0][cell.a]}, ${covariate(heats.keys[1]).name} ${heats.names[1][cell.b]}`,
                )
              }
            />
          )}
        </div>
      </section>
    </div>
  );
}

function Headline({ answer, species }: { answer: WhereAnswer; species: string }) {
  const runs = chosenRuns(answer.classes);
  const looked = covariate(answer.key).labels ? null : mostlyLooked(answer.classes);
  return (
    <>
      <Say>
        {runs.length
          ? `${capital(species)} choose ${runsWords(answer.key, runs)}.`
          : `No ${covariate(answer.key).name} stands out for ${species}.`}
      </Say>
      {looked && (
        <span className="font-normal text-mute">
          <Say> You looked mostly at {runWords(answer.key, looked)}.</Say>
        </span>
      )}
    </>
  );
}

function Trend({ slope }: { slope: { slope: number; low: number; high: number } }) {
  const units = useUnits();
  if (slope.low <= 0 && slope.high >= 0) return null;
  const per = (v: number): string => (Math.abs(toUnit(v, 'depth', units)) / (units.temperature === '°C' ? 1 : 1.8)).toFixed(2);
  return (
    <span className="num">
      {' '}
      · {per(slope.slope)} {units.depth} {slope.slope > 0 ? 'deeper' : 'shallower'} for each {units.temperature} warmer ({per(slope.low)}–
      {per(slope.high)})
    </span>
  );
}
