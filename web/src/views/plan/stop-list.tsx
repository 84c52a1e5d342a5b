import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { arrayMove, SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical, Pin, PinOff, X } from 'lucide-react';
import { SPOT_TIMES, type SheetLeg, type SpotTime, type SpotWish } from '@restless-shoal/core/passage';
import { clockInZone } from '../../parts/format';
import { decimal, formatDepth, formatLength, percent, plan as msg } from '../../words';
import type { NamedSpot } from './names';

const NO_WISH: SpotWish = {};
/** Longer ago nobody minds, days. */
const LATELY = 14;

/** One stop of the run sheet: when, what, how long, and why; dragged by its handle, or moved with the keys. */
function StopRow({
  leg,
  spot,
  number,
  zone,
  wish,
  stays,
  bites,
  chosen,
  onChoose,
  onWish,
  onDrop,
}: {
  leg: SheetLeg;
  spot: NamedSpot;
  number: number;
  zone: string | null;
  wish: SpotWish;
  stays: readonly number[];
  /** Whether what is expected are bites; else stops at which fish show. */
  bites: boolean;
  chosen: boolean;
  onChoose: () => void;
  onWish: (change: SpotWish) => void;
  onDrop: () => void;
}) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: leg.id });
  const clock = (ms: number): string => clockInZone(new Date(ms), zone);
  const pinned = wish.pinned ?? false;
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Transform.toString(transform), transition }}
      className={`flex items-stretch border-b border-line ${isDragging ? 'relative z-10 bg-surface shadow-lg' : ''} ${chosen ? 'bg-[color-mix(in_srgb,var(--fish)_10%,transparent)]' : ''}`}
    >
      <button
        type="button"
        className="flex w-11 shrink-0 touch-none items-center justify-center text-mute"
        aria-label={msg('stopList.move', { name: spot.name })}
        {...attributes}
        {...listeners}
      >
        <GripVertical size={20} aria-hidden />
      </button>
      <div className="min-w-0 flex-1 py-2 pr-2">
        <button
          type="button"
          className="grid w-full grid-cols-[28px_1fr_auto] items-start gap-2 text-left"
          aria-pressed={chosen}
          onClick={onChoose}
        >
          <span className="num grid size-7 place-items-center rounded-full border-2 border-ink text-sm font-bold">{number}</span>
          <span className="min-w-0">
            <b className="block leading-tight">
              {spot.name}
              {spot.depth !== null && <span className="num whitespace-nowrap font-normal">, {formatDepth(spot.depth)}</span>}
            </b>
            <span className="num block text-[13px] text-mute">
              {msg('stopList.way', { distance: leg.way.metres, minutes: Math.max(1, Math.round(leg.way.seconds / 60)) })}
              {leg.waves !== null && leg.waves >= 0.1 && msg('stopList.waves', { height: leg.waves })}
              {leg.waits >= 1 && msg('stopList.waits', { minutes: Math.round(leg.waits) })}
              {spot.fishedDaysAgo !== null &&
                spot.fishedDaysAgo < LATELY &&
                msg('stopList.fished', { days: Math.floor(spot.fishedDaysAgo) })}
            </span>
          </span>
          <span className="num text-right leading-tight">
            <b className="block whitespace-nowrap">
              {clock(leg.arrive)}–{clock(leg.leave)}
            </b>
            <span className="block text-[13px] text-mute">
              {spot.chance === null
                ? msg('stopList.notKnown')
                : msg(bites ? 'stopList.expectedBites' : 'stopList.expected', {
                    expected: decimal(leg.expected, bites ? 1 : 2),
                    chance: percent(spot.chance),
                  })}
            </span>
          </span>
        </button>
        <div className="mt-1 flex items-center gap-1 pl-9">
          <label className="flex items-center gap-1.5 text-[13px] text-mute">
            {msg('stopList.stay')}
            <select
              className="select select-sm num h-9 w-28"
              aria-label={msg('stopList.stayAt', { name: spot.name })}
              value={wish.stay ?? ''}
              onChange={(e) => onWish({ stay: e.target.value === '' ? null : Number(e.target.value) })}
            >
              <option value="">{msg('stopList.best', { minutes: leg.stay })}</option>
              {stays.map((m) => (
                <option key={m} value={m}>
                  {msg('stopList.minutes', { minutes: m })}
                </option>
              ))}
            </select>
          </label>
          <span className="flex-1" />
          <button
            type="button"
            className={`btn btn-ghost btn-sm touch-target px-2 ${pinned ? 'text-act' : 'font-normal'}`}
            aria-pressed={pinned}
            aria-label={msg(pinned ? 'stopList.unpin' : 'stopList.pin', { name: spot.name })}
            onClick={() => onWish({ pinned: !pinned })}
          >
            {pinned ? <PinOff size={18} aria-hidden /> : <Pin size={18} aria-hidden />}
          </button>
          <button
            type="button"
            className="btn btn-ghost btn-sm touch-target px-2"
            aria-label={msg('stopList.leaveOut', { name: spot.name })}
            onClick={onDrop}
          >
            <X size={18} aria-hidden />
          </button>
        </div>
        {(chosen || wish.when) && (
          <label className="mt-1 flex items-center gap-1.5 pl-9 text-[13px] text-mute">
            {msg('stopList.when')}
            <select
              className="select select-sm h-9 w-28"
              aria-label={msg('stopList.whenAt', { name: spot.name })}
              value={wish.when ?? ''}
              onChange={(e) => {
                const when = (e.target.value || null) as SpotTime | null;
                // Who names a time for a spot wants it on the plan.
                onWish(when ? { when, pinned: true } : { when });
              }}
            >
              <option value="">{msg('stopList.anyTime')}</option>
              {SPOT_TIMES.map((t) => (
                <option key={t} value={t}>
                  {msg(`spotTime.${t}`)}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
    </li>
  );
}

/** The stops of the day in their order. A new order is told whole. */
export function StopList({
  legs,
  spotOf,
  zone,
  wishes,
  bites,
  stays,
  chosen,
  onChoose,
  onOrder,
  onWish,
  onDrop,
}: {
  legs: SheetLeg[];
  spotOf: (id: string) => NamedSpot;
  zone: string | null;
  wishes: Record<string, SpotWish>;
  bites: boolean;
  stays: readonly number[];
  chosen: string | null;
  onChoose: (id: string) => void;
  onOrder: (ids: string[]) => void;
  onWish: (id: string, change: SpotWish) => void;
  onDrop: (id: string) => void;
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = legs.map((l) => l.id);
  const moved = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return;
    onOrder(arrayMove(ids, ids.indexOf(String(active.id)), ids.indexOf(String(over.id))));
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={moved}>
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        <ol aria-label={msg('stopList.stops')} data-testid="run-sheet">
          {legs.map((leg, i) => (
            <StopRow
              key={leg.id}
              leg={leg}
              spot={spotOf(leg.id)}
              number={i + 1}
              zone={zone}
              wish={wishes[leg.id] ?? NO_WISH}
              stays={stays}
              bites={bites}
              chosen={chosen === leg.id}
              onChoose={() => onChoose(leg.id)}
              onWish={(change) => onWish(leg.id, change)}
              onDrop={() => onDrop(leg.id)}
            />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}

/** How far and how long a way is, in a few words. */
export const wayWords = (metres: number, seconds: number): string => `${formatLength(metres)}, ${msg('stopList.minutes', { minutes: Math.max(1, Math.round(seconds / 60)) })}`; // prettier-ignore
