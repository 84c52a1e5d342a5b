import { useState } from 'react';
import {
  LEAST_RESPONSES,
  LEAST_TARGETS,
  MOOD_FACTORS,
  labelKey,
  type Label,
  type MoodFactor,
  type Question,
} from '@restless-shoal/core/patterns';
import { EChart, Exports, hoverWords } from '../../parts/e-chart';
import { grouped, percent, METRES_PER } from '../../parts/format';
import { Waiting } from '../../parts/waiting';
import { useAnswer, type OpenLog } from '../../workers/use-patterns-worker';
import { ShareLines } from './share-lines';
import { useUnits } from '../../state/units';
import { patterns as msg, formatFishLength, inUnit, labelWords, term, capital } from '../../words';

/** What the angler wrote stands as it was written, whatever measures are in it. */
const OWN_WORDS: MoodFactor[] = ['lure', 'colour', 'presentation'];

/** What they did to lures, by what was thrown and when; and how large they were at which depth. */
export function MoodPage({ log, question, species }: { log: OpenLog; question: Question; species: string }) {
  const units = useUnits();
  const [factor, setFactor] = useState<MoodFactor>('lure');
  const { answer, failed } = useAnswer(log, ['mood', question, factor], (ask) => ask.mood(question, factor));
  const sizes = useAnswer(log, ['sizes', question], (ask) => ask.sizes(question)).answer;
  const [picture, setPicture] = useState<(() => string) | null>(null);
  if (!answer) return <Waiting what={msg('moodPage.theResponses')} failed={failed} />;
  // What was typed stays as it was typed.
  const wordsOf = ({ label }: { label: Label }): string => (OWN_WORDS.includes(factor) ? labelKey(label) : labelWords(label));
  const name = term(factor);
  // A step of depth as one counts: a metre, or five feet.
  const step = units.depth === 'm' ? 1 : 5 * METRES_PER.ft;
  const unusual = answer.lines.filter((l) => l.p * answer.lines.length < 0.1);
  const spread = sizes && sizes.points.length >= LEAST_TARGETS ? sizes : null;
  return (
    <div className="grid h-full min-h-0 grid-cols-[11rem_minmax(0,1fr)_minmax(0,24rem)] max-lg:grid-cols-1 max-lg:overflow-y-auto">
      <nav
        aria-label={msg('moodPage.byWhat')}
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
            {term(f)}
          </button>
        ))}
      </nav>
      <section tabIndex={0} className="min-h-0 overflow-y-auto p-5">
        <div className="flex items-baseline justify-between gap-2">
          <h1 className="text-[22px] font-bold leading-tight">
            {unusual.length
              ? msg('moodPage.struckOfTheTime', { unusual: capital(wordsOf(unusual[0])), share: percent(unusual[0].share.share) })
              : answer.lines.length
                ? msg('moodPage.byNoClearDifference', { factor: name })
                : msg('moodPage.notEnoughDataBy', { factor: name })}
          </h1>
          {answer.lines.length > 0 && (
            <Exports
              name={msg('moodPage.responsesBy', { factor: name })}
              rows={() => [
                [factor, 'took_it', 'low', 'high', 'n', 'trips', 'p_fisher'],
                ...answer.lines.map((l) => [labelKey(l.label), l.share.share, l.share.low, l.share.high, l.share.n, l.share.trips, l.p]),
              ]}
            />
          )}
        </div>
        <p className="mb-3 mt-1 text-sm text-mute">
          {msg('moodPage.ofResponsesOfThe', {
            n: grouped(answer.n),
            species: term(species),
            value: answer.few > 0 ? msg('moodPage.areInGroupsOf', { few: answer.few, leastResponses: LEAST_RESPONSES }) : '',
            value2: answer.notKnown > 0 ? msg('moodPage.notKnownFor', { notKnown: grouped(answer.notKnown) }) : '',
          })}
        </p>
        {answer.lines.length > 0 ? (
          <ShareLines
            min={LEAST_RESPONSES}
            what={msg('moodPage.responses')}
            lines={answer.lines.map((l) => ({
              words: wordsOf(l),
              share: l.share,
              note:
                l.p * answer.lines.length < 0.1
                  ? msg('moodPage.differsFromTheOthers', { p: l.p < 0.01 ? msg('moodPage.under') : Math.round(100 * l.p) })
                  : undefined,
            }))}
          />
        ) : (
          <p>
            {msg('moodPage.needsAtLeastResponses', {
              leastResponses: LEAST_RESPONSES,
              factor: factor === 'light' ? msg('moodPage.aTime') : name,
            })}
          </p>
        )}
      </section>
      <aside className="flex min-h-0 flex-col border-l border-line bg-surface p-4 max-lg:border-l-0 max-lg:border-t">
        <div className="flex items-baseline justify-between">
          <h2 className="font-bold">{msg('moodPage.sizeAndDepth')}</h2>
          {spread && (
            <Exports
              name={msg('moodPage.sizeAndDepth')}
              picture={picture ?? undefined}
              rows={() => [['depth_m', 'length_m'], ...spread.points.map((p) => [...p])]}
            />
          )}
        </div>
        {spread ? (
          <>
            <p className="text-sm text-mute">
              {msg('moodPage.landed', {
                byDepth:
                  spread.byDepth && (spread.byDepth.low > 0 || spread.byDepth.high < 0)
                    ? msg('moodPage.largerDeeperCmA', {
                        more: spread.byDepth.slope > 0 ? 'yes' : 'no',
                        slope: Math.abs(spread.byDepth.slope) * step,
                        step,
                        low: Math.min(Math.abs(spread.byDepth.low), Math.abs(spread.byDepth.high)) * step,
                        high: Math.max(Math.abs(spread.byDepth.low), Math.abs(spread.byDepth.high)) * step,
                      })
                    : msg('moodPage.noClearChangeOf'),
                points: spread.points.length,
              })}
            </p>
            <div className="min-h-64 flex-1">
              <EChart
                label={msg('moodPage.lengthOfLandedFish')}
                of={JSON.stringify(spread.points)}
                onReady={(p) => setPicture(() => p)}
                option={({ css, font, tooltip, units }) => ({
                  textStyle: font,
                  grid: { left: 48, right: 12, top: 14, bottom: 44 },
                  tooltip: {
                    ...tooltip,
                    formatter: ({ value }: { value: [number, number] }) =>
                      hoverWords(null, msg('moodPage.cmAtM', { length: value[1] / 100, depth: value[0] })),
                  },
                  xAxis: {
                    type: 'value',
                    name: msg('moodPage.depth', { depth: units.depth }),
                    nameLocation: 'middle',
                    nameGap: 26,
                    nameTextStyle: { ...font, color: css('--mute') },
                    axisLabel: { ...font, formatter: (v: number) => inUnit(v, 'm') },
                    splitLine: { show: false },
                    axisLine: { lineStyle: { color: css('--line') } },
                  },
                  yAxis: {
                    type: 'value',
                    scale: true,
                    axisLabel: { ...font, formatter: (v: number) => formatFishLength(v / 100) },
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
            {msg('moodPage.landedFishWithA', { points: sizes?.points.length ?? 0, leastTargets: LEAST_TARGETS })}
          </p>
        )}
      </aside>
    </div>
  );
}
