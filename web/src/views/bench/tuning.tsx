import { useMemo, useState } from 'react';
import {
  mountOffsets,
  passedObjects,
  passesOf,
  simulatedPasses,
  type Estimated,
  type OffsetPass,
  type SimulatedMount,
} from '@restless-shoal/core/sonar';
import { useTrip } from '../../api/queries';
import { clockInZone, compass, dayInZone } from '../../parts/format';
import { Waiting } from '../../parts/waiting';
import { rigAt, setRig, useRig } from '../../state/rig';
import { useWaterState } from '../../state/water';
import { ContrastRun, GainRun } from './gain-run';
import { bench as msg, capital, decimal, formatLength, formatSpeed, term } from '../../words';

/** Trips that are offered. */
const LAST = 12;

/** Offset of the transducer and delay of the picture, from marks of one object that was passed both ways at two speeds. */
export function Tuning() {
  const { log, water } = useWaterState();
  const rig = useRig();
  const trips = useMemo(() => [...log.trips].sort((a, b) => b.start.localeCompare(a.start)).slice(0, LAST), [log.trips]);
  const [chosen, setChosen] = useState<string | null>(null);
  const [object, setObject] = useState(0);
  const [used, setUsed] = useState(false);
  const id = chosen ?? trips[0]?.id ?? null;
  const trip = useTrip(id);
  const objects = useMemo(() => (trip.data ? passedObjects(trip.data) : []), [trip.data]);
  const passed = objects[Math.min(object, objects.length - 1)];
  const [simulated, setSimulated] = useState<{ mount: SimulatedMount; passes: OffsetPass[] } | null>(null);
  const found = simulated ? mountOffsets(simulated.passes) : passed ? mountOffsets(passesOf(passed, rigAt)) : null;
  const simulate = (): void => {
    const between = (low: number, high: number): number => Number((low + (high - low) * Math.random()).toFixed(1));
    const mount = { forward: between(-3, -0.5), starboard: between(-1, 1), delay: between(0.5, 2.5) };
    setSimulated({ mount, passes: simulatedPasses(mount, Math.random) });
    setUsed(false);
  };
  const zone = water.time_zone;
  const words = ({ value, low, high }: Estimated, say: (v: number) => string): string =>
    msg('tuning.interval', { value: say(value), low: say(low), high: say(high) });
  const seconds = (v: number): string => `${decimal(v, 1)} s`;
  return (
    <div className="max-w-3xl">
      <h2 className="text-lg font-bold">{msg('tuning.offsetAndDelay')}</h2>
      <ol className="mt-1 list-decimal pl-6">
        <li>{msg('tuning.chooseAnObject')}</li>
        <li>{msg('tuning.passIt')}</li>
        <li>{msg('tuning.comeBack')}</li>
      </ol>
      <label className="touch-target mt-2 flex items-center gap-2">
        <input
          type="checkbox"
          className="checkbox"
          checked={simulated !== null}
          onChange={(e) => (e.target.checked ? simulate() : setSimulated(null))}
        />
        {msg('gainRun.simulated')}
      </label>
      {simulated ? (
        <p className="num mt-2 text-mute">
          {msg('tuning.simulatedMount', {
            n: simulated.passes.length,
            forward: formatLength(simulated.mount.forward),
            starboard: formatLength(simulated.mount.starboard),
            delay: seconds(simulated.mount.delay),
          })}
        </p>
      ) : !trips.length ? (
        <p className="mt-3 text-mute">{msg('tuning.noTrip')}</p>
      ) : (
        <label className="mt-3 flex items-center gap-3">
          <span className="text-mute">{msg('tuning.trip')}</span>
          <select
            className="select h-11 w-72"
            value={id ?? ''}
            onChange={(e) => {
              setChosen(e.target.value);
              setObject(0);
              setUsed(false);
            }}
          >
            {trips.map((t) => (
              <option key={t.id} value={t.id}>
                {dayInZone(new Date(t.start), zone)} {clockInZone(new Date(t.start), zone)}
              </option>
            ))}
          </select>
        </label>
      )}
      {!simulated && id !== null && !trip.data && <Waiting what={msg('tuning.theTrip')} failed={trip.error} />}
      {!simulated && trip.data && !objects.length && <p className="mt-3 text-mute">{msg('tuning.noObject')}</p>}
      {!simulated && objects.length > 1 && (
        <label className="mt-2 flex items-center gap-3">
          <span className="text-mute">{msg('tuning.object')}</span>
          <select className="select h-11 w-72" value={object} onChange={(e) => setObject(Number(e.target.value))}>
            {objects.map((o, k) => (
              <option key={o[0].mark.id} value={k}>
                {capital(term(o[0].mark.kind))}, {msg('tuning.passes', { n: o.length })}, {clockInZone(new Date(o[0].mark.time), zone)}
              </option>
            ))}
          </select>
        </label>
      )}
      {!simulated && passed && (
        <table className="num mt-3 w-full max-w-xl">
          <thead>
            <tr className="border-b-2 border-line text-left">
              {(['time', 'way', 'speed'] as const).map((column) => (
                <th key={column} scope="col" className="py-1.5 pr-3">
                  {msg(`tuning.column.${column}`)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {passed.map(({ mark, boat }) => (
              <tr key={mark.id} className="border-b border-line">
                <td className="py-1.5 pr-3">{clockInZone(new Date(mark.time), zone)}</td>
                <td className="py-1.5 pr-3">{compass(boat.course)}</td>
                <td className="py-1.5">{formatSpeed(boat.speed)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {typeof found === 'string' && (
        <p role="status" className="mt-3 border-l-4 border-warn pl-3">
          {msg(`tuning.trouble.${found}`)}
        </p>
      )}
      {found && typeof found !== 'string' && (
        <>
          <dl className="num mt-4 grid max-w-xl grid-cols-[1fr_auto] gap-x-6 gap-y-1.5 text-lg" aria-label={msg('tuning.result')}>
            <dt className="text-mute">{msg('tuning.forward')}</dt>
            <dd className="font-semibold">{words(found.forward, formatLength)}</dd>
            <dt className="text-mute">{msg('tuning.starboard')}</dt>
            <dd className="font-semibold">{words(found.starboard, formatLength)}</dd>
            <dt className="text-mute">{msg('tuning.delay')}</dt>
            <dd className="font-semibold">{words(found.delay, seconds)}</dd>
          </dl>
          <p className="num mt-1 text-sm text-mute">
            {msg('tuning.intervals', { noise: formatLength(found.noise), n: simulated ? simulated.passes.length : passed!.length })}
          </p>
          <button
            type="button"
            className="btn btn-primary mt-3 h-12 w-full max-w-xl"
            disabled={used}
            onClick={() => {
              const round = (v: number): number => Number(v.toFixed(2));
              setRig({
                ...rig,
                forward: round(Math.max(-30, Math.min(30, found.forward.value))),
                starboard: round(Math.max(-10, Math.min(10, found.starboard.value))),
                delay: round(Math.max(0, Math.min(20, found.delay.value))),
              });
              setUsed(true);
            }}
          >
            {used ? msg('tuning.inUse') : msg('tuning.use')}
          </button>
        </>
      )}
      <GainRun />
      <ContrastRun />
    </div>
  );
}
