import { expect } from 'chai';
import { sPass, type SPass } from '../../src/passage';

const pass: SPass = { start: [100, 200], heading: 90, length: 50, spacing: 10 };

describe('an S-pass', () => {
  it('runs a line, crosses to starboard, and comes back', () => {
    expect(sPass(pass, 0)).to.deep.equal({ at: [100, 200], course: 90 });
    const end = sPass(pass, 50).at;
    expect([end[0], end[1]].map(Math.round)).to.deep.equal([150, 200]);
    expect(sPass(pass, 55).course).to.equal(180);
    const back = sPass(pass, 60 + 50);
    expect(back.at.map(Math.round)).to.deep.equal([100, 190]);
    expect(back.course).to.equal(270);
  });
  it('never leaps: a metre on is a metre away at most', () => {
    for (let d = 0; d < 400; d += 1) {
      const [a, b] = [sPass(pass, d).at, sPass(pass, d + 1).at];
      expect(Math.hypot(a[0] - b[0], a[1] - b[1])).to.be.at.most(1.0001);
    }
  });
});
