import { coneWidth, sideScanDistance, sideScanStrip } from '../sonar';

/** How a boat looks while it searches. */
export interface SearchView {
  view: 'sounder' | 'down-beam' | 'side-scan' | 'forward-facing';
  /** Range set on the unit, m: slant range of a side-scan to each side, reach of a forward-facing view. */
  range: number;
  /** Full angle of the beam: of a sounder's cone, of what a forward-facing view sees at once, degrees. */
  beam: number;
  /** Transducer below the surface, m. */
  transducerDepth: number;
}

/** What a pass sees of the ground to either side of the boat's line, m: from `near` to `far`. */
export interface Swath {
  near: number;
  far: number;
}

/**
 * The strip that a pass sees over ground of a depth: of a side-scan √(R² − H²) to each side without the strip of the first echo
 * under the boat; of a sounder half its cone, of a forward-facing view half the width of its beam at its reach.
 * @param depth of the water, m; what is not known is taken as nothing, so that ranges are as they are set
 */
export function swathOf({ view, range, beam, transducerDepth }: SearchView, depth: number): Swath {
  const height = depth > 0 ? Math.max(0, depth - transducerDepth) : 0;
  if (view === 'side-scan') return sideScanStrip(range, height);
  if (view === 'forward-facing') {
    // Its beam lies over the ground ahead of the boat as far as its slant range reaches it.
    const ahead = sideScanDistance(range, height);
    return { near: 0, far: ahead * Math.tan((Math.min(170, beam) * Math.PI) / 360) };
  }
  return { near: 0, far: coneWidth(height, beam) / 2 };
}

/** How passes lie beside one another. */
export interface Spacing {
  /** From line to line, m; 0 where nothing can be seen. */
  metres: number;
  /** Whether each pass also sees the strip under its neighbours. */
  stripSeen: boolean;
  /** Share of the ground between even lines that is seen, 0–1. */
  seen: number;
}

/**
 * The widest spacing at which passes see so much of the ground: twice the swath less its overlap where the strips under the boat
 * are little enough to leave out, else one swath, so that neighbours see each other's strip.
 * @param overlap share of a swath that is kept for helm and drift, 0–0.9 @param wanted share of the ground, 0–1
 * @example passSpacing({ near: 1.1, far: 24.3 }, 0.1, 0.95).metres // 43.7
 */
export function passSpacing({ near, far }: Swath, overlap: number, wanted = 0.95): Spacing {
  const used = far * (1 - overlap);
  if (!(used > 0)) return { metres: 0, stripSeen: false, seen: 0 };
  const wide = 2 * used;
  const seen = 1 - (2 * Math.min(near, used)) / wide;
  if (seen >= wanted) return { metres: wide, stripSeen: near === 0, seen };
  return { metres: used, stripSeen: true, seen: used > near ? 1 : 0 };
}
