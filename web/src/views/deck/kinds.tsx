import { KindSymbol } from '../../parts/symbols';

/** What can be marked. */
export const KINDS = [
  { kind: 'fish', label: 'Fish' },
  { kind: 'bait', label: 'Bait' },
  { kind: 'cover', label: 'Cover' },
  { kind: 'bottom', label: 'Bottom' },
  { kind: 'weed', label: 'Weed edge' },
  { kind: 'thermocline', label: 'Thermocline' },
  { kind: 'hazard', label: 'Hazard' },
] as const;
export type Kind = (typeof KINDS)[number]['kind'];

/** Whether it can hang free in the water; the rest is on the bottom. */
export const isFree = (kind: Kind): boolean => kind === 'fish' || kind === 'bait' || kind === 'thermocline';

const COUNTS = [1, 3, 6, 12, 50];
/** The last of the counts stands for this many or more. */
const MANY = 50;

/** "3 fish", "50+ fish", "weed edge" */
export const kindWords = (kind: Kind, count: number): string =>
  kind === 'fish' ? `${count === MANY ? '50+' : count} fish` : KINDS.find((k) => k.kind === kind)!.label.toLowerCase();

/** What is it? It stays chosen from one mark to the next. */
export function KindChoice({ kind, narrow, onChoose }: { kind: Kind; narrow: boolean; onChoose: (kind: Kind) => void }) {
  return (
    <div role="radiogroup" aria-label="What is it?" className={`grid gap-2 ${narrow ? 'grid-cols-4' : 'grid-cols-2'}`}>
      {KINDS.map((k) => (
        <button
          key={k.kind}
          type="button"
          role="radio"
          aria-checked={kind === k.kind}
          onClick={() => onChoose(k.kind)}
          className={`flex min-h-[50px] items-center rounded-xl border-2 font-semibold leading-tight ${narrow ? 'flex-col justify-center gap-0.5 px-1 text-[13px]' : 'gap-2 px-2.5'} ${kind === k.kind ? 'border-act bg-[color-mix(in_srgb,var(--act)_13%,var(--surface))]' : 'border-line bg-ground'}`}
        >
          <KindSymbol kind={k.kind} size={24} />
          {k.label}
        </button>
      ))}
    </div>
  );
}

/** How many fish, and whether they are taken for the species of the Strip. */
export function CountChoice({
  count,
  named,
  species,
  onCount,
  onNamed,
}: {
  count: number;
  named: boolean;
  species: string;
  onCount: (count: number) => void;
  onNamed: (named: boolean) => void;
}) {
  return (
    <div>
      <div className="mb-1 flex justify-between text-sm text-mute">
        <span>
          How many? <b className="text-ink">{count === MANY ? '50 or more' : count}</b>
        </span>
        <label className="flex cursor-pointer items-center gap-1.5">
          <input type="checkbox" className="checkbox checkbox-sm" checked={named} onChange={(e) => onNamed(e.target.checked)} />
          likely {species}
        </label>
      </div>
      <div role="radiogroup" aria-label="How many?" className="num flex gap-1.5">
        {COUNTS.map((n) => (
          <button
            key={n}
            type="button"
            role="radio"
            aria-checked={count === n}
            onClick={() => onCount(n)}
            className={`h-11 flex-1 rounded-lg border bg-ground ${count === n ? 'border-2 border-ink font-bold' : 'border-line'}`}
          >
            {n === MANY ? '50+' : n}
          </button>
        ))}
      </div>
    </div>
  );
}
