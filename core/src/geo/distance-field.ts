const FAR_AWAY = 1e12;

/** Squared distances along one line: the lower envelope of parabolas. */
function alongLine(f: Float64Array, n: number, out: Float64Array, at: Int32Array, edge: Float64Array): void {
  let k = 0;
  at[0] = 0;
  edge[0] = -Infinity;
  edge[1] = Infinity;
  for (let q = 1; q < n; q++) {
    let s: number;
    for (;;) {
      const v = at[k];
      s = (f[q] + q * q - (f[v] + v * v)) / (2 * q - 2 * v);
      if (s > edge[k] || k === 0) break;
      k--;
    }
    if (s <= edge[k]) s = edge[k];
    k++;
    at[k] = q;
    edge[k] = s;
    edge[k + 1] = Infinity;
  }
  k = 0;
  for (let q = 0; q < n; q++) {
    while (edge[k + 1] < q) k++;
    out[q] = (q - at[k]) ** 2 + f[at[k]];
  }
}

/**
 * Distance of each cell of a grid to the nearest marked one, in cells between centres (0 in marked cells); infinite where none is
 * marked. Source: Felzenszwalb & Huttenlocher 2012, Distance transforms of sampled functions.
 * @param marked one entry a cell, row by row
 */
export function distanceField(marked: ArrayLike<number>, width: number, height: number): Float64Array {
  const out = Float64Array.from(marked, (m) => (m ? 0 : FAR_AWAY));
  const longest = Math.max(width, height);
  const [line, done] = [new Float64Array(longest), new Float64Array(longest)];
  const [at, edge] = [new Int32Array(longest), new Float64Array(longest + 1)];
  for (let i = 0; i < width; i++) {
    for (let j = 0; j < height; j++) line[j] = out[j * width + i];
    alongLine(line, height, done, at, edge);
    for (let j = 0; j < height; j++) out[j * width + i] = done[j];
  }
  for (let j = 0; j < height; j++) {
    for (let i = 0; i < width; i++) line[i] = out[j * width + i];
    alongLine(line, width, done, at, edge);
    for (let i = 0; i < width; i++) out[j * width + i] = done[i] >= FAR_AWAY / 2 ? Infinity : Math.sqrt(done[i]);
  }
  return out;
}
