import { useEffect, useMemo, useState } from 'react';
import { metricPlane, type Point } from '@restless-shoal/core/geo';
import { sunPlace } from '@restless-shoal/core/lake';
import { streamIn } from '@restless-shoal/core/forecast';
import { streamOf, tideOf, tideState, type StreamNow } from '@restless-shoal/core/tide';
import {
  anchored,
  anchorFor,
  comeIn,
  driftOver,
  inCast,
  sinksAside,
  turnAtAnchor,
  twoAnchors,
  type Lure,
} from '@restless-shoal/core/passage';
import type { WaterLog } from '../../api/queries';
import { clockInZone, compass } from '../../parts/format';
import { Segments } from '../../parts/segments';
import { Slider } from '../bench/slider';
import { useGear } from '../../state/use-gear';
import { useRig } from '../../state/rig';
import { useWaterState } from '../../state/water';
import { decimal, formatDepth, formatLength, formatSpeed, percent, plan as msg, say } from '../../words';
import { boatShape, circle } from './boat-on-water';
import type { NamedSpot } from './names';

/** Two lures where none with a sink rate is in the gear. */
const USUAL_LURES = (): Lure[] => [
  { name: msg('spot.fastLure'), sink: 1 },
  { name: msg('spot.slowLure'), sink: 0.3 },
];
/** Length of a boat where none is in the gear, m. */
const USUAL_LENGTH = 4.6;
const CAST = 30;

type How = 'come-in' | 'drift' | 'anchor';
/** A mark is taken as so large, and a drift begins so far before its edge, m. */
const MARK_RADIUS = 15;
const LEAD = 30;
/** So long after its turn the stream runs again, ms. */
const AFTER_TURN = 2.5 * 3_600_000;

/** What is drawn for a spot on the map. */
export interface SpotDrawing {
  runs: Point[][];
  tracks: Point[][];
}

/** How to come in to a spot, or lie at anchor there: computed from wind, current, sun, depth and lures. */
export function SpotPanel({ spot, at, onDraw }: { spot: NamedSpot; at: Point; onDraw: (drawing: SpotDrawing | null) => void }) {
  const { water: shown, chart, ground, conditions, frame, log, sort } = useWaterState();
  const rig = useRig();
  const gear = useGear().gear;
  const [how, setHow] = useState<How>('come-in');
  const cell = useMemo(() => {
    if (!chart) return -1;
    const [c, r] = [Math.floor(at[0] / 25), Math.floor(at[1] / 25)];
    for (let i = 0; i < chart.cells.count; i++) if (chart.cells.column[i] === c && chart.cells.row[i] === r) return i;
    return -1;
  }, [chart, at]);
  const [flows] = useState(() => {
    const read = streamOf(shown.tide, conditions.at.getTime()) ?? lastCurrent(log.readings);
    // A river was read somewhere; here it runs by its bed.
    const here = read && chart && cell >= 0 ? streamIn(chart.cells, cell, read) : read;
    return here ? { speed: Math.round(here.rate * 100) / 100, to: Math.round(here.set) } : { speed: 0, to: 0 };
  });
  const [currentSpeed, setCurrent] = useState(flows.speed);
  const [currentTo, setCurrentTo] = useState(flows.to);
  const water = spot.depth ?? 5;
  const [fishDepth, setFishDepth] = useState(Math.max(0.5, Math.round(water * 0.8 * 2) / 2));
  const [two, setTwo] = useState(false);
  const [rode, setRode] = useState(Math.round((water + 0.8) * 5));
  const length = gear?.find((g) => g.kind === 'boat' && g.length_m)?.length_m ?? USUAL_LENGTH;
  const lures = useMemo((): Lure[] => {
    const own = (gear ?? []).filter((g) => g.kind === 'lure' && g.sink_ms).map((g) => ({ name: g.name, sink: g.sink_ms! }));
    return own.length ? own.slice(0, 4) : USUAL_LURES();
  }, [gear]);
  const forces = useMemo(
    () => ({ windFrom: conditions.windFrom, windSpeed: conditions.windSpeed, currentTo, currentSpeed }),
    [conditions.windFrom, conditions.windSpeed, currentTo, currentSpeed],
  );
  const approach = useMemo(
    () =>
      comeIn(
        { at, depth: Math.min(fishDepth, water), secchi: conditions.secchi },
        forces,
        sunPlace(conditions.at, frame.latitude, frame.longitude),
        lures,
        rig.bow,
        // The chart is at the day's level.
        ([x, y]) => !chart || !(chart.depth.at(x, y) < 0.9),
      ),
    [at, fishDepth, water, conditions.secchi, conditions.at, forces, frame, lures, rig.bow, chart],
  );
  const anchor = useMemo(() => {
    const cells = chart?.cells;
    const inputs = {
      ...forces,
      depth: water,
      bowHeight: 0.7,
      boatLength: length,
      rode,
      hardness: cells && cell >= 0 ? cells.hardness[cell] : NaN,
      cover:
        cells && cell >= 0
          ? cells.weedDistance[cell] < 13
            ? ('weed' as const)
            : cells.woodDistance[cell] < 13
              ? sort === 'coast'
                ? ('reef' as const)
                : ('timber' as const)
              : null
          : null,
      waves: 0,
    };
    const answer = anchored(inputs);
    // The bow is to lie at the hold-off distance from the fish.
    const angle = ((answer.lies ?? 0) * Math.PI) / 180;
    const bow: Point = [at[0] + approach.holdOff * Math.sin(angle), at[1] + approach.holdOff * Math.cos(angle)];
    const drop = anchorFor(bow, answer) ?? bow;
    // Some hours on, the tide has turned.
    const now = conditions.at.getTime();
    const tide = tideOf(shown.tide);
    const next = tide && tideState(tide, now)?.next;
    const later = next && streamOf(shown.tide, next.at + AFTER_TURN);
    const turned = later && anchored({ ...inputs, currentTo: later.set, currentSpeed: later.rate });
    const turn = turned && turnAtAnchor(drop, answer, turned);
    return {
      answer,
      drop,
      bow,
      pair: twoAnchors(bow, answer),
      reach: inCast(drop, answer, at, CAST),
      turn: turn && { ...turn, at: next.at, reach: inCast(drop, turned, at, CAST) },
    };
  }, [forces, water, length, rode, chart, cell, at, approach.holdOff, shown.tide, conditions.at, sort]);
  const over = useMemo(() => driftOver(at, forces, MARK_RADIUS, LEAD), [at, forces]);

  useEffect(() => {
    onDraw(
      how === 'come-in'
        ? {
            runs: [
              boatShape(approach.hold, approach.bow, length, rig.bow),
              ...(approach.line ? [[approach.line.from, approach.line.to]] : []),
            ],
            tracks: [circle(at, approach.holdOff), [approach.hold, at]],
          }
        : how === 'drift'
          ? { runs: over ? [[over.from, over.to]] : [], tracks: [circle(at, MARK_RADIUS)] }
          : {
              runs: [
                boatShape(anchor.bow, (anchor.answer.lies ?? 0) + 180, length, 0.4),
                ...(two && anchor.pair ? anchor.pair : [anchor.drop]).map((drop) => [drop, anchor.bow]),
              ],
              tracks: [...(two ? [] : [circle(anchor.drop, anchor.answer.swing)]), circle(at, 4)],
            },
    );
    return () => onDraw(null);
  }, [how, approach, anchor, over, two, at, length, rig.bow, onDraw]);
  const position = ground && metricPlane(ground.epsg).toLatLon(approach.hold);
  const start = over && ground && metricPlane(ground.epsg).toLatLon(over.from);
  return (
    <div className="space-y-2 p-3">
      <h2 className="text-lg font-bold leading-tight">
        {spot.name || msg('spot.here')}
        {spot.depth !== null && <span className="num whitespace-nowrap font-normal">, {formatDepth(spot.depth)}</span>}
      </h2>
      <Segments<How>
        label={msg('spot.how')}
        value={how}
        options={[
          ['come-in', msg('spot.comeIn')],
          // Where nothing runs a drift is part of coming in.
          ...(sort !== 'lake' ? ([['drift', msg('spot.driftOver')]] as [How, string][]) : []),
          ['anchor', msg('spot.anchor')],
        ]}
        onChange={setHow}
      />
      {how === 'come-in' ? (
        <>
          <Slider
            label={msg('spot.fishDepth')}
            words={formatDepth(fishDepth)}
            value={fishDepth}
            min={0.5}
            max={Math.max(1, water)}
            step={0.5}
            onChange={setFishDepth}
          />
          <section className="rounded-box border border-line p-3" aria-label={msg('spot.comeIn')} data-testid="come-in">
            <p className="text-lg font-bold">{msg('spot.comeFrom', { side: compass(approach.side), distance: approach.holdOff })}</p>
            <ul className="mt-1 space-y-1 text-sm">
              {approach.says.map(
                (s) =>
                <li key={s.code}>{say({ ...s, values: { ...s.values, ...(typeof s.values.side === 'number' ? { side: compass(s.values.side) } : {}), ...(typeof s.values.sun === 'number' ? { sun: compass(s.values.sun) } : {}) } })}</li>, // prettier-ignore
              )}
              <li>
                {approach.line
                  ? msg('spot.drift', {
                      speed: formatSpeed(approach.drift.speed),
                      to: compass(approach.drift.to),
                      minutes: decimal(approach.line.inReach, 1),
                    })
                  : msg('spot.noDrift')}
              </li>
              {position && (
                <li className="num text-mute">
                  {msg('spot.holdAt', { position: `${position.latitude.toFixed(5)}, ${position.longitude.toFixed(5)}` })}
                </li>
              )}
            </ul>
          </section>
          <section aria-label={msg('spot.casts')}>
            <h3 className="font-semibold">{msg('spot.castTo', { to: compass(approach.castTo) })}</h3>
            <ul className="divide-y divide-line">
              {approach.casts.map((c) => (
                <li key={c.lure} className="num py-1.5 text-sm">
                  <b>{c.lure}</b>: {msg('spot.cast', { cast: c.cast, beyond: c.beyond, seconds: Math.round(c.sinks) })}
                  {c.tooFar && <span className="text-warn"> {msg('spot.tooFar')}</span>}
                </li>
              ))}
            </ul>
            <p className="mt-1 text-[13px] text-mute">{msg('spot.judgement')}</p>
          </section>
        </>
      ) : how === 'drift' ? (
        <section className="rounded-box border border-line p-3" aria-label={msg('spot.driftOver')} data-testid="drift-over">
          {over && start ? (
            <>
              <p className="text-lg font-bold">
                {msg('spot.startDrift', { lead: formatLength(MARK_RADIUS + LEAD), side: compass((over.drift.to + 180) % 360) })}
              </p>
              <ul className="mt-1 space-y-1 text-sm">
                <li className="num">{msg('spot.startAt', { position: `${start.latitude.toFixed(5)}, ${start.longitude.toFixed(5)}` })}</li>
                <li>
                  {msg('spot.driftsOver', {
                    speed: formatSpeed(over.drift.speed),
                    to: compass(over.drift.to),
                    until: decimal(over.until, 1),
                    over: decimal(over.over, 1),
                  })}
                </li>
                {lures.map((lure) => {
                  const { metres, seconds } = sinksAside(water, lure.sink, forces, false);
                  return (
                    <li key={lure.name} className="num">
                      <b>{lure.name}</b>: {msg('spot.sinksAside', { seconds: Math.round(seconds), metres: formatLength(metres) })}
                    </li>
                  );
                })}
              </ul>
              <p className="mt-1 text-[13px] text-mute">{msg('spot.driftJudgement')}</p>
            </>
          ) : (
            <p>{msg('spot.noDrift')}</p>
          )}
        </section>
      ) : (
        <>
          <Slider label={msg('spot.rode')} words={formatLength(rode)} value={rode} min={5} max={120} step={1} onChange={setRode} />
          <Segments<boolean>
            label={msg('spot.howMany')}
            value={two}
            options={[
              [false, msg('spot.oneAnchor')],
              [true, msg('spot.twoAnchors')],
            ]}
            onChange={setTwo}
          />
          {two && <p className="text-sm text-mute">{msg(anchor.pair ? 'spot.pair' : 'spot.noPair')}</p>}
          <section className="rounded-box border border-line p-3" aria-label={msg('spot.anchor')} data-testid="anchor">
            <p className="text-lg font-bold">{msg('spot.swing', { swing: anchor.answer.swing, scope: decimal(anchor.answer.scope, 1) })}</p>
            <p className="text-sm">
              {anchor.answer.lies === null
                ? msg('spot.liesAnywhere')
                : msg('spot.lies', { lies: compass(anchor.answer.lies), yaw: anchor.answer.yaw, reach: percent(anchor.reach) })}
            </p>
            {anchor.turn && (
              <p className="num mt-1 text-sm" data-testid="turn">
                {msg('spot.turn', {
                  at: clockInZone(new Date(anchor.turn.at), shown.time_zone),
                  turns: Math.round(anchor.turn.turns),
                  moves: formatLength(anchor.turn.moves),
                  reach: percent(anchor.turn.reach),
                })}
              </p>
            )}
            <ul className="mt-1 space-y-1 text-sm">
              {anchor.answer.says.map((s) => (
                <li key={s.code} className={s.code === 'anchor.bow-only' ? 'font-semibold text-warn' : ''}>
                  {say(s)}
                </li>
              ))}
            </ul>
          </section>
        </>
      )}
      <details className="rounded-box border border-line px-3 py-2">
        <summary className="min-h-8 cursor-pointer font-semibold">{msg('spot.current')}</summary>
        <Slider
          label={msg('spot.currentSpeed')}
          words={formatSpeed(currentSpeed)}
          value={currentSpeed}
          min={0}
          max={2}
          step={0.05}
          onChange={setCurrent}
        />
        <Slider
          label={msg('spot.currentTo')}
          words={compass(currentTo)}
          value={currentTo}
          min={0}
          max={345}
          step={15}
          onChange={setCurrentTo}
        />
      </details>
    </div>
  );
}

/** The current as it was last read, where no tide tells it. */
function lastCurrent(readings: WaterLog['readings']): StreamNow | null {
  const found = readings.findLast((r) => r.current_speed_ms !== null);
  return found ? { rate: found.current_speed_ms!, set: found.current_to_deg ?? 0 } : null;
}
