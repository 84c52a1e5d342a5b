import { packParts, unpackParts } from '../formats/binary';
import type { Model } from './fit';

/** A fit as one binary, for the database and the browser. */
export function packModel({ beta, covariance, ...header }: Model): Uint8Array {
  return packParts(header, { beta, covariance });
}

/** Reads what packModel wrote. @throws RangeError when it is not a packed fit */
export function unpackModel(bytes: Uint8Array): Model {
  const { header, parts } = unpackParts<Omit<Model, 'beta' | 'covariance'>>(bytes);
  return { ...header, beta: parts.beta as Float64Array, covariance: parts.covariance as Float32Array };
}
