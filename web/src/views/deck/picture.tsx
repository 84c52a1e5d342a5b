import { Minus, Pause, Play, Plus, X } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { BoatFix, Clutter } from '@restless-shoal/core/sonar';
import type { EchoRecord } from '../../state/echo-record';
import { useTheme } from '../../state/theme';
import type { ViewInUse } from '../../state/views-in-use';
import { drawForward, drawSideScan, drawSounder, PING_PX, pingOf, pixelOf, type Window } from './picture-drawing';
import {
  cursorAt,
  cursorPixels,
  readCursor,
  sideRange,
  sounderCursor,
  STAYS,
  type Cursor,
  type Newest,
  type PictureFrame,
  type Reading,
} from './picture-cursor';
import { canvasColour, label } from '../../parts/picture-label';
import { palette } from '../../parts/picture-palette';
import { kindWords, type Kind } from '../../parts/records/kinds';
import { METRES_PER, type DepthUnit } from '../../parts/format';
import { useUnits } from '../../state/units';
import { deck as msg } from '../../words';

const CLUTTER: Record<Clutter, { press: string; named: string }> = {
  lure: { press: msg('picture.myLure'), named: 'lure' },
  weight: { press: msg('picture.aWeight'), named: 'weight' },
  wash: { press: msg('picture.aWash'), named: 'wash' },
};
const ZOOMS = [1, 2, 4];

interface PictureProps {
  width: number;
  height: number;
  record: EchoRecord;
  view: ViewInUse;
  fixes: BoatFix[];
  kind: Kind;
  count: number;
  /** Depth set on the Column, m: of a side-scan's target that stands free. */
  columnDepth: number | null;
  onMark: (reading: Reading) => void;
}

/** Which picture a view in use shows. */
const shownOf = ({ view }: ViewInUse): Cursor['view'] => (view === 'side-scan' || view === 'forward-facing' ? view : 'sounder');

/** What the picture shows from edge to edge: down to below the deepest bottom in it, or a part of that. */
function windowOf(record: EchoRecord, newest: number, pings: number, zoom: number, about: number | null): Window {
  let deepest = 4;
  for (let p = newest; p > newest - pings; p -= 4) deepest = Math.max(deepest, record.pingAt(p)?.bottom ?? 0);
  const all = Math.ceil(deepest * 1.18);
  const part = all / zoom;
  const from = Math.max(0, Math.min(all - part, (about ?? deepest) - part * (about === null ? 0.8 : 0.5)));
  return { from, to: from + part };
}

/** What the sonar shows, as it comes: pause it, look closer, put the finger on an echo and mark that. */
export function Picture({ width, height, record, view, fixes, kind, count, columnDepth, onMark }: PictureProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = useTheme();
  const { depth: unit } = useUnits();
  const shown = shownOf(view);
  const [paused, setPaused] = useState<Newest | null>(null);
  const [zoom, setZoom] = useState(1);
  const [cursor, setCursor] = useState<Cursor | null>(null);
  const [shadowing, setShadowing] = useState(false);
  const [naming, setNaming] = useState(false);
  const [, setTick] = useState(0);
  const colours = useMemo(() => palette(theme), [theme]);
  useEffect(() => {
    setCursor(null);
    setPaused(null);
  }, [shown]);
  // Numbers beside the picture need no more than this.
  useEffect(() => {
    const beat = setInterval(() => setTick((n) => n + 1), 500);
    return () => clearInterval(beat);
  }, []);

  const newest = (): Newest =>
    paused ?? { sounder: record.sounder.at(-1)?.ping ?? 0, side: record.side.at(-1)?.ping ?? 0, forward: record.forward };
  const about = cursor?.view === 'sounder' ? cursor.depth : null;
  const windowNow = (): Window => windowOf(record, newest().sounder, width / PING_PX, shown === 'sounder' ? zoom : 1, about);
  const frameNow = (): PictureFrame => ({
    view: shown,
    width,
    height,
    newest: newest(),
    seen: windowNow(),
    reach: view.range / (shown === 'side-scan' ? zoom : 1),
    ahead: view.range,
  });

  // Drawn anew each frame from what has come: the latest of everything, whatever was rendered meanwhile.
  const draw = useRef<() => void>(() => undefined);
  draw.current = () => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    const image = context.createImageData(width, height);
    const paper = { pixels: new Uint32Array(image.data.buffer), width, height, colours };
    const frame = frameNow();
    const { newest: now, seen, reach, ahead } = frame;
    if (shown === 'sounder') drawSounder(paper, record, now.sounder, seen);
    else if (shown === 'side-scan') drawSideScan(paper, record, now.side, reach);
    else if (now.forward) drawForward(paper, now.forward.echo, ahead, seen);
    context.putImageData(image, 0, 0);
    drawScale(context, frame, unit);
    if (shown === 'sounder') drawTraces(context, record, frame);
    if (cursor) drawCursor(context, cursor, frame);
  };
  useEffect(() => {
    let asked = requestAnimationFrame(function again() {
      draw.current();
      asked = requestAnimationFrame(again);
    });
    return () => cancelAnimationFrame(asked);
  }, []);

  const touched = (x: number, y: number): Cursor | null => {
    const frame = frameNow();
    if (!shadowing || cursor?.view !== 'side-scan') return cursorAt(record, frame, x, y);
    const range = sideRange(frame, x);
    return range > cursor.range ? { ...cursor, shadow: range } : cursor;
  };
  const press = (event: PointerEvent<HTMLCanvasElement>): void => {
    const box = event.currentTarget.getBoundingClientRect();
    const next = touched(((event.clientX - box.left) * width) / box.width, ((event.clientY - box.top) * height) / box.height);
    setCursor(next);
    setShadowing(false);
    setNaming(false);
  };
  const reading = cursor && readCursor(cursor, Date.now(), columnDepth, fixes);
  const mark = (): void => {
    if (!reading) return;
    onMark(reading);
    setCursor(null);
  };
  const key = (event: KeyboardEvent): void => {
    if (event.key === ' ') setPaused(paused ? null : newest());
    else if (event.key === 'Enter') mark();
    else if (event.key === 'Escape') setCursor(null);
    else if (cursor?.view === 'sounder' && event.key.startsWith('Arrow')) {
      const [along, deep] = { ArrowLeft: [-3, 0], ArrowRight: [3, 0], ArrowUp: [0, -0.2], ArrowDown: [0, 0.2] }[event.key] ?? [0, 0];
      setCursor(sounderCursor(record, cursor.ping + along, cursor.depth + deep) ?? cursor);
    } else if (!cursor && event.key.startsWith('Arrow')) setCursor(touched(width * 0.8, height / 2));
    else return;
    event.preventDefault();
  };
  const told = frameNow();
  const trace = cursor?.view === 'sounder' ? cursor.trace : null;
  const { singles, masses } = record.seen;
  return (
    <div className="relative" style={{ width }}>
      <canvas
        ref={canvas}
        width={width}
        height={height}
        tabIndex={0}
        role="application"
        aria-label={msg('picture.whatTheShowsTouch', {
          shown,
          shown2:
            shown === 'side-scan'
              ? msg('picture.mToEachSide', { reach: told.reach })
              : msg('picture.toMDeep', { from: told.seen.from, to: told.seen.to }),
        })}
        className="block cursor-crosshair touch-none rounded border border-line select-none"
        onPointerDown={press}
        onKeyDown={key}
      />
      {/* Over what is oldest, and below the bottom: where least is lost. */}
      <div className="absolute left-1.5 flex gap-1" style={{ top: height - 50 }}>
        <button
          type="button"
          className="btn touch-target px-2.5"
          aria-label={paused ? msg('picture.resumeThePicture') : msg('picture.pauseThePicture')}
          onClick={() => setPaused(paused ? null : newest())}
        >
          {paused ? <Play size={20} aria-hidden /> : <Pause size={20} aria-hidden />}
        </button>
        {shown !== 'forward-facing' && (
          <>
            <button
              type="button"
              className="btn touch-target px-2.5"
              aria-label={msg('picture.farther')}
              disabled={zoom === ZOOMS[0]}
              onClick={() => setZoom(ZOOMS[ZOOMS.indexOf(zoom) - 1])}
            >
              <Minus size={20} aria-hidden />
            </button>
            <button
              type="button"
              className="btn touch-target px-2.5"
              aria-label={msg('picture.closer')}
              disabled={zoom === ZOOMS.at(-1)}
              onClick={() => setZoom(ZOOMS[ZOOMS.indexOf(zoom) + 1])}
            >
              <Plus size={20} aria-hidden />
            </button>
          </>
        )}
      </div>
      <div
        className="flex min-h-12 flex-wrap content-start items-center gap-1.5 pt-1 text-sm max-md:min-h-[4.6rem]"
        data-testid="picture-says"
      >
        {reading && cursor ? (
          <>
            <span className="num min-w-40 flex-1 leading-tight font-semibold max-md:basis-full" aria-live="polite">
              {trace?.clutter ? `Your ${CLUTTER[trace.clutter].named}: ` : ''}
              {reading.words}
            </span>
            {trace?.clutter ? (
              <button
                type="button"
                className="btn touch-target"
                onClick={() => {
                  record.watch.unname(trace.clutter!);
                  setCursor(null);
                }}
              >
                {msg('picture.itIsOut')}
              </button>
            ) : (
              <button type="button" className="btn btn-primary touch-target" onClick={mark}>
                {msg('picture.markHere', { kind: kindWords(kind, count) })}
              </button>
            )}
            {cursor.view === 'side-scan' && (
              <button
                type="button"
                aria-pressed={shadowing}
                className={`btn touch-target ${shadowing ? 'btn-primary' : ''}`}
                onClick={() => setShadowing(!shadowing)}
              >
                {shadowing ? msg('picture.touchItsShadow') : msg('picture.itsShadow')}
              </button>
            )}
            {trace && !trace.clutter && !naming && (
              <button type="button" className="btn touch-target" onClick={() => setNaming(true)}>
                {msg('picture.noFish')}
              </button>
            )}
            {naming &&
              (Object.keys(CLUTTER) as Clutter[]).map((what) => (
                <button
                  key={what}
                  type="button"
                  className="btn touch-target"
                  onClick={() => {
                    if (cursor.view === 'sounder') record.watch.name(cursor.ping, cursor.depth, what);
                    setCursor(null);
                    setNaming(false);
                  }}
                >
                  {CLUTTER[what].press}
                </button>
              ))}
            <button
              type="button"
              className="btn touch-target px-2.5"
              aria-label={msg('picture.removeTheCursor')}
              onClick={() => setCursor(null)}
            >
              <X size={20} aria-hidden />
            </button>
          </>
        ) : (
          <>
            <span className="text-mute">
              {msg('picture.clearOfTheBottom')} <b className="num text-ink">{singles}</b> {msg('picture.echoes', { singles })},{' '}
              <b className="num text-ink">{masses}</b> {msg('picture.cloudTouchOneTo', { masses })}
            </span>
            {record.watch.clutter.map((what) => (
              <button
                key={what}
                type="button"
                className="btn touch-target btn-sm"
                title={msg('picture.outOfTheWater')}
                onClick={() => {
                  record.watch.unname(what);
                  setTick((n) => n + 1);
                }}
              >
                {msg('picture.leftOut', { named: CLUTTER[what].named })} <X size={16} aria-hidden />
              </button>
            ))}
          </>
        )}
      </div>
    </div>
  );
}

/** The scale, at whole numbers of the reader's unit. */
function drawScale(context: CanvasRenderingContext2D, { view, width, height, ...metres }: PictureFrame, unit: DepthUnit): void {
  const per = METRES_PER[unit];
  const [reach, ahead] = [metres.reach / per, metres.ahead / per];
  const seen = { from: metres.seen.from / per, to: metres.seen.to / per };
  const step = (span: number): number => [0.5, 1, 2, 5, 10, 20, 50, 100].find((s) => span / s <= 6) ?? 100;
  if (view === 'side-scan') {
    const by = step(reach);
    for (let d = by; d < reach * 0.97; d += by)
      for (const side of [-1, 1]) label(context, String(d), width / 2 + (side * d * width) / 2 / reach, 17, 'center');
    label(context, 'port', 8, 38, 'left');
    label(context, msg('picture.starboard', { unit }), width - 8, 38, 'right');
    return;
  }
  const by = step(seen.to - seen.from);
  for (let d = Math.ceil(seen.from / by) * by; d < seen.to; d += by) {
    const y = ((d - seen.from) / (seen.to - seen.from)) * height;
    if (y > 24 && y < height - 62) label(context, d === 0 ? '0' : `${d} ${unit}`, 6, y + 5, 'left');
  }
  if (view !== 'forward-facing') return;
  const across = step(ahead);
  for (let d = across; d < ahead; d += across)
    label(context, d + across < ahead ? String(d) : msg('picture.ahead', { d, unit }), (d / ahead) * width, 17, 'center');
}

function drawTraces(context: CanvasRenderingContext2D, record: EchoRecord, { width, height, newest: all, seen }: PictureFrame): void {
  const newest = all.sounder;
  const y = (depth: number): number => ((depth - seen.from) / (seen.to - seen.from)) * height;
  const oldest = pingOf(0, width, newest);
  context.lineWidth = 2;
  for (const t of record.watch.traces) {
    if (t.last < oldest || t.first > newest || t.form === 'standing') continue;
    // What stays in the cone is where it is now; what went by, where it was straight below.
    const stays = t.last - t.first > STAYS;
    const [ping, depth] = stays ? [Math.min(t.last, newest), t.lastDepth] : [t.ping, t.depth];
    const x = pixelOf(ping, width, newest);
    if (t.clutter) {
      label(context, CLUTTER[t.clutter].named, Math.min(width - 34, Math.max(34, x)), y(depth) - 8, 'center');
      continue;
    }
    context.strokeStyle = canvasColour(t.form === 'mass' ? '--bait' : '--fish');
    const half = stays ? 12 : Math.min(70, Math.max(9, ((t.last - t.first) * PING_PX) / 2 + 4));
    const middle = stays ? x - 12 : (pixelOf(t.first, width, newest) + pixelOf(t.last, width, newest)) / 2;
    const [top, low] = [y(depth) - 6, Math.max(y(depth) + 9, y(depth + (stays ? 0 : t.thick)) + 6)];
    // Corners only: the echo itself stays in sight.
    for (const [cx, dx] of [
      [middle - half, 7],
      [middle + half, -7],
    ])
      for (const [cy, dy] of [
        [top, 6],
        [low, -6],
      ]) {
        context.beginPath();
        context.moveTo(cx + dx, cy);
        context.lineTo(cx, cy);
        context.lineTo(cx, cy + dy);
        context.stroke();
      }
  }
}

function drawCursor(context: CanvasRenderingContext2D, cursor: Cursor, frame: PictureFrame): void {
  const { x, y, shadow } = cursorPixels(cursor, frame);
  if (shadow !== null) {
    context.strokeStyle = canvasColour('--therm');
    context.lineWidth = 3;
    context.strokeRect(shadow - 9, y - 9, 18, 18);
  }
  context.lineWidth = 5;
  for (const [style, wide] of [
    [canvasColour('--surface'), 6],
    [canvasColour('--fish'), 3],
  ] as const) {
    context.strokeStyle = style;
    context.lineWidth = wide;
    context.beginPath();
    context.arc(x, y, 15, 0, 2 * Math.PI);
    for (const [dx, dy] of [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1],
    ]) {
      context.moveTo(x + 9 * dx, y + 9 * dy);
      context.lineTo(x + 24 * dx, y + 24 * dy);
    }
    context.stroke();
  }
}
