/** A boat's sonar as it is mounted and set. Metres. */
export interface Rig {
  /** Transducer forward (+) and to starboard (+) of the antenna. */
  forward: number;
  starboard: number;
  /** Transducer below the surface. */
  transducerDepth: number;
  /** Who casts stands this far forward of the antenna. */
  bow: number;
  /** How old the picture is when it is looked at, s. */
  delay: number;
  /** Whether the side-scan shows distances over the ground rather than slant ranges. */
  corrected: boolean;
  /** Gain at which a small target showed nine times in ten, dB or steps of the unit; null where it was not tuned. */
  gain: number | null;
  /** Weakest echo at 1 m that shows at that gain, dB. */
  leastEcho: number | null;
}

/** Antenna over the transducer, a caster two metres forward of both, ranges as a side-scan measures them. */
export const DEFAULT_RIG: Rig = {
  forward: 0,
  starboard: 0,
  transducerDepth: 0.4,
  bow: 2,
  delay: 0,
  corrected: false,
  gain: null,
  leastEcho: null,
};
