import { Thermometer, Timer } from 'lucide-react';
import { useMemo, useState } from 'react';
import { metricPlane } from '@restless-shoal/core/geo';
import { oxygenHoldsTo } from '@restless-shoal/core/lake';
import { fromBoat } from '@restless-shoal/core/sonar';
import { outbox } from '../../offline/device';
import { compass } from '../../parts/format';
import { Segments } from '../../parts/segments';
import { KindSymbol } from '../../parts/symbols';
import { useBoatState } from '../../state/boat';
import { useWaterState } from '../../state/water';
import { BoatSheet } from './boat-sheet';
import { ColumnInput, type DepthSpan } from './column-input';
import { ConditionsForm } from './conditions-form';
import { DayStrip, type DayEntry } from './day-strip';
import { EndTrip } from './end-trip';
import { EntrySheet } from './entry-sheet';
import { CountChoice, KindChoice, kindWords, type Kind } from './kinds';
import { Notice } from './notice';
import { Pad, padReach, type NearMark } from './pad';
import { StartTrip } from './start-trip';
import { StopPanel } from './stop-panel';
import { useDeckLog } from './use-deck-log';
import { useMarking } from './use-marking';
import { usePhone } from './use-phone';
import { useStop } from './use-stop';
import { ViewChoice } from './view-choice';

/** On the water: kind, depth on the Column, place on the Pad. */
export function Deck() {
  const { water, running } = useWaterState();
  const log = useDeckLog();
  const [failed, setFailed] = useState<string | null>(null);
  if (!running)
    return (
      <StartTrip
        water={water.name}
        failed={failed}
        onStart={(start) => void log.start(start).catch((error: Error) => setFailed(error.message))}
      />
    );
  return <OnTheWater log={log} />;
}

function OnTheWater({ log }: { log: ReturnType<typeof useDeckLog> }) {
  const { water, chart, species, day, conditions, running, log: waterLog } = useWaterState();
  const { source, view, setView, looking, setLooking, flushTrack } = useBoatState();
  const { boat } = source;
  const phone = usePhone();
  const [kind, setKind] = useState<Kind>('fish');
  const [count, setCount] = useState(1);
  const [span, setSpan] = useState<DepthSpan>({ top: 4.5, bottom: 5.5 });
  const [named, setNamed] = useState(true);
  const [sheet, setSheet] = useState<'boat' | 'water' | 'end' | null>(null);
  const [open, setOpen] = useState<DayEntry | null>(null);
  const [side, setSide] = useState<'stop' | 'mark'>('stop');
  const stop = useStop(running?.id ?? null, log.detail, log.write);
  const marking = useMarking(log, stop, { kind, count, span, named }, () => setSheet('boat'));
  const { here, attempt } = marking;

  const entries = useMemo(
    () =>
      log.entries.map((e): DayEntry =>
        e.kind === 'stop' && chart ? { ...e, depth: chart.depth.at(...metricPlane(chart.epsg).toMetric(e.stop)) || null } : e,
      ),
    [log.entries, chart],
  );
  const near = useMemo((): NearMark[] => {
    if (!boat) return [];
    const reach = padReach(view);
    return entries
      .map((e): NearMark => {
        const record = e.kind === 'contact' ? e.contact : e.stop;
        return { id: record.id, kind: e.kind === 'contact' ? e.contact.kind : 'blank', ...fromBoat(boat, record) };
      })
      .filter((m) => Math.hypot(m.ahead, m.starboard) <= reach);
  }, [boat, entries, view]);

  const wind =
    conditions.windSpeed >= 0.3
      ? {
          relative: conditions.windFrom - (boat?.course ?? 0),
          words: `${compass(conditions.windFrom)} ${conditions.windSpeed.toFixed(0)} m/s`,
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
      width={phone ? 150 : 226}
      height={phone ? 316 : 470}
      bottom={here.depth}
      hardness={here.hardness}
      thermocline={day.column.thermocline}
      oxygenTo={oxygenHoldsTo(day.column.samples, species.leastOxygen)}
      span={span}
      count={count}
      kind={kind}
      onChange={setSpan}
    />
  );
  const wide = phone ? 'h-16 flex-col gap-0.5 px-1 leading-tight' : 'h-14 gap-2 px-2';
  const act = (
    <div className={`grid gap-2 ${phone ? 'grid-cols-3' : 'grid-cols-2'}`}>
      <button
        type="button"
        className={`btn btn-primary ${phone ? `${wide} ${stop.open ? 'col-span-2' : ''}` : 'col-span-2 h-16 gap-2 px-2 text-lg leading-tight'}`}
        title="Mark it straight under the boat"
        onClick={() => marking.mark(0, 0)}
      >
        <KindSymbol kind={kind} colour="currentColor" /> Mark {kindWords(kind, count)} below
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
      species={species}
      onRespond={marking.respond}
      onFailed={marking.fail}
    />
  );
  const notice = (
    <div aria-live="polite" className={phone ? '' : 'min-h-6'}>
      <Notice
        failed={marking.failed}
        refused={log.waiting.find((e) => e.refused !== null)}
        done={marking.done}
        trouble={trouble}
        onLeaveOut={(entry) => attempt(() => outbox.drop(entry.seq))}
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
      {(phone || stop.open) && notice}
      {stop.open && side === 'stop' ? (
        stopPanel
      ) : (
        <>
          <KindChoice kind={kind} narrow={phone} onChoose={setKind} />
          {kind === 'fish' && <CountChoice count={count} named={named} species={species.name} onCount={setCount} onNamed={setNamed} />}
          {act}
        </>
      )}
    </>
  );
  const place = (
    <button
      type="button"
      className="touch-target num text-left text-sm text-mute underline decoration-dotted underline-offset-4"
      onClick={() => setSheet('boat')}
    >
      {boat
        ? `${boat.position.latitude.toFixed(5)}, ${boat.position.longitude.toFixed(5)} · ${boat.speed.toFixed(1)} m/s${source.source === 'hand' ? ' · by hand' : source.source === 'network' ? ' · boat’s network' : ''}`
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
        <button type="button" className="btn btn-sm touch-target" onClick={() => setSheet('water')}>
          <Thermometer size={16} aria-hidden /> Log the water
        </button>
        <button type="button" className="btn btn-sm touch-target" onClick={() => setSheet('end')}>
          End trip
        </button>
      </span>
    </div>
  );
  const pad = <Pad size={phone ? 222 : 420} view={view} wind={wind} near={near} kind={kind} onMark={marking.mark} />;

  return (
    <>
      {phone ? (
        <div className="flex h-full flex-col overflow-y-auto">
          <div className="grid grid-cols-[152px_1fr]">
            <section aria-label="How deep?" className="border-r border-line pt-1.5">
              {column}
            </section>
            <section aria-label="Where from the boat?" className="flex flex-col items-center gap-1 px-1 pt-1.5">
              {pad}
              <ViewChoice view={view} looking={looking} narrow={phone} onView={setView} onLooking={setLooking} />
              {place}
            </section>
          </div>
          <section className="flex flex-col gap-2 border-t border-line bg-surface px-2.5 py-2">
            {stopOrMark}
            {dayHead}
            <DayStrip entries={entries} zone={water.time_zone} height={56} onOpen={setOpen} />
          </section>
        </div>
      ) : (
        <div className="grid h-full grid-cols-[244px_1fr_340px] grid-rows-[1fr_auto]">
          <section aria-label="How deep?" className="flex flex-col border-r border-line px-2 pt-3">
            <p className="mb-1 flex justify-between pl-2 text-sm text-mute">
              <span>
                How deep?{' '}
                <b className="num text-ink">
                  {span.top.toFixed(1)}–{span.bottom.toFixed(1)} m
                </b>
              </span>
              {here.depth !== null && <span className="num">{Math.max(0, here.depth - span.bottom).toFixed(1)} up</span>}
            </p>
            {column}
          </section>
          <section aria-label="Where from the boat?" className="flex min-w-0 flex-col items-center px-4 pt-3">
            <p className="mb-1 flex w-full items-center justify-between gap-2 text-sm text-mute">
              <span>Where from the boat? Touch to mark</span>
              <ViewChoice view={view} looking={looking} narrow={phone} onView={setView} onLooking={setLooking} />
            </p>
            {pad}
            <div className="mt-auto flex w-full items-center justify-between">{place}</div>
          </section>
          <aside className="flex flex-col gap-2.5 overflow-y-auto border-l border-line bg-surface px-3.5 py-3">
            {stopOrMark}
            {!stop.open && notice}
          </aside>
          <section aria-label="The day" className="col-span-3 border-t border-line bg-surface px-3.5 py-1.5">
            {dayHead}
            <DayStrip entries={entries} zone={water.time_zone} height={78} onOpen={setOpen} />
          </section>
        </div>
      )}
      {sheet === 'boat' && <BoatSheet source={source} onClose={() => setSheet(null)} />}
      {sheet === 'water' && <ConditionsForm onSave={log.read} onClose={() => setSheet(null)} />}
      {sheet === 'end' && (
        <EndTrip
          detail={log.detail}
          readings={waterLog.readings.filter((r) => r.trip === running?.trip).length}
          open={stop.open !== null}
          onReadWater={() => setSheet('water')}
          onClose={() => setSheet(null)}
          onEnd={() => {
            setSheet(null);
            attempt(async () => {
              await flushTrack();
              await log.end();
            });
          }}
        />
      )}
      {open && (
        <EntrySheet
          entry={open}
          zone={water.time_zone}
          responses={open.kind === 'stop' ? (log.detail?.responses ?? []).filter((r) => r.stop === open.stop.stop) : []}
          from={boat?.position ?? null}
          onClose={() => setOpen(null)}
          onOutcome={(id, row) => attempt(() => log.write('stops', id, row))}
          onRemove={(record, id) => attempt(() => log.remove(record, id))}
        />
      )}
    </>
  );
}
