import { useLayoutEffect, useState, type RefObject } from 'react';

/** How the Deck is laid out in the room there is, px. */
export interface DeckLayout {
  /** Side by side on a large screen; side by side on a phone held sideways; one above the other. */
  shape: 'desk' | 'side' | 'tall';
  /** Buttons and words as on a phone. */
  narrow: boolean;
  column: { width: number; height: number };
  pad: number;
  /** The sonar's picture, where it takes the place of the Pad. */
  picture: { width: number; height: number };
  /** Width of what stands beside Column and Pad; 0 where it stands below them. */
  aside: number;
  /** Kinds in a row. */
  kinds: number;
  /** Height of a Column of the day. */
  day: number;
}

const clamp = (v: number, min: number, max: number): number => Math.round(Math.max(min, Math.min(max, v)));

/** Height of a row that a finger hits, with the gap to the next one. */
const ROW = 50;
/** Heights of the two rows of kinds, the view, the counts, the three buttons and the line with Undo, with their gaps, px. */
const BELOW = { rows: 104, row: 54, choice: ROW, counts: ROW, act: 62, notice: ROW };
/** Heading and Columns of the day, px. */
const DAY = { desk: 166, tall: 128 };

/** Lays the Deck out: the Column, the whole Pad, kinds, Mark, Nothing here, Fish here and Undo all in sight. @param w, h room, px */
export function deckLayout(w: number, h: number): DeckLayout {
  if (w >= 880 && h >= 500) {
    const [beside, aside] = w >= 1100 ? [244, 340] : [188, 304];
    const room = h - DAY.desk;
    const middle = w - beside - aside - 32;
    return {
      shape: 'desk',
      narrow: false,
      column: { width: beside - 18, height: clamp(room - 44, 240, 620) },
      pad: clamp(Math.min(middle, room - 2 * ROW), 200, 640),
      picture: { width: middle, height: clamp(room - 2 * ROW - 8, 200, 640) },
      aside,
      kinds: 3,
      day: 78,
    };
  }
  if (w >= 600 && w > 1.2 * h && h < 500) {
    const column = 128;
    const aside = clamp(w * 0.5, 300, 420);
    const middle = w - column - aside - 12;
    return {
      shape: 'side',
      narrow: true,
      column: { width: column, height: clamp(h - 6, 180, 500) },
      pad: clamp(Math.min(middle, h - ROW - 4), 160, 460),
      picture: { width: middle + column, height: clamp(h - 2 * ROW, 150, 460) },
      aside,
      kinds: 4,
      day: 40,
    };
  }
  const wide = w >= 640;
  const column = w < 380 ? 134 : wide ? 208 : 150;
  const { rows, row, ...others } = BELOW;
  const below = (wide ? row : rows) + Object.values(others).reduce((sum, v) => sum + v, 0) + 6;
  // On a low screen the day comes into sight by scrolling; what marks does not.
  const upper = clamp(h - below - (h >= 640 ? DAY.tall : 0), 196, 700);
  return {
    shape: 'tall',
    narrow: true,
    column: { width: column, height: upper },
    pad: clamp(Math.min(w - column - 12, upper - 2), 170, 640),
    picture: { width: w - 12, height: clamp(upper - 80, 120, 460) },
    aside: 0,
    kinds: wide ? 7 : 4,
    day: 40,
  };
}

/** The layout for the room that an element has. */
export function useDeckLayout(ref: RefObject<HTMLElement | null>): DeckLayout {
  const [size, setSize] = useState({ w: window.innerWidth, h: window.innerHeight - 120 });
  useLayoutEffect(() => {
    const element = ref.current!;
    const measure = (): void => setSize({ w: element.clientWidth, h: element.clientHeight });
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(element);
    return () => watch.disconnect();
  }, [ref]);
  return deckLayout(size.w, size.h);
}
