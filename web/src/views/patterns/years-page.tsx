import { covariate, LEAST_IN_YEAR, type Question } from '@restless-shoal/core/patterns';
import { Exports } from '../../parts/e-chart';
import { Waiting } from '../../parts/waiting';
import { useAnswer, type OpenLog } from '../../workers/use-patterns-worker';
import { capital } from './words';
import { Say } from '../../parts/say';
import { useSay } from '../../state/units';

/** How far this year's pattern resembles the last one's in the same stages. */
export function YearsPage({ log, question, species }: { log: OpenLog; question: Question; species: string }) {
  const say = useSay();
  const { answer, failed, fresh } = useAnswer(log, ['years', question], (ask) => ask.years(question));
  if (!fresh && !answer) return <Waiting what="the years" failed={failed} />;
  if (!answer)
    return (
      <div className="m-auto max-w-md p-6">
        <h1 className="text-xl font-bold">One year so far</h1>
        <p className="mt-2 text-mute">
          Two years with {LEAST_IN_YEAR} contacts each, on four trips each in the same season stages, are needed to say whether a pattern
          comes back.
        </p>
      </div>
    );
  const unlike = answer.alike.filter((a) => a.overlap < a.split[0]);
  return (
    <div tabIndex={0} role="region" aria-label="Years" className="h-full overflow-y-auto p-5">
      <div className="flex items-start justify-between gap-2">
        <h1 className="text-[22px] font-bold leading-tight">
          {unlike.length
            ? `${answer.years[1]} was unlike ${answer.years[0]} by ${unlike.map((a) => say(covariate(a.key).name)).join(' and by ')}`
            : `${answer.years[1]} was like ${answer.years[0]}: the pattern came back`}
        </h1>
        <Exports
          name="Years alike"
          rows={() => [
            ['by', 'overlap', 'one_log_low', 'one_log_middle', 'one_log_high', 'contacts_earlier', 'contacts_later'],
            ...answer.alike.map((a) => [covariate(a.key).name, a.overlap, ...a.split, ...a.targets]),
          ]}
        />
      </div>
      <p className="mt-1 max-w-3xl text-sm text-mute">
        {capital(species)}, {answer.trips[0]} trips of {answer.years[0]} and {answer.trips[1]} of {answer.years[1]} in the same season
        stages. The dot: how much of the fish both years would put in the same classes, for the same looking. The bar: what two random
        halves of one and the same log show, so a dot inside it is as alike as one year can be to itself; left of it, the years differ.
      </p>
      <table className="mt-3 w-full max-w-4xl text-sm" data-testid="years">
        <tbody>
          {answer.alike.map((a) => (
            <tr key={a.key} className="border-t border-line">
              <th scope="row" className="w-64 py-1.5 pr-3 text-left font-medium">
                <Say>{covariate(a.key).name}</Say>
              </th>
              <td className="py-1.5">
                <span className="relative block h-6">
                  <span className="absolute inset-x-0 top-1/2 h-px bg-line" />
                  <span
                    className="absolute top-1/2 h-2.5 -translate-y-1/2 rounded bg-act/25"
                    style={{ left: `${100 * a.split[0]}%`, width: `${100 * (a.split[2] - a.split[0])}%` }}
                  />
                  <span
                    className={`absolute top-1/2 size-3 -translate-x-1/2 -translate-y-1/2 rounded-full ${a.overlap < a.split[0] ? 'bg-fish' : 'bg-act'}`}
                    style={{ left: `${100 * a.overlap}%` }}
                  />
                </span>
              </td>
              <td className="num w-56 whitespace-nowrap py-1.5 pl-3 text-right">
                <b>{Math.round(100 * a.overlap)} %</b>{' '}
                <span className="text-mute">
                  one log {Math.round(100 * a.split[0])}–{Math.round(100 * a.split[2])} · n {a.targets.join(' and ')}
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
