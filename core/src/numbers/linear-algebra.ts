/** Σ a[i+k]·b[j+k] for k < n, in four sums side by side: one alone waits for itself. */
function dot(a: Float64Array, i: number, b: Float64Array, j: number, n: number): number {
  let [s0, s1, s2, s3] = [0, 0, 0, 0];
  const whole = n - (n % 4);
  for (let k = 0; k < whole; k += 4) {
    s0 += a[i + k] * b[j + k];
    s1 += a[i + k + 1] * b[j + k + 1];
    s2 += a[i + k + 2] * b[j + k + 2];
    s3 += a[i + k + 3] * b[j + k + 3];
  }
  for (let k = whole; k < n; k++) s0 += a[i + k] * b[j + k];
  return s0 + s1 + (s2 + s3);
}

/** Columns that are worked out side by side: what is read of a row serves all four. */
const BLOCK = 4;

/**
 * Cholesky factor (lower) of a symmetric positive definite matrix, in place.
 * @param a n×n, row by row; only its lower triangle is read, and overwritten
 * @throws RangeError when it is not positive definite
 */
export function choleskyInPlace(a: Float64Array, n: number): void {
  for (let j = 0; j < n; j += BLOCK) {
    const end = Math.min(n, j + BLOCK);
    for (let c = j; c < end; c++)
      for (let i = c; i < end; i++) {
        const s = a[i * n + c] - dot(a, i * n, a, c * n, c);
        if (i > c) a[i * n + c] = s / a[c * n + c];
        else if (s > 0) a[c * n + c] = Math.sqrt(s);
        else throw new RangeError('the matrix is not positive definite');
      }
    const [r0, r1, r2, r3] = [j * n, (j + 1) * n, (j + 2) * n, (j + 3) * n];
    for (let i = end; i < n; i++) {
      const row = i * n;
      let s0 = a[row + j];
      let s1 = a[row + j + 1];
      let s2 = a[row + j + 2];
      let s3 = a[row + j + 3];
      for (let k = 0; k < j; k++) {
        const v = a[row + k];
        s0 -= v * a[r0 + k];
        s1 -= v * a[r1 + k];
        s2 -= v * a[r2 + k];
        s3 -= v * a[r3 + k];
      }
      s0 /= a[r0 + j];
      s1 = (s1 - s0 * a[r1 + j]) / a[r1 + j + 1];
      s2 = (s2 - s0 * a[r2 + j] - s1 * a[r2 + j + 1]) / a[r2 + j + 2];
      s3 = (s3 - s0 * a[r3 + j] - s1 * a[r3 + j + 1] - s2 * a[r3 + j + 2]) / a[r3 + j + 3];
      a[row + j] = s0;
      a[row + j + 1] = s1;
      a[row + j + 2] = s2;
      a[row + j + 3] = s3;
    }
  }
}

/** Solves L Lᵀ x = b for a lower factor. */
export function choleskySolve(l: Float64Array, n: number, b: Float64Array): Float64Array {
  const x = Float64Array.from(b);
  for (let i = 0; i < n; i++) {
    let s = x[i];
    for (let k = 0; k < i; k++) s -= l[i * n + k] * x[k];
    x[i] = s / l[i * n + i];
  }
  for (let i = n - 1; i >= 0; i--) {
    x[i] /= l[i * n + i];
    for (let k = 0; k < i; k++) x[k] -= l[i * n + k] * x[i];
  }
  return x;
}

/** L⁻¹ with its columns as rows: entry (j, i) is L⁻¹[i][j], zero for i < j. */
export function invertFactor(l: Float64Array, n: number): Float64Array {
  const m = new Float64Array(n * n);
  for (let j = 0; j < n; j += BLOCK) {
    const end = Math.min(n, j + BLOCK);
    for (let c = j; c < end; c++) {
      m[c * n + c] = 1 / l[c * n + c];
      for (let i = c + 1; i < end; i++) m[c * n + i] = -dot(l, i * n + c, m, c * n + c, i - c) / l[i * n + i];
    }
    const [r0, r1, r2, r3] = [j * n, (j + 1) * n, (j + 2) * n, (j + 3) * n];
    for (let i = end; i < n; i++) {
      const row = i * n;
      let s0 = 0;
      let s1 = 0;
      let s2 = 0;
      let s3 = 0;
      for (let k = j; k < i; k++) {
        const v = l[row + k];
        s0 -= v * m[r0 + k];
        s1 -= v * m[r1 + k];
        s2 -= v * m[r2 + k];
        s3 -= v * m[r3 + k];
      }
      const by = l[row + i];
      m[r0 + i] = s0 / by;
      m[r1 + i] = s1 / by;
      m[r2 + i] = s2 / by;
      m[r3 + i] = s3 / by;
    }
  }
  return m;
}

/** One entry of (L Lᵀ)⁻¹ from the inverted factor. */
export function inverseEntry(m: Float64Array, n: number, i: number, j: number): number {
  const from = Math.max(i, j);
  return dot(m, i * n + from, m, j * n + from, n - from);
}
