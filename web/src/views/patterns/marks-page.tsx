import { LEAST_RETURNS, LEAST_SETTLED, type Calibration, type MarkLife, type Question } from '@restless-shoal/core/patterns';
import { Exports } from '../../parts/e-chart';
import { grouped, percent } from '../../parts/format';
import { Waiting } from '../../parts/waiting';
import { useAnswer, type OpenLog } from '../../workers/use-patterns-worker';
import { HangSection } from './hang-section';
import { ShareLines } from './share-lines';
import { Say } from '../../parts/say';

const SIGN_WORDS = { form: 'Form', density: 'Density', core: 'Core', place: 'Place in the column' } as const;

const hoursWords = (h: number): string => (h < 48 ? `${h.toFixed(h < 10 ? 1 : 0)} hours` : `${(h / 24).toFixed(0)} days`);

function headline(lives: MarkLife[]): string {
  const [cover, open] = lives;
  const known = lives.filter((l) => l.half !== null);
  if (known.length === 2) return `A mark is half spent after ${hoursWords(cover.half!)} at cover, ${hoursWords(open.half!)} in the open`;
  if (known.length === 1)
    return `A mark ${known[0].atCover ? 'at cover' : 'in the open'} is half spent after ${hoursWords(known[0].half!)}`;
  return 'How long a mark stays good: no fall with time that this log can show';
}

/** How long a mark stays good, and what the signs on the screen turned out to be. */
export function MarksPage({ log, question, species }: { log: OpenLog; question: Question; species: string }) {
  const { answer: lives, failed } = useAnswer(log, ['marks', question], (ask) => ask.marks(question));
  const names = useAnswer(log, ['names'], (ask) => ask.names()).answer;
  if (!lives) return <Waiting what="the marks" failed={failed} />;
  const any = lives[0].anyLook;
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)_minmax(0,1fr)] max-lg:grid-cols-1 max-lg:overflow-y-auto">
      <section tabIndex={0} className="min-h-0 overflow-y-auto border-r border-line p-5">
        <div className="flex items-start justify-between gap-2">
          <h1 className="text-[22px] font-bold leading-tight">{headline(lives)}</h1>
          <Exports
            name="How long a mark stays good"
            rows={() => [
              ['where', 'after', 'found_again', 'low', 'high', 'returns'],
              ...lives.flatMap((l) =>
                l.lines.map((x) => [l.atCover ? 'at cover' : 'in the open', x.words, x.share.share, x.share.low, x.share.high, x.share.n]),
              ),
            ]}
          />
        </div>
        <p className="mt-1 text-sm text-mute">
          <Say>{species} seen again within 50 m</Say> when the boat scanned the place later. The upright line: the chance on any scan of
          that size, {Number.isNaN(any.share) ? 'not known' : percent(any.share)}. Bar: 80 %, trips counted as units.
        </p>
        {lives.map((life) => (
          <div key={String(life.atCover)} className="mt-4">
            <h2 className="font-bold">{life.atCover ? 'At cover' : 'In the open'}</h2>
            <ShareLines
              lines={life.lines}
              least={LEAST_RETURNS}
              what="returns"
              mark={Number.isNaN(any.share) ? undefined : { at: any.share, words: 'any scan' }}
            />
          </div>
        ))}
        <HangSection log={log} question={question} species={species} />
      </section>
      <section tabIndex={0} className="min-h-0 overflow-y-auto bg-surface p-5">
        <h2 className="text-lg font-bold">What the signs turned out to be</h2>
        {!names ? (
          <p className="text-mute">looking …</p>
        ) : names.settled < LEAST_SETTLED ? (
          <p className="mt-1 text-mute">
            {names.settled} marks were settled by a catch, a camera or an eye. It takes {LEAST_SETTLED}: tie a landed fish to its mark on
            the Deck.
          </p>
        ) : (
          <>
            <p className="text-sm text-mute">
              {grouped(names.settled)} marks on {names.trips} trips, of all species, settled by a catch, a camera or an eye. What bites is
              not all there is: shares lean towards fish that take lures.
            </p>
            <table className="mt-2 w-full text-sm" data-testid="signs">
              <tbody>
                {names.bySign.map((row) => (
                  <tr key={`${row.sign} ${row.value}`} className="border-t border-line align-top">
                    <th scope="row" className="w-40 py-1 pr-2 text-left font-medium">
                      {row.value}{' '}
                      <span className="block text-xs font-normal text-mute">
                        {SIGN_WORDS[row.sign]} · n {row.n}
                      </span>
                    </th>
                    <td className="num py-1">
                      {row.were.map((w) => (
                        <span
                          key={w.name}
                          className="mr-3 inline-block whitespace-nowrap"
                          title={`80 %: ${percent(w.share.low)} to ${percent(w.share.high)}`}
                        >
                          {w.name} <b>{percent(w.share.share)}</b>{' '}
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
            <Held title="Names given on the water" calibration={names.said} none="Names were given without odds." />
            <Held
              title="The log’s own odds from the signs, each trip judged by the others"
              calibration={names.odds}
              none="Too few to judge."
            />
          </>
        )}
      </section>
    </div>
  );
}

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
            {percent(calibration.right.share)} right ({Math.round(100 * calibration.right.low)}–{Math.round(100 * calibration.right.high)},
            n {calibration.right.n}). Brier {calibration.brier.toFixed(3)}, against {calibration.baseline.toFixed(3)} for always saying that
            share: {calibration.brier < calibration.baseline ? 'the odds tell something' : 'the odds tell nothing yet'}.
          </p>
          <ShareLines
            least={5}
            what="marks"
            lines={calibration.lines.map((l) => ({
              words: `said ${Math.round(100 * l.from)}–${Math.round(100 * l.to)} %`,
              share: l.share,
              note: `mean ${percent(l.said)}`,
            }))}
          />
        </>
      )}
    </div>
  );
}
