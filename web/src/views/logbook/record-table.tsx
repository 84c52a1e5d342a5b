import { useVirtualizer } from '@tanstack/react-virtual';
import { createColumnHelper, createSortedRowModel, rowSelectionFeature, rowSortingFeature, sortFn_basic, tableFeatures, useTable } from '@tanstack/react-table'; // prettier-ignore
import { Download, Search, Trash2 } from 'lucide-react';
import { useMemo, useRef, useState } from 'react';
import { csvLine } from '@restless-shoal/core/formats';
import { columnsOf, records, type Fields, type RecordName, type Row } from '@restless-shoal/core/logbook';
import { clockInZone, depthText } from '../../parts/format';
import { saveFile } from '../../parts/save-file';
import { capital, decimal, formatFishLength, formatMass, formatSpeed, formatTemperature, logbook as msg, term } from '../../words';

export type Tabled = Row & { id?: string };
type Tables = 'stops' | 'responses' | 'conditions' | 'profiles';

/** What of each record is shown, in order; what no row says has no column. */
const SHOWN: Record<Tables, readonly string[]> = {
  stops: ['start', 'end', 'outcome', 'rods', 'boats_near', 'radius_m', 'notes'],
  responses: ['time', 'response', 'species', 'length_m', 'mass_kg', 'fate', 'depth_m', 'lure', 'lure_mass_g', 'lure_colour', 'presentation', 'casts', 'rod', 'angler', 'notes'], // prettier-ignore
  conditions: ['time', 'surface_temperature_c', 'secchi_m', 'wind_from_deg', 'wind_speed_ms', 'air_temperature_c', 'cloud_fraction', 'air_pressure_hpa', 'water_level_m', 'current_speed_ms', 'current_to_deg', 'salinity', 'signs'], // prettier-ignore
  profiles: ['time', 'depth_m', 'temperature_c', 'oxygen_mg_l', 'salinity'],
};
const CODES = new Set(['outcome', 'response', 'species', 'fate', 'presentation']);
const ROW = 44;

const features = tableFeatures({
  rowSortingFeature,
  rowSelectionFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { basic: sortFn_basic },
});
const helper = createColumnHelper<typeof features, Tabled>();

/** A value as a table shows it, in the reader's units. */
function valueWords(column: string, value: string | number | null | undefined, zone: string | null): string {
  if (value == null || value === '') return '–';
  if (typeof value === 'string') {
    if (/^\d{4}-\d\d-\d\dT/.test(value)) return clockInZone(new Date(value), zone);
    return CODES.has(column) ? term(value) : value;
  }
  if (column === 'length_m') return formatFishLength(value);
  if (column === 'mass_kg') return formatMass(value);
  if (column.endsWith('_c')) return formatTemperature(value);
  if (column.endsWith('_ms')) return formatSpeed(value);
  if (column.endsWith('_m')) return depthText(value);
  if (column.endsWith('_deg')) return `${decimal(value, 0)}°`;
  if (column === 'cloud_fraction') return `${decimal(100 * value, 0)} %`;
  if (column === 'air_pressure_hpa') return `${decimal(value, 0)} hPa`;
  if (column === 'oxygen_mg_l') return `${decimal(value, 1)} mg/l`;
  if (column === 'lure_mass_g') return `${decimal(value, Number.isInteger(value) ? 0 : 1)} g`;
  return decimal(value, Number.isInteger(value) ? 0 : 2);
}

/** Rows of a record as its file of the exchange format, in the order given. */
export function recordsAsCsv(record: RecordName, rows: readonly Tabled[]): string {
  const columns = ['trip', ...columnsOf(record)];
  return [columns, ...rows.map((r) => columns.map((name) => r[name]))].map(csvLine).join('');
}

/** Records of a trip as a table: filtered by a word, sorted, opened, deleted many at once, saved as CSV. */
export function RecordTable({
  record,
  rows,
  zone,
  onOpen,
  onRemove,
}: {
  record: Tables;
  rows: readonly Tabled[];
  zone: string | null;
  /** Opens a record; null where its kind has no sheet. */
  onOpen: ((row: Tabled) => void) | null;
  /** Deletes records; null where those of its kind stay. */
  onRemove: ((rows: Tabled[]) => void) | null;
}) {
  const [words, setWords] = useState('');
  const names = useMemo(() => SHOWN[record].filter((name) => rows.some((r) => r[name] != null && r[name] !== '')), [record, rows]);
  const data = useMemo(() => {
    const sought = words.trim().toLowerCase();
    if (!sought) return [...rows];
    return rows.filter((r) => names.some((name) => valueWords(name, r[name], zone).toLowerCase().includes(sought)));
  }, [rows, names, words, zone]);
  const columns = useMemo(
    () =>
      helper.columns(
        names.map((name) => helper.accessor((r) => r[name] ?? undefined, { id: name, sortFn: 'basic', sortUndefined: 'last' })),
      ),
    [names],
  );
  const table = useTable({ features, columns, data, getRowId: (r, k) => r.id ?? String(k) });
  const listed = table.getRowModel().rows;
  const chosen = table.getSelectedRowModel().rows.map((r) => r.original);
  const scroller = useRef<HTMLDivElement>(null);
  const list = useVirtualizer({ count: listed.length, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 8 });
  const sorted = table.state.sorting[0];
  const wide = new Set(['notes', 'signs', 'presentation', 'lure', 'angler']);
  const grid = {
    gridTemplateColumns: `${onRemove ? '2.75rem ' : ''}${names.map((n) => (wide.has(n) ? 'minmax(8rem,1fr)' : '6.5rem')).join(' ')}`,
  };
  const least = `${(onRemove ? 3 : 0) + names.reduce((sum, n) => sum + (wide.has(n) ? 8 : 6.5), 0)}rem`;
  if (!rows.length) return <p className="text-mute">{msg('recordTable.none')}</p>;
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center gap-2">
        {chosen.length > 0 && onRemove ? (
          <>
            <b className="num">{msg('recordTable.chosen', { n: chosen.length })}</b>
            <button
              type="button"
              className="btn touch-target px-3"
              onClick={() => {
                onRemove(chosen);
                table.resetRowSelection(true);
              }}
            >
              <Trash2 size={18} aria-hidden /> {msg('marksTable.delete')}
            </button>
          </>
        ) : (
          <>
            <button
              type="button"
              className="btn touch-target px-3"
              onClick={() => saveFile(`${record}.csv`, recordsAsCsv(record, listed.map((r) => r.original)), 'text/csv')} // prettier-ignore
            >
              <Download size={18} aria-hidden /> {msg('marksTable.csv')}
            </button>
            <label className="input h-11 w-48">
              <Search size={18} aria-hidden className="text-mute" />
              <input
                type="search"
                aria-label={msg('recordTable.filter')}
                placeholder={msg('recordTable.filter')}
                value={words}
                onChange={(e) => setWords(e.target.value)}
              />
            </label>
          </>
        )}
      </div>
      <div ref={scroller} tabIndex={0} className="max-h-[60vh] overflow-auto rounded-box border border-line" data-testid={record}>
        <div role="table" aria-label={msg(`table.${record}`)} aria-rowcount={listed.length + 1} style={{ minWidth: least }}>
          <div role="row" className="sticky top-0 z-10 grid h-11 items-center border-b border-line bg-surface text-sm" style={grid}>
            {onRemove && (
              <span role="columnheader">
                <label className="grid size-11 place-items-center">
                  <input
                    type="checkbox"
                    className="checkbox"
                    aria-label={msg('recordTable.chooseAll')}
                    checked={table.getIsAllRowsSelected()}
                    onChange={table.getToggleAllRowsSelectedHandler()}
                  />
                </label>
              </span>
            )}
            {names.map((name) => (
              <span key={name} role="columnheader" aria-sort={sorted?.id === name ? (sorted.desc ? 'descending' : 'ascending') : 'none'}>
                <button
                  type="button"
                  className="flex h-11 w-full items-center gap-1 px-1 text-left font-semibold"
                  title={(records[record] as Fields)[name].what}
                  onClick={() => table.getColumn(name)!.toggleSorting()}
                >
                  <span className="truncate">{msg(`recordColumn.${name}` as never)}</span>
                  {sorted?.id === name && <span aria-hidden>{sorted.desc ? '▾' : '▴'}</span>}
                </button>
              </span>
            ))}
          </div>
          <div style={{ height: list.getTotalSize(), position: 'relative' }}>
            {list.getVirtualItems().map(({ index, start }) => {
              const row = listed[index];
              const r = row.original;
              const first = valueWords(names[0], r[names[0]], zone);
              return (
                <div
                  key={row.id}
                  role="row"
                  aria-rowindex={index + 2}
                  className={`num absolute inset-x-0 grid items-center border-b border-line text-sm ${row.getIsSelected() ? 'bg-[color-mix(in_srgb,var(--act)_12%,transparent)]' : ''}`}
                  style={{ ...grid, height: ROW, transform: `translateY(${start}px)` }}
                >
                  {onRemove && (
                    <span role="cell">
                      <label className="grid size-11 place-items-center">
                        <input
                          type="checkbox"
                          className="checkbox"
                          aria-label={msg('marksTable.chooseOf', { time: first })}
                          checked={row.getIsSelected()}
                          onChange={row.getToggleSelectedHandler()}
                        />
                      </label>
                    </span>
                  )}
                  {names.map((name, k) => (
                    <span key={name} role="cell" className="truncate px-1">
                      {k === 0 && onOpen ? (
                        <button
                          type="button"
                          className="h-11 w-full text-left underline decoration-line underline-offset-4"
                          onClick={() => onOpen(r)}
                        >
                          {first}
                        </button>
                      ) : (
                        capital(valueWords(name, r[name], zone))
                      )}
                    </span>
                  ))}
                </div>
              );
            })}
          </div>
        </div>
      </div>
    </>
  );
}
