import type { Question } from '@restless-shoal/core/patterns';
import { Exports } from '../../parts/e-chart';
import { Waiting } from '../../parts/waiting';
import { useAnswer, type OpenLog } from '../../workers/use-patterns-worker';
import { Say } from '../../parts/say';

const VERDICTS = { first: 'answered', second: 'answered', open: 'open', silent: 'not enough' } as const;

/** What practitioners disagree about, each with this log's answer or what it would take. */
export function QuarrelsPage({ log, question, species }: { log: OpenLog; question: Question; species: string }) {
  const { answer, failed } = useAnswer(log, ['quarrels', question], (ask) => ask.quarrels(question));
  if (!answer) return <Waiting what="the debates" failed={failed} />;
  const settled = answer.filter((q) => q.verdict === 'first' || q.verdict === 'second').length;
  return (
    <div tabIndex={0} role="region" aria-label="Quarrels" className="h-full overflow-y-auto p-5">
      <div className="flex items-start justify-between gap-2">
        <h1 className="text-[22px] font-bold leading-tight">
          {settled} of {answer.length} debates have an answer on this water
        </h1>
        <Exports
          name="Quarrels"
          rows={() => [
            ['question', 'verdict', 'times', 'low', 'high', 'answer'],
            ...answer.map((q) => [
              q.question,
              VERDICTS[q.verdict],
              q.ratio?.value ?? null,
              q.ratio?.low ?? null,
              q.ratio?.high ?? null,
              q.answer,
            ]),
          ]}
        />
      </div>
      <p className="mt-1 text-sm text-mute">
        For {species} and the filters above; stops and takes are of all species. Intervals: 80 %, trips counted as units. About one in five
        intervals misses by luck: an answer near 1 is no law.
      </p>
      <ul className="mt-3 grid grid-cols-2 gap-3 max-lg:grid-cols-1" data-testid="quarrels">
        {answer.map((q) => (
          <li
            key={q.key}
            className={`rounded-box border bg-surface p-3 ${q.verdict === 'silent' ? 'border-dashed border-line' : 'border-line'}`}
          >
            <p className="flex items-baseline justify-between gap-2">
              <b className="leading-tight">
                <Say>{q.question}</Say>
              </b>
              <span
                className={`shrink-0 text-xs font-semibold ${q.verdict === 'first' || q.verdict === 'second' ? 'text-act' : 'text-mute'}`}
              >
                {VERDICTS[q.verdict]}
              </span>
            </p>
            {q.sides && (
              <ul className="num mt-1 text-sm">
                {q.sides.map((s, k) => (
                  <li
                    key={s.words}
                    className={(q.verdict === 'first' && k === 0) || (q.verdict === 'second' && k === 1) ? 'font-semibold' : ''}
                  >
                    <Say>
                      {s.words}: {s.shows}
                    </Say>
                  </li>
                ))}
              </ul>
            )}
            <p className="mt-1 text-sm text-mute">
              <Say>{q.answer}</Say>
            </p>
          </li>
        ))}
      </ul>
    </div>
  );
}
