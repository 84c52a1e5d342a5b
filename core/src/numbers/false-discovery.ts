/**
 * The share of false ones to expect among all that are at least as striking, for each of many tests (q-values).
 * Source: Benjamini & Hochberg 1995, J. R. Stat. Soc. B 57; Yekutieli & Benjamini 1999 for the adjusted values.
 * @param p the tests' chances under no effect
 */
export function falseDiscovery(p: number[]): number[] {
  const order = p.map((_, i) => i).sort((i, j) => p[j] - p[i]);
  const q = new Array<number>(p.length);
  let least = 1;
  order.forEach((i, k) => {
    least = Math.min(least, (p[i] * p.length) / (p.length - k));
    q[i] = least;
  });
  return q;
}
