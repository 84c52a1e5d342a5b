/** A depth span on the Column, m below the surface. */
export interface DepthSpan {
  top: number;
  bottom: number;
}

/** Where a depth stands on the drawing of the Column, and back. */
export interface ColumnScale {
  /** Depth of the water, m; where it is not known, how far down the drawing goes. */
  floor: number;
  /** Depth at the lower edge of the drawing, m. */
  max: number;
  /** Pixels from the upper edge of the drawing to the surface. */
  head: number;
  /** Pixels from the surface to `max`. */
  height: number;
}

/** Half of a span that one tap sets, m. */
const HALF = 0.5;
/** Less movement than this is a tap, px. */
export const TAP_PX = 8;
/** A drag that begins this near to an edge moves the edge, px. */
const HANDLE_PX = 22;
/** Share of the water's depth where a span stands before anybody has touched the Column. */
const FIRST_AT = 0.6;

const tenth = (v: number): number => Math.round(v * 10) / 10;

/** The scale of a Column for water of a depth: the bottom in the lower part of the drawing, also in the shallows. */
export function columnScale(floor: number, head: number, height: number): ColumnScale {
  const step = floor < 4 ? 0.5 : floor < 10 ? 1 : floor < 30 ? 2 : 5;
  return { floor, max: Math.max(1, Math.ceil((floor * 1.04) / step) * step), head, height };
}

/** Pixels from the upper edge of the drawing to a depth. */
export const yOfDepth = ({ head, height, max }: ColumnScale, depth: number): number => head + (height * depth) / max;

/** The depth that a point of the drawing stands for, within the water, to 0.1 m. */
export const depthOfY = ({ floor, max, head, height }: ColumnScale, y: number): number =>
  Math.min(floor, Math.max(0, tenth(((y - head) / height) * max)));

/** The span of one tap: half a metre to either side of it, less near the surface and the bottom, so that its middle stays where it was tapped. */
export function spanAround(depth: number, floor: number): DepthSpan {
  const half = Math.max(0, Math.min(HALF, depth, floor - depth));
  return { top: Number((depth - half).toFixed(2)), bottom: Number((depth + half).toFixed(2)) };
}

/** A span as it can lie in water of a depth: one that was chosen for deeper water is moved up to the bottom. */
export function spanWithin(span: DepthSpan | null, floor: number): DepthSpan {
  if (!span) return spanAround(tenth(floor * FIRST_AT), floor);
  const over = Math.max(0, span.bottom - floor);
  return over ? { top: Number(Math.max(0, span.top - over).toFixed(2)), bottom: Number(floor.toFixed(2)) } : span;
}

/** A touch of the Column that goes on. */
export interface ColumnTouch {
  scale: ColumnScale;
  /** Where it began, px. */
  from: number;
  /** The span as it was then. */
  before: DepthSpan;
  /** What the touch turned out to be. */
  does: 'tap' | 'top' | 'bottom' | 'draw';
}

/** Begins a touch at `y` px. Until it has moved far enough it is a tap. */
export const beginTouch = (scale: ColumnScale, before: DepthSpan, y: number): ColumnTouch => ({ scale, from: y, before, does: 'tap' });

/** The edge that a drag from `from` towards `to` moves; null where it begins beside both. Between two edges as near, the direction decides. */
function edgeOf(scale: ColumnScale, span: DepthSpan, from: number, to: number): 'top' | 'bottom' | null {
  const top = Math.abs(yOfDepth(scale, span.top) - from);
  const bottom = Math.abs(yOfDepth(scale, span.bottom) - from);
  if (Math.min(top, bottom) > HANDLE_PX) return null;
  if (Math.abs(top - bottom) < TAP_PX) return to < from ? 'top' : 'bottom';
  return top < bottom ? 'top' : 'bottom';
}

/** Whether a touch that has not moved yet began on an edge: it may become a drag of it. */
const onEdge = ({ scale, before, from }: ColumnTouch): boolean => edgeOf(scale, before, from, from) !== null;

/** The span that a touch at `y` px makes: a tap moves it to where it fell, a drag that began on an edge moves that edge, any other draws a new one. */
function spanOf({ scale, from, before, does }: ColumnTouch, y: number): DepthSpan {
  const [start, now] = [depthOfY(scale, from), depthOfY(scale, y)];
  if (does === 'tap') return spanAround(start, scale.floor);
  if (does === 'top') return { top: Math.min(now, before.bottom), bottom: before.bottom };
  if (does === 'bottom') return { top: before.top, bottom: Math.max(now, before.top) };
  return { top: Math.min(start, now), bottom: Math.max(start, now) };
}

/** Goes on with a touch that is at `y` px now. @returns the touch, and the span to show meanwhile */
export function moveTouch(touch: ColumnTouch, y: number): { touch: ColumnTouch; span: DepthSpan } {
  const { scale, from, before } = touch;
  const does = touch.does !== 'tap' || Math.abs(y - from) < TAP_PX ? touch.does : (edgeOf(scale, before, from, y) ?? 'draw');
  const now = { ...touch, does };
  // An edge that is about to be dragged does not jump first.
  return { touch: now, span: does === 'tap' && onEdge(now) ? before : spanOf(now, y) };
}

/** Ends a touch at `y` px. @returns the span that it made */
export const endTouch = (touch: ColumnTouch, y: number): DepthSpan => spanOf(moveTouch(touch, y).touch, y);
