import { useRef, useState, type ReactNode } from 'react';
import { RESPONSES, type Response } from '@restless-shoal/core/logbook';
import { massFromLength, type SpeciesProfile } from '@restless-shoal/core/species';
import { Dialog } from '../../parts/dialog';
import { readNumber } from '../../parts/read-number';
import { clockWords, OUTCOME_WORDS, outcomeOf, type Outcome } from '../../parts/records/outcome';
import type { Lure, OpenStop, StopState } from './use-stop';
import { fishUnit, readFish } from '../../parts/fish-units';
import { deck as msg, term } from '../../words';
import { GearChoice } from '../../parts/records/gear-choice';

const WORDS: Record<Response['response'], string> = {
  ignored: msg('stopPanel.ignored'),
  turned: msg('stopPanel.turned'),
  followed: msg('stopPanel.followed'),
  struck: msg('stopPanel.struck'),
  landed: msg('stopPanel.landed'),
  lost: msg('stopPanel.lost'),
};

/** Minutes until the reminder, where nothing else was set. */
const QUIET_AFTER = 8;
/** Minutes that a stop is given, as the angler set it. */
export const quietAfter = (): number => Number(localStorage.getItem('quiet after') ?? QUIET_AFTER);

const lureWords = ({ lure, lure_mass_g, lure_colour, presentation, rod }: Lure): string =>
  [lure, lure_mass_g !== null && `${lure_mass_g} g`, lure_colour, presentation, rod].filter(Boolean).join(' · ');

/** A stop with its clock: what the fish did, in one touch each. */
export function StopPanel({
  stop,
  open,
  seen,
  species,
  onRespond,
  onOpen,
  onFailed,
  stay,
}: {
  stop: StopState;
  open: OpenStop;
  /** Whether fish were marked since it began. */
  seen: boolean;
  species: SpeciesProfile[];
  onRespond: (response: Response['response']) => void;
  /** Opens what a fish did, to be put right. */
  onOpen: (id: string) => void;
  onFailed: (error: Error) => void;
  /** Whether to stay, where a plan knows. */
  stay: ReactNode;
}) {
  const [sheet, setSheet] = useState<'lure' | 'leave' | null>(null);
  const [after, setAfter] = useState(quietAfter);
  const due = open.elapsed >= after * 60_000;
  const last = open.responses.at(-1);
  return (
    <section aria-label={msg('stopPanel.theStop')} className="flex flex-col gap-2 rounded-box border-2 border-act p-2.5">
      <div className="flex items-center justify-between gap-2">
        <span>
          <b className={`num text-2xl ${due ? 'text-warn' : ''}`} data-testid="stop-clock">
            {clockWords(open.elapsed)}
          </b>
          <label className="ml-2 text-sm text-mute">
            {due ? msg('stopPanel.past') : msg('stopPanel.of')}{' '}
            <select
              aria-label={msg('stopPanel.minutesUntilTheReminder')}
              className="num cursor-pointer bg-transparent underline decoration-dotted underline-offset-4"
              value={after}
              onChange={(e) => {
                localStorage.setItem('quiet after', e.target.value);
                setAfter(Number(e.target.value));
              }}
            >
              {[3, 5, 8, 12, 20, 30].map((n) => (
                <option key={n} value={n} className="bg-surface text-ink">
                  {msg('stopPanel.min', { n })}
                </option>
              ))}
            </select>
          </label>
        </span>
        <button type="button" className="btn btn-sm touch-target num" onClick={stop.cast}>
          {msg('stopPanel.cast')} {open.casts > 0 && <b>{open.casts}</b>}
        </button>
        <button type="button" className="btn btn-sm touch-target" onClick={() => setSheet('leave')}>
          {msg('stopPanel.leave')}
        </button>
      </div>
      {stay}
      <div className="grid grid-cols-3 gap-1.5" role="group" aria-label={msg('stopPanel.whatDidItDo')}>
        {RESPONSES.map((r) => {
          const n = open.responses.filter((x) => x.response === r).length;
          return (
            <button key={r} type="button" className="btn h-12 gap-1 px-1" onClick={() => onRespond(r)}>
              {WORDS[r]} {n > 0 && <b className="num">{n}</b>}
            </button>
          );
        })}
      </div>
      {open.responses.length > 0 && (
        <div role="group" aria-label={msg('stopPanel.loggedHere')} className="flex gap-1.5 overflow-x-auto">
          {[...open.responses].reverse().map((r) => (
            <button key={r.id} type="button" className="btn btn-sm touch-target num shrink-0 px-2 font-normal" onClick={() => onOpen(r.id)}>
              {[
                WORDS[r.response],
                r.response === 'landed' && term(r.species ?? 'fish'),
                r.length_m != null && msg('stopPanel.cm', { length_m: r.length_m }),
              ]
                .filter(Boolean)
                .join(' ')}
            </button>
          ))}
        </div>
      )}
      <button type="button" className="touch-target truncate text-left text-sm" onClick={() => setSheet('lure')}>
        <span className="text-mute">{msg('stopPanel.with')} </span>
        <span className="underline decoration-dotted underline-offset-4">{lureWords(stop.lure) || msg('stopPanel.whichLure')}</span>
      </button>
      {last?.response === 'landed' && <Landed key={last.id} response={last} species={species} stop={stop} onFailed={onFailed} />}
      {sheet === 'lure' && <LureSheet lure={stop.lure} onChoose={stop.setLure} onClose={() => setSheet(null)} />}
      {sheet === 'leave' && (
        <LeaveSheet
          likely={outcomeOf(open.responses, seen)}
          onLeave={(outcome, notes) => {
            setSheet(null);
            stop.leave(outcome, notes).catch(onFailed);
          }}
          onClose={() => setSheet(null)}
        />
      )}
    </section>
  );
}

/** Species, length and fate of the fish just landed: each in a tap, all of it can wait. */
function Landed({
  response,
  species,
  stop,
  onFailed,
}: {
  response: OpenStop['responses'][number];
  species: SpeciesProfile[];
  stop: StopState;
  onFailed: (error: Error) => void;
}) {
  const [typed, setTyped] = useState('');
  const length = readFish('length', typed) ?? NaN;
  const possible = length > 0 && length <= 12;
  const profile = species.find((s) => s.name === response.species);
  const mass = possible && profile ? massFromLength(profile, length) : null;
  // All that was said so far: one touch follows the other faster than the record comes back.
  const said = useRef<Partial<Response>>({});
  const change = (more: Partial<Response>): void => {
    said.current = { ...said.current, ...more };
    void stop.change(response, said.current).catch(onFailed);
  };
  return (
    <div
      className="flex flex-wrap items-center gap-2 border-t border-line pt-2 text-sm"
      role="group"
      aria-label={msg('stopPanel.theFishLanded')}
    >
      <select
        aria-label={msg('stopPanel.speciesOfTheFish')}
        className="select h-11 min-w-0 flex-1"
        value={response.species ?? ''}
        onChange={(e) => change({ species: e.target.value || null })}
      >
        <option value="">{msg('stopPanel.whichFish')}</option>
        {species.map((s) => (
          <option key={s.name} value={s.name}>
            {term(s.name)}
          </option>
        ))}
      </select>
      <label className="flex items-center gap-1">
        <input
          aria-label={msg('stopPanel.length', { unit: fishUnit('length') })}
          inputMode="decimal"
          className="input num h-11 w-20"
          placeholder={fishUnit('length')}
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={() => possible && change({ length_m: length, mass_kg: mass === null ? null : Number(mass.toFixed(3)) })}
        />
        {fishUnit('length')}
      </label>
      {/* A line of its own, empty or not: were it to push the buttons down under a finger, their tap would be lost. */}
      <span className="num min-h-5 w-full text-mute">
        {mass !== null && msg('stopPanel.aboutKgByIts', { mass: mass })}
        {response.length_m != null && msg('stopPanel.saved')}
        {typed !== '' && !possible && <span className="text-warn">{msg('stopPanel.isNotALength', { unit: fishUnit('length') })}</span>}
      </span>
      <div className="flex w-full gap-1.5">
        {(['released', 'kept'] as const).map((fate) => (
          <button
            key={fate}
            type="button"
            aria-pressed={response.fate === fate}
            className={`btn h-11 flex-1 capitalize ${response.fate === fate ? 'border-2 !border-ink font-bold' : ''}`}
            onClick={() => change({ fate })}
          >
            {term(fate)}
          </button>
        ))}
      </div>
    </div>
  );
}

/** Stored as they stand here; shown in the reader's language. */
const WHERE = ['on them', 'above them', 'past them'];
const HOW = ['falling', 'still', 'moving'];

function LureSheet({ lure, onChoose, onClose }: { lure: Lure; onChoose: (lure: Lure) => void; onClose: () => void }) {
  const [name, setName] = useState(lure.lure ?? '');
  const [mass, setMass] = useState(lure.lure_mass_g === null ? '' : String(lure.lure_mass_g));
  const [colour, setColour] = useState(lure.lure_colour ?? '');
  const [where, how] = [WHERE.find((w) => lure.presentation?.startsWith(w)), HOW.find((h) => lure.presentation?.endsWith(h))];
  const [shown, setShown] = useState({ where: where ?? null, how: how ?? null });
  const [rod, setRod] = useState(lure.rod ?? '');
  const grams = readNumber(mass);
  const wrong = mass.trim() !== '' && !(grams >= 0 && grams <= 10_000);
  const choices = (label: string, options: string[], value: string | null, set: (v: string | null) => void) => (
    <div role="group" aria-label={label} className="grid grid-cols-3 gap-1.5">
      {options.map((o) => (
        <button
          key={o}
          type="button"
          aria-pressed={value === o}
          className={`btn h-12 ${value === o ? 'border-2 !border-ink font-bold' : ''}`}
          onClick={() => set(value === o ? null : o)}
        >
          {term(o)}
        </button>
      ))}
    </div>
  );
  return (
    <Dialog title={msg('stopPanel.lure')} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (wrong) return;
          onChoose({
            lure: name.trim() || null,
            lure_mass_g: mass.trim() === '' ? null : grams,
            lure_colour: colour.trim() || null,
            presentation: [shown.where, shown.how].filter(Boolean).join(', ') || null,
            rod: rod || null,
          });
          onClose();
        }}
      >
        <GearChoice
          kind="lure"
          chosen={name}
          onChoose={(g) => {
            setName(g.name);
            setMass(g.mass_g === null ? '' : String(g.mass_g));
            setColour(g.colour ?? '');
            const said = { where: WHERE.find((w) => g.presentation?.startsWith(w)), how: HOW.find((h) => g.presentation?.endsWith(h)) };
            setShown({ where: said.where ?? shown.where, how: said.how ?? shown.how });
          }}
        />
        <label className="flex items-center justify-between gap-3">
          {msg('stopPanel.lure')}
          <input
            className="input h-11 w-60"
            value={name}
            onChange={(e) => setName(e.target.value)}
            placeholder={msg('stopPanel.jigSpoonLiveBait')}
          />
        </label>
        <label className="flex items-center justify-between gap-3">
          {msg('stopPanel.massG')}
          <input className="input num h-11 w-60" inputMode="decimal" value={mass} onChange={(e) => setMass(e.target.value)} />
        </label>
        {wrong && (
          <p role="alert" className="text-sm text-warn">
            {msg('stopPanel.massMustBeA')}
          </p>
        )}
        <label className="flex items-center justify-between gap-3">
          {msg('stopPanel.colour')}
          <input className="input h-11 w-60" value={colour} onChange={(e) => setColour(e.target.value)} />
        </label>
        {choices(msg('stopPanel.whereItWasShown'), WHERE, shown.where, (where) => setShown({ ...shown, where }))}
        {choices(msg('stopPanel.howItMoved'), HOW, shown.how, (how) => setShown({ ...shown, how }))}
        <GearChoice kind="rod" chosen={rod} onChoose={(g) => setRod(rod === g.name ? '' : g.name)} />
        <button type="submit" className="btn btn-primary h-12">
          {msg('stopPanel.fishWithIt')}
        </button>
      </form>
    </Dialog>
  );
}

const WHY_NOT = ['blown off', 'would not hold', 'storm'];

function LeaveSheet({
  likely,
  onLeave,
  onClose,
}: {
  likely: Outcome;
  onLeave: (outcome: Outcome, notes: string | null) => void;
  onClose: () => void;
}) {
  const others = (Object.keys(OUTCOME_WORDS) as Outcome[]).filter((o) => o !== likely && o !== 'unfishable');
  return (
    <Dialog title={msg('stopPanel.leaveThisSpot')} onClose={onClose}>
      <div className="flex flex-col gap-2">
        <button type="button" className="btn btn-primary h-16 text-lg" onClick={() => onLeave(likely, null)}>
          {OUTCOME_WORDS[likely]}
        </button>
        <div className="grid grid-cols-2 gap-2">
          {others.map((o) => (
            <button key={o} type="button" className="btn h-12 leading-tight" onClick={() => onLeave(o, null)}>
              {OUTCOME_WORDS[o]}
            </button>
          ))}
        </div>
        <p className="mt-2 text-sm text-mute">{msg('stopPanel.couldNotBeFished')}</p>
        <div className="grid grid-cols-3 gap-2">
          {WHY_NOT.map((why) => (
            <button key={why} type="button" className="btn h-12 px-1" onClick={() => onLeave('unfishable', why)}>
              {term(why)}
            </button>
          ))}
        </div>
      </div>
    </Dialog>
  );
}
