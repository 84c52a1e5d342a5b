import { expect } from 'chai';
import { seeded } from '../../src/numbers';
import { countBlobs, type Brightness } from '../../src/sonar';

const random = seeded(5);
const normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());

/** A school as a sounder shows it: echoes of unlike strength, wider than high, on the speckle of many small ones. */
function school(fish: number, size: number, half: [number, number], noise = 22): Brightness {
  const [width, height] = [240, 180];
  const levels = Float32Array.from({ length: width * height }, () => noise * -Math.log(1 - random()));
  const [wide, high] = [size * 1.2, size * 0.85];
  for (let k = 0; k < fish; k++) {
    const [turn, out] = [2 * Math.PI * random(), Math.sqrt(random())];
    const [cx, cy] = [120 + half[0] * out * Math.cos(turn), 90 + half[1] * out * Math.sin(turn)];
    const strength = 150 * Math.exp(0.25 * normal());
    for (let y = Math.max(0, Math.floor(cy - 4 * high)); y < Math.min(height, cy + 4 * high); y++)
      for (let x = Math.max(0, Math.floor(cx - 4 * wide)); x < Math.min(width, cx + 4 * wide); x++)
        levels[y * width + x] += strength * Math.exp(-((x - cx) ** 2) / (2 * wide * wide) - (y - cy) ** 2 / (2 * high * high));
  }
  return { width, height, levels: levels.map((v) => Math.min(255, Math.round(v))) };
}

describe('counting the targets of a picture', () => {
  it('of schools of 5 to 200 is within 15 % in the middle, and nine in ten within one fish or a quarter', function () {
    this.timeout(60_000);
    const runs = Array.from({ length: 30 }, () => {
      const fish = Math.round(5 * 40 ** random());
      const { count, sure } = countBlobs(school(fish, 1.4 + 1.2 * random(), [75 + 40 * random(), 50 + 35 * random()]));
      return { fish, sure, off: Math.abs(count - fish) };
    });
    const shares = runs.map((r) => r.off / r.fish).sort((a, b) => a - b);
    expect(shares[15], 'median error').to.be.at.most(0.15);
    expect(runs.filter((r) => r.sure).length / runs.length, 'told with confidence').to.be.at.least(0.8);
    expect(runs.filter((r) => r.off <= Math.max(1, 0.25 * r.fish)).length / runs.length).to.be.at.least(0.9);
  });
  it('says that it cannot where they run into each other, and where there is nothing but noise', () => {
    expect(countBlobs(school(400, 2.6, [40, 26])).sure, 'a solid mass').to.equal(false);
    const nothing = countBlobs(school(0, 2, [60, 60]));
    expect(nothing.sure && nothing.count > 2, 'noise').to.equal(false);
    expect(countBlobs({ width: 4, height: 4, levels: new Float32Array(16) })).to.deep.include({ count: 0, sure: false });
    expect(countBlobs({ width: 40, height: 40, levels: new Float32Array(1600).fill(80) })).to.deep.include({ count: 0, sure: false });
  });
  it('is sure of spots that stand far apart, however large they are', () => {
    for (const sigma of [2, 4.5, 6.2]) {
      const levels = new Float32Array(400 * 280);
      for (let k = 0; k < 12; k++) {
        const [cx, cy] = [60 + 85 * (k % 4), 50 + 80 * Math.floor(k / 4)];
        for (let y = 0; y < 280; y++) for (let x = 0; x < 400; x++) levels[y * 400 + x] += 200 * Math.exp(-((x - cx) ** 2 + (y - cy) ** 2) / (2 * sigma * sigma)); // prettier-ignore
      }
      expect(countBlobs({ width: 400, height: 280, levels }), `σ ${sigma}`).to.deep.include({ count: 12, sure: true });
    }
  });
  it('puts each of a few where it is', () => {
    const levels = new Float32Array(120 * 90);
    const put: [number, number][] = [[30, 20], [80, 30], [55, 70]]; // prettier-ignore
    for (const [cx, cy] of put) for (let y = 0; y < 90; y++) for (let x = 0; x < 120; x++) levels[y * 120 + x] += 100 * Math.exp(-((x - cx) ** 2 + (y - cy) ** 2) / 18); // prettier-ignore
    const { count, places } = countBlobs({ width: 120, height: 90, levels });
    expect(count).to.equal(3);
    for (const [x, y] of put) expect(places.some((p) => Math.hypot(p.x - x, p.y - y) < 2)).to.equal(true);
  });
});
