import { useState } from 'react';
import type { Remote } from 'comlink';
import { sunHeight } from '@restless-shoal/core/lake';
import type { DayPlanRequest, ResetAnswer } from '@restless-shoal/core/passage';
import { useForecastInputs } from '../../state/forecast-inputs';
import { useWaterState } from '../../state/water';
import { percent, plan as msg } from '../../words';
import type { PlanWorker } from '../../workers/plan.worker';

/** After a blank: what has been tested today, hypothesis by hypothesis, and three stops that test the best of what has not. */
export function ResetPanel({
  worker,
  request,
  onUse,
}: {
  worker: Remote<PlanWorker> | null;
  request: DayPlanRequest | null;
  onUse: (stops: ResetAnswer['next']) => void;
}) {
  const { conditions, frame } = useWaterState();
  const { earlier } = useForecastInputs();
  const [answer, setAnswer] = useState<ResetAnswer | null>(null);
  const [failed, setFailed] = useState(false);
  const ask = (): void => {
    if (!worker || !request) return;
    const effort = new Map<number, number>();
    for (const look of earlier) effort.set(look.cell, (effort.get(look.cell) ?? 0) + (look.effort || 0.5));
    worker
      .reset({
        ...request,
        tested: [...effort].map(([cell, done]) => ({ cell, effort: done })),
        sun: sunHeight(conditions.at, frame.latitude, frame.longitude),
        at: request.start,
      })
      .then(
        (next) => {
          setAnswer(next);
          setFailed(false);
        },
        () => setFailed(true),
      );
  };
  return (
    <div className="space-y-2 p-3">
      <p className="text-sm text-mute">{msg('reset.explained')}</p>
      <button type="button" className="btn btn-primary touch-target" disabled={!worker || !request} onClick={ask}>
        {msg('reset.whatElse')}
      </button>
      {failed && <p className="text-warn">{msg('reset.failed')}</p>}
      {answer && (
        <>
          {answer.next.length > 0 && (
            <section className="rounded-box border border-line p-3" aria-label={msg('reset.nextThree')} data-testid="next-three">
              <h2 className="font-bold">{msg('reset.nextThree')}</h2>
              <ol className="my-1 list-inside list-decimal text-sm">
                {answer.next.map((n) => (
                  <li key={n.cell}>
                    {msg('reset.stop', { what: msg(`hypothesis.${n.hypothesis}`), minutes: Math.max(1, Math.round(n.minutes)) })}
                  </li>
                ))}
              </ol>
              <button type="button" className="btn touch-target" onClick={() => onUse(answer.next)}>
                {msg('reset.useThem')}
              </button>
            </section>
          )}
          <table className="w-full text-sm" data-testid="account">
            <thead>
              <tr className="text-left text-mute">
                <th className="py-1 font-normal">{msg('reset.hypothesis')}</th>
                <th className="py-1 text-right font-normal">{msg('reset.tested')}</th>
                <th className="py-1 text-right font-normal">{msg('reset.value')}</th>
              </tr>
            </thead>
            <tbody>
              {answer.account
                .filter((a) => a.value > 0.01)
                .map((a) => (
                  <tr key={a.hypothesis} className="border-t border-line">
                    <td className="py-1.5">{msg(`hypothesis.${a.hypothesis}`)}</td>
                    <td className="num text-right">{percent(a.tested)}</td>
                    <td className="num text-right">{percent(Math.min(2, a.value))}</td>
                  </tr>
                ))}
            </tbody>
          </table>
        </>
      )}
    </div>
  );
}
