import { LEAST_HANGING, type Question } from '@restless-shoal/core/patterns';
import { Exports } from '../../parts/e-chart';
import { grouped } from '../../parts/format';
import { useAnswer, type OpenLog } from '../../workers/use-patterns-worker';
import { ShareLines } from './share-lines';
import { numbersIn, sayIn, unitIn } from '@restless-shoal/core/units';
import { useUnits } from '../../state/units';

/** What is known of targets only: where in the water they hung, their words, and how often they were large. */
export function HangSection({ log, question, species }: { log: OpenLog; question: Question; species: string }) {
  const units = useUnits();
  const inUnit = (text: string, unit: string): string => numbersIn(units, unit, text);
  const { answer } = useAnswer(log, ['hang', question], (ask) => ask.whereTheyHang(question));
  if (!answer) return null;
  const told = answer.traits.filter((t) => t.n >= LEAST_HANGING);
  const words = answer.words.filter((w) => w.n >= LEAST_HANGING);
  const large = answer.large.filter((l) => l.lines.some((x) => x.share.n >= LEAST_HANGING));
  return (
    <section aria-label="Where they hang" className="mt-6 border-t border-line pt-4">
      <div className="flex items-start justify-between gap-2">
        <h2 className="text-lg font-bold">Where they hang</h2>
        {told.length > 0 && (
          <Exports
            name="Where they hang"
            rows={() => [
              ['what', 'unit', 'middle', 'low', 'high', 'n'],
              ...answer.traits.map((t) => [t.name, t.unit, t.middle, t.low, t.high, t.n]),
              ...answer.large.flatMap((l) =>
                l.lines.map((x) => [`large, by ${l.by}: ${x.words}`, '', x.share.share, x.share.low, x.share.high, x.share.n]),
              ),
            ]}
          />
        )}
      </div>
      <p className="text-sm text-mute">
        Of {species} as marked, each target once: not set against where the boat looked, so no preference. Middle, and between which 80 % of
        them lie.
      </p>
      {told.length === 0 ? (
        <p className="mt-1 text-sm text-mute">It takes {LEAST_HANGING} marks with a depth.</p>
      ) : (
        <table className="mt-1 w-full text-sm" data-testid="hang">
          <tbody>
            {told.map((t) => (
              <tr key={t.name} className="border-t border-line first:border-t-0">
                <th scope="row" className="py-1 text-left font-medium">
                  {t.name}
                </th>
                <td className="num py-1 text-right">
                  <b>
                    {inUnit(t.middle.toFixed(1), t.unit)} {unitIn(units, t.unit)}
                  </b>{' '}
                  <span className="text-mute">
                    {inUnit(`${t.low.toFixed(1)}–${t.high.toFixed(1)}`, t.unit)} · n {grouped(t.n)}
                  </span>
                </td>
              </tr>
            ))}
            {words.map((w) => (
              <tr key={w.name} className="border-t border-line">
                <th scope="row" className="py-1 text-left font-medium">
                  {w.name}
                </th>
                <td className="num py-1 text-right">
                  {w.counts
                    .slice(0, 4)
                    .map((c) => `${c.word} ${grouped(c.count)}`)
                    .join(' · ')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {large.map((l) => (
        <div key={l.by} className="mt-3">
          <h3 className="font-bold">Large ones, by {l.by}</h3>
          <ShareLines lines={l.lines.map((x) => ({ ...x, words: sayIn(units, x.words) }))} least={LEAST_HANGING} what="sized marks" />
        </div>
      ))}
    </section>
  );
}
