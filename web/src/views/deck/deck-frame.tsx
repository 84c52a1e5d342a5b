import type { ReactNode, Ref } from 'react';
import type { DeckLayout } from './deck-layout';
import { deck as msg } from '../../words';

/** The parts of the Deck, each drawn for the room it has. */
export interface DeckParts {
  column: ReactNode;
  /** Above the Column on a large screen: the depth in words. */
  columnHead: ReactNode;
  pad: ReactNode;
  /** View in use, and whether the Pad or the sonar's picture is shown. */
  choice: ReactNode;
  toggle: ReactNode;
  /** Above the Pad on a large screen: what to do there. */
  padHead: ReactNode;
  /** Where the boat is. */
  place: ReactNode;
  /** The way back to something, where one is being taken. */
  back: ReactNode;
  marking: ReactNode;
  notice: ReactNode;
  day: ReactNode;
}

/** Puts the parts of the Deck where there is room for them. @param pictured the sonar's picture stands in the place of Column and Pad */
export function DeckFrame({
  ref,
  layout: { shape, column, aside },
  pictured,
  parts,
}: {
  ref: Ref<HTMLDivElement>;
  layout: DeckLayout;
  pictured: boolean;
  parts: DeckParts;
}) {
  const { back, choice, day, marking, notice, pad, place, toggle } = parts;
  if (shape === 'tall')
    return (
      <div ref={ref} className="flex h-full flex-col overflow-y-auto">
        {back && <div className="px-1.5 pt-1.5">{back}</div>}
        <div className={`shrink-0 ${pictured ? 'flex flex-col' : 'grid'}`} style={{ gridTemplateColumns: `${column.width + 2}px 1fr` }}>
          <section aria-label={msg('deckFrame.howDeep')} hidden={pictured} className="border-r border-line">
            {parts.column}
          </section>
          <section aria-label={msg('deckFrame.whereFromTheBoat')} className="flex min-w-0 flex-col items-center gap-1 px-1 pt-0.5">
            {pad}
          </section>
        </div>
        <section className="flex grow flex-col gap-1.5 border-t border-line bg-surface px-2 py-1">
          <div className="flex items-center gap-1.5">
            {choice}
            {toggle}
            {place}
          </div>
          {marking}
          {notice}
          {day}
        </section>
      </div>
    );
  if (shape === 'side')
    return (
      <div ref={ref} className="h-full overflow-y-auto">
        <div className="grid h-full" style={{ gridTemplateColumns: `${pictured ? 0 : column.width}px 1fr ${aside}px` }}>
          <section aria-label={msg('deckFrame.howDeep')} hidden={pictured} className="border-r border-line">
            {parts.column}
          </section>
          {pictured && <span />}
          <section aria-label={msg('deckFrame.whereFromTheBoat')} className="flex min-w-0 flex-col items-center gap-1 overflow-y-auto px-1">
            {back}
            {pad}
            <div className="flex items-center gap-1">
              {choice}
              {toggle}
            </div>
          </section>
          <section className="flex flex-col gap-1.5 overflow-y-auto border-l border-line bg-surface px-2 py-1.5">
            {marking}
            {notice}
          </section>
        </div>
        <section className="border-t border-line bg-surface px-2 py-1.5">
          {place}
          {day}
        </section>
      </div>
    );
  return (
    <div
      ref={ref}
      className="grid h-full grid-rows-[minmax(0,1fr)_auto]"
      style={{ gridTemplateColumns: `${column.width + 18}px 1fr ${aside}px` }}
    >
      <section aria-label={msg('deckFrame.howDeep')} className="flex flex-col overflow-hidden border-r border-line px-2 pt-3">
        {parts.columnHead}
        {parts.column}
      </section>
      <section aria-label={msg('deckFrame.whereFromTheBoat')} className="flex min-w-0 flex-col items-center overflow-y-auto px-4 pt-2">
        <div className="mb-1 flex w-full items-center justify-between gap-2 text-sm text-mute">
          {parts.padHead}
          {toggle}
          {choice}
        </div>
        {back}
        {pad}
        <div className="mt-auto flex w-full items-center justify-between">{place}</div>
      </section>
      <aside className="flex flex-col gap-2 overflow-y-auto border-l border-line bg-surface px-3.5 py-2.5">
        {marking}
        {notice}
      </aside>
      <section aria-label={msg('deckFrame.theDay')} className="col-span-3 border-t border-line bg-surface px-3.5 py-1.5">
        {day}
      </section>
    </div>
  );
}
