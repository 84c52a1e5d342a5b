import { LEAST_HANGING, type Question } from '@restless-shoal/core/patterns';
import { Exports } from '../../parts/e-chart';
import { grouped } from '../../parts/format';
import { useAnswer, type OpenLog } from '../../workers/use-patterns-worker';
import { ShareLines } from './share-lines';
import { patterns as msg, inUnit, labelWords, readUnit, term } from '../../words';

/** What is known of targets only: where in the water they hung, their words, and how often they were large. */
export function HangSection({ log, question, species }: { log: OpenLog; question: Question; species: string }) {
  const { answer } = useAnswer(log, ['hang', question], (ask) => ask.whereTheyHang(question));
  if (!answer) return null;
  const told = answer.traits.filter((t) => t.n >= LEAST_HANGING);
  const words = answer.words.filter((w) => w.n >= LEAST_HANGING);
  const large = answer.large.filter((l) => l.lines.some((x) => x.share.n >= LEAST_HANGING));
  return (
    <section aria-label={msg('hangSection.holdingDepth')} className="mt-6 border-t border-line pt-4">
      <div className="flex items-start justify-between gap-2">
        <h2 className="text-lg font-bold">{msg('hangSection.holdingDepth')}</h2>
        {told.length > 0 && (
          <Exports
            name={msg('hangSection.holdingDepth')}
            rows={() => [
              ['what', 'unit', 'middle', 'low', 'high', 'n'],
              ...answer.traits.map((t) => [t.trait, t.unit, t.middle, t.low, t.high, t.n]),
              ...answer.large.flatMap((l) =>
                l.lines.map((x) => [
                  msg('hangSection.largeBy', { by: term(l.by), words: labelWords(x.label) }),
                  '',
                  x.share.share,
                  x.share.low,
                  x.share.high,
                  x.share.n,
                ]),
              ),
            ]}
          />
        )}
      </div>
      <p className="text-sm text-mute">{msg('hangSection.ofAsMarkedEach', { species: term(species) })}</p>
      {told.length === 0 ? (
        <p className="mt-1 text-sm text-mute">{msg('hangSection.needsAtLeastMarks', { leastHanging: LEAST_HANGING })}</p>
      ) : (
        <table className="mt-1 w-full text-sm" data-testid="hang">
          <tbody>
            {told.map((t) => (
              <tr key={t.trait} className="border-t border-line first:border-t-0">
                <th scope="row" className="py-1 text-left font-medium">
                  {term(t.trait)}
                </th>
                <td className="num py-1 text-right">
                  <b>
                    {inUnit(t.middle, t.unit, 1)} {readUnit(t.unit)}
                  </b>{' '}
                  <span className="text-mute">
                    {inUnit(t.low, t.unit, 1)}–{inUnit(t.high, t.unit, 1)} · n {grouped(t.n)}
                  </span>
                </td>
              </tr>
            ))}
            {words.map((w) => (
              <tr key={w.name} className="border-t border-line">
                <th scope="row" className="py-1 text-left font-medium">
                  {term(w.name)}
                </th>
                <td className="num py-1 text-right">
                  {w.counts
                    .slice(0, 4)
                    .map((c) => `${term(c.word)} ${grouped(c.count)}`)
                    .join(' · ')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {large.map((l) => (
        <div key={l.by} className="mt-3">
          <h3 className="font-bold">{msg('hangSection.largeOnesBy', { by: term(l.by) })}</h3>
          <ShareLines
            lines={l.lines.map((x) => ({ ...x, words: labelWords(x.label) }))}
            min={LEAST_HANGING}
            what={msg('hangSection.sizedMarks')}
          />
        </div>
      ))}
    </section>
  );
}
