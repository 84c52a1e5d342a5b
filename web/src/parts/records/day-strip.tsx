import { memo, useCallback, useLayoutEffect, useRef, useState, type PointerEvent } from 'react';
import { Column } from '../column';
import { clockInZone } from '../format';
import type { StoredContact } from '../../api/queries';
import type { DayEntry } from './day-entries';
import { deck as msg, term } from '../../words';

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

interface DayStripProps {
  entries: DayEntry[];
  zone: string | null;
  height: number;
  onOpen: (entry: DayEntry) => void;
}

/** The day as Columns: one a mark or blank, in order of time, water depth to scale. */
export function DayStrip(props: DayStripProps) {
  if (!props.entries.length) return <p className="py-3 text-sm text-mute">{msg('dayStrip.nothingMarkedYetBlanks')}</p>;
  return <Strip {...props} />;
}

/** Width of one Column, px: from a day at a glance to one that is easily hit. */
const WIDTHS = { min: 22, usual: 54, max: 110 };

function Strip({ entries, zone, height, onOpen }: DayStripProps) {
  // Two fingers drawn apart show less of the day, larger.
  const [width, setWidth] = useState(WIDTHS.usual);
  // The same for every drawing, so that one changed mark draws one Column anew.
  const opens = useRef(onOpen);
  useLayoutEffect(() => {
    opens.current = onOpen;
  });
  const open = useCallback((entry: DayEntry) => opens.current(entry), []);
  const fingers = useRef(new Map<number, number>());
  const before = useRef<{ apart: number; width: number } | null>(null);
  const apart = (): number => {
    const [a, b] = [...fingers.current.values()];
    return Math.max(10, Math.abs(a - b));
  };
  const down = ({ pointerId, clientX }: PointerEvent): void => {
    fingers.current.set(pointerId, clientX);
    before.current = fingers.current.size === 2 ? { apart: apart(), width } : null;
  };
  const move = ({ pointerId, clientX }: PointerEvent): void => {
    if (!fingers.current.has(pointerId)) return;
    fingers.current.set(pointerId, clientX);
    if (before.current)
      setWidth(Math.round(Math.min(WIDTHS.max, Math.max(WIDTHS.min, (before.current.width * apart()) / before.current.apart))));
  };
  const up = ({ pointerId }: PointerEvent): void => {
    fingers.current.delete(pointerId);
    before.current = null;
  };
  const depth = (e: DayEntry): number => (e.kind === 'contact' ? things(e.contact).bottom : (e.depth ?? 3));
  const max = Math.max(5, ...entries.map(depth)) * 1.05;
  return (
    <ol
      className="flex touch-pan-x gap-1 overflow-x-auto"
      aria-label={msg('dayStrip.theDayAsColumns')}
      data-testid="day"
      tabIndex={0}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={up}
      onKeyDown={({ key }) => {
        const by = key === '+' ? 1.25 : key === '-' ? 0.8 : 1;
        if (by !== 1) setWidth(Math.round(Math.min(WIDTHS.max, Math.max(WIDTHS.min, width * by))));
      }}
    >
      {entries.map((entry) => (
        <DayItem
          key={entry.kind === 'contact' ? entry.contact.id : entry.stop.id}
          entry={entry}
          depth={depth(entry)}
          max={max}
          zone={zone}
          width={width}
          height={height}
          onOpen={open}
        />
      ))}
    </ol>
  );
}

interface DayItemProps {
  entry: DayEntry;
  depth: number;
  max: number;
  zone: string | null;
  width: number;
  height: number;
  onOpen: (entry: DayEntry) => void;
}

/** One of the day's. Drawn anew only when it says something else: a day has hundreds, and a mark must not wait for them. */
const DayItem = memo(
  ({ entry, depth, max, zone, width, height, onOpen }: DayItemProps) => (
    <li>
      <button
        type="button"
        className="flex min-h-11 flex-col items-center rounded px-1 hover:bg-[color-mix(in_srgb,var(--act)_10%,transparent)]"
        onClick={() => onOpen(entry)}
      >
        {entry.kind === 'contact' ? (
          <Column
            width={width}
            height={height}
            max={max}
            {...things(entry.contact)}
            label={msg('dayStrip.waterM', {
              kind: term(entry.contact.kind),
              species: entry.contact.species ? `, ${term(entry.contact.species)}` : '',
              depth: depth,
            })}
          />
        ) : (
          <Column
            width={width}
            height={height}
            max={max}
            bottom={depth}
            blank={entry.stop.outcome === 'nothing'}
            label={msg('dayStrip.waterM2', {
              outcome:
                entry.stop.outcome === 'nothing'
                  ? msg('dayStrip.nothingHere')
                  : msg('dayStrip.stop', { outcome: entry.stop.outcome ?? 'not left yet' }),
              depth: depth,
            })}
          />
        )}
        {width >= 40 && <span className="num text-xs text-mute">{clockInZone(new Date(entry.at), zone)}</span>}
        {entry.kind === 'stop' && entry.stop.outcome !== 'nothing' && (
          <b className="num text-xs">{entry.stop.outcome ? term(entry.stop.outcome) : msg('deck.stop')}</b>
        )}
      </button>
    </li>
  ),
  (a, b) =>
    a.max === b.max &&
    a.depth === b.depth &&
    a.zone === b.zone &&
    a.width === b.width &&
    a.height === b.height &&
    a.onOpen === b.onOpen &&
    (a.entry === b.entry || JSON.stringify(a.entry) === JSON.stringify(b.entry)),
);
