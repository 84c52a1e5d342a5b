import { Eye, EyeOff, Thermometer, Timer, Undo2 } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { bearing, destination, distance, metricPlane, type LatLon } from '@restless-shoal/core/geo';
import { oxygenHoldsTo } from '@restless-shoal/core/lake';
import { likelySame, type Response } from '@restless-shoal/core/logbook';
import { placeTarget } from '@restless-shoal/core/sonar';
import { deckNow } from '../../api/clock';
import { outbox } from '../../offline/device';
import { clockInZone, compass } from '../../parts/format';
import { Segments } from '../../parts/segments';
import { KindSymbol } from '../../parts/symbols';
import { useWaterState } from '../../state/water';
import { BoatSheet } from './boat-sheet';
import { ColumnInput, type DepthSpan } from './column-input';
import { ConditionsForm } from './conditions-form';
import { DayStrip, type DayEntry } from './day-strip';
import { EndTrip } from './end-trip';
import { EntrySheet } from './entry-sheet';
import { aimWords, Pad, padReach, type NearMark } from './pad';
import { StartTrip } from './start-trip';
import { StopPanel } from './stop-panel';
import { useBoatState } from '../../state/boat';
import type { Boat, BoatSource } from '../../state/use-boat';
import { useDeckLog } from './use-deck-log';
import { usePhone } from './use-phone';
import { useStop } from './use-stop';
import { DECK_VIEWS } from '../../state/views-in-use';

const KINDS = [
  { kind: 'fish', label: 'Fish' },
  { kind: 'bait', label: 'Bait' },
  { kind: 'cover', label: 'Cover' },
  { kind: 'bottom', label: 'Bottom' },
  { kind: 'weed', label: 'Weed edge' },
  { kind: 'thermocline', label: 'Thermocline' },
  { kind: 'hazard', label: 'Hazard' },
] as const;
type Kind = (typeof KINDS)[number]['kind'];

const COUNTS = [1, 3, 6, 12, 50];

interface Done {
  words: string;
  undo: () => void;
  /** An earlier mark that may be the same target, in words, and what says so. */
  same?: { words: string; join: () => void };
}

/** News of the boat older than this says nothing of where it is now, ms. */
const NEWS_HOLDS = 2000;

/** Where the boat is at this moment: on from its last news, by its course and speed. */
function whereNow({ position, course, speed, at }: Boat, source: BoatSource['source']): LatLon {
  const age = deckNow() - at;
  return source === 'network' && age > 0 && age < NEWS_HOLDS ? destination(position, course, (speed * age) / 1000) : position;
}

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
  const [done, setDone] = useState<Done | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const [sheet, setSheet] = useState<'boat' | 'water' | 'end' | null>(null);
  const [open, setOpen] = useState<DayEntry | null>(null);
  const [side, setSide] = useState<'stop' | 'mark'>('stop');
  const readings = waterLog.readings.filter((r) => r.trip === running?.trip).length;
  const stop = useStop(running?.id ?? null, log.detail, log.write);

  const at = (position: LatLon): { depth: number | null; hardness: number | null } => {
    if (!chart) return { depth: null, hardness: null };
    const [x, y] = metricPlane(chart.epsg).toMetric(position);
    const [depth, hardness] = [chart.depth.at(x, y), chart.hardness.at(x, y)];
    return { depth: Number.isNaN(depth) ? null : depth, hardness: Number.isNaN(hardness) ? null : hardness };
  };
  const charted = boat ? at(boat.position) : { depth: null, hardness: null };
  // What the sounder says now goes before what the chart said once.
  const here = { ...charted, depth: boat?.depth ?? charted.depth };

  useEffect(() => {
    if (!done) return;
    const timer = setTimeout(() => setDone(null), 9000);
    return () => clearTimeout(timer);
  }, [done]);

  const attempt = (work: () => Promise<Done | null>): void => {
    setFailed(null);
    void work()
      .then((d) => d && setDone(d))
      .catch((error: Error) => setFailed(`Not saved: ${error.message}`));
  };

  const mark = (ahead: number, starboard: number): void => {
    if (!boat) {
      setSheet('boat');
      return;
    }
    const position = placeTarget({ position: whereNow(boat, source.source), course: boat.course, speed: boat.speed }, ahead, starboard);
    const there = at(position);
    const below = Math.hypot(ahead, starboard) < 3;
    const floor = (below ? boat.depth : null) ?? there.depth ?? here.depth;
    const top = floor === null ? span.top : Math.min(span.top, floor);
    const bottom =
      kind === 'cover' || kind === 'weed' || kind === 'hazard'
        ? (floor ?? span.bottom)
        : floor === null
          ? span.bottom
          : Math.min(span.bottom, floor);
    const n = kind === 'fish' ? count : null;
    attempt(async () => {
      await flushTrack();
      const row = {
        time: new Date(deckNow()).toISOString(),
        stop: stop.open?.stop.stop ?? null,
        latitude: Number(position.latitude.toFixed(7)),
        longitude: Number(position.longitude.toFixed(7)),
        kind,
        view: view.view,
        species: kind === 'fish' && named ? species.name : null,
        confidence: kind === 'fish' && named ? 0.7 : null,
        confirmed: 'none',
        count: n,
        top_m: kind === 'bottom' ? null : Number(top.toFixed(2)),
        bottom_m: kind === 'bottom' ? null : Number(Math.max(top, bottom).toFixed(2)),
        water_depth_m: floor === null ? null : Number(floor.toFixed(2)),
        hardness: there.hardness === null ? null : Number(there.hardness.toFixed(2)),
      } as const;
      const id = await log.mark(row);
      const same = likelySame(row, log.detail?.contacts ?? []);
      const what = kind === 'fish' ? `${n} fish` : KINDS.find((k) => k.kind === kind)!.label.toLowerCase();
      return {
        words: `Marked ${what} at ${((top + bottom) / 2).toFixed(1)} m, ${aimWords(ahead, starboard)}`,
        undo: () => attempt(async () => (await log.remove('contacts', id), null)),
        same: same
          ? {
              words: `Same as ${clockInZone(new Date(same.contact.time), water.time_zone)}, ${same.metres.toFixed(0)} m off?`,
              join: () =>
                attempt(async () => {
                  await log.write('contacts', id, { contact: id, ...row, same_as: same.contact.contact ?? same.contact.id });
                  return {
                    words: 'One target, seen again',
                    undo: () => attempt(async () => (await log.write('contacts', id, { contact: id, ...row }), null)),
                  };
                }),
            }
          : undefined,
      };
    });
  };

  const fishHere = (): void => {
    if (!boat) {
      setSheet('boat');
      return;
    }
    setSide('stop');
    attempt(async () => {
      await flushTrack();
      const id = await stop.begin({
        latitude: Number(boat.position.latitude.toFixed(7)),
        longitude: Number(boat.position.longitude.toFixed(7)),
      });
      return {
        words: 'Fishing here: the clock runs',
        undo: () =>
          attempt(async () => {
            await log.remove('stops', id);
            stop.forget();
            return null;
          }),
      };
    });
  };

  const respond = (response: Response['response']): void =>
    attempt(async () => {
      const id = await stop.respond(response, {
        depth_m: Number(((span.top + span.bottom) / 2).toFixed(2)),
        species: response === 'landed' || named ? species.name : null,
      });
      return { words: `Logged: ${response}`, undo: () => attempt(async () => (await log.remove('responses', id), null)) };
    });

  const nothing = (): void => {
    if (!boat) {
      setSheet('boat');
      return;
    }
    attempt(async () => {
      await flushTrack();
      const id = await log.nothing(
        { latitude: Number(boat.position.latitude.toFixed(7)), longitude: Number(boat.position.longitude.toFixed(7)) },
        25,
      );
      return { words: 'Marked: nothing here, 25 m round the boat', undo: () => attempt(async () => (await log.remove('stops', id), null)) };
    });
  };

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
    return entries.flatMap((e): NearMark[] => {
      const record = e.kind === 'contact' ? e.contact : e.stop;
      const far = distance(boat.position, record);
      if (far > reach) return [];
      const turn = ((bearing(boat.position, record) - boat.course) * Math.PI) / 180;
      return [
        {
          id: record.id,
          kind: e.kind === 'contact' ? e.contact.kind : 'blank',
          ahead: far * Math.cos(turn),
          starboard: far * Math.sin(turn),
        },
      ];
    });
  }, [boat, entries, view]);

  const wind =
    conditions.windSpeed >= 0.3
      ? {
          relative: conditions.windFrom - (boat?.course ?? 0),
          words: `${compass(conditions.windFrom)} ${conditions.windSpeed.toFixed(0)} m/s`,
        }
      : null;
  const below = view.view === 'sounder' || view.view === 'down-beam';
  const tooFar = boat && chart && charted.depth === null;
  const unsent = log.waiting.filter((e) => e.refused === null).length;
  const refused = log.waiting.find((e) => e.refused !== null);
  // A moment on the way is no news; a server that does not answer is.
  const stuck = log.stuck && unsent > 0;
  const saved = stuck ? `${unsent} to be sent${phone ? '' : ', safe on this device'}` : 'saved';

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
  const kinds = (
    <div role="radiogroup" aria-label="What is it?" className={`grid gap-2 ${phone ? 'grid-cols-4' : 'grid-cols-2'}`}>
      {KINDS.map((k) => (
        <button
          key={k.kind}
          type="button"
          role="radio"
          aria-checked={kind === k.kind}
          onClick={() => setKind(k.kind)}
          className={`flex min-h-[50px] items-center rounded-xl border-2 font-semibold leading-tight ${phone ? 'flex-col justify-center gap-0.5 px-1 text-[13px]' : 'gap-2 px-2.5'} ${kind === k.kind ? 'border-act bg-[color-mix(in_srgb,var(--act)_13%,var(--surface))]' : 'border-line bg-ground'}`}
        >
          <KindSymbol kind={k.kind} size={24} />
          {k.label}
        </button>
      ))}
    </div>
  );
  const counts = kind === 'fish' && (
    <div>
      <div className="mb-1 flex justify-between text-sm text-mute">
        <span>
          How many? <b className="text-ink">{count === 50 ? '50 or more' : count}</b>
        </span>
        <label className="flex cursor-pointer items-center gap-1.5">
          <input type="checkbox" className="checkbox checkbox-sm" checked={named} onChange={(e) => setNamed(e.target.checked)} />
          likely {species.name}
        </label>
      </div>
      <div role="radiogroup" aria-label="How many?" className="num flex gap-1.5">
        {COUNTS.map((n) => (
          <button
            key={n}
            type="button"
            role="radio"
            aria-checked={count === n}
            onClick={() => setCount(n)}
            className={`h-11 flex-1 rounded-lg border bg-ground ${count === n ? 'border-2 border-ink font-bold' : 'border-line'}`}
          >
            {n === 50 ? '50+' : n}
          </button>
        ))}
      </div>
    </div>
  );
  const views = (
    <div className="flex flex-wrap items-center gap-1.5 max-md:w-full max-md:gap-1">
      <select
        aria-label="Sonar view in use"
        className="select h-11 w-36 font-semibold max-md:w-[6.6rem] max-md:px-2"
        value={view.view}
        onChange={(e) => {
          const chosen = DECK_VIEWS.find((v) => v.view === e.target.value)!;
          setView({ view: chosen.view, range: chosen.ranges.includes(view.range) ? view.range : (chosen.ranges[3] ?? view.range) });
        }}
      >
        {DECK_VIEWS.map((v) => (
          <option key={v.view} value={v.view}>
            {v.label}
          </option>
        ))}
      </select>
      {!below && (
        <select
          aria-label="Range of the view, m"
          className="select num h-11 w-24 max-md:w-[4.4rem] max-md:px-2"
          value={view.range}
          onChange={(e) => setView({ ...view, range: Number(e.target.value) })}
        >
          {DECK_VIEWS.find((v) => v.view === view.view)!.ranges.map((r) => (
            <option key={r} value={r}>
              {r} m
            </option>
          ))}
        </select>
      )}
      <button
        type="button"
        aria-pressed={looking}
        aria-label={looking ? 'Looking' : 'Under way'}
        onClick={() => setLooking(!looking)}
        title={looking ? 'The sonar is watched: the track counts as water looked at' : 'Under way: the track counts as transit'}
        className={`btn touch-target ${phone ? 'px-0' : ''} ${looking ? 'btn-primary' : ''}`}
      >
        {phone ? looking ? <Eye size={22} aria-hidden /> : <EyeOff size={22} aria-hidden /> : looking ? 'Looking' : 'Under way'}
      </button>
    </div>
  );
  const wide = phone ? 'h-16 flex-col gap-0.5 px-1 leading-tight' : 'h-14 gap-2 px-2';
  const act = (
    <div className={`grid gap-2 ${phone ? 'grid-cols-3' : 'grid-cols-2'}`}>
      <button
        type="button"
        className={`btn btn-primary ${phone ? `${wide} ${stop.open ? 'col-span-2' : ''}` : 'col-span-2 h-16 gap-2 px-2 text-lg leading-tight'}`}
        title="Mark it straight under the boat"
        onClick={() => mark(0, 0)}
      >
        <KindSymbol kind={kind} colour="currentColor" /> Mark{' '}
        {kind === 'fish' ? `${count === 50 ? '50+' : count} fish` : KINDS.find((k) => k.kind === kind)!.label.toLowerCase()} below
      </button>
      <button
        type="button"
        className={`btn border-2 border-ink bg-surface ${wide} ${stop.open && !phone ? 'col-span-2' : ''}`}
        onClick={nothing}
      >
        <KindSymbol kind="blank" /> Nothing here
      </button>
      {!stop.open && (
        <button type="button" className={`btn border-2 border-ink bg-surface ${wide}`} onClick={fishHere}>
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
      onRespond={respond}
      onFailed={(error) => setFailed(`Not saved: ${error.message}`)}
    />
  );
  const notice = (
    <div aria-live="polite" className={phone ? '' : 'min-h-6'}>
      {failed ? (
        <p role="alert" className="border-l-4 border-warn pl-2 text-sm text-warn">
          {failed}
        </p>
      ) : refused ? (
        <p role="alert" className="flex items-center justify-between gap-2 border-l-4 border-warn pl-2 text-sm text-warn">
          The server did not take a record: {refused.refused}
          <button
            type="button"
            className="btn btn-sm touch-target"
            onClick={() => attempt(async () => (await outbox.drop(refused.seq), null))}
          >
            Leave it out
          </button>
        </p>
      ) : done ? (
        <p className="flex items-center justify-between gap-2 text-sm font-semibold leading-tight max-md:gap-1">
          <span className="min-w-0 flex-1" data-testid="done">
            {done.words}
          </span>
          {done.same && (
            <button
              type="button"
              className="btn btn-sm touch-target num max-w-32 px-2 leading-tight"
              onClick={() => {
                done.same?.join();
                setDone(null);
              }}
            >
              {done.same.words}
            </button>
          )}
          <button
            type="button"
            className="btn btn-sm touch-target"
            onClick={() => {
              done.undo();
              setDone(null);
            }}
          >
            <Undo2 size={16} aria-hidden /> Undo
          </button>
        </p>
      ) : source.trouble && (!boat || source.source === 'network') ? (
        <p className="text-sm text-warn">{source.trouble}</p>
      ) : !boat ? (
        <p className="text-sm text-mute">Looking for the boat’s position …</p>
      ) : tooFar ? (
        <p className="text-sm text-warn">The boat is not on {water.name}: marks go where it is.</p>
      ) : null}
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
          {kinds}
          {counts}
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
  const pad = <Pad size={phone ? 222 : 420} view={view} wind={wind} near={near} kind={kind} onMark={mark} />;

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
              {views}
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
              {views}
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
          readings={readings}
          open={stop.open !== null}
          onReadWater={() => setSheet('water')}
          onClose={() => setSheet(null)}
          onEnd={() => {
            setSheet(null);
            attempt(async () => {
              await flushTrack();
              await log.end();
              return null;
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
          onOutcome={(id, row) => attempt(async () => (await log.write('stops', id, row), null))}
          onRemove={(record, id) => attempt(async () => (await log.remove(record, id), null))}
        />
      )}
    </>
  );
}
