import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';
import type { Corners, Pixel } from '@restless-shoal/core/sonar';
import type { ShownPicture } from '../../workers/picture.worker';
import { bench as msg } from '../../words';

/** How far an arrow key moves the cross, as share of the picture; with Shift. */
const [STEP, FINE] = [0.02, 0.002];

/** A picture that is touched, drawn on or straightened. Marks on it are children, in its px. */
export function PictureView({
  picture,
  zoom,
  scale,
  corners,
  painting,
  onTouch,
  onPaint,
  onCorners,
  onScale,
  children,
}: {
  picture: ShownPicture;
  zoom: number;
  /** How many px of the picture one of the screen is. */
  scale: number;
  /** Corners that are dragged; null where none are. */
  corners: Corners | null;
  /** Whether a finger draws an outline instead of touching. */
  painting: boolean;
  onTouch: (at: Pixel) => void;
  onPaint: (outline: Pixel[]) => void;
  onCorners: (corners: Corners) => void;
  /** Is told how many px of the picture one of the screen is. */
  onScale: (scale: number) => void;
  children: ReactNode;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [outline, setOutline] = useState<Pixel[]>([]);
  const [cross, setCross] = useState<Pixel | null>(null);
  const dragged = useRef<number | null>(null);
  const { bitmap, width, height } = picture;
  useEffect(() => {
    const element = canvas.current!;
    [element.width, element.height] = [width, height];
    element.getContext('2d')!.drawImage(bitmap, 0, 0);
    setCross(null);
    const measure = (): void => onScale(width / Math.max(1, element.clientWidth));
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(element);
    return () => watch.disconnect();
  }, [bitmap, width, height, onScale]);
  const at = (event: { clientX: number; clientY: number; currentTarget: Element }): Pixel => {
    const box = event.currentTarget.getBoundingClientRect();
    const clamp = (v: number, most: number): number => Math.max(0, Math.min(most, v));
    return {
      x: clamp(((event.clientX - box.left) / box.width) * width, width),
      y: clamp(((event.clientY - box.top) / box.height) * height, height),
    };
  };
  const draws = painting || corners !== null;
  const down = (event: PointerEvent<SVGSVGElement>): void => {
    if (!draws) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const p = at(event);
    if (corners) {
      const far = corners.map((c) => Math.hypot(c.x - p.x, c.y - p.y));
      dragged.current = far.indexOf(Math.min(...far));
    } else setOutline([p]);
  };
  const move = (event: PointerEvent<SVGSVGElement>): void => {
    if (!draws || event.buttons !== 1) return;
    const p = at(event);
    if (corners && dragged.current !== null) onCorners(corners.map((c, k) => (k === dragged.current ? p : c)) as unknown as Corners);
    else if (painting) setOutline((was) => [...was, p]);
  };
  const up = (): void => {
    dragged.current = null;
    if (outline.length > 2) onPaint(outline);
    setOutline([]);
  };
  const key = (event: KeyboardEvent): void => {
    const by = (event.shiftKey ? FINE : STEP) * width;
    const way = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[event.key];
    if (way) {
      const from = cross ?? { x: width / 2, y: height / 2 };
      setCross({ x: Math.max(0, Math.min(width, from.x + way[0])), y: Math.max(0, Math.min(height, from.y + way[1])) });
    } else if (event.key === 'Enter' && cross && !draws) onTouch(cross);
    else return;
    event.preventDefault();
  };
  const thin = scale;
  const line = (points: readonly Pixel[]): string => points.map((p) => `${p.x},${p.y}`).join(' ');
  return (
    <div className="max-h-[58vh] overflow-auto rounded border border-line bg-base-200 max-lg:max-h-[42vh]">
      <div className="relative" style={{ width: `${100 * zoom}%` }}>
        <canvas ref={canvas} className="block w-full" />
        <svg
          viewBox={`0 0 ${width} ${height}`}
          className={`absolute inset-0 h-full w-full cursor-crosshair ${draws ? 'touch-none' : ''}`}
          tabIndex={0}
          role="application"
          aria-label={msg('picture.touchIt')}
          onClick={(event) => !draws && onTouch(at(event))}
          onPointerDown={down}
          onPointerMove={move}
          onPointerUp={up}
          onKeyDown={key}
        >
          {children}
          {outline.length > 1 && (
            <polygon points={line(outline)} fill="var(--fish)" fillOpacity={0.2} stroke="var(--fish)" strokeWidth={2 * thin} />
          )}
          {corners && (
            <>
              <polygon points={line(corners)} fill="none" stroke="var(--warn)" strokeWidth={2 * thin} />
              {corners.map((c, k) => (
                <circle
                  key={k}
                  cx={c.x}
                  cy={c.y}
                  r={16 * thin}
                  fill="var(--warn)"
                  fillOpacity={0.5}
                  stroke="var(--surface)"
                  strokeWidth={thin}
                />
              ))}
            </>
          )}
          {cross && (
            <path
              d={`M${cross.x - 12 * thin} ${cross.y} h${24 * thin} M${cross.x} ${cross.y - 12 * thin} v${24 * thin}`}
              stroke="var(--warn)"
              strokeWidth={1.5 * thin}
            />
          )}
        </svg>
      </div>
    </div>
  );
}
