import { useState } from 'react';
import { type HeldScores, type ScoreCard } from '@restless-shoal/core/forecast';
import { useOutcomes } from '../../api/queries';
import { dayInZone, grouped, percent } from '../../parts/format';
import { OutcomeWords } from '../../parts/outcome-words';
import { useWaterState } from '../../state/water';
import { ModelCard } from './model-card';
import { logScoreGain } from './log-score';
import { strategiesOf } from './strategies-of';
import { StrategiesSheet } from './strategies-sheet';
import { forecast as msg, strategyName, term } from '../../words';

/** Which strategy has been right, how good the forecast is on trips held out, and what the last trip made of it. */
export function ScorePanel({ scores }: { scores: ScoreCard | null }) {
  const { season, water, species, log } = useWaterState();
  const outcomes = useOutcomes(water.id);
  const [stage, setStage] = useState<string | null>(null);
  const [card, setCard] = useState(false);
  const [strategies, setStrategies] = useState(false);
  const setting = (
    <>
      <button type="button" className="btn btn-ghost btn-sm touch-target -my-1.5" onClick={() => setStrategies(true)}>
        {msg('scorePanel.setTheStrategies')}
      </button>
      {strategies && <StrategiesSheet onClose={() => setStrategies(false)} />}
    </>
  );
  const last = outcomes.data?.find((o) => o.species === species.name);
  const outcome = last && (
    <p data-testid="outcome">
      <b>{dayInZone(new Date(last.at), water.time_zone)}:</b> <OutcomeWords outcome={last} />
    </p>
  );
  if (!scores)
    return (
      <section
        aria-label={msg('scorePanel.scores')}
        className="col-span-full border-t border-line bg-surface px-4 py-2.5 text-sm text-mute max-lg:col-span-1"
      >
        <p className="flex flex-wrap items-center justify-between gap-x-4">
          {log.trips.filter((t) => t.end !== null).length < 4
            ? msg('scorePanel.accuracyOnUnseenTrips')
            : msg('scorePanel.accuracyOnUnseenTrips2')}
          {setting}
        </p>
        {outcome}
      </section>
    );
  const key = stage ?? (scores.stages.some((s) => s.stage === season.stage) ? season.stage : 'all year');
  const board = scores.stages.find((s) => (s.stage ?? 'all year') === key) ?? scores.stages[0];
  const trips = scores.made[0];
  return (
    <section
      aria-label={msg('scorePanel.scores')}
      className="col-span-full grid grid-cols-[minmax(0,1fr)_25rem] gap-6 border-t border-line bg-surface px-4 py-2 max-lg:col-span-1 max-lg:grid-cols-1"
    >
      <div>
        <div className="flex flex-wrap items-baseline justify-between gap-x-4 text-sm">
          <h2>
            {msg('scorePanel.whichStrategyHasBeen')}{' '}
            <select
              className="select select-sm w-auto"
              aria-label={msg('scorePanel.stage')}
              value={key}
              onChange={(e) => setStage(e.target.value)}
            >
              {scores.stages.map((s) => (
                <option key={s.stage ?? 'all year'} value={s.stage ?? 'all year'}>
                  {term(s.stage ?? 'all year')}
                </option>
              ))}
            </select>
            ? <b>{msg('scorePanel.better')}</b>
          </h2>
          <span className="num text-mute">
            {msg('scorePanel.logScoreIntervalTrips', { trips: board.trips, looks: grouped(board.looks) })}
          </span>
        </div>
        <Board lines={board.strategies.filter((l) => strategiesOf(water).includes(l.strategy))} />
      </div>
      <div className="grid grid-cols-[auto_1fr] gap-3 text-sm">
        <Curve scores={trips} />
        <div className="flex flex-col gap-0.5 leading-snug">
          <h2>{msg('scorePanel.howGoodIsIt')}</h2>
          <p>
            {msg('scorePanel.bestTenthOfThe')} <b className="num">{msg('scorePanel.held', { model: percent(trips.bestTenth.model) })}</b>
            {msg('scorePanel.byHotSpots')} <b className="num">{percent(trips.bestTenth.hotSpots)}</b>
          </p>
          <p className="num">
            {msg('scorePanel.logScoreAgainstThe', {
              value: logScoreGain(trips.rivals.strategies.modelBetterBy.value),
              value2:
                scores.verdict === 'not told apart'
                  ? msg('scorePanel.notToldApartFrom', { nearest: scores.nearest === 'strategies' ? 'yes' : 'no' })
                  : '',
            })}
          </p>
          {outcome ?? <p className="text-mute">{msg('scorePanel.shownOnATrip')}</p>}
          <p className="-ml-3 flex">
            <button type="button" className="btn btn-ghost btn-sm touch-target -my-1.5" onClick={() => setCard(true)}>
              {msg('scorePanel.modelCard')}
            </button>
            {setting}
          </p>
        </div>
      </div>
      {card && <ModelCard scores={scores} onClose={() => setCard(false)} />}
    </section>
  );
}

/** Strategies as lines: the gain as a point, its interval as a bar, zero as the average look. */
function Board({ lines }: { lines: ScoreCard['stages'][number]['strategies'] }) {
  const reach = Math.max(1e-4, ...lines.flatMap((l) => [Math.abs(l.better.low), Math.abs(l.better.high)]));
  const [least, most] = [Math.max(-reach, Math.min(0, ...lines.map((l) => l.better.low))), Math.max(0, ...lines.map((l) => l.better.high))];
  const at = (v: number): number => (100 * (Math.max(least, Math.min(most, v)) - least)) / Math.max(1e-9, most - least);
  return (
    <table className="w-full text-[13px] leading-none" data-testid="board">
      <thead className="sr-only">
        <tr>
          <th>{msg('scorePanel.strategy')}</th>
          <th>{msg('scorePanel.gainOnTheAverage')}</th>
        </tr>
      </thead>
      <tbody>
        {lines.map(({ strategy, better }) => (
          <tr key={strategy}>
            <th scope="row" className="w-36 py-px text-left font-normal">
              {strategyName(strategy)}
            </th>
            <td className="py-px">
              <span
                className="relative block h-3.5"
                title={msg('scorePanel.to', {
                  value: logScoreGain(better.value),
                  low: logScoreGain(better.low),
                  high: logScoreGain(better.high),
                })}
                role="img"
                aria-label={msg('scorePanel.logScoreTo', {
                  value: logScoreGain(better.value),
                  low: logScoreGain(better.low),
                  high: logScoreGain(better.high),
                })}
              >
                <span className="absolute inset-y-0 border-l border-dashed border-ink/60" style={{ left: `${at(0)}%` }} />
                <span
                  className="absolute top-1/2 h-[3px] -translate-y-1/2 bg-act"
                  style={{ left: `${at(better.low)}%`, width: `${Math.max(0.3, at(better.high) - at(better.low))}%` }}
                />
                <span
                  className="absolute top-1/2 size-2.5 -translate-x-1/2 -translate-y-1/2 rounded-full bg-act"
                  style={{ left: `${at(better.value)}%` }}
                />
              </span>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What was said against what was seen, by tenths of the looks held out, on roots of both: most of water is unlikely. */
export function Curve({ scores }: { scores: HeldScores }) {
  const { curve } = scores.model;
  const most = Math.max(...curve.flatMap((t) => [t.said, t.seen]), 1e-4);
  const at = (v: number): number => 104 * Math.sqrt(v / most);
  return (
    <svg
      width="150"
      height="136"
      role="img"
      aria-label={`calibration: ${curve.map((t) => msg('scorePanel.saidWas', { said: percent(t.said), seen: percent(t.seen) })).join('; ')}`}
    >
      <g transform="translate(30,6)">
        <rect width="104" height="104" fill="none" stroke="var(--line)" />
        <path d="M0 104L104 0" stroke="var(--mute)" strokeDasharray="3 4" />
        <polyline
          points={curve.map((t) => `${at(t.said)},${104 - at(t.seen)}`).join(' ')}
          fill="none"
          stroke="var(--fish)"
          strokeWidth="2.5"
        />
        {curve.map((t) => (
          <circle key={t.said} cx={at(t.said)} cy={104 - at(t.seen)} r="3.2" fill="var(--fish)" />
        ))}
        <text x="52" y="122" textAnchor="middle" fontSize="12" fill="var(--mute)">
          {msg('scorePanel.saidTo', { most: percent(most) })}
        </text>
        <text x="-4" y="56" textAnchor="end" fontSize="12" fill="var(--mute)">
          {msg('scorePanel.was')}
        </text>
      </g>
    </svg>
  );
}
