import { useState } from 'react';
import type { ProfileRow } from '@restless-shoal/core/logbook';
import type { StoredReading, TripDetail } from '../../api/queries';
import { Segments } from '../../parts/segments';
import { logbook as msg } from '../../words';
import type { TripRecord } from '../../parts/records/trip-record';
import { RecordTable, type Tabled } from './record-table';
import type { OpenInTrip } from './trip-sheets';

const TABLES = ['stops', 'responses', 'conditions', 'profiles'] as const;

/** Stops, bites, readings and profiles of a trip as tables. */
export function TripTables({
  detail,
  readings,
  profiles,
  zone,
  onOpen,
  onRemove,
}: {
  detail: TripDetail;
  readings: readonly StoredReading[];
  profiles: readonly ProfileRow[];
  zone: string | null;
  onOpen: (open: OpenInTrip) => void;
  onRemove: (record: TripRecord, rows: Tabled[]) => void;
}) {
  const [table, setTable] = useState<(typeof TABLES)[number]>('stops');
  const rows = { stops: detail.stops, responses: detail.responses, conditions: readings, profiles } as unknown as Record<string, Tabled[]>;
  const open = (row: Tabled): void =>
    onOpen(
      table === 'stops'
        ? { what: 'entry', id: row.id! }
        : table === 'responses'
          ? { what: 'response', id: row.id! }
          : { what: 'reading', reading: readings.find((r) => r.id === row.id) ?? null },
    );
  return (
    <>
      <div className="mb-2 max-w-xl">
        <Segments
          label={msg('tripTables.whichTable')}
          value={table}
          options={TABLES.map((t) => [t, `${msg(`table.${t}`)} ${rows[t].length}`])}
          onChange={setTable}
        />
      </div>
      <RecordTable
        key={table}
        record={table}
        rows={rows[table]}
        zone={zone}
        onOpen={table === 'profiles' ? null : open}
        onRemove={table === 'profiles' ? null : (gone) => onRemove(table, gone)}
      />
    </>
  );
}
