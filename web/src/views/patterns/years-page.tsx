import { LEAST_IN_YEAR, type Question } from '@restless-shoal/core/patterns';
import { Exports } from '../../parts/e-chart';
import { Waiting } from '../../parts/waiting';
import { useAnswer, type OpenLog } from '../../workers/use-patterns-worker';
import { patterns as msg, covariateName, capital } from '../../words';

/** How far this year's pattern resembles the last one's in the same stages. */
export function YearsPage({ log, question, species }: { log: OpenLog; question: Question; species: string }) {
  const { answer, failed, fresh } = useAnswer(log, ['years', question], (ask) => ask.years(question));
  if (!fresh && !answer) return <Waiting what={msg('yearsPage.theYears')} failed={failed} />;
  if (!answer)
    return (
      <div className="m-auto max-w-md p-6">
        <h1 className="text-xl font-bold">{msg('yearsPage.oneYearSoFar')}</h1>
        <p className="mt-2 text-mute">{msg('yearsPage.twoYearsWithContacts', { leastInYear: LEAST_IN_YEAR })}</p>
      </div>
    );
  const unlike = answer.alike.filter((a) => a.overlap < a.split[0]);
  return (
    <div tabIndex={0} role="region" aria-label={msg('yearsPage.years')} className="h-full overflow-y-auto p-5">
      <div className="flex items-start justify-between gap-2">
        <h1 className="text-[22px] font-bold leading-tight">
          {unlike.length
            ? msg('yearsPage.wasUnlikeBy', {
                years: answer.years[1],
                years2: answer.years[0],
                unlike: unlike.map((a) => covariateName(a.key)).join(msg('yearsPage.andBy')),
              })
            : msg('yearsPage.wasLikeThePattern', { years: answer.years[1], years2: answer.years[0] })}
        </h1>
        <Exports
          name={msg('yearsPage.yearsAlike')}
          rows={() => [
            ['by', 'overlap', 'one_log_low', 'one_log_middle', 'one_log_high', 'contacts_earlier', 'contacts_later'],
            ...answer.alike.map((a) => [covariateName(a.key), a.overlap, ...a.split, ...a.targets]),
          ]}
        />
      </div>
      <p className="mt-1 max-w-3xl text-sm text-mute">
        {msg('yearsPage.tripsOfAndOf', {
          species: capital(species),
          trips: answer.trips[0],
          years: answer.years[0],
          trips2: answer.trips[1],
          years2: answer.years[1],
        })}
      </p>
      <table className="mt-3 w-full max-w-4xl text-sm" data-testid="years">
        <tbody>
          {answer.alike.map((a) => (
            <tr key={a.key} className="border-t border-line">
              <th scope="row" className="w-64 py-1.5 pr-3 text-left font-medium">
                {covariateName(a.key)}
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
                  {msg('yearsPage.oneLogN', {
                    split: Math.round(100 * a.split[0]),
                    split2: Math.round(100 * a.split[2]),
                    targets: a.targets.join(' and '),
                  })}
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
