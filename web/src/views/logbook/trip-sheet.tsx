import { useState } from 'react';
import type { Trip } from '@restless-shoal/core/logbook';
import type { LoggedTrip, TripRow } from '../../api/queries';
import { DeleteButton } from '../../parts/delete-button';
import { Dialog } from '../../parts/dialog';
import { clockInZone, dayInZone, fromLocalInput, toLocalInput, zoneWords } from '../../parts/format';
import { told } from '../../parts/told';
import { useGear } from '../../state/use-gear';
import { capital, logbook as msg, term } from '../../words';

const PURPOSES = ['guide', 'practice', 'tournament', 'scout'] as const;
const GOALS = ['action', 'size', 'best'] as const;
const TEXTS = ['crew', 'boat', 'notes'] as const;

/** When a trip was, what it was for, who was aboard: put right, taken up again, deleted. */
export function TripSheet({
  trip,
  zone,
  marks,
  near,
  onSave,
  onMerge,
  onSplit,
  onDelete,
  onClose,
}: {
  trip: TripRow;
  zone: string | null;
  /** Marks that go with it. */
  marks: number;
  /** Trips that may be one with it: those nearest in time. */
  near: LoggedTrip[];
  onSave: (change: Partial<TripRow>) => Promise<void>;
  onMerge: (other: string) => Promise<void>;
  /** @param at moment from which on it is another trip */
  onSplit: (at: string) => Promise<void>;
  onDelete: () => Promise<void>;
  onClose: () => void;
}) {
  const local = (time: string | null): string => (time === null ? '' : toLocalInput(new Date(time), zone));
  const was = { start: local(trip.start), end: local(trip.end) };
  const [start, setStart] = useState(was.start);
  const [end, setEnd] = useState(was.end);
  const [purpose, setPurpose] = useState<string>(trip.purpose ?? '');
  const [goal, setGoal] = useState<string>(trip.goal ?? '');
  const [texts, setTexts] = useState(Object.fromEntries(TEXTS.map((name) => [name, trip[name] ?? ''])));
  const boats = (useGear().gear ?? []).filter((g) => g.kind === 'boat');
  const [other, setOther] = useState('');
  const [split, setSplit] = useState(was.end || was.start);
  const [wrong, setWrong] = useState<string | null>(null);
  const attempt = (work: Promise<void>): void => void work.then(onClose, (error) => setWrong(told(error)));
  const save = (): void => {
    // What was not touched keeps its seconds.
    const from = start === was.start ? trip.start : fromLocalInput(start, zone)?.toISOString();
    const to = end === was.end ? trip.end : end === '' ? null : fromLocalInput(end, zone)?.toISOString();
    if (from === undefined || to === undefined) return setWrong(msg('tripSheet.aTimeCouldNot'));
    if (to !== null && Date.parse(to) < Date.parse(from)) return setWrong(msg('tripSheet.theEndIsBefore'));
    attempt(
      onSave({
        start: from,
        end: to,
        purpose: (purpose || null) as Trip['purpose'],
        goal: (goal || null) as Trip['goal'],
        ...Object.fromEntries(TEXTS.map((name) => [name, texts[name].trim() || null])),
      }),
    );
  };
  const row = 'grid grid-cols-[7rem_1fr] items-center gap-3 py-1';
  const choice = (
    label: string,
    value: string,
    options: readonly string[],
    words: (option: string) => string,
    set: (value: string) => void,
  ) => (
    <label className={row}>
      <span className="text-mute">{label}</span>
      <select className="select h-11 w-full" value={value} onChange={(e) => set(e.target.value)}>
        <option value="">{msg('tripSheet.notSaid')}</option>
        {options.map((option) => (
          <option key={option} value={option}>
            {words(option)}
          </option>
        ))}
      </select>
    </label>
  );
  return (
    <Dialog title={msg('tripSheet.theTrip')} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <label className={row}>
          <span className="text-mute">{msg('tripSheet.start')}</span>
          <input
            type="datetime-local"
            required
            className="input num h-11 w-full"
            value={start}
            onChange={(e) => setStart(e.target.value)}
          />
        </label>
        <label className={row}>
          <span className="text-mute">{msg('tripSheet.end')}</span>
          <input type="datetime-local" className="input num h-11 w-full" value={end} onChange={(e) => setEnd(e.target.value)} />
        </label>
        <p className="text-sm text-mute">{msg('tripSheet.timesAreThose', { zone: zoneWords(zone) })}</p>
        {choice(msg('tripSheet.purpose'), purpose, PURPOSES, (p) => capital(term(p)), setPurpose)}
        {choice(msg('tripSheet.goal'), goal, GOALS, (g) => msg(`goal.${g as (typeof GOALS)[number]}`), setGoal)}
        {TEXTS.map((name) => (
          <label key={name} className={row}>
            <span className="text-mute">{msg(`field.${name}`)}</span>
            {name === 'notes' ? (
              <textarea
                rows={3}
                maxLength={4000}
                className="textarea w-full"
                value={texts[name]}
                onChange={(e) => setTexts({ ...texts, [name]: e.target.value })}
              />
            ) : (
              <input
                maxLength={200}
                list={name === 'boat' ? 'boats' : undefined}
                className="input h-11 w-full"
                value={texts[name]}
                onChange={(e) => setTexts({ ...texts, [name]: e.target.value })}
              />
            )}
          </label>
        ))}
        <datalist id="boats">
          {boats.map((b) => (
            <option key={b.id} value={b.name} />
          ))}
        </datalist>
        {wrong && (
          <p role="alert" className="mt-2 text-warn">
            {wrong}
          </p>
        )}
        <button type="submit" className="btn btn-primary mt-3 h-12 w-full">
          {msg('tripSheet.save')}
        </button>
      </form>
      {trip.end !== null && (
        <button type="button" className="btn mt-3 h-12 w-full" onClick={() => attempt(onSave({ end: null }))}>
          {msg('tripSheet.reopen')}
        </button>
      )}
      <details className="mt-3 border-t border-line">
        <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">{msg('tripSheet.mergeOrSplit')}</summary>
        {near.length > 0 && (
          <div className="flex items-center gap-2 py-1">
            <select
              aria-label={msg('tripSheet.otherTrip')}
              className="select h-11 min-w-0 flex-1"
              value={other}
              onChange={(e) => setOther(e.target.value)}
            >
              <option value="">{msg('tripSheet.otherTrip')}</option>
              {near.map((t) => (
                <option key={t.id} value={t.id}>
                  {dayInZone(new Date(t.start), zone)} {clockInZone(new Date(t.start), zone)} · {msg('tripSheet.marks', { marks: t.marks })}
                </option>
              ))}
            </select>
            <button type="button" className="btn touch-target w-24" disabled={!other} onClick={() => attempt(onMerge(other))}>
              {msg('tripSheet.merge')}
            </button>
          </div>
        )}
        <div className="flex items-center gap-2 py-1">
          <input
            type="datetime-local"
            aria-label={msg('tripSheet.splitAt')}
            className="input num h-11 min-w-0 flex-1"
            min={was.start}
            max={was.end || undefined}
            value={split}
            onChange={(e) => setSplit(e.target.value)}
          />
          <button
            type="button"
            className="btn touch-target w-24"
            onClick={() => {
              const moment = fromLocalInput(split, zone);
              if (moment) attempt(onSplit(moment.toISOString()));
              else setWrong(msg('tripSheet.aTimeCouldNot'));
            }}
          >
            {msg('tripSheet.split')}
          </button>
        </div>
      </details>
      <DeleteButton
        label={msg('tripSheet.deleteTrip')}
        goes={msg('tripSheet.theTripGoes', { day: dayInZone(new Date(trip.start), zone), marks })}
        onDelete={() => attempt(onDelete())}
      />
    </Dialog>
  );
}
