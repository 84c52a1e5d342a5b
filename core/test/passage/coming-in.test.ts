import { expect } from 'chai';
import fc from 'fast-check';
import type { Point } from '../../src/geo';
import {
  anchored,
  anchorFor,
  castFor,
  comeIn,
  driftLine,
  driftOver,
  sinksAside,
  turnAtAnchor,
  driftOf,
  inCast,
  lineForDepth,
  trolledDepth,
  twoAnchors,
  WINDAGE,
  type AnchorInputs,
} from '../../src/passage';

const still = { windFrom: 0, windSpeed: 0, currentTo: 0, currentSpeed: 0 };
const base: AnchorInputs = {
  ...still,
  windFrom: 270,
  windSpeed: 6,
  depth: 8,
  bowHeight: 0.7,
  boatLength: 5,
  rode: 45,
  hardness: 0.3,
  cover: null,
  waves: 0.1,
};

describe('drift, by hand', () => {
  it('before a west wind of 6 m/s to the east at 0.21 m/s; with a current to the north as the sum of both', () => {
    expect(driftOf({ ...still, windFrom: 270, windSpeed: 6 })).to.deep.include({ to: 90 });
    expect(driftOf({ ...still, windFrom: 270, windSpeed: 6 }).speed).to.be.closeTo(0.21, 1e-12);
    const both = driftOf({ windFrom: 270, windSpeed: 6, currentTo: 0, currentSpeed: 0.21 });
    expect(both.to).to.be.closeTo(45, 1e-9);
    expect(both.speed).to.be.closeTo(0.21 * Math.SQRT2, 1e-12);
  });
  it('a line passes the target at its distance, on its side, and says how long it is in reach', () => {
    const target: Point = [1000, 2000];
    const line = driftLine(target, { ...still, windFrom: 270, windSpeed: 6 }, 12, 1, 30)!;
    // Eastward, the target to starboard: the line lies 12 m north of it, from 27.5 + 10 m before to as far behind.
    expect(line.from[0]).to.be.closeTo(1000 - Math.sqrt(900 - 144) - 10, 1e-9);
    expect(line.from[1]).to.be.closeTo(2012, 1e-9);
    expect(line.inReach).to.be.closeTo((2 * Math.sqrt(756)) / 0.21 / 60, 1e-9);
    expect(driftLine(target, still, 12, 1, 30)).to.equal(null);
    expect(WINDAGE).to.be.within(0.02, 0.06);
  });
});

describe('casting and trolling, by hand', () => {
  it('a fast lure on a tight line: √((18 + 6)² + 7²) = 25 m; a slow one is dropped just past them', () => {
    const fast = castFor(18, 7, 1, 0);
    expect(fast.cast).to.be.closeTo(25, 1e-12);
    expect(fast.sinks).to.be.closeTo(7, 1e-12);
    const slow = castFor(18, 6, 0.3, 0);
    expect(slow.cast).to.be.closeTo(20, 1e-12);
    expect(slow.sinks).to.be.closeTo(20, 1e-12);
    // Drifting away at 0.2 m/s for those 20 s it must go 4 m farther.
    expect(castFor(18, 6, 0.3, -0.2).cast).to.be.closeTo(24, 1e-12);
    expect(castFor(60, 6, 1, 0).tooFar).to.equal(true);
  });
  it('a trolled weight runs deeper with more line and more weight, shallower when faster, and the line for a depth brings it there', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 10, max: 60, noNaN: true }),
        fc.double({ min: 0.5, max: 2.5, noNaN: true }),
        fc.double({ min: 10, max: 200, noNaN: true }),
        (line, speed, mass) => {
          const at = trolledDepth(line, speed, mass).depth;
          expect(at).to.be.within(0, line);
          expect(trolledDepth(line + 5, speed, mass).depth).to.be.above(at);
          expect(trolledDepth(line, speed, mass * 1.5).depth).to.be.above(at);
          expect(trolledDepth(line, speed * 1.3, mass).depth).to.be.below(at);
          const found = lineForDepth(at, speed, mass);
          if (found !== null) expect(trolledDepth(found, speed, mass).depth).to.be.closeTo(at, 0.05);
        },
      ),
    );
    // 50 g of lead on 20 m at 1 m/s: weight 0.441 N, drag ½·1000·(3.2e−4 + 6e−4) = 0.46 N: 20·sin(43.8°).
    expect(trolledDepth(20, 1, 50).depth).to.be.closeTo(20 * Math.sin(Math.atan2(0.44145, 0.46)), 1e-9);
    expect(lineForDepth(30, 3, 5)).to.equal(null);
  });
});

describe('at anchor, by hand', () => {
  it('45 m of line over 8 m and a bow of 0.7 m: swing √(45² − 8.7²) + 5, scope 5.2, lying east of it in a west wind', () => {
    const answer = anchored(base);
    expect(answer.swing).to.be.closeTo(Math.sqrt(2025 - 75.69) + 5, 1e-9);
    expect(answer.scope).to.be.closeTo(45 / 8.7, 1e-9);
    expect(answer.lies).to.be.closeTo(90, 1e-9);
    expect(answer.says.map((s) => s.code)).to.deep.equal(['anchor.bow-only']);
    const drop = anchorFor([100, 50], answer)!;
    expect(drop[0]).to.be.closeTo(100 - answer.bowBack, 1e-9);
    expect(drop[1]).to.be.closeTo(50, 1e-6);
  });
  it('always says: from the bow; and short scope, hard or weedy ground, wind across the current, waves', () => {
    const codes = (more: Partial<AnchorInputs>): string[] => anchored({ ...base, ...more }).says.map((s) => s.code);
    expect(codes({ rode: 20 })).to.include('anchor.scope');
    expect(codes({ hardness: 0.9, cover: 'weed' })).to.include.members(['anchor.hard', 'anchor.weed']);
    expect(codes({ cover: 'reef' })).to.include('anchor.reef');
    expect(codes({ cover: 'timber', depth: 40, rode: 250 })).to.include.members(['anchor.timber', 'anchor.deep']);
    // 6 m/s of wind pull like 0.53 m/s of water.
    expect(codes({ currentTo: 0, currentSpeed: 0.5 })).to.include('anchor.across');
    expect(codes({ currentTo: 90, currentSpeed: 0.5 })).to.not.include('anchor.across');
    expect(codes({ waves: 0.6 })).to.include('anchor.waves');
    for (const windSpeed of [0, 3, 15]) expect(codes({ windSpeed })).to.include('anchor.bow-only');
    expect(anchored({ ...base, windSpeed: 0 }).lies).to.equal(null);
  });
  it('knows how much of the swing leaves the fish in reach', () => {
    const answer = anchored(base);
    const drop: Point = [0, 0];
    expect(inCast(drop, answer, [answer.bowBack, 0], 200)).to.equal(1);
    expect(inCast(drop, answer, [-400, 0], 30)).to.equal(0);
    // A target 10 m off the middle of the sheer: in reach while the bow is within 30 m of it.
    const share = inCast(drop, answer, [answer.bowBack + 10, 0], 20);
    const half = (2 * Math.asin(Math.sqrt(400 - 100) / 2 / answer.bowBack) * 180) / Math.PI;
    expect(share).to.be.closeTo(half / answer.yaw, 0.12);
    const [a, b] = twoAnchors([0, 0], answer)!;
    expect(Math.hypot(...a)).to.be.closeTo(answer.bowBack, 1e-9);
    expect(Math.hypot(a[0] - b[0], a[1] - b[1])).to.be.closeTo(answer.bowBack, 1e-6);
  });
});

describe('a wreck in a tide, by hand', () => {
  // The stream sets east with 0.5 m/s; 8 m/s of wind from the north push with 0.28.
  const tide = { windFrom: 0, windSpeed: 8, currentTo: 90, currentSpeed: 0.5 };
  it('drifts over it from where wind and stream together lead to it', () => {
    const over = driftOver([1000, 2000], tide, 20, 30)!;
    const speed = Math.hypot(0.5, 0.28);
    expect(over.drift.speed).to.be.closeTo(speed, 1e-9);
    expect(over.drift.to).to.be.closeTo(90 + (Math.atan2(0.28, 0.5) * 180) / Math.PI, 1e-9);
    // 50 m up-drift: west and north of it.
    expect(over.from[0]).to.be.closeTo(1000 - (50 * 0.5) / speed, 1e-6);
    expect(over.from[1]).to.be.closeTo(2000 + (50 * 0.28) / speed, 1e-6);
    expect(over.until).to.be.closeTo(50 / speed / 60, 1e-9);
    expect(over.over).to.be.closeTo(40 / speed / 60, 1e-9);
    expect(driftOver([0, 0], { ...tide, windSpeed: 0, currentSpeed: 0 }, 20, 30)).to.equal(null);
  });
  it('a lure of 1 m/s over 20 m is carried 10 m by the stream from an anchored boat, and falls 5.6 m up the wind of one adrift', () => {
    expect(sinksAside(20, 1, tide, true)).to.deep.equal({ metres: 10, seconds: 20 });
    expect(sinksAside(20, 1, tide, false).metres).to.be.closeTo(0.28 * 20, 1e-9);
  });
  it('is anchored up-tide of: the bow lies √(80² − 20.7²) back from the anchor, down the stream', () => {
    const inputs = { ...base, depth: 20, rode: 80, windSpeed: 0, currentTo: 90, currentSpeed: 0.8 };
    const answer = anchored(inputs);
    expect(answer.bowBack).to.be.closeTo(Math.sqrt(80 ** 2 - 20.7 ** 2), 1e-9);
    const drop = anchorFor([500, 0], answer)!;
    expect(drop[0]).to.be.closeTo(500 - answer.bowBack, 1e-6);
    // At the turn it swings about: twice as far as it lay back, to the other side of its anchor.
    const turn = turnAtAnchor(drop, answer, anchored({ ...inputs, currentTo: 270 }))!;
    expect(turn.turns).to.be.closeTo(180, 1e-9);
    expect(turn.moves).to.be.closeTo(2 * answer.bowBack, 1e-6);
    expect(turn.after[0]).to.be.closeTo(500 - 2 * answer.bowBack, 1e-6);
    expect(turn.sweeps).to.be.closeTo(answer.bowBack + 5, 1e-9);
    // By 60° the bow moves a chord: as far as it lies back.
    expect(turnAtAnchor(drop, answer, anchored({ ...inputs, currentTo: 150 }))!.moves).to.be.closeTo(answer.bowBack, 1e-6);
    expect(turnAtAnchor(drop, answer, anchored({ ...inputs, currentSpeed: 0 }))).to.equal(null);
  });
});

describe('coming in', () => {
  const spot = { at: [5000, 5000] as Point, depth: 4, secchi: 2 };
  const lures = [{ name: 'jig', sink: 1 }];
  const night = { height: -20, azimuth: 0 };
  const wind = { ...still, windFrom: 270, windSpeed: 6 };
  it('from downwind, off by what the depth wants, the bow and the cast to the fish', () => {
    const answer = comeIn(spot, wind, night, lures, 2, () => true);
    expect(answer.side).to.be.closeTo(90, 1e-9);
    expect(answer.holdOff).to.be.closeTo(30 * Math.exp(-1), 1e-9);
    expect(answer.hold[0]).to.be.closeTo(5000 + answer.holdOff + 2, 1e-9);
    expect([answer.bow, answer.castTo]).to.deep.equal([270, 270]);
    expect(answer.casts[0].cast).to.be.closeTo(Math.hypot(answer.holdOff + 6, 4), 1e-9);
  });
  it('not between the sun and shallow fish, nor over land', () => {
    const lowEast = { height: 8, azimuth: 90 };
    const shaded = comeIn({ ...spot, depth: 2 }, wind, lowEast, lures, 2, () => true);
    expect(Math.abs(shaded.side - 90)).to.be.at.least(40);
    expect(shaded.says.map((s) => s.code)).to.include('come-in.no-shadow');
    const ashore = comeIn(spot, wind, night, lures, 2, ([x]) => x < 5008);
    expect(ashore.hold[0]).to.be.below(5008);
    expect(ashore.says.map((s) => s.code)).to.include('come-in.shore');
  });
});
