import { AudioWaveform, CircleDot, Thermometer, Timer } from 'lucide-react';
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { metricPlane } from '@restless-shoal/core/geo';
import { oxygenHoldsTo } from '@restless-shoal/core/lake';
import { fromBoat, slantRange } from '@restless-shoal/core/sonar';
import { withoutBase } from '../../offline/apply';
import { usePlan } from '../../api/queries';
import { outbox } from '../../offline/device';
import { compass } from '../../parts/format';
import { Segments } from '../../parts/segments';
import { KindSymbol } from '../../parts/symbols';
import { useBoatState } from '../../state/boat';
import { useRig } from '../../state/rig';
import { useWaterState } from '../../state/water';
import type { DepthSpan } from './column-gesture';
import { ColumnInput } from './column-input';
import { ColumnReach, REACHES } from './column-reach';
import { DeckFrame } from './deck-frame';
import { useDeckLayout } from './deck-layout';
import { DeckSheets, type DeckSheet } from './deck-sheets';
import { DayStrip, type DayEntry } from './day-strip';
import { agoWords, EntrySheet } from './entry-sheet';
import { ResponseSheet } from './response-sheet';
import { CountChoice, isFree, KindChoice, kindWords, type Kind } from './kinds';
import { GoBackBar } from './go-back';
import { lookedAround } from './looked';
import { Notice } from './notice';
import { asSent } from './outcome';
import { circlesRound, keyOf, wayTo, type Goal } from './way-back';
import { Pad, padReach, type NearMark } from './pad';
import { StartTrip } from './start-trip';
import { StopPanel } from './stop-panel';
import { useDeckLog } from './use-deck-log';
import { useMarkSpecies } from './use-mark-species';
import { isSlant, useMarking } from './use-marking';
import { useStop } from './use-stop';
import { ViewChoice } from './view-choice';
import { formatDepth } from '@restless-shoal/core/units';
import { useSay, useUnits } from '../../state/units';
import { Say } from '../../parts/say';

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

/** Depth of the middle of what was marked, m. */
const middleOf = ({ top_m, bottom_m }: { top_m: number | null; bottom_m: number | null }): number | null =>
  top_m === null ? null : (top_m + (bottom_m ?? top_m)) / 2;

function OnTheWater({ log, onDeleted }: { log: ReturnType<typeof useDeckLog>; onDeleted: (back: () => Promise<void>) => void }) {
  const { water, chart, species, day, conditions, running } = useWaterState();
  const units = useUnits();
  const say = useSay();
  const { source, view, setView, looking, setLooking, mode, setDoing, recorded, echoes } = useBoatState();
  const { boat } = source;
  const frame = useRef<HTMLDivElement>(null);
  const layout = useDeckLayout(frame);
  const phone = layout.narrow;
  const rig = useRig();
  const [screen, setScreen] = useState<'pad' | 'picture'>('pad');
  const pictured = echoes !== null && screen === 'picture';
  const [kind, setKind] = useState<Kind>('fish');
  const [count, setCount] = useState(1);
  const [touched, setTouched] = useState<DepthSpan | null>(null);
  const [named, setNamed] = useMarkSpecies();
  const [reach, setReach] = useState<number | null>(null);
  const deepest = reach ?? water.deepest_m ?? REACHES[1];
  const [sheet, setSheet] = useState<DeckSheet | null>(null);
  const [opened, setOpen] = useState<string | null>(null);
  const [openedResponse, setResponse] = useState<string | null>(null);
  const [goingTo, setGoingTo] = useState<string | null>(null);
  const [side, setSide] = useState<'stop' | 'mark'>('stop');
  const stop = useStop(running?.id ?? null, log.detail, log.write);
  const marking = useMarking(log, stop, { kind, count, touched, deepest, named }, () => setSheet('boat'));
  const { here, span, attempt } = marking;
  const openEntry = useCallback((entry: DayEntry) => setOpen(keyOf(entry)), []);

  const entries = useMemo(
    () =>
      log.entries.map((e): DayEntry =>
        e.kind === 'stop' && chart ? { ...e, depth: chart.depth.at(...metricPlane(chart.epsg).toMetric(e.stop)) || null } : e,
      ),
    [log.entries, chart],
  );
  const find = (key: string | null): DayEntry | null => entries.find((e) => keyOf(e) === key) ?? null;
  const open = find(opened);
  const response = log.detail?.responses.find((r) => r.id === openedResponse) ?? null;
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
  const planned = plan.data?.find((p) => p.id === goingTo);
  const goal: Goal | null = planned ? { kind: 'plan', place: planned } : find(goingTo);
  const way = boat && goal ? wayTo(boat, goal, rig.bow, conditions) : null;
  const circles = boat ? circlesRound(boat, goal, way, stop.open) : [];
  const seen = useMemo(() => (log.detail?.contacts ?? []).filter((c) => c.kind === 'fish' || c.kind === 'bait'), [log.detail]);
  const looked = boat ? lookedAround(boat, recorded, padReach(view), here.depth, seen) : [];
  const near = useMemo((): NearMark[] => {
    if (!boat) return [];
    const reach = padReach(view);
    const slant = isSlant(view.view, rig.corrected);
    return entries
      .map((e): NearMark => {
        const record = e.kind === 'contact' ? e.contact : e.stop;
        const { ahead, starboard } = fromBoat(boat, record);
        // As the screen would show it: where the touch was.
        const flat = Math.hypot(ahead, starboard);
        const deep = e.kind !== 'contact' ? null : isFree(e.contact.kind as Kind) ? middleOf(e.contact) : e.contact.water_depth_m;
        const out = slant && deep !== null && flat > 1 ? slantRange(flat, Math.max(0, deep - rig.transducerDepth)) / flat : 1;
        return { id: record.id, kind: e.kind === 'contact' ? e.contact.kind : 'blank', ahead: ahead * out, starboard: starboard * out };
      })
      .filter((m) => Math.hypot(m.ahead, m.starboard) <= reach);
  }, [boat, entries, view, rig]);

  const wind =
    conditions.windSpeed >= 0.3
      ? {
          relative: conditions.windFrom - (boat?.course ?? 0),
          words: say(`${compass(conditions.windFrom)} ${conditions.windSpeed.toFixed(0)} m/s`),
        }
      : null;
  const unsent = log.waiting.filter((e) => e.refused === null).length;
  // A moment on the way is no news; a server that does not answer is.
  const stuck = log.stuck && unsent > 0;
  const saved = stuck ? `${unsent} to be sent${phone ? '' : ', safe on this device'}` : 'saved';
  const trouble =
    source.trouble && (!boat || source.source === 'network')
      ? { words: source.trouble, warn: true }
      : !boat
        ? { words: 'Looking for the boat’s position …', warn: false }
        : marking.offWater
          ? { words: `The boat is not on ${water.name}: marks go where it is.`, warn: true }
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
      onChange={setTouched}
    />
  );
  const wide = phone ? 'h-14 flex-col gap-0.5 px-1 text-[15px] leading-tight' : 'h-14 gap-2 px-2';
  const act = (
    <div className={`grid gap-2 ${phone ? 'grid-cols-3' : 'grid-cols-2'}`}>
      <button
        type="button"
        className={`btn btn-primary ${phone ? `${wide} ${stop.open ? 'col-span-2' : ''}` : 'col-span-2 h-15 gap-2 px-2 text-lg leading-tight'}`}
        title="Mark it straight under the boat"
        onClick={() => marking.mark(0, 0)}
      >
        {!phone && <KindSymbol kind={kind} colour="currentColor" />} Mark {kindWords(kind, count)} below
      </button>
      <button
        type="button"
        className={`btn border-2 border-ink bg-surface ${wide} ${stop.open && !phone ? 'col-span-2' : ''}`}
        onClick={marking.nothing}
      >
        <KindSymbol kind="blank" /> Nothing here
      </button>
      {!stop.open && (
        <button
          type="button"
          className={`btn border-2 border-ink bg-surface ${wide}`}
          onClick={() => {
            setSide('stop');
            marking.fishHere();
          }}
        >
          <Timer size={22} aria-hidden /> Fish here
        </button>
      )}
    </div>
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
    />
  );
  const notice = (
    <div aria-live="polite" className="min-h-11 shrink-0">
      <Notice
        failed={marking.failed}
        refused={log.waiting.find((e) => e.refused !== null)}
        done={marking.done}
        trouble={trouble}
        waits={stuck ? `${unsent} to be sent` : null}
        wide={!phone}
        onBoat={() => setSheet('boat')}
        onLeaveOut={(entry) => attempt(() => outbox.drop(entry.seq))}
        onSendAgain={(entry) => attempt(() => outbox.sendAgain(entry.seq))}
        onKeepMine={(entry) =>
          attempt(async () => {
            await outbox.put(entry.method, withoutBase(entry.path), entry.body);
            await outbox.drop(entry.seq);
          })
        }
        onOver={marking.over}
      />
    </div>
  );
  // With a stop open the two are shown by turns: what the fish did, and what else is seen.
  const stopOrMark = (
    <>
      {stop.open && (
        <Segments
          label="What is shown"
          options={[
            ['stop', 'The stop'],
            ['mark', 'Mark'],
          ]}
          value={side}
          onChange={setSide}
        />
      )}
      {stop.open && side === 'stop' ? (
        stopPanel
      ) : (
        <>
          <KindChoice kind={kind} columns={layout.kinds} onChoose={setKind} />
          {kind === 'fish' && (
            <CountChoice count={count} named={named} species={names} narrow={phone} onCount={setCount} onNamed={setNamed} />
          )}
          {act}
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
    <button type="button" className="btn touch-target px-2" onClick={() => setScreen(pictured ? 'pad' : 'picture')}>
      {pictured ? <CircleDot size={20} aria-hidden /> : <AudioWaveform size={20} aria-hidden />} {pictured ? 'Pad' : 'Picture'}
    </button>
  );
  const position = boat && `${boat.position.latitude.toFixed(5)}, ${boat.position.longitude.toFixed(5)}`;
  const from =
    source.source === 'hand' ? 'by hand' : source.simulated ? 'simulated boat' : source.source === 'network' ? 'boat’s network' : null;
  const place = (
    <button
      type="button"
      className={`touch-target num text-left text-mute underline decoration-dotted underline-offset-4 ${phone ? 'text-xs leading-tight' : 'text-sm'}`}
      onClick={() => setSheet('boat')}
    >
      {boat
        ? [layout.column.width < 140 || (phone && toggle) ? null : position, say(`${boat.speed.toFixed(1)} m/s`), from]
            .filter(Boolean)
            .join(' · ')
        : 'Set the position by hand'}
    </button>
  );
  const dayHead = (
    <div className="flex items-center justify-between gap-2 text-sm text-mute">
      <span>
        Today{phone ? '' : ' as Columns'} <b className="num text-ink">{entries.length}</b>
      </span>
      <span className={stuck ? 'text-sm font-semibold text-warn' : 'max-md:hidden'}>{saved}</span>
      <span className="flex gap-1">
        {(plan.data?.length ?? 0) > 0 && (
          <button type="button" className="btn btn-sm touch-target" onClick={() => setSheet('plan')}>
            Plan <b className="num">{plan.data!.length}</b>
          </button>
        )}
        <button type="button" className="btn btn-sm touch-target" onClick={() => setSheet('water')}>
          <Thermometer size={16} aria-hidden /> Log the water
        </button>
        <button type="button" className="btn btn-sm touch-target" onClick={() => setSheet('end')}>
          End trip
        </button>
      </span>
    </div>
  );
  const below =
    isSlant(view.view, rig.corrected) && marking.targetDepth !== null ? Math.max(0, marking.targetDepth - rig.transducerDepth) : null;
  const back = way && goal && (
    <GoBackBar
      way={way}
      words={
        goal.kind === 'plan'
          ? goal.place.name
          : `${goal.kind === 'contact' ? kindWords(goal.contact.kind as Kind, goal.contact.count ?? 1) : 'stop'}, ${agoWords(Date.now() - goal.at)}`
      }
      wind={conditions.windSpeed >= 0.5 ? String(conditions.windFrom) : null}
      onStop={() => setGoingTo(null)}
    />
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
      size={layout.pad - (back ? 48 : 0)}
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
  const columnHead = (
    <p className="mb-1 flex justify-between gap-1 pl-2 text-sm text-mute">
      <span>
        <b className="num whitespace-nowrap text-ink">
          <Say>
            {span.top.toFixed(1)}–{span.bottom.toFixed(1)} m
          </Say>
        </b>
      </span>
      {here.depth !== null && layout.column.width > 200 && (
        <span className="num">{formatDepth(Math.max(0, here.depth - span.bottom), units, false)} off the bottom</span>
      )}
    </p>
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
              {here.depth === null && <ColumnReach deepest={deepest} onDeepest={setReach} />}
            </>
          ),
          columnHead,
          pad,
          choice,
          toggle,
          padHead: layout.pad > 400 && <span>{pictured ? 'What the sonar shows' : 'Tap where it is'}</span>,
          place,
          back,
          marking: stopOrMark,
          notice,
          day: (
            <>
              {dayHead}
              <DayStrip entries={entries} zone={water.time_zone} height={layout.day} onOpen={openEntry} />
            </>
          ),
        }}
      />
      <DeckSheets
        sheet={sheet}
        log={log}
        fishing={fishing}
        corrected={marking.done}
        attempt={attempt}
        onDeleted={onDeleted}
        onSheet={setSheet}
        onGo={setGoingTo}
      />
      {response && (
        <ResponseSheet
          key={response.id}
          response={response}
          species={water.species}
          zone={water.time_zone}
          onChange={(change) => attempt(() => log.write('responses', response.id, { ...asSent('responses', response), ...change }))}
          onRemove={() => marking.remove(response.response, [{ record: 'responses', id: response.id, row: response }])}
          onClose={() => setResponse(null)}
        />
      )}
      {open && !response && (
        <EntrySheet
          entry={open}
          zone={water.time_zone}
          responses={open.kind === 'stop' ? (log.detail?.responses ?? []).filter((r) => r.stop === open.stop.stop) : []}
          from={boat?.position ?? null}
          species={water.species}
          onClose={() => setOpen(null)}
          onGoBack={() => setGoingTo(keyOf(open))}
          onContact={(id, change) =>
            open.kind === 'contact' &&
            attempt(() => log.write('contacts', id, { ...asSent('contacts', open.contact), ...change }, open.contact.version))
          }
          onOutcome={(id, row) => attempt(() => log.write('stops', id, row, open.kind === 'stop' ? open.stop.version : undefined))}
          onRemove={marking.remove}
          onResponse={setResponse}
        />
      )}
    </>
  );
}
