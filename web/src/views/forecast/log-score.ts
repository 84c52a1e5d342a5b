/** A gain in log score, with its sign. */
export const logScoreGain = (v: number): string => `${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(4)}`;
