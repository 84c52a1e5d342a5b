import { useVirtualizer } from '@tanstack/react-virtual';
import {
  createColumnHelper,
  createSortedRowModel,
  rowSelectionFeature,
  rowSortingFeature,
  sortFn_basic,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { Download, TriangleAlert } from 'lucide-react';
import { useMemo, useRef, useState, type ChangeEventHandler } from 'react';
import type { Row } from '@restless-shoal/core/logbook';
import type { SpeciesProfile } from '@restless-shoal/core/species';
import type { StoredContact } from '../../api/queries';
import { clockInZone, depthRange, depthText } from '../../parts/format';
import { saveFile } from '../../parts/save-file';
import { capital, logbook as msg, percent, term } from '../../words';
import { BulkBar } from './bulk-bar';
import { marksAsCsv } from './marks-as-csv';
import { oddityOf, type Oddity } from './oddities';

const ROW = 44;
const CELLS = 'grid grid-cols-[2.75rem_4rem_6.5rem_minmax(7rem,1fr)_4rem_7rem_5rem_2.75rem] items-center';
/** A mark that was tapped twice stands among the last so many. */
const NEAR = 20;
const features = tableFeatures({
  rowSortingFeature,
  rowSelectionFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { basic: sortFn_basic },
});
const helper = createColumnHelper<typeof features, StoredContact>();
/** What is not said comes after all that is. */
const last = <T extends string | number>(value: T | null): T | undefined => value ?? undefined;
const columns = helper.columns([
  helper.accessor((c) => c.time, { id: 'time', sortFn: 'basic' }),
  helper.accessor((c) => term(c.kind), { id: 'kind', sortFn: 'basic' }),
  helper.accessor((c) => last(c.species === null ? null : term(c.species)), { id: 'species', sortFn: 'basic', sortUndefined: 'last' }),
  helper.accessor((c) => last(c.count), { id: 'count', sortFn: 'basic', sortUndefined: 'last' }),
  helper.accessor((c) => last(c.top_m), { id: 'depth', sortFn: 'basic', sortUndefined: 'last' }),
  helper.accessor((c) => last(c.water_depth_m), { id: 'water', sortFn: 'basic', sortUndefined: 'last' }),
]);
const COLUMNS = ['time', 'kind', 'species', 'count', 'depth', 'water'] as const;

const cellWords = (c: StoredContact, column: (typeof COLUMNS)[number], zone: string | null): string => {
  switch (column) {
    case 'time':
      return clockInZone(new Date(c.time), zone);
    case 'kind':
      return capital(term(c.kind));
    case 'species':
      return c.species ? `${capital(term(c.species))}${c.confidence !== null && c.confidence < 1 ? ` ${percent(c.confidence)}` : ''}` : '–';
    case 'count':
      return c.count === null ? '–' : String(c.count);
    case 'depth':
      return c.top_m === null ? '–' : depthRange(c.top_m, c.bottom_m ?? c.top_m);
    case 'water':
      return c.water_depth_m === null ? '–' : depthText(c.water_depth_m);
  }
};

/** The marks of a trip: sorted, chosen, changed many at once, saved as CSV; what looks wrong is pointed out with a way to put it right. */
export function MarksTable({
  contacts,
  species,
  zone,
  onOpen,
  onChange,
  onRemove,
}: {
  contacts: StoredContact[];
  species: SpeciesProfile[];
  zone: string | null;
  onOpen: (id: string) => void;
  onChange: (rows: StoredContact[], to: Row, words: string) => Promise<void>;
  onRemove: (rows: StoredContact[], words: string) => Promise<void>;
}) {
  const [onlyOdd, setOnlyOdd] = useState(false);
  const odd = useMemo(() => {
    const inTime = [...contacts].sort((a, b) => a.time.localeCompare(b.time));
    const found = new Map<string, Oddity>();
    inTime.forEach((c, k) => {
      const wrong = oddityOf(c, inTime.slice(Math.max(0, k - NEAR), k));
      if (wrong) found.set(c.id, wrong);
    });
    return found;
  }, [contacts]);
  const data = useMemo(() => (onlyOdd ? contacts.filter((c) => odd.has(c.id)) : contacts), [contacts, odd, onlyOdd]);
  const table = useTable({ features, columns, data, getRowId: (c) => c.id, initialState: { sorting: [{ id: 'time', desc: false }] } });
  const { rows } = table.getRowModel();
  const chosen = table.getSelectedRowModel().rows.map((r) => r.original);
  const scroller = useRef<HTMLDivElement>(null);
  const list = useVirtualizer({ count: rows.length, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 8 });
  const sorted = table.state.sorting[0];
  const done = async (work: Promise<void>): Promise<void> => {
    await work;
    table.resetRowSelection(true);
  };
  if (!contacts.length) return <p className="text-mute">{msg('marksTable.noMarks')}</p>;
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center gap-2">
        {chosen.length > 0 ? (
          <BulkBar
            chosen={chosen}
            species={species}
            onChange={(list, to, words) => void done(onChange(list, to, words))}
            onRemove={(list, words) => void done(onRemove(list, words))}
          />
        ) : (
          <>
            <button
              type="button"
              className="btn touch-target px-3"
              onClick={() => saveFile('contacts.csv', marksAsCsv(rows.map((r) => r.original)), 'text/csv')}
            >
              <Download size={18} aria-hidden /> {msg('marksTable.csv')}
            </button>
            {odd.size > 0 && (
              <button
                type="button"
                aria-pressed={onlyOdd}
                className={`btn touch-target px-3 ${onlyOdd ? 'btn-primary' : ''}`}
                onClick={() => setOnlyOdd(!onlyOdd)}
              >
                <TriangleAlert size={18} aria-hidden /> {msg('marksTable.lookWrong', { n: odd.size })}
              </button>
            )}
          </>
        )}
      </div>
      <div ref={scroller} tabIndex={0} className="max-h-[60vh] overflow-auto rounded-box border border-line" data-testid="marks">
        <div role="table" aria-label={msg('marksTable.marks')} aria-rowcount={rows.length + 1} className="min-w-[41rem]">
          <div role="row" className={`${CELLS} sticky top-0 z-10 h-11 border-b border-line bg-surface text-sm`}>
            <span role="columnheader">
              <label className="grid size-11 place-items-center">
                <input
                  type="checkbox"
                  className="checkbox"
                  aria-label={msg('marksTable.chooseAll')}
                  checked={table.getIsAllRowsSelected()}
                  onChange={table.getToggleAllRowsSelectedHandler()}
                />
              </label>
            </span>
            {COLUMNS.map((id) => (
              <span key={id} role="columnheader" aria-sort={sorted?.id === id ? (sorted.desc ? 'descending' : 'ascending') : 'none'}>
                <button
                  type="button"
                  className="flex h-11 w-full items-center gap-1 px-1 text-left font-semibold"
                  onClick={() => table.getColumn(id)!.toggleSorting()}
                >
                  {msg(`column.${id}`)}
                  {sorted?.id === id && <span aria-hidden>{sorted.desc ? '▾' : '▴'}</span>}
                </button>
              </span>
            ))}
            <span role="columnheader">
              <span className="sr-only">{msg('marksTable.whatLooksWrong')}</span>
            </span>
          </div>
          <div style={{ height: list.getTotalSize(), position: 'relative' }}>
            {list.getVirtualItems().map(({ index, start }) => {
              const row = rows[index];
              const c = row.original;
              return (
                <MarkRow
                  key={c.id}
                  contact={c}
                  at={{ index, start }}
                  chosen={row.getIsSelected()}
                  wrong={odd.get(c.id) ?? null}
                  zone={zone}
                  onChoose={row.getToggleSelectedHandler()}
                  onOpen={() => onOpen(c.id)}
                  onMend={(mend) => void onChange([c], mend, msg('marksTable.putRightWords'))}
                />
              );
            })}
          </div>
        </div>
      </div>
    </>
  );
}

interface MarkRowProps {
  contact: StoredContact;
  /** Which row it is, and how far down it stands, px. */
  at: { index: number; start: number };
  chosen: boolean;
  wrong: Oddity | null;
  zone: string | null;
  onChoose: ChangeEventHandler<HTMLInputElement>;
  onOpen: () => void;
  onMend: (mend: Row) => void;
}

/** A mark of the table. */
function MarkRow({ contact: c, at, chosen, wrong, zone, onChoose, onOpen, onMend }: MarkRowProps) {
  return (
    <div
      role="row"
      aria-rowindex={at.index + 2}
      className={`${CELLS} num absolute inset-x-0 border-b border-line text-sm ${chosen ? 'bg-[color-mix(in_srgb,var(--act)_12%,transparent)]' : ''}`}
      style={{ height: ROW, transform: `translateY(${at.start}px)` }}
    >
      <span role="cell">
        <label className="grid size-11 place-items-center">
          <input
            type="checkbox"
            className="checkbox"
            aria-label={msg('marksTable.chooseOf', { time: cellWords(c, 'time', zone) })}
            checked={chosen}
            onChange={onChoose}
          />
        </label>
      </span>
      <span role="cell">
        <button type="button" className="h-11 w-full px-1 text-left underline decoration-line underline-offset-4" onClick={onOpen}>
          {cellWords(c, 'time', zone)}
        </button>
      </span>
      {COLUMNS.slice(1).map((id) => (
        <span key={id} role="cell" className="truncate px-1">
          {cellWords(c, id, zone)}
        </span>
      ))}
      <span role="cell">
        {wrong && (
          <button
            type="button"
            className="grid size-11 place-items-center text-warn"
            aria-label={msg('marksTable.putRight', {
              what: msg(`oddity.${wrong.code}`),
              mend: msg(`oddity.mend.${wrong.code}`),
            })}
            title={msg('marksTable.putRight', { what: msg(`oddity.${wrong.code}`), mend: msg(`oddity.mend.${wrong.code}`) })}
            onClick={() => onMend(wrong.mend)}
          >
            <TriangleAlert size={18} aria-hidden />
          </button>
        )}
      </span>
    </div>
  );
}
