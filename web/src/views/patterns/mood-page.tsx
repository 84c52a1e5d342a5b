import { useState } from 'react';
import { LEAST_RESPONSES, LEAST_TARGETS, MOOD_FACTORS, type MoodFactor, type Question } from '@restless-shoal/core/patterns';
import { EChart, Exports, hoverWords } from '../../parts/e-chart';
import { grouped, percent } from '../../parts/format';
import { Waiting } from '../../parts/waiting';
import { useAnswer, type OpenLog } from '../../workers/use-patterns-worker';
import { ShareLines } from './share-lines';
import { capital } from './words';
import { numbersIn, sayIn } from '@restless-shoal/core/units';
import { useUnits } from '../../state/units';

/** What the angler wrote stands as it was written, whatever measures are in it. */
const OWN_WORDS: MoodFactor[] = ['lure', 'colour', 'presentation'];

/** What they did to lures, by what was thrown and when; and how large they were at which depth. */
export function MoodPage({ log, question, species }: { log: OpenLog; question: Question; species: string }) {
  const units = useUnits();
  const [factor, setFactor] = useState<MoodFactor>('lure');
  const { answer, failed } = useAnswer(log, ['mood', question, factor], (ask) => ask.mood(question, factor));
  const sizes = useAnswer(log, ['sizes', question], (ask) => ask.sizes(question)).answer;
  const [picture, setPicture] = useState<(() => string) | null>(null);
  if (!answer) return <Waiting what="the responses" failed={failed} />;
  const wordsOf = (line: { words: string }): string => (OWN_WORDS.includes(factor) ? line.words : sayIn(units, line.words));
  const unusual = answer.lines.filter((l) => l.p * answer.lines.length < 0.1);
  const spread = sizes && sizes.points.length >= LEAST_TARGETS ? sizes : null;
  return (
    <div className="grid h-full min-h-0 grid-cols-[11rem_minmax(0,1fr)_minmax(0,24rem)] max-lg:grid-cols-1 max-lg:overflow-y-auto">
      <nav
        aria-label="By what"
        className="overflow-y-auto border-r border-line p-2 max-lg:flex max-lg:flex-wrap max-lg:border-b max-lg:border-r-0"
      >
        {MOOD_FACTORS.map((f) => (
          <button
            key={f}
            type="button"
            aria-pressed={f === factor}
            className={`btn touch-target w-full justify-start px-3 font-normal max-lg:w-auto ${f === factor ? 'btn-primary' : 'btn-ghost'}`}
            onClick={() => setFactor(f)}
          >
            {f}
          </button>
        ))}
      </nav>
      <section tabIndex={0} className="min-h-0 overflow-y-auto p-5">
        <div className="flex items-baseline justify-between gap-2">
          <h1 className="text-[22px] font-bold leading-tight">
            {unusual.length
              ? `${capital(wordsOf(unusual[0]))}: they took it ${percent(unusual[0].share.share)} of the time`
              : answer.lines.length
                ? `By ${factor}: no difference that this log can show`
                : `Nothing to say by ${factor}`}
          </h1>
          {answer.lines.length > 0 && (
            <Exports
              name={`Responses by ${factor}`}
              rows={() => [
                [factor, 'took_it', 'low', 'high', 'n', 'trips', 'p_fisher'],
                ...answer.lines.map((l) => [l.words, l.share.share, l.share.low, l.share.high, l.share.n, l.share.trips, l.p]),
              ]}
            />
          )}
        </div>
        <p className="mb-3 mt-1 text-sm text-mute">
          Of {grouped(answer.n)} responses of {species}, the share that struck or was hooked; bar: 80 %, trips counted as units.
          {answer.few > 0 && ` ${answer.few} lie in kinds with fewer than ${LEAST_RESPONSES}.`}
          {answer.notKnown > 0 && ` Not known for ${grouped(answer.notKnown)}.`} Only fish that were seen to answer are in it: a fish that
          never showed is in no row.
        </p>
        {answer.lines.length > 0 ? (
          <ShareLines
            least={LEAST_RESPONSES}
            what="responses"
            lines={answer.lines.map((l) => ({
              words: wordsOf(l),
              share: l.share,
              note:
                l.p * answer.lines.length < 0.1
                  ? `unlike the others (chance ${l.p < 0.01 ? 'under 1' : Math.round(100 * l.p)} %)`
                  : undefined,
            }))}
          />
        ) : (
          <p>
            It takes {LEAST_RESPONSES} responses with {factor === 'light' ? 'a time' : factor} in at least one kind. Log what a lure did in
            one touch on the Deck, the follows and misses as well.
          </p>
        )}
      </section>
      <aside className="flex min-h-0 flex-col border-l border-line bg-surface p-4 max-lg:border-l-0 max-lg:border-t">
        <div className="flex items-baseline justify-between">
          <h2 className="font-bold">Size and depth</h2>
          {spread && (
            <Exports
              name="Size and depth"
              picture={picture ?? undefined}
              rows={() => [['depth_m', 'length_m'], ...spread.points.map((p) => [...p])]}
            />
          )}
        </div>
        {spread ? (
          <>
            <p className="text-sm text-mute">
              {spread.byDepth && (spread.byDepth.low > 0 || spread.byDepth.high < 0)
                ? `${spread.byDepth.slope > 0 ? 'Larger' : 'Smaller'} deeper: ${Math.abs(100 * spread.byDepth.slope).toFixed(1)} cm a metre (${(100 * Math.min(Math.abs(spread.byDepth.low), Math.abs(spread.byDepth.high))).toFixed(1)}–${(100 * Math.max(Math.abs(spread.byDepth.low), Math.abs(spread.byDepth.high))).toFixed(1)}, 80 %)`
                : 'No change of size with depth that this log can show'}
              ; {spread.points.length} landed.
            </p>
            <div className="min-h-64 flex-1">
              <EChart
                label="Length of landed fish against depth"
                of={JSON.stringify(spread.points)}
                onReady={(p) => setPicture(() => p)}
                option={({ css, font, tooltip, units }) => ({
                  textStyle: font,
                  grid: { left: 48, right: 12, top: 14, bottom: 44 },
                  tooltip: {
                    ...tooltip,
                    formatter: ({ value }: { value: [number, number] }) =>
                      hoverWords(null, sayIn(units, `${value[1].toFixed(0)} cm at ${value[0].toFixed(1)} m`)),
                  },
                  xAxis: {
                    type: 'value',
                    name: `depth, ${units.depth}`,
                    nameLocation: 'middle',
                    nameGap: 26,
                    nameTextStyle: { ...font, color: css('--mute') },
                    axisLabel: { ...font, formatter: (v: number) => numbersIn(units, 'm', String(v)) },
                    splitLine: { show: false },
                    axisLine: { lineStyle: { color: css('--line') } },
                  },
                  yAxis: {
                    type: 'value',
                    scale: true,
                    axisLabel: { ...font, formatter: '{value} cm' },
                    splitLine: { lineStyle: { color: css('--line') } },
                  },
                  series: [
                    {
                      type: 'scatter',
                      symbolSize: 8,
                      itemStyle: { color: css('--fish'), opacity: 0.55 },
                      data: spread.points.map(([d, l]) => [d, 100 * l]),
                    },
                    ...(spread.byDepth
                      ? [
                          {
                            type: 'line',
                            symbol: 'none',
                            silent: true,
                            lineStyle: { color: css('--ink'), width: 2 },
                            data: [Math.min(...spread.points.map((p) => p[0])), Math.max(...spread.points.map((p) => p[0]))].map((d) => [
                              d,
                              100 * (spread.byDepth!.intercept + spread.byDepth!.slope * d),
                            ]),
                          },
                        ]
                      : []),
                  ],
                })}
              />
            </div>
          </>
        ) : (
          <p className="mt-1 text-sm text-mute">
            {sizes?.points.length ?? 0} landed fish with a length and a depth. It takes {LEAST_TARGETS}.
          </p>
        )}
      </aside>
    </div>
  );
}
