import { statement } from '@restless-shoal/core/statements';
import { boatAt, forwardPoint, sideScanPlace, type BoatFix, type EchoTrace, type ScreenPlace } from '@restless-shoal/core/sonar';
import { distance } from '@restless-shoal/core/geo';
import type { EchoRecord } from '../../state/echo-record';
import type { DepthSpan } from '../../parts/records/column-gesture';
import { PING_PX, pingOf, pixelOf, type Window } from './picture-drawing';
import { formatDepth, deck as msg } from '../../words';

/** A point of a picture that somebody put the finger on. */
export type Cursor =
  | { view: 'sounder'; ping: number; at: number; depth: number; bottom: number | null; trace: EchoTrace | null }
  | {
      view: 'side-scan';
      ping: number;
      at: number;
      side: 'port' | 'starboard';
      range: number;
      bottom: number;
      transducerDepth: number;
      shadow: number | null;
    }
  | { view: 'forward-facing'; at: number; range: number; down: number; bearing: number; transducerDepth: number };

/** The latest that a picture shows: numbers of pings, and the forward-facing picture. */
export interface Newest {
  sounder: number;
  side: number;
  forward: EchoRecord['forward'];
}

/** What a picture shows from edge to edge. */
export interface PictureFrame {
  view: Cursor['view'];
  /** Of the canvas, pixels. */
  width: number;
  height: number;
  newest: Newest;
  /** Depths from the upper edge to the lower; of a side-scan it says nothing. */
  seen: Window;
  /** Of a side-scan to either edge, m. */
  reach: number;
  /** Of a forward-facing view at the right edge, m. */
  ahead: number;
}

/** Where the thing at a cursor is, how it was worked out, and what is said of it. */
export interface Reading {
  at: number;
  place: ScreenPlace;
  span: DepthSpan | null;
  /** Depth of the bottom there, m; null where the picture does not say. */
  floor: number | null;
  words: string;
}

/** Seen in more pings in a row than this, a thing goes along with the boat, or the boat stands. */
export const STAYS = 60;
/** Half of the height that a body without a trace is given, m. */
const HALF = 0.25;

/** A touch on the sounder's picture: the top of the arch that it means, the middle of a cloud, or just that point. */
export function sounderCursor(record: EchoRecord, ping: number, depth: number): Cursor | null {
  const found = record.watch.at(ping, depth);
  const cursor = (at: number, deep: number): Cursor | null => {
    const p = record.pingAt(at);
    return p && { view: 'sounder', ping: p.ping, at: p.at, depth: deep, bottom: p.bottom, trace: found?.trace ?? null };
  };
  if (!found) return cursor(ping, depth);
  const { trace } = found;
  // What goes along with the boat, or stays under one that stands, has no nearest point: where it was touched.
  if (trace.last - trace.first > STAYS) return cursor(found.ping, found.depth);
  // A body is where its arch is nearest; of a cloud or of timber the middle is meant, whatever edge came nearest.
  return trace.form === 'single' ? cursor(trace.ping, trace.depth) : cursor(Math.round((trace.first + trace.last) / 2), trace.depth);
}

/** What a touch on a picture means; null where it shows nothing. @param x @param y pixels from its upper left corner */
export function cursorAt(record: EchoRecord, frame: PictureFrame, x: number, y: number): Cursor | null {
  const { view, width, height, newest, seen, ahead } = frame;
  const depth = seen.from + (y / height) * (seen.to - seen.from);
  if (view === 'sounder') return sounderCursor(record, pingOf(x, width, newest.sounder), depth);
  if (view === 'side-scan') {
    const ping = newest.side - Math.floor(y / PING_PX);
    const p = record.side[ping - (record.side[0]?.ping ?? 0)];
    if (!p || p.bottom === null) return null;
    return {
      view,
      ping,
      at: p.at,
      side: x < width / 2 ? 'port' : 'starboard',
      range: sideRange(frame, x),
      bottom: p.bottom,
      transducerDepth: p.echo.transducerDepth,
      shadow: null,
    };
  }
  if (!newest.forward) return null;
  const { at, echo } = newest.forward;
  const below = depth - echo.transducerDepth;
  const flat = (x / width) * ahead;
  return {
    view,
    at,
    range: Math.hypot(flat, below),
    down: (Math.atan2(below, flat) * 180) / Math.PI,
    bearing: echo.bearing,
    transducerDepth: echo.transducerDepth,
  };
}

/** Slant range of a side-scan's picture so many pixels across, m. */
export const sideRange = ({ width, reach }: Pick<PictureFrame, 'width' | 'reach'>, x: number): number =>
  (Math.abs(x - width / 2) / (width / 2)) * reach;

/** Where a cursor stands on a picture, and where its shadow, if it has one: pixels from the upper left corner. */
export function cursorPixels(cursor: Cursor, frame: PictureFrame): { x: number; y: number; shadow: number | null } {
  const { width, height, newest, seen, reach, ahead } = frame;
  const down = (depth: number): number => ((depth - seen.from) / (seen.to - seen.from)) * height;
  switch (cursor.view) {
    case 'sounder':
      return { x: pixelOf(cursor.ping, width, newest.sounder), y: down(cursor.depth), shadow: null };
    case 'side-scan': {
      const across = (range: number): number => (width / 2) * (1 + ((cursor.side === 'port' ? -1 : 1) * range) / reach);
      return { x: across(cursor.range), y: (newest.side - cursor.ping) * PING_PX, shadow: cursor.shadow && across(cursor.shadow) };
    }
    case 'forward-facing': {
      const angle = (cursor.down * Math.PI) / 180;
      const depth = cursor.transducerDepth + cursor.range * Math.sin(angle);
      return { x: ((cursor.range * Math.cos(angle)) / ahead) * width, y: down(depth), shadow: null };
    }
  }
}

const clock = (seconds: number): string =>
  seconds < 90 ? `${Math.round(seconds)} s` : msg('pictureCursor.min', { seconds: Math.round(seconds / 60) });
const m = (value: number): string => formatDepth(value);

/**
 * Reads a cursor.
 * @param columnDepth depth set on the Column, m: how deep a side-scan's target is, where it stands free and no shadow says
 * @param fixes where the boat was
 */
export function readCursor(cursor: Cursor, now: number, columnDepth: number | null, fixes: BoatFix[]): Reading {
  const { at } = cursor;
  const ago = Math.max(0, (now - at) / 1000);
  const [then, here] = [boatAt(fixes, at), fixes.at(-1)];
  const back = then && here ? distance(then.position, here.position) : null;
  const when =
    ago < 1.5
      ? 'now'
      : msg('pictureCursor.ago', { ago: clock(ago), back: back === null ? '' : msg('pictureCursor.mBack', { back: back }) });
  const around = (depth: number | null, thick = 0): DepthSpan | null =>
    depth === null ? null : { top: Math.max(0, depth - (thick ? 0 : HALF)), bottom: depth + (thick || HALF) };
  switch (cursor.view) {
    case 'sounder': {
      const { depth, bottom, trace } = cursor;
      return {
        at,
        place: {
          ahead: 0,
          starboard: 0,
          depth,
          workings: [
            statement('working.below', {
              depth,
              ago: clock(ago),
              back: back === null ? '' : msg('pictureCursor.fromHere', { back: m(back) }),
            }),
          ],
        },
        span: around(depth, trace && trace.form !== 'single' ? trace.thick : 0),
        floor: bottom,
        words: msg('pictureCursor.deep', {
          depth: m(depth),
          bottom: bottom === null ? '' : msg('pictureCursor.offTheBottom', { bottom: m(bottom - depth) }),
          when,
        }),
      };
    }
    case 'side-scan': {
      const place = sideScanPlace({ ...cursor, depth: columnDepth });
      const free = place.depth !== null && place.depth < cursor.bottom - 0.2;
      return {
        at,
        place,
        span: around(place.depth),
        floor: cursor.bottom,
        words: msg('pictureCursor.to', {
          starboard: m(Math.abs(place.starboard)),
          side: cursor.side,
          free: free
            ? msg('pictureCursor.deepByItsShadow', { depth: m(place.depth!), shadow: cursor.shadow ? 'yes' : 'no' })
            : msg('pictureCursor.onTheBottom'),
          when,
        }),
      };
    }
    case 'forward-facing': {
      const place = forwardPoint(cursor.range, cursor.down, cursor.bearing, cursor.transducerDepth);
      return {
        at,
        place,
        span: around(place.depth),
        floor: null,
        words: msg('pictureCursor.aheadDeep', { ahead: m(place.ahead), depth: m(place.depth!), when }),
      };
    }
  }
}
