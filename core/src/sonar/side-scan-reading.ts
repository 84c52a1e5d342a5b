import { heightFromShadow, objectHeight, sideScanDistance } from './beam';

/** A value with the standard error that reading errors give it. */
export interface Read {
  value: number;
  error: number;
}

/** What is read off a side-scan picture, each with how exactly, m. */
export interface SideScanReading {
  /** Transducer over the bottom. */
  height: Read;
  /** Slant range of the echo. */
  range: Read;
  /** Slant range of the near edge of its shadow; null where none lies apart. */
  shadow: Read | null;
  /** Length of a shadow that begins at the echo; null where there is none. */
  shadowLength: Read | null;
}

/** What it comes to. */
export interface SideScanAnswer {
  /** Over the ground to the target, m. */
  distance: Read;
  /** Of a thing that stands on the bottom, m; null without a shadow that begins at its echo. */
  tall: Read | null;
  /** Of a fish over the bottom, m; null without a shadow that lies apart. */
  over: Read | null;
}

/** A step by which slopes are told, as share of a value. */
const STEP = 1e-4;

/** A result with its error, by its slopes in each thing read (first order). Nothing that is read depends on another. */
function propagated(f: (values: number[]) => number, read: readonly Read[]): Read {
  const values = read.map((r) => r.value);
  const value = f(values);
  const error = Math.hypot(
    ...read.map((r, k) => {
      const step = STEP * Math.max(1e-3, Math.abs(r.value));
      const [up, down] = [1, -1].map((sign) => f(values.map((v, j) => (j === k ? v + sign * step : v))));
      return ((up - down) / (2 * step)) * r.error;
    }),
  );
  return { value, error };
}

/**
 * What a side-scan reading says of its target, with errors from how exactly it was read (first-order propagation). On a flat bottom.
 * A height is never below the bottom, nor a target above the transducer.
 * @throws RangeError where the echo is nearer than the bottom under the boat and no shadow says that it hangs above it, or a shadow is nearer than its echo
 */
export function readSideScan({ height, range, shadow, shadowLength }: SideScanReading): SideScanAnswer {
  if (shadow && shadow.value < range.value) throw new RangeError('shadow');
  if (!shadow && range.value < height.value) throw new RangeError('range');
  const over = shadow && propagated(([h, r, s]) => Math.max(0, heightFromShadow(h, r, s)), [height, range, shadow]);
  const tall = shadowLength && propagated(([h, r, l]) => Math.max(0, objectHeight(h, r, l)), [height, range, shadowLength]);
  const distance = shadow
    ? propagated(([h, r, s]) => sideScanDistance(r, h, Math.max(0, heightFromShadow(h, r, s))), [height, range, shadow])
    : propagated(([h, r]) => sideScanDistance(r, h), [height, range]);
  return { distance, tall, over };
}
