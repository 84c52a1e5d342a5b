import { expect } from 'chai';
import type { DesignSpec } from '../../src/forecast/design';
import { information, type Problem } from '../../src/forecast/look-likelihood';

describe('the information of looks', () => {
  // Six columns of the day, of which three are used, and one that lasts at the cell; three looks at one cell. The first column's values cancel on the way,
  // the second's are too small to be told from nothing.
  const day = [
    [1, 1e-60, 0.5],
    [-1, 1e-60, 0.25],
    [2, 1e-60, -1],
  ];
  const lasting = 1.5;
  const n = day.length;
  const problem: Problem = {
    n,
    offset: new Float64Array(n).fill(-2),
    seen: new Float64Array(n),
    trip: new Int32Array(n).fill(-1),
    runs: Int32Array.of(0, n),
    staticRows: Int32Array.of(0, 1),
    staticIndex: Uint16Array.of(6),
    staticValue: Float32Array.of(lasting),
    dayRows: Int32Array.of(0, 3, 6, 9),
    dayIndex: Uint16Array.from(day.flatMap(() => [0, 1, 2])),
    dayValue: Float32Array.from(day.flat()),
    caseWeight: new Float64Array(n).fill(1),
  };
  const spec = { columns: 7, staticColumns: 6, terms: [] } as unknown as DesignSpec;
  it('is the weighted sum of their columns by each other, each counted once', () => {
    const found = information(problem, new Float64Array(7), spec);
    const mu = Math.exp(-2);
    const weight = (mu * mu * Math.exp(-mu)) / -Math.expm1(-mu);
    const rows = day.map((d) => [...d.map(Math.fround), 0, 0, 0, lasting]);
    for (let i = 0; i < 7; i++)
      for (let j = 0; j <= i; j++)
        expect(found[i * 7 + j], `${i} ${j}`).to.be.closeTo(
          rows.reduce((s, x) => s + weight * x[i] * x[j], 0),
          1e-12,
        );
  });
});
