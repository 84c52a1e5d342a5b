import { proxy } from 'comlink';
import { useEffect, useState } from 'react';
import type { Combination, CombinationSearch, Pointed, Question } from '@restless-shoal/core/patterns';
import { Exports } from '../../parts/e-chart';
import { grouped } from '../../parts/format';
import { Progress } from '../../parts/progress';
import type { OpenLog } from '../../workers/use-patterns-worker';
import { times } from './class-words';
import { patterns as msg, decimal, say, capital } from '../../words';

type Found = CombinationSearch & { enough: boolean };

const words = (c: Combination): string => capital(c.conditions.map((p) => say(p.says)).join(msg('together.with')));
const rateOf = (c: Combination, side: 0 | 1): number => c.rate.used[side] / c.rate.effort[side];

/** Combinations: combinations that stand after correction for all that were tried, as sentences. */
export function Together({
  log,
  question,
  onPoint,
  onFindSimilar,
}: {
  log: OpenLog;
  question: Question;
  onPoint: (pointed: Pointed, words: string) => void;
  onFindSimilar: (pointed: Pointed) => void;
}) {
  const [state, setState] = useState<{ found: Found | null; share: number | null; failed: string | null; stopped: boolean }>({
    found: null,
    // Nothing to stop before the search is asked for.
    share: null,
    failed: null,
    stopped: false,
  });
  const name = `${log.version} ${JSON.stringify(question)}`;
  const [again, setAgain] = useState(0);
  useEffect(() => {
    const { ask } = log;
    if (!ask) return;
    // Progress comes by another way than the answer and may come after it.
    let [gone, over] = [false, false];
    setState({ found: null, share: 0, failed: null, stopped: false });
    ask
      .search(
        question,
        proxy((share: number) => {
          if (!gone && !over) setState((s) => (s.stopped ? s : { ...s, share }));
        }),
      )
      .then((found) => {
        over = true;
        // Stopped is stopped, also when the answer was on its way.
        if (!gone && found) setState((s) => (s.stopped ? s : { found, share: null, failed: null, stopped: false }));
      })
      .catch((error: Error) => {
        if (!gone) setState({ found: null, share: null, failed: error.message, stopped: false });
      });
    return () => {
      gone = true;
    };
    // The question is in its name.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [log.ask, name, again]);
  const { found, share, failed, stopped } = state;
  const pointed = (c: Combination): Pointed => ({ at: 'conditions', keys: c.conditions.map((p) => p.key) });
  return (
    <section aria-label={msg('together.combinations')} className="flex min-h-0 flex-col p-4 pb-2">
      <div className="flex items-baseline justify-between gap-2">
        <h2 className="text-lg font-bold">{msg('together.combinations')}</h2>
        {found && found.found.length > 0 && (
          <Exports
            name={msg('together.combinations')}
            rows={() => [
              ['combination', 'times', 'low', 'high', 'per_hectare', 'elsewhere', 'looks', 'trips', 'share_of_false_ones'],
              ...found.found.map((c) => [
                words(c),
                c.rate.ratio,
                c.rate.low,
                c.rate.high,
                rateOf(c, 0),
                rateOf(c, 1),
                c.rate.looks[0],
                c.rate.trips,
                c.falseShare,
              ]),
            ]}
          />
        )}
      </div>
      {failed && <p role="alert">{failed}</p>}
      {stopped && (
        <p className="mt-2 text-sm text-mute">
          {msg('together.stopped')}{' '}
          <button type="button" className="btn btn-sm" onClick={() => setAgain(again + 1)}>
            {msg('together.searchAgain')}
          </button>
        </p>
      )}
      {share !== null && !failed && !stopped && (
        <div className="mt-3">
          <Progress
            words={msg('together.tryingCombinations')}
            share={share}
            onCancel={() => {
              void log.ask?.cancelSearch();
              setState((s) => ({ ...s, share: null, stopped: true }));
            }}
          />
        </div>
      )}
      {found && (
        <>
          <p className="text-sm text-mute">
            {!found.enough
              ? msg('together.notEnoughDataTo')
              : msg('together.correctedForCombinationsTried', {
                  tried: grouped(found.tried),
                  found: found.found.length ? msg('together.found', { found: found.found.length }) : msg('together.noneFoundNoClear'),
                })}
          </p>
          <ol
            className="-mr-2 mt-1 min-h-0 flex-1 overflow-y-auto pr-2"
            tabIndex={0}
            aria-label={msg('together.combinationsFound')}
            data-testid="combinations"
          >
            {found.found.map((c) => (
              <li key={words(c)} className="border-t border-line py-2 first:border-t-0">
                <button
                  type="button"
                  className="w-full cursor-pointer text-left leading-snug hover:bg-[color-mix(in_srgb,var(--act)_7%,transparent)]"
                  onClick={() => onPoint(pointed(c), words(c))}
                >
                  <b>{words(c)}</b>: <b className="num text-fish">{decimal(rateOf(c, 0), 1)}</b> {msg('together.aHectare')}{' '}
                  <span className="num">{decimal(rateOf(c, 1), 1)}</span> {msg('together.elsewhere')}
                </button>
                <p className="num flex flex-wrap items-center justify-between text-[13px] text-mute">
                  <span title={msg('together.intervalWithinTheSame')}>
                    {msg('together.timesLooksTrips', {
                      low: times(c.rate.low),
                      high: times(c.rate.high),
                      looks: grouped(c.rate.looks[0]),
                      trips: c.rate.trips,
                    })}
                  </span>
                  <button
                    type="button"
                    className="min-h-6 cursor-pointer underline underline-offset-2"
                    onClick={() => onFindSimilar(pointed(c))}
                  >
                    {msg('together.findSimilarSpots')}
                  </button>
                </p>
              </li>
            ))}
          </ol>
        </>
      )}
    </section>
  );
}
