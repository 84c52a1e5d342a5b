import { useState } from 'react';
import { sortOf } from '@restless-shoal/core/lake';
import { classOf, covariate, covariatesOf, type Pointed, type WhereAnswer, classLabel, type HeatCell } from '@restless-shoal/core/patterns';
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
import { mostlyLooked, runWords, times } from './class-words';
import { toUnit } from '@restless-shoal/core/units';
import { useUnits } from '../../state/units';
import { patterns as msg, covariateName, decimal, labelWords, listed, term, capital } from '../../words';

interface WherePageProps {
  log: OpenLog;
  asked: Asked;
  species: string;
  logged: string[];
  onAsk: (change: Partial<Asked>) => void;
  onPoint: (pointed: Pointed, words: string) => void;
  onFindSimilar: (pointed: Pointed) => void;
}

const STAGES_ASKED = ['before spawning', 'spawning', 'after spawning', 'summer', 'cooling', 'turnover', 'late autumn'] as const;
/** The stages that a water can be in: only a lake turns over. */
const stagesOf = ({ kind, tide }: { kind: string | null; tide?: unknown }): readonly (typeof STAGES_ASKED)[number][] =>
  STAGES_ASKED.filter((stage) => stage !== 'turnover' || sortOf(kind, tide != null) === 'lake');

type Picture = (() => string) | null;

/** Where they were, against where the boat looked: the main chart, what goes together, the days' windows, two covariates against each other. */
export function WherePage({ log, asked, species, logged, onAsk, onPoint, onFindSimilar }: WherePageProps) {
  const { water } = useWaterState();
  const covariates = covariatesOf(water.kind, water.tide != null);
  const { question, by, heat, beside, smooth } = asked;
  const { answer, failed } = useAnswer(log, ['where', question, by, smooth], (ask) => ask.where(question, by, smooth, true));
  const other = besideQuestion(question, beside);
  const set = useAnswer(log, ['where', other?.question, by, smooth], (ask) =>
    other ? ask.where(other.question, by, smooth, false) : Promise.resolve(null),
  );
  const windows = useAnswer(log, ['windows', question], (ask) => ask.windows(question)).answer;
  const heats = useAnswer(log, ['heat', question, heat], async (ask) => ({ keys: heat, ...(await ask.heat(question, heat)) })).answer;
  const [window, setWindow] = useState<'byBottom' | 'byTarget'>('byBottom');
  const [pictures, setPictures] = useState<Record<string, Picture>>({});
  const keep =
    (name: string) =>
    (picture: Picture): void =>
      setPictures((p) => ({ ...p, [name]: picture }));
  if (!answer) return <Waiting what={msg('wherePage.theLooksOfThis')} failed={failed ?? log.failed} />;
  const c = covariate(answer.key);
  const panel = 'flex min-h-0 min-w-0 flex-col';
  const small = 'select select-sm touch-target text-ellipsis bg-surface pr-7!';
  const pictureOf = (name: string): (() => string) | undefined => pictures[name] ?? undefined;
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)_25.5rem] grid-rows-[minmax(0,1fr)_15rem] max-lg:block max-lg:overflow-y-auto">
      <section aria-label={msg('wherePage.whatTheyChoose')} className={`${panel} border-b border-line p-4 pb-1 max-lg:h-[38rem]`}>
        <h1 className="text-[22px] font-bold leading-tight" data-testid="headline">
          {answer.enough ? <Headline answer={answer} species={species} /> : msg('wherePage.notEnoughDataYet')}
        </h1>
        <p className="text-sm text-mute">
          {answer.enough ? (
            <>
              {msg('wherePage.contactsComparedWithWhat', {
                value: c.within === 'trip' ? msg('wherePage.onTheSameTrip') : '',
                value2: c.within === 'log' ? msg('wherePage.oneValuePerTrip') : '',
                value3: answer.notKnown > 0 ? msg('wherePage.notKnownAtLooks', { notKnown: grouped(answer.notKnown) }) : '',
              })}
            </>
          ) : (
            msg('wherePage.atLeastContactsOn')
          )}
        </p>
        <div className="flex flex-wrap items-center gap-2">
          <select aria-label={msg('wherePage.by')} className={`${small} w-64`} value={by} onChange={(e) => onAsk({ by: e.target.value })}>
            {covariates.map((v) => (
              <option key={v.key} value={v.key}>
                {msg('wherePage.by2', { name: covariateName(v.key) })}
              </option>
            ))}
          </select>
          <select
            aria-label={msg('wherePage.besideIt')}
            className={`${small} w-40`}
            value={beside ?? ''}
            onChange={(e) => onAsk({ beside: e.target.value || null })}
          >
            <option value="">{msg('wherePage.alone')}</option>
            {question.species !== null && <option value={BAIT}>{msg('wherePage.withBait')}</option>}
            {logged
              .filter((name) => name !== question.species)
              .map((name) => (
                <option key={name} value={`fish:${name}`}>
                  {msg('wherePage.with', { name: term(name) })}
                </option>
              ))}
            {['large', 'medium', 'small'].map((size) => (
              <option key={size} value={`size:${size}`}>
                {msg('wherePage.withOnes', { size: term(size) })}
              </option>
            ))}
            {stagesOf(water).map((stage) => (
              <option key={stage} value={`stage:${stage}`}>
                {msg('wherePage.in', { stage: term(stage) })}
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
              {msg('wherePage.smooth')}
            </label>
          )}
          {other && answer.enough && (
            <span className="text-sm font-bold">
              <span className="text-fish">● {term(species)}</span> <span className="text-act">◆ {other.name}</span>
            </span>
          )}
          <span className="ml-auto" />
          <Exports
            name={msg('wherePage.selectionBy', { name: covariateName(c.key) })}
            picture={pictureOf('where')}
            rows={() => whereRows(answer)}
          />
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
                if (row)
                  onPoint({ at: 'class', key: answer.key, class: row.class }, `${capital(covariateName(c.key))} ${labelWords(row.label)}`);
              }}
            />
          </div>
        )}
      </section>
      <div className={`${panel} border-b border-l border-line bg-surface max-lg:h-96 max-lg:border-l-0`}>
        <Together log={log} question={question} onPoint={onPoint} onFindSimilar={onFindSimilar} />
      </div>
      <section aria-label={msg('wherePage.theDaysDepthWindow')} className={`${panel} px-4 pt-2 max-lg:h-72`}>
        <div className="flex items-center justify-between gap-2 text-sm">
          <h2>
            <b>{msg('wherePage.theDaysDepthWindow')}</b>
            {msg('wherePage.ofContacts')}
            {windows?.withTemperature && <Trend slope={windows.withTemperature} />}
            <span className="text-mute"> {msg('wherePage.faintNoNarrowerThan')}</span>
          </h2>
          <span className="flex shrink-0 items-center">
            <select
              aria-label={msg('wherePage.depthWindowBy')}
              className={`${small} w-36`}
              value={window}
              onChange={(e) => setWindow(e.target.value as typeof window)}
            >
              <option value="byBottom">{msg('wherePage.bottomDepth')}</option>
              <option value="byTarget">{msg('wherePage.theirOwnDepth')}</option>
            </select>
            {windows && (
              <Exports name={msg('wherePage.depthWindows')} picture={pictureOf('windows')} rows={() => windowRows(windows.days, window)} />
            )}
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
            <p className="pt-4 text-sm text-mute">{windows ? msg('wherePage.noContactsWithScanned') : msg('wherePage.workingItOut')}</p>
          )}
        </div>
      </section>
      <section
        aria-label={msg('wherePage.twoAgainstEachOther')}
        className={`${panel} border-l border-line bg-surface px-3 pt-2 max-lg:h-80 max-lg:border-l-0`}
      >
        <div className="flex items-center gap-1 text-sm">
          {([0, 1] as const).map((k) => (
            <select
              key={k}
              aria-label={k ? msg('wherePage.heatMapAcross') : msg('wherePage.heatMapDown')}
              className={`${small} min-w-0 flex-1`}
              value={heat[k]}
              onChange={(e) => {
                const next: [string, string] = k ? [heat[0], e.target.value] : [e.target.value, heat[1]];
                onAsk({ heat: next[0] === next[1] ? [heat[1], heat[0]] : next });
              }}
            >
              {covariates.map((v) => (
                <option key={v.key} value={v.key}>
                  {covariateName(v.key)}
                </option>
              ))}
            </select>
          ))}
        </div>
        <div className="flex items-center justify-between gap-1 text-xs text-mute">
          <p>{msg('wherePage.boldContactsAHectare')}</p>
          {heats && <Exports name={msg('wherePage.twoAgainstEachOther')} picture={pictureOf('heat')} rows={() => heatRows(heats)} />}
        </div>
        <div className="min-h-0 flex-1" data-testid="heat">
          {heats && (
            <HeatTable
              {...heats}
              onReady={keep('heat')}
              onPress={(cell) =>
                onPoint(
                  { at: 'cell', keys: heats.keys, classes: classesOf(heats, cell) },
                  capital(
                    listed(
                      heats.keys.map(
                        (key, k) => `${covariateName(key)} ${labelWords(classLabel(covariate(key), classesOf(heats, cell)[k]))}`,
                      ),
                    ),
                  ),
                )
              }
            />
          )}
        </div>
      </section>
    </div>
  );
}

const classesOf = (heats: { classes: [number[], number[]] }, cell: HeatCell): [number, number] => [
  heats.classes[0][cell.a],
  heats.classes[1][cell.b],
];

function Headline({ answer, species }: { answer: WhereAnswer; species: string }) {
  const { run, compared } = answer.standOut ?? { run: null, compared: 0 };
  const above = answer.classes.filter((c) => c.low > 1).length;
  const looked = covariate(answer.key).labels ? null : mostlyLooked(answer.classes);
  return (
    <>
      {run
        ? msg('wherePage.choose', {
            species: capital(term(species)),
            key: runWords(
              answer.key,
              answer.classes.filter((c) => c.class >= run.classes[0] && c.class <= run.classes[1]),
            ),
            ratio: times(run.ratio),
            low: times(run.low),
            high: times(run.high),
          })
        : msg('wherePage.noStandsOutFor', { name: covariateName(answer.key), species: term(species), above, compared })}

      {looked && (
        <span className="font-normal text-mute"> {msg('wherePage.youLookedMostlyAt', { key: runWords(answer.key, looked) })}</span>
      )}
    </>
  );
}

function Trend({ slope }: { slope: { slope: number; low: number; high: number } }) {
  const units = useUnits();
  if (slope.low <= 0 && slope.high >= 0) return null;
  const per = (v: number): string => decimal(Math.abs(toUnit(v, 'depth', units)) / (units.temperature === '°C' ? 1 : 1.8), 2);
  return (
    <span className="num">
      {' '}
      {msg('wherePage.deeperForEachWarmer', {
        slope: per(slope.slope),
        depth: units.depth,
        slope2: slope.slope > 0 ? 'yes' : 'no',
        temperature: units.temperature,
        low: per(slope.low),
        high: per(slope.high),
      })}
    </span>
  );
}
