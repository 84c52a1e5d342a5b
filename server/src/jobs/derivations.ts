import { createHash } from 'node:crypto';

/** What is made from a log and kept: chart → looks → fit → scores, each from the one before and from records; the log in columns from looks. */
export type Derivation = 'chart' | 'looks' | 'fit' | 'scores' | 'logbook';

declare const DERIVATION_CODE: Record<Derivation, string> | undefined;

/** A digest of the code that a derivation runs, made when it was built; from the sources there is none. */
export const codeOf = (derivation: Derivation): string =>
  typeof DERIVATION_CODE === 'undefined' ? 'sources' : DERIVATION_CODE[derivation];

/**
 * What a derivation rests on, as a digest: the same digest needs no new one.
 * @param inputs all that it is given, or what changes whenever that does
 */
export const digestOf = (derivation: Derivation, inputs: unknown): string =>
  createHash('sha256')
    .update(JSON.stringify([codeOf(derivation), inputs]))
    .digest('hex');
