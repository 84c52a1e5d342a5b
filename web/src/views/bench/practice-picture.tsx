import { useEffect, useRef, useState, type PointerEvent } from 'react';
import type { PointedOut, PracticePicture as Picture } from '@restless-shoal/core/sonar';
import { METRES_PER } from '../../parts/format';
import { canvasColour, label } from '../../parts/picture-label';
import { palette } from '../../parts/picture-palette';
import { useTheme } from '../../state/theme';
import { useUnits } from '../../state/units';
import { bench as msg, formatDepth } from '../../words';

const STEPS = [0.5, 1, 2, 5, 10, 20, 50];

/** Where a ping and a depth or range (to port negative) stand, px. */
function placesOf({ view, pings, range, transducerDepth }: Picture, width: number, height: number) {
  const side = view === 'side-scan';
  return {
    // Of the side-scan the newest ping is at the top.
    ping: (p: number): number => (side ? height - (p / pings.length) * height : (p / pings.length) * width),
    at: (m: number): number => (side ? width / 2 + (m / range) * (width / 2) : ((m - transducerDepth) / range) * height),
    /** The depth or range at a point. */
    read: (x: number, y: number): number =>
      side ? (Math.abs(x - width / 2) / (width / 2)) * range : transducerDepth + (y / height) * range,
  };
}

function drawLevels(
  context: CanvasRenderingContext2D,
  { view, pings }: Picture,
  width: number,
  height: number,
  colours: Uint32Array,
): void {
  const image = context.createImageData(width, height);
  const pixels = new Uint32Array(image.data.buffer);
  const side = view === 'side-scan';
  const samples = pings[0].length;
  const [along, across] = side ? [height, width] : [width, height];
  for (let a = 0; a < along; a++) {
    const levels = pings[Math.floor((side ? (height - 1 - a) / height : a / width) * pings.length)];
    for (let b = 0; b < across; b++) {
      const from = Math.floor((b / across) * samples);
      // The strongest of what falls on a pixel, so that thin echoes stay.
      let level = levels[from];
      for (let i = from + 1; i < ((b + 1) / across) * samples; i++) if (levels[i] > level) level = levels[i];
      pixels[side ? a * width + b : b * width + a] = colours[level];
    }
  }
  context.putImageData(image, 0, 0);
}

/** A picture that was made up, with its scale; once answered, with what it holds. */
export function PracticePicture({
  picture,
  pointed,
  onTouch,
  onReady,
}: {
  picture: Picture;
  /** What to point out; none before it was answered. */
  pointed: readonly PointedOut[];
  /** A depth or a range was touched, m. */
  onTouch?: (metres: number) => void;
  /** Hands out a way to draw it as a picture. */
  onReady?: (png: () => string) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = useTheme();
  const { depth: unit } = useUnits();
  const [size, setSize] = useState<[number, number] | null>(null);
  useEffect(() => {
    const element = canvas.current!;
    const measure = (): void => setSize([Math.max(200, Math.round(element.clientWidth)), Math.max(160, Math.round(element.clientHeight))]);
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || !size) return;
    const [width, height] = size;
    [canvas.current!.width, canvas.current!.height] = size;
    drawLevels(context, picture, width, height, palette(theme));
    const at = placesOf(picture, width, height);
    const per = METRES_PER[unit];
    const step = STEPS.find((s) => picture.range / per / s <= 6) ?? 100;
    for (let v = step; v < (picture.range / per) * 0.97; v += step)
      if (picture.view === 'sounder') label(context, `${v} ${unit}`, 6, at.at(v * per) + 5, 'left');
      else for (const sign of [-1, 1]) label(context, String(v), at.at(sign * v * per), 17, 'center');
    if (picture.view === 'side-scan') {
      label(context, msg('practice.port'), 8, height - 10, 'left');
      label(context, `${msg('practice.starboard')}, ${unit}`, width - 8, height - 10, 'right');
    }
    for (const {
      what,
      pings,
      at: [from, to],
    } of pointed) {
      const [p, q] = [at.ping(pings[0]), at.ping(pings[1])];
      const [a, b] = [at.at(from), at.at(to)];
      const [x, y, w, h] =
        picture.view === 'side-scan'
          ? [Math.min(a, b), Math.min(p, q), Math.abs(b - a), Math.abs(q - p)]
          : [Math.min(p, q), Math.min(a, b), Math.abs(q - p), Math.abs(b - a)];
      context.lineWidth = 3;
      context.strokeStyle = canvasColour('--fish');
      context.strokeRect(Math.max(2, x - 3), Math.max(2, y - 3), Math.min(width - 4, w + 6), Math.min(height - 4, h + 6));
      const middle = Math.min(width - 60, Math.max(60, x + w / 2));
      label(context, msg(`practice.pointed.${what}`), middle, y - 10 > 18 ? y - 10 : Math.min(height - 8, y + h + 22), 'center');
    }
    onReady?.(() => canvas.current!.toDataURL('image/png'));
  }, [picture, pointed, size, theme, unit, onReady]);
  const touch = (event: PointerEvent<HTMLCanvasElement>): void => {
    if (!onTouch || !size) return;
    const box = event.currentTarget.getBoundingClientRect();
    onTouch(
      placesOf(picture, ...size).read(
        ((event.clientX - box.left) * size[0]) / box.width,
        ((event.clientY - box.top) * size[1]) / box.height,
      ),
    );
  };
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={msg('practice.picture', { view: picture.view, range: formatDepth(picture.range) })}
      className={`block h-[42vh] min-h-56 w-full rounded border border-line max-lg:h-[34vh] ${onTouch ? 'cursor-crosshair' : ''}`}
      onPointerDown={touch}
    />
  );
}
