import { decimal } from '../../words';
/** A gain in log score, with its sign. */
export const logScoreGain = (v: number): string => `${v < 0 ? '−' : '+'}${decimal(Math.abs(v), 4)}`;
