import { KindSymbol } from '../symbols';
import { deck as msg, term } from '../../words';

/** What can be marked. */
export const KINDS = [
  { kind: 'fish', label: msg('kinds.fish') },
  { kind: 'bait', label: msg('kinds.bait') },
  { kind: 'cover', label: msg('kinds.cover') },
  { kind: 'bottom', label: msg('kinds.bottom') },
  { kind: 'weed', label: msg('kinds.weedEdge') },
  { kind: 'thermocline', label: msg('kinds.thermocline') },
  { kind: 'hazard', label: msg('kinds.hazard') },
] as const;
export type Kind = (typeof KINDS)[number]['kind'];

/** Whether it can hang free in the water; the rest is on the bottom. */
export const isFree = (kind: Kind): boolean => kind === 'fish' || kind === 'bait' || kind === 'thermocline';

const COUNTS = [1, 3, 6, 12, 50];
/** The last of the counts stands for this many or more. */
const MANY = 50;

/** "3 fish", "50+ fish", "weed edge" */
export const kindWords = (kind: Kind, count: number): string =>
  kind === 'fish'
    ? msg('kinds.fish2', { count: count === MANY ? '50+' : count })
    : kind === 'weed'
      ? msg('kinds.weedEdgeWord')
      : term(kind);

/** What is it? It stays chosen from one mark to the next. */
export function KindChoice({
  kind,
  columns,
  layered,
  onChoose,
}: {
  kind: Kind;
  /** Kinds in a row: with many, each has its symbol above its name. */
  columns: number;
  /** The water forms layers: only there is a thermocline marked. */
  layered: boolean;
  onChoose: (kind: Kind) => void;
}) {
  const narrow = columns > 2;
  return (
    <div
      role="radiogroup"
      aria-label={msg('kinds.whatIsIt')}
      className="grid gap-1.5"
      style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}
    >
      {KINDS.filter((k) => layered || k.kind !== 'thermocline').map((k) => (
        <button
          key={k.kind}
          type="button"
          role="radio"
          aria-checked={kind === k.kind}
          onClick={() => onChoose(k.kind)}
          className={`flex min-h-12 items-center rounded-xl border-2 font-semibold leading-tight ${narrow ? 'flex-col justify-center gap-0.5 px-1 text-[13px]' : 'gap-2 px-2.5 text-left'} ${kind === k.kind ? 'border-act bg-[color-mix(in_srgb,var(--act)_13%,var(--surface))]' : 'border-line bg-ground'}`}
        >
          <KindSymbol kind={k.kind} size={24} />
          {k.label}
        </button>
      ))}
    </div>
  );
}

/** How many fish, and what they are taken for: of a mark that nobody is sure of no species is logged. */
export function CountChoice({
  count,
  named,
  species,
  narrow,
  onCount,
  onNamed,
}: {
  count: number;
  /** What marks are taken for; null where nobody is sure. */
  named: string | null;
  /** Names to choose from: those of this log first. */
  species: { logged: string[]; others: string[] };
  narrow: boolean;
  onCount: (count: number) => void;
  onNamed: (species: string | null) => void;
}) {
  const groups = [
    [msg('kinds.inThisLog'), species.logged],
    [species.logged.length ? msg('kinds.others') : msg('kinds.species'), species.others],
  ] as const;
  const taken = (
    <select
      aria-label={msg('kinds.speciesOfTheMarks')}
      className={`select h-11 min-w-0 ${narrow ? 'flex-[2.2] pl-2 pr-5' : 'w-44'}`}
      value={named ?? ''}
      onChange={(e) => onNamed(e.target.value || null)}
    >
      <option value="">{msg('kinds.notSure')}</option>
      {groups.map(([label, names]) =>
        names.length ? (
          <optgroup key={label} label={label}>
            {names.map((name) => (
              <option key={name} value={name}>
                {msg('kinds.likely', { name: term(name) })}
              </option>
            ))}
          </optgroup>
        ) : null,
      )}
    </select>
  );
  const counts = COUNTS.map((n) => (
    <button
      key={n}
      type="button"
      role="radio"
      aria-checked={count === n}
      onClick={() => onCount(n)}
      className={`h-11 min-w-11 flex-1 rounded-lg border bg-ground ${count === n ? 'border-2 border-ink font-bold' : 'border-line'}`}
    >
      {n === MANY ? '50+' : n}
    </button>
  ));
  if (narrow)
    return (
      <div className="flex gap-1">
        <div role="radiogroup" aria-label={msg('kinds.howMany')} className="num flex flex-[5] gap-1">
          {counts}
        </div>
        {taken}
      </div>
    );
  return (
    <div>
      <div className="mb-1 flex items-center justify-between gap-2 text-sm text-mute">
        <span>
          {msg('kinds.howMany')} <b className="text-ink">{count === MANY ? msg('kinds.orMore') : count}</b>
        </span>
        {taken}
      </div>
      <div role="radiogroup" aria-label={msg('kinds.howMany')} className="num flex gap-1.5">
        {counts}
      </div>
    </div>
  );
}
