import { Plus, X } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { STAGES, type Question } from '@restless-shoal/core/patterns';
import { Dialog } from '../../parts/dialog';
import { grouped } from '../../parts/format';
import { BAIT } from './question-address';
import { patterns as msg, formatArea, inUnit, plain, readUnit, term } from '../../words';

interface FiltersProps {
  question: Question;
  species: string[];
  basis: { contacts: number; looks: number; trips: number; hectares: number } | null;
  outside: number;
  /** Whether the newest looks are not among them yet. */
  deriving: boolean;
  onChange: (question: Question) => void;
  /** The pages, beside what is asked about. */
  children: ReactNode;
}

/** What narrows the log, as chips that are pressed to take them off. */
const spanOf = ([from, to]: [number, number], unit: string): string => `${inUnit(from, unit)}–${inUnit(to, unit)} ${readUnit(unit)}`;

function chips(q: Question): [words: string, without: Question][] {
  const out: [string, Question][] = [];
  const without = (...keys: (keyof Question)[]): Question =>
    Object.fromEntries(Object.entries(q).filter(([k]) => !keys.includes(k as keyof Question))) as unknown as Question;
  if (q.from || q.to)
    out.push([
      q.from && q.to
        ? msg('filters.to', { from: q.from, to: q.to })
        : q.from
          ? msg('filters.from', { from: q.from })
          : msg('filters.to2', { to: q.to! }),
      without('from', 'to'),
    ]);
  if (q.stages?.length) out.push([q.stages.map(term).join(', '), without('stages')]);
  if (q.surface) out.push([msg('filters.surfaceC', { surface: spanOf(q.surface, '°C') }), without('surface')]);
  if (q.secchi) out.push([msg('filters.clarityM', { secchi: spanOf(q.secchi, 'm') }), without('secchi')]);
  if (q.hours) out.push([`${q.hours.join('–')} h`, without('hours')]);
  if (q.size) out.push([msg('filters.only', { q: term(q.size) }), without('size')]);
  if (q.confirmedOnly) out.push([msg('filters.confirmedOnly'), without('confirmedOnly')]);
  else if (q.odds !== undefined) out.push([msg('filters.oddsOver', { odds: plain(q.odds, 2) }), without('odds')]);
  return out;
}

/** The bar of filters: they act on every chart at once. */
export function Filters({ question, species, basis, outside, deriving, onChange, children }: FiltersProps) {
  const [open, setOpen] = useState(false);
  const narrowed = chips(question);
  return (
    <div className="border-b border-line bg-surface">
      <div className="flex flex-wrap items-center gap-x-2 px-3">
        <select
          aria-label={msg('filters.whatIsAskedAbout')}
          className="select touch-target my-1 w-auto bg-surface font-bold"
          value={question.species ?? BAIT}
          onChange={(e) => onChange({ ...question, species: e.target.value === BAIT ? null : e.target.value })}
        >
          {species.map((name) => (
            <option key={name} value={name}>
              {term(name)}
            </option>
          ))}
          <option value={BAIT}>{msg('filters.baitOfAnyKind')}</option>
        </select>
        <button type="button" className="btn touch-target gap-1 px-2.5 font-normal" onClick={() => setOpen(true)}>
          <Plus size={16} aria-hidden /> {msg('filters.narrow')}
        </button>
        {children}
        <p className="num ml-auto text-sm text-mute" data-testid="basis" aria-live="polite">
          {basis ? (
            <>
              <b className="text-ink">{grouped(basis.contacts)}</b> {msg('filters.contacts')}{' '}
              <b className="text-ink">{grouped(basis.looks)}</b> {msg('filters.looks')} <b className="text-ink">{basis.trips}</b>{' '}
              {msg('filters.trips')} <b className="text-ink">{formatArea(10_000 * Math.round(basis.hectares))}</b>
              {deriving && <span> · {msg('filters.deriving')}</span>}
              {outside > 0 && <span title={msg('filters.contactsLieOutsideAll', { outside })}>*</span>}
            </>
          ) : (
            msg('filters.counting')
          )}
        </p>
      </div>
      {narrowed.length > 0 && (
        <ul aria-label={msg('filters.filters')} className="flex flex-wrap gap-2 px-3 pb-1.5">
          {narrowed.map(([words, without]) => (
            <li key={words}>
              <button
                type="button"
                className="btn touch-target gap-1 px-2.5 font-normal"
                aria-label={msg('filters.without', { words })}
                onClick={() => onChange(without)}
              >
                {words} <X size={15} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
      {open && (
        <Dialog title={msg('filters.narrowTheLog')} onClose={() => setOpen(false)}>
          <Narrow
            question={question}
            onDone={(next) => {
              onChange(next);
              setOpen(false);
            }}
          />
        </Dialog>
      )}
    </div>
  );
}

function Field({ label, children }: { label: string; children: ReactNode }) {
  return (
    <fieldset className="grid grid-cols-[8.5rem_1fr] items-center gap-2 max-md:grid-cols-1 max-md:gap-1">
      <legend className="contents">
        <span className="text-sm font-semibold">{label}</span>
      </legend>
      <div className="flex flex-wrap items-center gap-2">{children}</div>
    </fieldset>
  );
}

/** A form of all filters; a wrong span is told at once and nothing is applied. */
function Narrow({ question, onDone }: { question: Question; onDone: (question: Question) => void }) {
  const [draft, setDraft] = useState(question);
  const [spans, setSpans] = useState<Record<'surface' | 'secchi' | 'hours', [string, string]>>({
    surface: (question.surface?.map(String) as [string, string]) ?? ['', ''],
    secchi: (question.secchi?.map(String) as [string, string]) ?? ['', ''],
    hours: (question.hours?.map(String) as [string, string]) ?? ['', ''],
  });
  const [wrong, setWrong] = useState<string | null>(null);
  const apply = (): void => {
    const next: Question = { ...draft };
    for (const [key, name, [least, most]] of [
      ['surface', msg('filters.surfaceTemperature'), [-2, 45]],
      ['secchi', msg('filters.clarity'), [0, 60]],
      ['hours', msg('filters.hours'), [0, 24]],
    ] as const) {
      const [a, b] = spans[key].map((v) => v.trim().replace(',', '.'));
      delete next[key];
      if (!a && !b) continue;
      const pair: [number, number] = [a ? Number(a) : least, b ? Number(b) : most];
      if (pair.some((v) => Number.isNaN(v) || v < least || v > most)) return setWrong(msg('filters.numbersFromTo', { name, least, most }));
      if (pair[0] > pair[1] && key !== 'hours') return setWrong(msg('filters.fromToIsThe', { name, pair: pair[0], pair2: pair[1] }));
      next[key] = pair;
    }
    if (next.from && next.to && next.from > next.to) return setWrong(msg('filters.datesTheFirstDay'));
    for (const key of ['from', 'to'] as const) if (!next[key]) delete next[key];
    if (!next.stages?.length) delete next.stages;
    onDone(next);
  };
  const pair = (key: 'surface' | 'secchi' | 'hours', name: string, unit: string): ReactNode => (
    <>
      {(['from', 'to'] as const).map((side, k) => (
        <input
          key={side}
          aria-label={`${name} ${side}, ${unit}`}
          inputMode="decimal"
          placeholder={side}
          className="input touch-target w-24"
          value={spans[key][k]}
          onChange={(e) => setSpans({ ...spans, [key]: k ? [spans[key][0], e.target.value] : [e.target.value, spans[key][1]] })}
        />
      ))}
      <span className="text-mute">{unit}</span>
    </>
  );
  const toggle = (stage: (typeof STAGES)[number]): void => {
    const has = draft.stages?.includes(stage);
    setDraft({ ...draft, stages: has ? draft.stages!.filter((s) => s !== stage) : [...(draft.stages ?? []), stage] });
  };
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        apply();
      }}
    >
      <Field label={msg('filters.dates')}>
        {(['from', 'to'] as const).map((side) => (
          <input
            key={side}
            type="date"
            aria-label={side === 'from' ? msg('filters.firstDay') : msg('filters.lastDay')}
            className="input touch-target w-40"
            value={draft[side] ?? ''}
            onChange={(e) => setDraft({ ...draft, [side]: e.target.value || undefined })}
          />
        ))}
      </Field>
      <Field label={msg('filters.seasonStage')}>
        {STAGES.map((stage) => (
          <label key={stage} className="flex min-h-9 items-center gap-1.5 text-sm">
            <input
              type="checkbox"
              className="checkbox checkbox-sm rounded"
              checked={draft.stages?.includes(stage) ?? false}
              onChange={() => toggle(stage)}
            />
            {term(stage)}
          </label>
        ))}
      </Field>
      <Field label={msg('filters.surface')}>{pair('surface', msg('filters.surfaceTemperature'), '°C')}</Field>
      <Field label={msg('filters.clarity')}>{pair('secchi', msg('filters.clarity'), 'm')}</Field>
      <Field label={msg('filters.hourOfTheDay')}>{pair('hours', msg('filters.hours'), 'h')}</Field>
      <Field label={msg('filters.size')}>
        <select
          aria-label={msg('filters.size')}
          className="select touch-target w-40"
          value={draft.size ?? ''}
          onChange={(e) => {
            const { size: _size, ...rest } = draft;
            setDraft(e.target.value ? { ...rest, size: e.target.value as 'small' | 'medium' | 'large' } : rest);
          }}
        >
          <option value="">{msg('filters.anySize')}</option>
          {['small', 'medium', 'large'].map((s) => (
            <option key={s} value={s}>
              {term(s)}
            </option>
          ))}
        </select>
      </Field>
      <Field label={msg('filters.howSure')}>
        <label className="flex min-h-9 items-center gap-1.5 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-sm rounded"
            checked={draft.confirmedOnly ?? false}
            onChange={(e) => {
              const { confirmedOnly: _sure, ...rest } = draft;
              setDraft(e.target.checked ? { ...rest, confirmedOnly: true } : rest);
            }}
          />
          {msg('filters.confirmedOnly')}
        </label>
        <select
          aria-label={msg('filters.minimumOddsOfThe')}
          className="select touch-target w-44"
          disabled={draft.confirmedOnly}
          value={draft.odds ?? 0.5}
          onChange={(e) => {
            const { odds: _odds, ...rest } = draft;
            setDraft(Number(e.target.value) === 0.5 ? rest : { ...rest, odds: Number(e.target.value) });
          }}
        >
          {[0.5, 0.6, 0.7, 0.8, 0.9].map((v) => (
            <option key={v} value={v}>
              {msg('filters.oddsOver2', { v })}
            </option>
          ))}
        </select>
      </Field>
      {wrong && (
        <p role="alert" className="border-l-4 border-warn pl-2 text-warn">
          {wrong}
        </p>
      )}
      <div className="flex gap-2">
        <button type="submit" className="btn btn-primary touch-target flex-1">
          {msg('filters.ask')}
        </button>
        <button type="button" className="btn touch-target" onClick={() => onDone({ species: question.species })}>
          {msg('filters.clearFilters')}
        </button>
      </div>
    </form>
  );
}
