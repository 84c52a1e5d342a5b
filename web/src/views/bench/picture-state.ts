import {
  readTarget,
  TOUCHED_TO,
  scaleOf,
  type BlobCount,
  type Corners,
  type PictureReading,
  type Pixel,
  type ReadingTrouble,
  type ScaledPicture,
  type ScaleMark,
  type ScaleTrouble,
} from '@restless-shoal/core/sonar';

export const PICTURE_VIEWS = ['sounder', 'side-scan', 'forward-facing'] as const;
export type PictureView = (typeof PICTURE_VIEWS)[number];

/** What has to be touched for the scale of each view, in order; those with a value are typed too. */
export const SCALE_STEPS = {
  sounder: ['depthA', 'depthB'],
  'side-scan': ['middle', 'rangeA', 'firstBottom'],
  'forward-facing': ['depthA', 'depthB', 'boat', 'aheadA'],
} as const satisfies Record<PictureView, string[]>;
export type ScaleStep = (typeof SCALE_STEPS)[PictureView][number];
/** Those that need a number. */
export const TYPED: ReadonlySet<ScaleStep> = new Set(['depthA', 'depthB', 'rangeA', 'aheadA']);

/** What somebody marked on the picture. */
export interface PictureTarget {
  id: number;
  kind: 'fish' | 'bait' | 'cover' | 'bottom' | 'thermocline';
  at: Pixel;
  shadow: Pixel | null;
  count: number;
  /** A school that was painted over: its outline and what was counted in it. */
  outline: Pixel[] | null;
  counted: BlobCount | null;
}

/** Where scale marks stand and what was typed for them, in metres. */
export type ScaleTouches = Partial<Record<ScaleStep, { at: Pixel; value: number | null }>>;

/** The scale from what was touched; what is missing or wrong. */
export function scaledBy(view: PictureView, touches: ScaleTouches): ScaledPicture | { missing: ScaleStep } | { trouble: ScaleTrouble } {
  for (const step of SCALE_STEPS[view]) {
    const touch = touches[step];
    if (!touch || (TYPED.has(step) && touch.value === null)) return { missing: step };
  }
  const mark = (step: ScaleStep, axis: 'x' | 'y', value?: number): ScaleMark => ({
    at: touches[step]!.at[axis],
    value: value ?? touches[step]!.value!,
  });
  const pairs: [ScaleMark, ScaleMark][] = [];
  const pair = (a: ScaleMark, b: ScaleMark): readonly [ScaleMark, ScaleMark] => {
    pairs.push([a, b]);
    return [a, b];
  };
  const scaled = ((): ScaledPicture => {
    if (view === 'sounder') return { view, depth: pair(mark('depthA', 'y'), mark('depthB', 'y')) };
    if (view === 'forward-facing')
      return {
        view,
        depth: pair(mark('depthA', 'y'), mark('depthB', 'y')),
        ahead: pair(mark('boat', 'x', 0), mark('aheadA', 'x')),
      };
    // A range to port is typed as what it says: the left of the middle is negative.
    const [middle, far] = [touches.middle!.at.x, touches.rangeA!];
    const range = pair(mark('middle', 'x', 0), mark('rangeA', 'x', far.at.x < middle ? -far.value! : far.value!));
    return { view, range, firstBottom: touches.firstBottom!.at.x };
  })();
  for (const [a, b] of pairs) {
    const made = scaleOf(a, b);
    if (typeof made === 'string') return { trouble: made };
  }
  return scaled;
}

/** What each target comes to. @param scale px of the picture for one on the screen */
export const readAll = (
  picture: ScaledPicture,
  targets: readonly PictureTarget[],
  scale: number,
  transducerDepth: number,
): (PictureReading | ReadingTrouble)[] =>
  targets.map(({ at, shadow }) => readTarget(picture, { at, shadow }, TOUCHED_TO * scale, transducerDepth));

/** Four corners somewhat inside a picture, to be dragged to those of the screen. */
export const cornersWithin = (width: number, height: number): Corners => {
  const [x, y] = [0.06 * width, 0.06 * height];
  return [{ x, y }, { x: width - x, y }, { x: width - x, y: height - y }, { x, y: height - y }]; // prettier-ignore
};

/** The middle of an outline. */
export const middleOf = (outline: readonly Pixel[]): Pixel => ({
  x: outline.reduce((s, p) => s + p.x, 0) / outline.length,
  y: outline.reduce((s, p) => s + p.y, 0) / outline.length,
});
