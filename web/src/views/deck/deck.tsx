import { AudioWaveform, CircleDot } from 'lucide-react';
import { lazy, Suspense, useCallback, useEffect, useMemo, useReducer, useRef, useState } from 'react';
import { waterAt } from '@restless-shoal/core/chart';
import { metricPlane } from '@restless-shoal/core/geo';
import { oxygenHoldsTo } from '@restless-shoal/core/lake';
import { useDayPlan, usePlan } from '../../state/use-plan';
import { compass } from '../../parts/format';
import { Segments } from '../../parts/segments';
import { useBoatState } from '../../state/boat';
import { useRig } from '../../state/rig';
import { useWaterState } from '../../state/water';
import { ColumnInput } from '../../parts/records/column-input';
import { ColumnReach, REACHES } from './column-reach';
import { DeckFrame } from './deck-frame';
import { ColumnHead, DayHead, MarkButtons, PositionLine } from './deck-parts';
import { deckReducer, startOfTrip } from './deck-state';
import { nearMarks } from './near-marks';
import { useDeckLayout } from './deck-layout';
import { DeckSheets, type DeckSheet } from './deck-sheets';
import { bagOfTrip } from '../../parts/records/bag';
import { DayStrip } from '../../parts/records/day-strip';
import type { DayEntry } from '../../parts/records/day-entries';
import { agoWords } from '../../parts/records/entry-sheet';
import { OpenedSheet } from './opened-sheet';
import { CountChoice, isFree, KindChoice, kindWords, type Kind } from '../../parts/records/kinds';
import { GoBackBar } from './go-back';
import { lookedAround } from './looked';
import { Notice } from './notice';
import { asPlace, blanksInARow, FollowLine, isToday, openStops, PlanLine, PlanOver, StayLine, useFollowing } from './plan-line';
import { circlesRound, keyOf, wayTo, type Goal } from './way-back';
import { Pad, padReach } from './pad';
import { StartTrip } from './start-trip';
import { StopPanel } from './stop-panel';
import { useDeckLog } from './use-deck-log';
import { useMarkSpecies } from './use-mark-species';
import { isSlant, useMarking } from './use-marking';
import { useStop } from './use-stop';
import { ViewChoice } from './view-choice';
import { deck as msg, formatMass, formatSpeed } from '../../words';

// Comes when it is asked for, so that the Deck is there sooner.
const Picture = lazy(() => import('./picture').then((m) => ({ default: m.Picture })));

/** On the water: kind, depth on the Column, place on the Pad. */
export function Deck() {
  const { running } = useWaterState();
  const log = useDeckLog();
  const [failed, setFailed] = useState<string | null>(null);
  // A trip just deleted: how to have it back.
  const [deleted, setDeleted] = useState<(() => Promise<void>) | null>(null);
  const run = (work: Promise<void>): void => void work.catch((error: Error) => setFailed(error.message));
  if (!running)
    return (
      <StartTrip
        failed={failed}
        onStart={(start) => {
          setDeleted(null);
          run(log.start(start));
        }}
        onUndo={
          deleted &&
          (() => {
            setDeleted(null);
            run(deleted());
          })
        }
      />
    );
  return <OnTheWater log={log} onDeleted={(back) => setDeleted(() => back)} />;
}

/** The Deck while a trip runs. What is chosen on it is one state; what was logged comes from the log. */
function OnTheWater({ log, onDeleted }: { log: ReturnType<typeof useDeckLog>; onDeleted: (back: () => Promise<void>) => void }) {
  const { water, chart, species, day, sort, conditions, running } = useWaterState();
  const { source, view, setView, looking, setLooking, mode, setDoing, recorded, echoes } = useBoatState();
  const { boat } = source;
  const frame = useRef<HTMLDivElement>(null);
  const layout = useDeckLayout(frame);
  const phone = layout.narrow;
  const rig = useRig();
  const [state, act] = useReducer(deckReducer, startOfTrip);
  const { kind, count, side } = state;
  const [named, setNamed] = useMarkSpecies();
  const pictured = echoes !== null && state.screen === 'picture';
  const deepest = state.reach ?? water.deepest_m ?? REACHES[1];
  const setSheet = (sheet: DeckSheet | null): void => act({ type: 'sheet', sheet });
  const setResponse = (response: string | null): void => act({ type: 'response', response });
  const stop = useStop(running?.id ?? null, log.detail, log.write);
  const marking = useMarking(log, stop, { kind, count, touched: state.touched, deepest, named }, () => setSheet('boat'));
  const { here, span, attempt } = marking;
  const openEntry = useCallback((entry: DayEntry) => act({ type: 'open', entry: keyOf(entry) }), []);

  const entries = useMemo(
    () =>
      log.entries.map((e): DayEntry =>
        e.kind === 'stop' && chart ? { ...e, depth: waterAt(chart, metricPlane(chart.epsg).toMetric(e.stop)) } : e,
      ),
    [log.entries, chart],
  );
  const find = (key: string | null): DayEntry | null => entries.find((e) => keyOf(e) === key) ?? null;
  const open = find(state.opened);
  const response = log.detail?.responses.find((r) => r.id === state.response) ?? null;
  const names = useMemo(
    () => ({
      logged: water.logged,
      others: water.species.map((s) => s.name).filter((name) => !water.logged.includes(name)),
    }),
    [water],
  );
  const fishing = stop.open !== null;
  useEffect(() => {
    setDoing(fishing ? 'fish' : null);
    return () => setDoing(null);
  }, [fishing, setDoing]);
  const plan = usePlan(water.id);
  const kept = useDayPlan(water.id);
  const dayPlan = isToday(kept, Date.now()) ? kept : null;
  // What the plan had and was left out by hand, and passes no longer followed: of this page alone.
  const [leftOut, setLeftOut] = useState<string[]>([]);
  const rest = useMemo(() => (dayPlan ? openStops(dayPlan, log.detail?.stops ?? [], leftOut) : []), [dayPlan, log.detail, leftOut]);
  const [unfollowed, setUnfollowed] = useState<number | null>(null);
  const following = useFollowing(dayPlan && dayPlan.made !== unfollowed ? dayPlan : null, boat);
  const plannedStop = dayPlan?.stops.find((s) => s.id === state.goingTo);
  const planned = plan.data?.find((p) => p.id === state.goingTo) ?? (plannedStop && asPlace(plannedStop));
  const goal: Goal | null = planned ? { kind: 'plan', place: planned } : find(state.goingTo);
  const way = boat && goal ? wayTo(boat, goal, rig.bow, conditions) : null;
  const circles = boat ? circlesRound(boat, goal, way, stop.open) : [];
  const seen = useMemo(() => (log.detail?.contacts ?? []).filter((c) => c.kind === 'fish' || c.kind === 'bait'), [log.detail]);
  const looked = boat ? lookedAround(boat, recorded, padReach(view), here.depth, seen) : [];
  const slant = isSlant(view.view, rig.corrected);
  const near = useMemo(
    () => (boat ? nearMarks(boat, entries, padReach(view), slant, rig.transducerDepth) : []),
    [boat, entries, view, slant, rig.transducerDepth],
  );

  const wind =
    conditions.windSpeed >= 0.3
      ? {
          relative: conditions.windFrom - (boat?.course ?? 0),
          words: `${compass(conditions.windFrom)} ${formatSpeed(Math.round(conditions.windSpeed))}`,
        }
      : null;
  const unsent = log.waiting.filter((e) => e.refused === null).length;
  // A moment on the way is no news; a server that does not answer is.
  const stuck = log.stuck && unsent > 0;
  const saved = stuck ? msg('deck.toBeSent', { unsent, phone: phone ? 'yes' : 'no' }) : msg('deck.saved');
  const trouble =
    source.trouble && (!boat || source.source === 'network')
      ? { words: source.trouble, warn: true }
      : !boat
        ? { words: msg('deck.lookingForTheBoats'), warn: false }
        : marking.offWater
          ? { words: msg('deck.theBoatIsNot', { name: water.name }), warn: true }
          : null;

  const column = (
    <ColumnInput
      width={layout.column.width}
      // Where nobody knows the depth, how far down it goes is chosen below it.
      height={layout.column.height - (here.depth === null ? 46 : 0)}
      bottom={here.depth}
      deepest={deepest}
      hardness={here.hardness}
      thermocline={day.column.thermocline}
      oxygenTo={oxygenHoldsTo(day.column.samples, species.leastOxygen)}
      span={span}
      count={count}
      kind={kind}
      onChange={(span) => act({ type: 'touched', span })}
    />
  );
  const stopPanel = stop.open && (
    <StopPanel
      stop={stop}
      open={stop.open}
      seen={(log.detail?.contacts ?? []).some((c) => c.kind === 'fish' && c.stop === stop.open?.stop.stop)}
      species={water.species}
      onRespond={marking.respond}
      onOpen={setResponse}
      onFailed={marking.fail}
      stay={<StayLine open={stop.open} plan={dayPlan} rest={rest} logged={log.detail?.stops ?? []} now={Date.now()} />}
    />
  );
  const notice = (
    <div aria-live="polite" className="min-h-11 shrink-0">
      <Notice
        failed={marking.failed}
        refused={log.waiting.find((e) => e.refused !== null)}
        done={marking.done}
        trouble={trouble}
        waits={stuck ? msg('deck.toBeSent2', { unsent }) : null}
        wide={!phone}
        onBoat={() => setSheet('boat')}
        attempt={attempt}
        onOver={marking.over}
      />
    </div>
  );
  // With a stop open the two are shown by turns: what the fish did, and what else is seen.
  const stopOrMark = (
    <>
      {stop.open && (
        <Segments<'stop' | 'mark'>
          label={msg('deck.whatIsShown')}
          options={[
            ['stop', msg('deck.theStop')],
            ['mark', msg('deck.mark')],
          ]}
          value={side}
          onChange={(next) => act({ type: 'side', side: next })}
        />
      )}
      {stop.open && side === 'stop' ? (
        stopPanel
      ) : (
        <>
          <KindChoice kind={kind} columns={layout.kinds} layered={sort === 'lake'} onChoose={(next) => act({ type: 'kind', kind: next })} />
          {kind === 'fish' && (
            <CountChoice
              count={count}
              named={named}
              species={names}
              narrow={phone}
              onCount={(n) => act({ type: 'count', count: n })}
              onNamed={setNamed}
            />
          )}
          <MarkButtons
            kind={kind}
            count={count}
            narrow={phone}
            fishing={fishing}
            onMark={() => marking.mark(0, 0)}
            onNothing={marking.nothing}
            onFish={() => {
              act({ type: 'fishing' });
              marking.fishHere();
            }}
          />
        </>
      )}
    </>
  );
  const choice = (
    <ViewChoice
      view={view}
      looking={looking}
      mode={mode}
      narrow={phone}
      onView={setView}
      onLooking={setLooking}
      onTroll={(on) => setDoing(on ? 'troll' : null)}
    />
  );
  const toggle = echoes && (
    <button type="button" className="btn touch-target px-2" onClick={() => act({ type: 'screen' })}>
      {pictured ? <CircleDot size={20} aria-hidden /> : <AudioWaveform size={20} aria-hidden />}{' '}
      {pictured ? msg('deck.pad') : msg('deck.picture')}
    </button>
  );
  const counted = running?.purpose === 'tournament' ? bagOfTrip(running, log.detail?.responses ?? [], water.species) : null;
  const bag = counted && { n: counted.counted.length, of: counted.rules.fish, total: formatMass(counted.total) };
  const below = slant && marking.targetDepth !== null ? Math.max(0, marking.targetDepth - rig.transducerDepth) : null;
  const back = way && goal && (
    <GoBackBar
      way={way}
      words={
        goal.kind === 'plan'
          ? goal.place.name
          : `${goal.kind === 'contact' ? kindWords(goal.contact.kind as Kind, goal.contact.count ?? 1) : msg('deck.stop')}, ${agoWords(Date.now() - goal.at)}`
      }
      wind={conditions.windSpeed >= 0.5 ? String(conditions.windFrom) : null}
      onStop={() => act({ type: 'go', to: null })}
    />
  );
  const next = rest.find((s) => s.id !== state.goingTo);
  const planLine = following ? (
    <FollowLine following={following} passes={dayPlan!.passes!.lines.length} onStop={() => setUnfollowed(dayPlan!.made)} />
  ) : (
    dayPlan &&
    !stop.open &&
    (next ? (
      <PlanLine
        next={next}
        number={dayPlan.stops.indexOf(next) + 1}
        from={boat?.position ?? null}
        zone={water.time_zone}
        blanks={blanksInARow(log.detail?.stops ?? [])}
        onGo={() => act({ type: 'go', to: next.id })}
        onSkip={() => setLeftOut([...leftOut, next.id])}
      />
    ) : (
      dayPlan.stops.length > 0 && !rest.length && <PlanOver />
    ))
  );
  const pad = pictured ? (
    <Suspense fallback={null}>
      <Picture
        {...layout.picture}
        record={echoes}
        view={view}
        fixes={source.fixes}
        kind={kind}
        count={count}
        columnDepth={isFree(kind) ? (span.top + span.bottom) / 2 : null}
        onMark={marking.markRead}
      />
    </Suspense>
  ) : (
    <Pad
      size={layout.pad - (back || planLine ? 48 : 0)}
      view={view}
      wind={wind}
      near={near}
      kind={kind}
      below={below}
      looked={looked}
      circles={circles}
      onMark={marking.mark}
    />
  );
  return (
    <>
      <DeckFrame
        ref={frame}
        layout={layout}
        pictured={pictured}
        parts={{
          column: (
            <>
              {column}
              {here.depth === null && <ColumnReach deepest={deepest} onDeepest={(reach) => act({ type: 'reach', reach })} />}
            </>
          ),
          columnHead: <ColumnHead span={span} depth={here.depth} wide={layout.column.width > 200} />,
          pad,
          choice,
          toggle,
          padHead: layout.pad > 400 && <span>{pictured ? msg('deck.whatTheSonarShows') : msg('deck.tapWhereItIs')}</span>,
          place: (
            <PositionLine
              boat={boat}
              source={source}
              narrow={phone}
              short={layout.column.width < 140 || (phone && echoes !== null)}
              onPress={() => setSheet('boat')}
            />
          ),
          back: back || planLine || null,
          marking: stopOrMark,
          notice,
          day: (
            <>
              <DayHead
                entries={entries.length}
                saved={saved}
                stuck={stuck}
                planned={plan.data?.length ?? 0}
                bag={bag}
                narrow={phone}
                onSheet={setSheet}
              />
              <DayStrip entries={entries} zone={water.time_zone} height={layout.day} onOpen={openEntry} />
            </>
          ),
        }}
      />
      <DeckSheets
        sheet={state.sheet}
        log={log}
        fishing={fishing}
        corrected={marking.done}
        attempt={attempt}
        onDeleted={onDeleted}
        onSheet={setSheet}
        onGo={(to) => act({ type: 'go', to })}
      />
      <OpenedSheet
        entry={open}
        response={response}
        detail={log.detail}
        water={water.id}
        species={water.species}
        zone={water.time_zone}
        from={boat?.position ?? null}
        log={log}
        marking={marking}
        act={act}
      />
    </>
  );
}
