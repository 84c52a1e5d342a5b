import { Thermometer, Timer } from 'lucide-react';
import type { Boat } from '../../state/use-boat';
import { depthRange } from '../../parts/format';
import { KindSymbol } from '../../parts/symbols';
import { deck as msg, formatDepth, inUnit, readUnit } from '../../words';
import type { DepthSpan } from '../../parts/records/column-gesture';
import type { DeckSheet } from './deck-sheets';
import { kindWords, type Kind } from '../../parts/records/kinds';

/** The three things to press: mark below, nothing here, fish here. */
export function MarkButtons({
  kind,
  count,
  narrow,
  fishing,
  onMark,
  onNothing,
  onFish,
}: {
  kind: Kind;
  count: number;
  narrow: boolean;
  fishing: boolean;
  onMark: () => void;
  onNothing: () => void;
  onFish: () => void;
}) {
  const wide = narrow ? 'h-14 flex-col gap-0.5 px-1 text-[15px] leading-tight' : 'h-14 gap-2 px-2';
  return (
    <div className={`grid gap-2 ${narrow ? 'grid-cols-3' : 'grid-cols-2'}`}>
      <button
        type="button"
        className={`btn btn-primary ${narrow ? `${wide} ${fishing ? 'col-span-2' : ''}` : 'col-span-2 h-15 gap-2 px-2 text-lg leading-tight'}`}
        title={msg('deck.markItUnderThe')}
        onClick={onMark}
      >
        {!narrow && <KindSymbol kind={kind} colour="currentColor" />} {msg('deck.markBelow', { kind: kindWords(kind, count) })}
      </button>
      <button
        type="button"
        className={`btn border-2 border-ink bg-surface ${wide} ${fishing && !narrow ? 'col-span-2' : ''}`}
        onClick={onNothing}
      >
        <KindSymbol kind="blank" /> {msg('deck.nothingHere')}
      </button>
      {!fishing && (
        <button type="button" className={`btn border-2 border-ink bg-surface ${wide}`} onClick={onFish}>
          <Timer size={22} aria-hidden /> {msg('deck.fishHere')}
        </button>
      )}
    </div>
  );
}

/** Where the boat is, how fast, and by what; a press sets it. */
export function PositionLine({
  boat,
  source,
  narrow,
  short,
  onPress,
}: {
  boat: Boat | null;
  source: { source: string; simulated: boolean };
  narrow: boolean;
  /** There is no room for the position itself. */
  short: boolean;
  onPress: () => void;
}) {
  const from =
    source.source === 'hand'
      ? msg('deck.byHand')
      : source.simulated
        ? msg('deck.simulatedBoat')
        : source.source === 'network'
          ? msg('deck.boatsNetwork')
          : null;
  const position = boat && !short ? `${boat.position.latitude.toFixed(5)}, ${boat.position.longitude.toFixed(5)}` : null;
  return (
    <button
      type="button"
      className={`touch-target num text-left text-mute underline decoration-dotted underline-offset-4 ${narrow ? 'text-xs leading-tight' : 'text-sm'}`}
      onClick={onPress}
    >
      {boat
        ? [position, `${inUnit(boat.speed, 'm/s', 1)} ${readUnit('m/s')}`, from].filter(Boolean).join(' · ')
        : msg('deck.setThePositionBy')}
    </button>
  );
}

/** Over the day's Columns: how many, whether all of it is saved, and what else a trip needs. */
export function DayHead({
  entries,
  saved,
  stuck,
  planned,
  bag,
  narrow,
  onSheet,
}: {
  entries: number;
  saved: string;
  stuck: boolean;
  planned: number;
  /** Fish that count and how many may, and the mass of them as said; null where none are counted. */
  bag: { n: number; of: number; total: string } | null;
  narrow: boolean;
  onSheet: (sheet: DeckSheet) => void;
}) {
  return (
    <div className="flex items-center justify-between gap-2 text-sm text-mute">
      <span>
        {msg('deck.today', { phone: narrow ? 'yes' : 'no' })} <b className="num text-ink">{entries}</b>
      </span>
      <span className={stuck ? 'text-sm font-semibold text-warn' : 'max-md:hidden'}>{saved}</span>
      <span className="flex gap-1">
        {bag && (
          <button type="button" className="btn btn-sm touch-target" onClick={() => onSheet('bag')}>
            {msg('deck.bag')} <b className="num">{narrow ? `${bag.n}/${bag.of}` : `${bag.n}/${bag.of} · ${bag.total}`}</b>
          </button>
        )}
        {planned > 0 && (
          <button type="button" className="btn btn-sm touch-target" onClick={() => onSheet('plan')}>
            {msg('deck.plan')} <b className="num">{planned}</b>
          </button>
        )}
        <button type="button" className="btn btn-sm touch-target" onClick={() => onSheet('water')}>
          <Thermometer size={16} aria-hidden /> {msg('deck.logWaterReadings')}
        </button>
        <button type="button" className="btn btn-sm touch-target" onClick={() => onSheet('end')}>
          {msg('deck.endTrip')}
        </button>
      </span>
    </div>
  );
}

/** Over the Column: the depth that is set, and how far off the bottom that is where there is room to say so. */
export function ColumnHead({ span, depth, wide }: { span: DepthSpan; depth: number | null; wide: boolean }) {
  return (
    <p className="mb-1 flex justify-between gap-1 pl-2 text-sm text-mute">
      <span>
        <b className="num whitespace-nowrap text-ink">{depthRange(span.top, span.bottom)}</b>
      </span>
      {depth !== null && wide && (
        <span className="num">{msg('deck.offTheBottom', { depth: formatDepth(Math.max(0, depth - span.bottom), undefined, false) })}</span>
      )}
    </p>
  );
}
