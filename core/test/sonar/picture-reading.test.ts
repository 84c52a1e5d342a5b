import { expect } from 'chai';
import fc from 'fast-check';
import { seeded } from '../../src/numbers';
import {
  countBlobs,
  cutOut,
  isScreen,
  patchContrast,
  readAlong,
  readTarget,
  scaleOf,
  straightened,
  straightSize,
  straightToPhoto,
  strengthOf,
  strengthsOf,
  type Corners,
  type Pixels,
  type ScaleMark,
} from '../../src/sonar';

const within = (least: number, most: number) => fc.double({ min: least, max: most, noNaN: true });

/** A photo of this size, each pixel as a function says. */
function photo(width: number, height: number, of: (x: number, y: number) => number[]): Pixels {
  const data = new Uint8ClampedArray(4 * width * height);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) data.set([...of(x, y), 255], 4 * (y * width + x));
  return { width, height, data };
}

describe('straightening the photo of a screen', () => {
  it('takes corners to corners, straight lines to straight lines, and crossing diagonals to the middle', () => {
    fc.assert(
      fc.property(fc.array(within(-40, 40), { minLength: 8, maxLength: 8 }), (off) => {
        const square: Corners = [{ x: 100, y: 100 }, { x: 500, y: 100 }, { x: 500, y: 400 }, { x: 100, y: 400 }]; // prettier-ignore
        const corners = square.map((p, k) => ({ x: p.x + off[2 * k], y: p.y + off[2 * k + 1] })) as unknown as Corners;
        const at = straightToPhoto(corners, 400, 300);
        for (const [k, [x, y]] of [
          [0, 0],
          [400, 0],
          [400, 300],
          [0, 300],
        ].entries())
          // prettier-ignore
          expect(Math.hypot(at(x, y).x - corners[k].x, at(x, y).y - corners[k].y)).to.be.below(1e-9);
        // Where the diagonals of the photo cross is the middle of the screen.
        const [a, b, c, d] = corners;
        const t = ((b.x - a.x) * (d.y - b.y) - (b.y - a.y) * (d.x - b.x)) / ((c.x - a.x) * (d.y - b.y) - (c.y - a.y) * (d.x - b.x));
        expect(at(200, 150).x).to.be.closeTo(a.x + t * (c.x - a.x), 1e-6);
        expect(at(200, 150).y).to.be.closeTo(a.y + t * (c.y - a.y), 1e-6);
      }),
    );
  });
  it('gives back a picture that was drawn slanted: a line at a third of the screen is at a third', () => {
    const corners: Corners = [{ x: 60, y: 40 }, { x: 340, y: 70 }, { x: 320, y: 270 }, { x: 40, y: 250 }]; // prettier-ignore
    const drawn = straightToPhoto(corners, 300, 210);
    const line = new Set<number>();
    for (let x = 0; x <= 300; x += 0.25) for (const y of [69, 70, 71]) { const p = drawn(x, y); line.add(Math.round(p.y) * 400 + Math.round(p.x)); } // prettier-ignore
    const flat = straightened(
      photo(400, 300, (x, y) => (line.has(y * 400 + x) ? [255, 255, 255] : [0, 0, 0])),
      corners,
      1e6,
    );
    expect(flat).to.include(straightSize(corners));
    for (const x of [20, 140, 260]) {
      const column = Array.from({ length: flat.height }, (_, y) => flat.data[4 * (y * flat.width + x)]);
      expect(column.indexOf(Math.max(...column)) / flat.height).to.be.closeTo(1 / 3, 0.02);
    }
    expect(straightened(photo(4000, 10, () => [9, 9, 9]), [{ x: 0, y: 0 }, { x: 4000, y: 0 }, { x: 4000, y: 1000 }, { x: 0, y: 1000 }], 10_000)) // prettier-ignore
      .to.include({ width: 200, height: 50 });
  });
  it('refuses corners that are none of a screen: crossed, in a line, seen from the edge', () => {
    const at = (...p: number[]): Corners => [0, 1, 2, 3].map((k) => ({ x: p[2 * k], y: p[2 * k + 1] })) as unknown as Corners;
    expect(isScreen(at(0, 0, 10, 0, 10, 8, 0, 8))).to.equal(true);
    for (const bad of [
      at(0, 0, 10, 8, 10, 0, 0, 8),
      at(0, 0, 5, 0, 10, 0, 0, 8),
      at(0, 0, 100, 0, 100, 80, 0, 4),
      at(0, 8, 10, 8, 10, 0, 0, 0),
    ])
      expect(() => straightToPhoto(bad, 10, 8)).to.throw(RangeError, 'corners');
  });
});

describe('the scale of a picture', () => {
  const marks: [ScaleMark, ScaleMark] = [{ at: 40, value: 2 }, { at: 240, value: 12 }]; // prettier-ignore
  it('goes through its two marks, worked by hand', () => {
    expect(scaleOf(...marks)).to.deep.equal({ origin: 0, perPixel: 0.05 });
    expect(readAlong(140, marks, 1.5).value).to.equal(7);
    // Between the marks 0.05 m × 1.5 px × √(1 + ¼ + ¼); at one of them × √2.
    expect(readAlong(140, marks, 1.5).error).to.be.closeTo(0.075 * Math.sqrt(1.5), 1e-12);
    expect(readAlong(40, marks, 1.5).error).to.be.closeTo(0.075 * Math.SQRT2, 1e-12);
    expect(scaleOf(marks[0], { at: 50, value: 3 })).to.equal('too-near');
    expect(scaleOf(marks[0], { at: 240, value: 2 })).to.equal('same-value');
  });
  it('has the error that a simulation of touches has', () => {
    const random = seeded(3);
    const normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
    for (const at of [20, 140, 400]) {
      const read = Array.from({ length: 4000 }, () => {
        const off = marks.map((m) => ({ ...m, at: m.at + 1.5 * normal() })) as [ScaleMark, ScaleMark];
        return readAlong(at + 1.5 * normal(), off, 1.5).value;
      });
      const mean = read.reduce((s, v) => s + v, 0) / read.length;
      const spread = Math.sqrt(read.reduce((s, v) => s + (v - mean) ** 2, 0) / read.length);
      expect(readAlong(at, marks, 1.5).error / spread).to.be.closeTo(1, 0.06);
    }
  });
});

describe('the strength of a picture’s echoes', () => {
  it('is told by the colours of its legend, whatever they are, and by brightness without one', () => {
    const legend = [[0, 0, 80], [0, 160, 90], [240, 200, 0], [200, 20, 20]] as const; // prettier-ignore
    const colour = (share: number): [number, number, number] => {
      const k = Math.min(2, Math.floor(3 * share));
      const [a, b] = [legend[k], legend[k + 1]];
      return [0, 1, 2].map((c) => a[c] + (3 * share - k) * (b[c] - a[c])) as [number, number, number];
    };
    for (let share = 0; share <= 1; share += 0.05) expect(strengthOf(colour(share), legend)).to.be.closeTo(255 * share, 1);
    const ramp = photo(256, 4, (x) => colour(x / 255));
    const { levels } = strengthsOf(ramp, legend);
    for (let x = 0; x < 256; x++) expect(levels[x], String(x)).to.be.closeTo(x, 8);
    // Dark echoes on light water are turned over.
    const dark = strengthsOf(
      photo(60, 60, (x, y) => (Math.hypot(x - 30, y - 30) < 4 ? [20, 10, 30] : [245, 243, 230])),
      null,
    );
    expect(dark.levels[30 * 60 + 30]).to.be.above(220);
    expect(dark.levels[0]).to.be.below(20);
  });
  it('counts within an outline only, however fine the picture', () => {
    const put = [[30, 30], [60, 50], [90, 30], [150, 40]]; // prettier-ignore
    const scale = 4;
    const levels = new Float32Array(200 * scale * 80 * scale);
    for (const [cx, cy] of put)
      for (let y = 0; y < 80 * scale; y++) for (let x = 0; x < 200 * scale; x++) levels[y * 200 * scale + x] += 180 * Math.exp(-((x / scale - cx) ** 2 + (y / scale - cy) ** 2) / 18); // prettier-ignore
    const round = [[10, 10], [115, 10], [115, 70], [10, 70]].map(([x, y]) => ({ x: x * scale, y: y * scale })); // prettier-ignore
    const cut = cutOut({ width: 200 * scale, height: 80 * scale, levels }, round, 20_000)!;
    expect(cut.width * cut.height).to.be.at.most(20_000);
    const { count, places } = countBlobs(cut);
    expect(count).to.equal(3);
    const [first] = places.sort((a, b) => a.x - b.x);
    expect((cut.left + first.x * cut.step) / scale).to.be.closeTo(30, 1.5);
    expect(cutOut({ width: 10, height: 10, levels: new Float32Array(100) }, round.slice(0, 2), 100)).to.equal(null);
    expect(cutOut({ width: 10, height: 10, levels: new Float32Array(100) }, round, 100)).to.equal(null);
  });
  it('tells a hard patch from a soft one, and none where speckle covers the difference', () => {
    const random = seeded(8);
    const patch = (mean: number, n = 900): number[] => Array.from({ length: n }, () => Math.min(255, mean * -Math.log(1 - random())));
    expect(patchContrast(patch(110), patch(60)).told).to.equal('harder');
    expect(patchContrast(patch(60), patch(110)).told).to.equal('softer');
    expect(patchContrast(patch(80), patch(82)).told).to.equal('alike');
    expect(patchContrast(patch(110, 30), patch(90, 30)).told, 'few pixels').to.equal('alike');
  });
});

describe('a target on a scaled picture', () => {
  const range: [ScaleMark, ScaleMark] = [{ at: 300, value: 0 }, { at: 500, value: 20 }]; // prettier-ignore
  const picture = { view: 'side-scan', range, firstBottom: 380 } as const;
  const at = (x: number) => ({ x, y: 50 });
  it('of a side-scan, by hand: 8 m over the bottom, echo at 12 m, shadow at 16: 2 m up, to either side', () => {
    for (const sign of [1, -1]) {
      const read = readTarget(picture, { at: at(300 + sign * 120), shadow: at(300 + sign * 160) }, 1, 0.4);
      if (typeof read === 'string') throw new Error(read);
      expect(read.over!.value).to.be.closeTo(2, 1e-9);
      expect(read.depth!.value).to.be.closeTo(6.4, 1e-9);
      expect(read.water!.value).to.be.closeTo(8.4, 1e-9);
      expect(read.starboard!.value).to.be.closeTo(sign * Math.sqrt(12 ** 2 - 6 ** 2), 1e-9);
      expect(read.over!.error).to.be.above(0).and.below(0.5);
    }
    const lies = readTarget(picture, { at: at(470), shadow: null }, 1, 0.4);
    expect(lies).to.have.nested.property('starboard.value').that.is.closeTo(15, 1e-9);
    expect(lies).to.have.nested.property('depth.value').that.is.closeTo(8.4, 1e-9);
  });
  it('says why it cannot be read', () => {
    expect(readTarget(picture, { at: at(420), shadow: at(400) }, 1, 0)).to.equal('shadow');
    expect(readTarget(picture, { at: at(350), shadow: null }, 1, 0)).to.equal('range');
    expect(readTarget(picture, { at: at(420), shadow: at(100) }, 1, 0)).to.equal('side');
  });
  it('of a sounder and a forward-facing view lies at the marks’ depth and range', () => {
    const depth: [ScaleMark, ScaleMark] = [{ at: 0, value: 0 }, { at: 400, value: 20 }]; // prettier-ignore
    expect(readTarget({ view: 'sounder', depth }, { at: { x: 9, y: 130 }, shadow: null }, 1, 0)).to.have.nested.property(
      'depth.value',
      6.5,
    );
    const ahead = readTarget({ view: 'forward-facing', ahead: range, depth }, { at: { x: 450, y: 100 }, shadow: null }, 1, 0);
    expect(ahead).to.have.nested.property('ahead.value').that.is.closeTo(15, 1e-9);
    expect(ahead).to.have.nested.property('depth.value', 5);
  });
});
