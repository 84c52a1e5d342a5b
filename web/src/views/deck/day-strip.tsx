import { Column } from '../../parts/column';
import { clockInZone } from '../../parts/format';
import type { StoredContact, StoredStop } from '../../api/queries';

export type DayEntry =
  { kind: 'contact'; at: number; contact: StoredContact } | { kind: 'stop'; at: number; stop: StoredStop; depth: number | null };

/** What a contact puts into its Column. */
function things(c: StoredContact) {
  const bottom = c.water_depth_m ?? Math.max(c.bottom_m ?? 0, (c.top_m ?? 0) + 1, 3);
  const [top, low] = [c.top_m ?? bottom * 0.8, c.bottom_m ?? c.top_m ?? bottom];
  return {
    bottom,
    hardness: c.hardness,
    fish: c.kind === 'fish' ? [{ depth: (top + low) / 2, count: Math.min(3, c.count ?? 1) }] : [],
    bait: c.kind === 'bait' ? { top, bottom: low } : null,
    cover: c.kind === 'cover' || c.kind === 'weed' ? Math.max(0.5, bottom - top) : null,
    thermocline: c.kind === 'thermocline' ? { top, bottom: low } : null,
  };
}

/** The day as Columns: one a mark or blank, in order of time, water depth to scale. */
export function DayStrip({
  entries,
  zone,
  height,
  onOpen,
}: {
  entries: DayEntry[];
  zone: string | null;
  height: number;
  onOpen: (entry: DayEntry) => void;
}) {
  if (!entries.length)
    return (
      <p className="py-3 text-sm text-mute">Nothing marked yet. Blanks count too: press “Nothing here” where you looked and saw nothing.</p>
    );
  const depth = (e: DayEntry): number => (e.kind === 'contact' ? things(e.contact).bottom : (e.depth ?? 3));
  const max = Math.max(5, ...entries.map(depth)) * 1.05;
  return (
    <ol className="flex gap-1 overflow-x-auto" aria-label="The day as Columns" data-testid="day" tabIndex={0}>
      {entries.map((entry) => (
        <li key={entry.kind === 'contact' ? entry.contact.id : entry.stop.id}>
          <button
            type="button"
            className="touch-target flex flex-col items-center rounded px-1 hover:bg-[color-mix(in_srgb,var(--act)_10%,transparent)]"
            onClick={() => onOpen(entry)}
          >
            {entry.kind === 'contact' ? (
              <Column
                width={54}
                height={height}
                max={max}
                {...things(entry.contact)}
                label={`${entry.contact.kind}${entry.contact.species ? `, ${entry.contact.species}` : ''}, water ${depth(entry).toFixed(1)} m`}
              />
            ) : (
              <Column
                width={54}
                height={height}
                max={max}
                bottom={depth(entry)}
                blank={entry.stop.outcome === 'nothing'}
                label={`${entry.stop.outcome === 'nothing' ? 'nothing here' : `stop, ${entry.stop.outcome ?? 'not left yet'}`}, water ${depth(entry).toFixed(1)} m`}
              />
            )}
            <span className="num text-xs text-mute">{clockInZone(new Date(entry.at), zone)}</span>
            {entry.kind === 'stop' && entry.stop.outcome !== 'nothing' && <b className="num text-xs">{entry.stop.outcome ?? 'stop'}</b>}
          </button>
        </li>
      ))}
    </ol>
  );
}
