import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { metricPlane } from '@restless-shoal/core/geo';
import type { PickedContact, Pointed, Question } from '@restless-shoal/core/patterns';
import { Progress } from '../../parts/progress';
import { Waiting } from '../../parts/waiting';
import { useWaterState } from '../../state/water';
import { useAnswer, useOpenLog } from '../../workers/use-patterns-worker';
import { Filters } from './filters';
import { MarksPage } from './marks-page';
import { MoodPage } from './mood-page';
import { DebatesPage } from './debates-page';
import { PAGES, readAddress, writeAddress, type Asked, type Page, type SimilarTo } from './question-address';
import { RodHoursPage } from './rod-hours-page';
import { WherePage } from './where-page';
import { YearsPage } from './years-page';
import { patterns as msg } from '../../words';

// The map is large, and wanted by few pages.
const Picked = lazy(() => import('./picked').then((m) => ({ default: m.Picked })));
const SimilarSpotsPage = lazy(() => import('./similar-page').then((m) => ({ default: m.SimilarSpotsPage })));

/** What the fish had in common: against where the boat looked, or by the hours that were fished where nothing was scanned. */
export function Patterns() {
  const { chart } = useWaterState();
  return chart ? <ChartedPatterns /> : <RodHoursPage species={null} alone />;
}

/** Against where the boat looked. All that is asked stands in the address. */
function ChartedPatterns() {
  const { chart, water, species, setSpecies } = useWaterState();
  const [address, setAddress] = useSearchParams();
  const log = useOpenLog();
  const known = useMemo(() => water.species.map((s) => s.name), [water.species]);
  const asked = useMemo(() => readAddress(address, species.name, known), [address, species.name, known]);
  const { question, page } = asked;
  const [pointed, setPointed] = useState<{ what: Pointed; words: string; contacts: PickedContact[] | null } | null>(null);

  const ask = useCallback(
    (change: Partial<Asked>) => setAddress(writeAddress({ ...asked, ...change }, water.name), { replace: true }),
    [asked, setAddress, water.name],
  );
  // The address always says what is shown, also when the view was opened without one.
  useEffect(() => {
    const full = writeAddress(asked, water.name);
    if (full.toString() !== address.toString()) setAddress(full, { replace: true });
  }, [asked, water.name, address, setAddress]);
  // The species in the address and in the Strip are one.
  useEffect(() => {
    if (question.species !== null && question.species !== species.name) setSpecies(question.species);
    // Only when the address moves.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [question.species]);
  const inStrip = useRef(species.name);
  useEffect(() => {
    if (inStrip.current === species.name) return;
    inStrip.current = species.name;
    if (question.species !== null && question.species !== species.name) ask({ question: { ...question, species: species.name } });
    // Only when the Strip moves.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [species.name]);

  const basis = useAnswer(log, ['basis', question], (worker) => worker.basis(question)).answer;
  const point = useCallback(
    (what: Pointed, words: string) => {
      setPointed({ what, words, contacts: null });
      void log.ask?.pick(question, what).then((contacts) => setPointed((p) => (p?.what === what ? { ...p, contacts } : p)));
    },
    [log.ask, question],
  );
  const questionKey = JSON.stringify(question);
  useEffect(() => setPointed(null), [questionKey, page]);
  const similarTo = useCallback(
    (of: SimilarTo) => {
      setPointed(null);
      ask({ page: 'similar', of });
    },
    [ask],
  );
  const similarToPoints = useCallback(
    (points: [number, number][], words: string) => {
      if (chart) similarTo({ places: points.map((p) => metricPlane(chart.epsg).toLatLon(p)), words });
    },
    [chart, similarTo],
  );
  const similarToPointed = useCallback(
    (what: Pointed) => {
      void log.ask?.pick(question, what).then((contacts) =>
        similarToPoints(
          contacts.map((c): [number, number] => [c.x, c.y]),
          msg('patterns.whereTheseHeld'),
        ),
      );
    },
    [log.ask, question, similarToPoints],
  );

  const name = question.species ?? 'bait';
  const change = (next: Question): void => {
    if (next.species !== null && next.species !== species.name) setSpecies(next.species);
    ask({ question: next });
  };
  return (
    <div className="relative flex h-full flex-col">
      <Filters
        question={question}
        species={[...new Set([...water.logged, ...(question.species ? [question.species] : [])])]}
        basis={basis}
        outside={log.outside}
        deriving={log.deriving}
        onChange={change}
      >
        <div role="tablist" aria-label={msg('patterns.pagesOfPatterns')} className="flex self-stretch overflow-x-auto">
          {PAGES.map(([key, words]) => (
            <button
              key={key}
              type="button"
              role="tab"
              aria-selected={page === key}
              className={`min-h-11 cursor-pointer whitespace-nowrap border-b-4 px-2.5 ${page === key ? 'border-act font-bold' : 'border-transparent text-mute'}`}
              onClick={() => ask({ page: key })}
            >
              {words}
            </button>
          ))}
        </div>
      </Filters>
      <div className="relative min-h-0 flex-1" role="tabpanel" aria-label={PAGES.find(([key]) => key === page)![1]}>
        {!log.ask ? (
          log.failed ? (
            <Waiting what={msg('patterns.theLogOfThis')} failed={log.failed} />
          ) : (
            <div className="mx-auto max-w-md p-8">
              <Progress words={msg('patterns.layingOutTheLog')} share={log.share} />
            </div>
          )
        ) : (
          <PageOf
            page={page}
            where={
              <WherePage
                log={log}
                asked={asked}
                species={name}
                logged={water.logged}
                onAsk={ask}
                onPoint={point}
                onFindSimilar={similarToPointed}
              />
            }
            hours={<RodHoursPage species={question.species} />}
            mood={<MoodPage log={log} question={question} species={name} />}
            marks={<MarksPage log={log} question={question} species={name} />}
            debates={<DebatesPage log={log} question={question} species={name} />}
            years={<YearsPage log={log} question={question} species={name} />}
            similar={
              <Suspense fallback={<Waiting what={msg('patterns.theMap')} failed={null} />}>
                <SimilarSpotsPage log={log} question={question} species={name} of={asked.of} onOf={similarTo} />
              </Suspense>
            }
          />
        )}
        {pointed && (
          <Suspense fallback={null}>
            <Picked
              words={pointed.words}
              contacts={pointed.contacts}
              onFindSimilar={(places) => similarToPoints(places, msg('patterns.theContactPointedAt'))}
              onClose={() => setPointed(null)}
            />
          </Suspense>
        )}
      </div>
    </div>
  );
}

const PageOf = ({ page, ...pages }: { page: Page } & Record<Page, React.ReactNode>) => <>{pages[page]}</>;
