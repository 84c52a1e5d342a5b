import { Dialog } from '../../parts/dialog';
import { clockInZone } from '../../parts/format';
import type { DayEntry } from './day-strip';

/** One mark or blank of the day, and the way to take it out. */
export function EntrySheet({
  entry,
  zone,
  onClose,
  onRemove,
}: {
  entry: DayEntry;
  zone: string | null;
  onClose: () => void;
  onRemove: (record: 'contacts' | 'stops', id: string) => void;
}) {
  const record = entry.kind === 'contact' ? entry.contact : entry.stop;
  const lines: [string, string][] =
    entry.kind === 'contact'
      ? [
          [
            'what',
            `${entry.contact.count ?? ''} ${entry.contact.kind}${entry.contact.species ? `, likely ${entry.contact.species}` : ''}`.trim(),
          ],
          [
            'depth',
            entry.contact.top_m === null
              ? '–'
              : `${entry.contact.top_m.toFixed(1)}–${(entry.contact.bottom_m ?? entry.contact.top_m).toFixed(1)} m`,
          ],
          ['water', entry.contact.water_depth_m === null ? '–' : `${entry.contact.water_depth_m.toFixed(1)} m`],
          ['seen with', entry.contact.view ?? '–'],
        ]
      : [['what', 'nothing here']];
  return (
    <Dialog title={clockInZone(new Date(entry.at), zone)} onClose={onClose}>
      <dl className="num grid grid-cols-[6rem_1fr] gap-y-1">
        {[...lines, ['where', `${record.latitude.toFixed(5)}, ${record.longitude.toFixed(5)}`]].map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-mute">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <button
        type="button"
        className="btn mt-4 h-12 w-full"
        onClick={() => {
          onRemove(entry.kind === 'contact' ? 'contacts' : 'stops', record.id);
          onClose();
        }}
      >
        Delete this mark
      </button>
    </Dialog>
  );
}
