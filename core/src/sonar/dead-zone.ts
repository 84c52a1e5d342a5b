const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/** What of the water a sounder hides over its bottom. */
export interface DeadZone {
  /** Straight under the boat, m over the bottom. */
  under: number;
  /** At the edge of the beam over the deeper ground, and over the shallower, m along the beam. */
  deepEdge: number;
  shallowEdge: number;
  /** Range at which the bottom begins to show, m: that of its nearest point within the beam. */
  firstBottom: number;
}

/**
 * Where fish merge with the bottom echo. The bottom shows from its nearest point within the beam on; whatever is farther than
 * that less half a pulse is hidden, in every direction of the beam. On a plane that falls by `slope`, the bottom lies at
 * d·cos s/cos(φ + s) in the direction φ (towards the deep positive), nearest at φ = −s or at the edge of the beam. Written out in
 * docs/sonar.md; on flat ground the edges are those of Ona & Mitson 1996: d·(1/cos(θ/2) − 1) + cτ/2.
 * @param depth below the transducer, m @param beam full angle, degrees @param pulse length, s @param slope of the bottom, degrees
 * @param soundSpeed m/s
 * @example deadZone(12, 20, 0.0001).deepEdge // 0.26
 */
export function deadZone(depth: number, beam: number, pulse: number, slope = 0, soundSpeed = 1450): DeadZone {
  const [half, s] = [radians(beam / 2), radians(Math.abs(slope))];
  const bottomAt = (angle: number): number => (angle + s < Math.PI / 2 ? (depth * Math.cos(s)) / Math.cos(angle + s) : Infinity);
  const firstBottom = bottomAt(-Math.min(s, half));
  const seen = firstBottom - (soundSpeed * pulse) / 2;
  return { under: depth - seen, deepEdge: bottomAt(half) - seen, shallowEdge: bottomAt(-half) - seen, firstBottom };
}
