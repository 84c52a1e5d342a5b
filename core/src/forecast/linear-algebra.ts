/**
 * Cholesky factor (lower) of a symmetric positive definite matrix, in place.
 * @param a n×n, row by row; only its lower triangle is read, and overwritten
 * @throws RangeError when it is not positive definite
 */
export function choleskyInPlace(a: Float64Array, n: number): void {
  for (let j = 0; j < n; j++) {
    const rowJ = j * n;
    for (let i = j; i < n; i++) {
      const rowI = i * n;
      let s = a[rowI + j];
      for (let k = 0; k < j; k++) s -= a[rowI + k] * a[rowJ + k];
      if (i === j) {
        if (!(s > 0)) throw new RangeError('the matrix is not positive definite');
        a[rowJ + j] = Math.sqrt(s);
      } else a[rowI + j] = s / a[rowJ + j];
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
  for (let j = 0; j < n; j++) {
    const row = j * n;
    m[row + j] = 1 / l[row + j];
    for (let i = j + 1; i < n; i++) {
      let s = 0;
      const li = i * n;
      for (let k = j; k < i; k++) s -= l[li + k] * m[row + k];
      m[row + i] = s / l[li + i];
    }
  }
  return m;
}

/** One entry of (L Lᵀ)⁻¹ from the inverted factor. */
export function inverseEntry(m: Float64Array, n: number, i: number, j: number): number {
  let s = 0;
  const [ri, rj] = [i * n, j * n];
  for (let k = Math.max(i, j); k < n; k++) s += m[ri + k] * m[rj + k];
  return s;
}
