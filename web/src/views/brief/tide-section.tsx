import { useQueryClient } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useMemo, useState } from 'react';
import { readTideTable, type TideFault } from '@restless-shoal/core/formats';
import { SIMULATED_TIDE, SLACK, streamOf, tideOf, tideState, type TideRecord } from '@restless-shoal/core/tide';
import { ask } from '../../api/client';
import { FileButton } from '../../parts/file-button';
import { clockInZone, compass, percent } from '../../parts/format';
import { Problem } from '../../parts/problem';
import { told } from '../../parts/told';
import { refresh } from '../../state/jobs';
import { useWaterState } from '../../state/water';
import { brief as msg, formatSpeed, term } from '../../words';
import { TideCurve } from './tide-curve';

/** Faults that are told one by one. */
const TOLD = 5;

/** The tide of a coast: its curve, its state, the stream; where none is known, how to give one. */
export function TideSection() {
  const { water, conditions } = useWaterState();
  const queries = useQueryClient();
  const [faults, setFaults] = useState<TideFault[]>([]);
  const [failed, setFailed] = useState<string | null>(null);
  // On the water the moment moves on with every second; the tide is looked at by the minute.
  const at = Math.floor(conditions.at.getTime() / 60_000) * 60_000;
  const tide = tideOf(water.tide);
  const state = useMemo(() => tide && tideState(tide, at), [tide, at]);
  const stream = useMemo(() => streamOf(water.tide, at, state), [water.tide, at, state]);
  const zone = water.time_zone;
  const run = async (work: () => Promise<unknown>): Promise<void> => {
    setFailed(null);
    try {
      await work();
      await Promise.all([refresh(queries), queries.invalidateQueries({ queryKey: ['water', water.id] })]);
    } catch (error) {
      setFailed(told(error));
    }
  };
  const put = (record: TideRecord): Promise<void> => run(() => ask('PUT /waters/:water/tide', { water: water.id }, { body: record }));
  const read = (text: string): Promise<void> =>
    run(async () => {
      const found = await readTideTable(text, water.tide ?? undefined);
      setFaults(found.faults);
      await ask('PUT /waters/:water/tide', { water: water.id }, { body: found.tide });
    });
  return (
    <section aria-label={msg('tide.tide')} className="mt-3 border-t border-line pt-2" data-testid="tide">
      <h2 className="font-bold">{msg('tide.tide')}</h2>
      {tide && state && (
        <>
          <p className="num text-[15px]">
            <b>{msg(state.rising ? 'tide.rising' : 'tide.falling', { height: state.height })}</b>
            {state.next &&
              ` ${msg(state.next.high ? 'tide.nextHigh' : 'tide.nextLow', { at: clockInZone(new Date(state.next.at), zone), height: state.next.height })}`}
            {state.springs !== null && ` ${msg('tide.springs', { share: percent(state.springs) })}`}
            {stream &&
              ` ${stream.rate < SLACK ? msg('tide.slack') : msg('tide.stream', { rate: formatSpeed(stream.rate), to: compass(stream.set) })}`}
          </p>
          <TideCurve tide={tide} at={at} zone={zone} />
        </>
      )}
      {tide && !state && <p className="text-sm text-warn">{msg('tide.saysNothing')}</p>}
      {!tide && <p className="text-sm text-mute">{msg('tide.none', { kind: term(water.kind ?? 'coast') })}</p>}
      <p className="text-[13px] text-mute">{msg('tide.defers')}</p>
      <Problem words={failed} />
      {faults.length > 0 && (
        <ul className="text-sm text-warn">
          {faults.slice(0, TOLD).map((f, i) => (
            <li key={i}>{msg('tide.fault', { line: f.line, column: f.column, reason: f.reason, value: f.value })}</li>
          ))}
          {faults.length > TOLD && <li>{msg('tide.moreFaults', { more: faults.length - TOLD })}</li>}
        </ul>
      )}
      <div className="mt-1 flex flex-wrap gap-2 print:hidden">
        <FileButton label={msg('tide.import')} onText={(text) => void read(text)} />
        {water.tide ? (
          <button
            type="button"
            className="btn btn-ghost btn-sm touch-target"
            onClick={() => void run(() => ask('DELETE /waters/:water/tide', { water: water.id }))}
          >
            <X size={16} aria-hidden /> {msg('tide.remove')}
          </button>
        ) : (
          <button type="button" className="btn btn-sm touch-target" onClick={() => void put(SIMULATED_TIDE)}>
            {msg('tide.simulated')}
          </button>
        )}
      </div>
    </section>
  );
}
