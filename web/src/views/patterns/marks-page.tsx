import { AGAIN, LEAST_RETURNS, LEAST_SETTLED, type Calibration, type MarkLife, type Question } from '@restless-shoal/core/patterns';
import { Exports } from '../../parts/e-chart';
import { grouped, percent } from '../../parts/format';
import { Waiting } from '../../parts/waiting';
import { useAnswer, type OpenLog } from '../../workers/use-patterns-worker';
import { HangSection } from './hang-section';
import { ShareLines } from './share-lines';
import { patterns as msg, decimal, plain, term } from '../../words';

const SIGN_WORDS = {
  form: msg('marksPage.form'),
  density: msg('marksPage.density'),
  core: msg('marksPage.core'),
  place: msg('marksPage.placeInTheColumn'),
} as const;

const hoursWords = (h: number): string =>
  h < 48 ? msg('marksPage.hours', { h: decimal(h, h < 10 ? 1 : 0) }) : msg('marksPage.days', { h: decimal(h / 24) });

function headline(lives: MarkLife[]): string {
  const [cover, open] = lives;
  const known = lives.filter((l) => l.half !== null);
  if (known.length === 2) return msg('marksPage.halfAreGoneAfter', { half: hoursWords(cover.half!), half2: hoursWords(open.half!) });
  if (known.length === 1)
    return msg('marksPage.atCoverHalfAre', { atCover: known[0].atCover ? 'yes' : 'no', half: hoursWords(known[0].half!) });
  return msg('marksPage.howLongMarksLast');
}

/** How long marks last, and what the signs on the screen turned out to be. */
export function MarksPage({ log, question, species }: { log: OpenLog; question: Question; species: string }) {
  const { answer: lives, failed } = useAnswer(log, ['marks', question], (ask) => ask.marks(question));
  const names = useAnswer(log, ['names'], (ask) => ask.names()).answer;
  if (!lives) return <Waiting what={msg('marksPage.theMarks')} failed={failed} />;
  const any = lives[0].anyLook;
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)_minmax(0,1fr)] max-lg:grid-cols-1 max-lg:overflow-y-auto">
      <section tabIndex={0} className="min-h-0 overflow-y-auto border-r border-line p-5">
        <div className="flex items-start justify-between gap-2">
          <h1 className="text-[22px] font-bold leading-tight">{headline(lives)}</h1>
          <Exports
            name={msg('marksPage.howLongMarksLast2')}
            rows={() => [
              ['where', 'after', 'found_again', 'low', 'high', 'returns'],
              ...lives.flatMap((l) =>
                l.lines.map((x) => [
                  l.atCover ? msg('marksPage.atCover') : msg('marksPage.inTheOpen'),
                  spanWords(x.from, x.to),
                  x.share.share,
                  x.share.low,
                  x.share.high,
                  x.share.n,
                ]),
              ),
            ]}
          />
        </div>
        <p className="mt-1 text-sm text-mute">
          {msg('marksPage.seenAgainWithinM', { species: term(species), within: AGAIN })}{' '}
          {msg('marksPage.whenTheBoatScanned', { share: Number.isNaN(any.share) ? msg('marksPage.notKnown') : percent(any.share) })}
        </p>
        {lives.map((life) => (
          <div key={String(life.atCover)} className="mt-4">
            <h2 className="font-bold">{life.atCover ? msg('marksPage.atCover2') : msg('marksPage.inTheOpen2')}</h2>
            <ShareLines
              lines={life.lines.map((l) => ({ ...l, words: spanWords(l.from, l.to) }))}
              min={LEAST_RETURNS}
              what={msg('marksPage.returns')}
              mark={Number.isNaN(any.share) ? undefined : { at: any.share, words: msg('marksPage.anyScan') }}
            />
          </div>
        ))}
        <HangSection log={log} question={question} species={species} />
      </section>
      <section tabIndex={0} className="min-h-0 overflow-y-auto bg-surface p-5">
        <h2 className="text-lg font-bold">{msg('marksPage.whatMarksTurnedOut')}</h2>
        {!names ? (
          <p className="text-mute">{msg('marksPage.looking')}</p>
        ) : names.settled < LEAST_SETTLED ? (
          <p className="mt-1 text-mute">{msg('marksPage.marksWereConfirmedBy', { settled: names.settled, leastSettled: LEAST_SETTLED })}</p>
        ) : (
          <>
            <p className="text-sm text-mute">{msg('marksPage.marksOnTripsOf', { settled: grouped(names.settled), trips: names.trips })}</p>
            <table className="mt-2 w-full text-sm" data-testid="signs">
              <tbody>
                {names.bySign.map((row) => (
                  <tr key={`${row.sign} ${row.value}`} className="border-t border-line align-top">
                    <th scope="row" className="w-40 py-1 pr-2 text-left font-medium">
                      {term(row.value)}{' '}
                      <span className="block text-xs font-normal text-mute">
                        {SIGN_WORDS[row.sign]} · n {row.n}
                      </span>
                    </th>
                    <td className="num py-1">
                      {row.were.map((w) => (
                        <span
                          key={w.name}
                          className="mr-3 inline-block whitespace-nowrap"
                          title={msg('marksPage.to', { low: percent(w.share.low), high: percent(w.share.high) })}
                        >
                          {term(w.name)} <b>{percent(w.share.share)}</b>{' '}
                          <span className="text-xs text-mute">
                            {Math.round(100 * w.share.low)}–{Math.round(100 * w.share.high)}
                          </span>
                        </span>
                      ))}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            <Held
              title={msg('marksPage.identifiedOnTheWater')}
              calibration={names.said}
              none={msg('marksPage.identificationsCarriedNoOdds')}
            />
            <Held title={msg('marksPage.oddsEstimatedFromThis')} calibration={names.odds} none={msg('marksPage.tooFewToJudge')} />
          </>
        )}
      </section>
    </div>
  );
}

/** Hours since a mark, as one counts them. */
const spanWords = (from: number, to: number): string =>
  from === 0
    ? msg('marksPage.span.under', { to })
    : to > 12
      ? msg('marksPage.span.days', { from: plain(from / 24, 1), to: to / 24 })
      : msg('marksPage.span.hours', { from, to });

/** How odds held. */
function Held({ title, calibration, none }: { title: string; calibration: Calibration | null; none: string }) {
  return (
    <div className="mt-4">
      <h3 className="font-bold">{title}</h3>
      {!calibration ? (
        <p className="text-sm text-mute">{none}</p>
      ) : (
        <>
          <p className="num text-sm text-mute">
            {msg('marksPage.rightNBrierAgainst', {
              share: percent(calibration.right.share),
              low: Math.round(100 * calibration.right.low),
              high: Math.round(100 * calibration.right.high),
              n: calibration.right.n,
              brier: decimal(calibration.brier, 3),
              baseline: decimal(calibration.baseline, 3),
              brier2: calibration.brier < calibration.baseline ? 'yes' : 'no',
            })}
          </p>
          <ShareLines
            min={5}
            what={msg('marksPage.marks')}
            lines={calibration.lines.map((l) => ({
              words: msg('marksPage.said', { from: Math.round(100 * l.from), to: Math.round(100 * l.to) }),
              share: l.share,
              note: msg('marksPage.mean', { said: percent(l.said) }),
            }))}
          />
        </>
      )}
    </div>
  );
}
