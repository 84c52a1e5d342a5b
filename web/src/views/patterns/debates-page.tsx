import type { Question } from '@restless-shoal/core/patterns';
import { Exports } from '../../parts/e-chart';
import { Waiting } from '../../parts/waiting';
import { useAnswer, type OpenLog } from '../../workers/use-patterns-worker';
import { useUnits } from '../../state/units';
import { wordDebate, words } from './debate-words';
import { patterns as msg, term } from '../../words';

/** What practitioners disagree about, each with this log's answer or what it would take. */
export function DebatesPage({ log, question, species }: { log: OpenLog; question: Question; species: string }) {
  const { answer, failed } = useAnswer(log, ['debates', question], (ask) => ask.debates(question));
  const units = useUnits();
  if (!answer) return <Waiting what={words('waiting')} failed={failed} />;
  const worded = answer.map((debate) => ({ ...debate, ...wordDebate(debate, units) }));
  const settled = answer.filter((q) => q.verdict === 'first' || q.verdict === 'second').length;
  return (
    <div tabIndex={0} role="region" aria-label={msg('debatesPage.debates')} className="h-full overflow-y-auto p-5">
      <div className="flex items-start justify-between gap-2">
        <h1 className="text-[22px] font-bold leading-tight">{words('title', { answered: settled, all: answer.length })}</h1>
        <Exports
          name={msg('debatesPage.debates')}
          rows={() => [
            ['question', 'verdict', 'times', 'low', 'high', 'answer'],
            ...worded.map((q) => [
              q.question,
              words(`verdict.${q.verdict}`),
              q.ratio?.value ?? null,
              q.ratio?.low ?? null,
              q.ratio?.high ?? null,
              q.answer,
            ]),
          ]}
        />
      </div>
      <p className="mt-1 text-sm text-mute">{words('basis', { species: term(species) })}</p>
      <ul className="mt-3 grid grid-cols-2 gap-3 max-lg:grid-cols-1" data-testid="debates">
        {worded.map((q) => (
          <li
            key={q.key}
            className={`rounded-box border bg-surface p-3 ${q.verdict === 'silent' ? 'border-dashed border-line' : 'border-line'}`}
          >
            <p className="flex items-baseline justify-between gap-2">
              <b className="leading-tight">{q.question}</b>
              <span
                className={`shrink-0 text-xs font-semibold ${q.verdict === 'first' || q.verdict === 'second' ? 'text-act' : 'text-mute'}`}
              >
                {words(`verdict.${q.verdict}`)}
              </span>
            </p>
            {q.sides.length > 0 && (
              <ul className="num mt-1 text-sm">
                {q.sides.map((s, k) => (
                  <li key={s} className={(q.verdict === 'first' && k === 0) || (q.verdict === 'second' && k === 1) ? 'font-semibold' : ''}>
                    {s}
                  </li>
                ))}
              </ul>
            )}
            <p className="mt-1 text-sm text-mute">{q.answer}</p>
          </li>
        ))}
      </ul>
    </div>
  );
}
