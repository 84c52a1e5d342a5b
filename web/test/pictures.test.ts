import { expect } from 'chai';
import fc from 'fast-check';
import type { Echo } from '@restless-shoal/core/formats';
import { forwardPicture, sideScanPing, sounderPing, type Listening, type Scene, type SceneTarget } from '@restless-shoal/core/sonar';
import { EchoRecord } from '../src/state/echo-record';
import { cursorAt, cursorPixels, readCursor, sideRange, type Cursor, type PictureFrame } from '../src/views/deck/picture-cursor';
import { drawForward, drawSideScan, drawSounder, PING_PX } from '../src/views/deck/picture-drawing';
import { palette } from '../src/parts/picture-palette';

/** Levels as they are: a pixel's number is how strong the echo is. */
const LEVELS = Uint32Array.from({ length: 256 }, (_, i) => i);
const TRANSDUCER = 0.4;
const BOTTOM = 14;
/** Pings a second, and how fast the boat goes due north, m/s. */
const [PINGS, SPEED] = [10, 2];

/** Reproducible noise. */
function noise(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 16807) % 2147483647) / 2147483647;
}

/** What is heard on the way past a thing: `along` m on, `starboard` of the line, so many pings. */
function passed(thing: { along: number; starboard: number; depth: number }, pings: number): EchoRecord {
  const target: SceneTarget = {
    id: 'a',
    kind: 'fish',
    x: thing.starboard,
    y: thing.along,
    depth: thing.depth,
    radius: 0,
    half: 0,
    strength: -25,
  };
  const scene: Scene = { depthAt: () => BOTTOM, hardnessAt: () => 0.4, near: () => [target], thermocline: null };
  const random = noise(11);
  const how = (more: Partial<Listening>): Listening => ({
    beam: 20,
    range: 20,
    samples: 400,
    pulse: 0.0001,
    soundSpeed: 1470,
    gain: 0,
    random,
    ...more,
  });
  const record = new EchoRecord();
  for (let ping = 0; ping < pings; ping++) {
    const at = { x: 0, y: (ping * SPEED) / PINGS, depth: TRANSDUCER, heading: 0 };
    const said = { transducerDepth: TRANSDUCER };
    const take = (echo: Echo): void => record.take(echo, (ping * 1000) / PINGS);
    take({ view: 'sounder', ...said, range: 20, beam: 20, levels: sounderPing(scene, at, how({})) });
    take({ view: 'side-scan', ...said, range: 30, ...sideScanPing(scene, at, how({ range: 30, samples: 300, beam: 3 })) });
    // Of these only the last is kept.
    if (ping < pings - 1) continue;
    take({
      view: 'forward-facing',
      ...said,
      range: 30,
      rows: 46,
      sector: 20,
      bearing: 0,
      levels: forwardPicture(scene, at, how({ range: 30, samples: 150 }), 20, 46),
    });
  }
  return record;
}

const frameOf = (record: EchoRecord, view: Cursor['view'], change: Partial<PictureFrame> = {}): PictureFrame => ({
  view,
  width: 578,
  height: 424,
  newest: { sounder: record.sounder.at(-1)!.ping, side: record.side.at(-1)!.ping, forward: record.forward },
  seen: { from: 0, to: 17 },
  reach: 25,
  ahead: 30,
  ...change,
});

/** Pixel by pixel what a frame shows. */
function drawn(record: EchoRecord, frame: PictureFrame): (x: number, y: number) => number {
  const { width, height, newest, seen, reach, ahead } = frame;
  const paper = { pixels: new Uint32Array(width * height), width, height, colours: LEVELS };
  if (frame.view === 'sounder') drawSounder(paper, record, newest.sounder, seen);
  else if (frame.view === 'side-scan') drawSideScan(paper, record, newest.side, reach);
  else drawForward(paper, newest.forward!.echo, ahead, seen);
  return (x, y) => paper.pixels[y * width + x];
}

/** The middle of what is strongest among the pixels that are asked for. */
function strongest(level: (x: number, y: number) => number, { width, height }: PictureFrame, asked: (x: number, y: number) => boolean) {
  let best = -1;
  let at: [number, number][] = [];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (!asked(x, y) || level(x, y) < best) continue;
      if (level(x, y) > best) [best, at] = [level(x, y), []];
      at.push([x, y]);
    }
  const middle = (k: 0 | 1): number => at.map((p) => p[k]).sort((a, b) => a - b)[at.length >> 1];
  return { x: middle(0), y: middle(1), level: best };
}

describe('a thing passed by', () => {
  it('ahead is read where it is: distance and depth, from its echo on the forward-facing picture', () => {
    fc.assert(
      fc.property(fc.double({ min: 8, max: 22, noNaN: true }), fc.double({ min: 2, max: 8, noNaN: true }), (along, depth) => {
        const record = passed({ along, starboard: 0, depth }, 1);
        const frame = frameOf(record, 'forward-facing');
        // Nearer than the bottom anywhere.
        const { x, y } = strongest(drawn(record, frame), frame, (px, py) => (py / frame.height) * 17 < 10.5 && px > 40);
        const reading = readCursor(cursorAt(record, frame, x, y)!, 0, null, []);
        expect(reading.place.ahead, 'ahead').to.be.closeTo(along, 0.8);
        expect(reading.place.depth, 'depth').to.be.closeTo(depth, 0.7);
        expect(reading.words).to.match(/^\d+\.\d m ahead, \d\.\d m deep · now$/);
      }),
      { numRuns: 40 },
    );
  });
  it('aside is read where it is, to its own side, with the depth that is set', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 4, max: 9, noNaN: true }),
        fc.boolean(),
        fc.double({ min: 3, max: 5, noNaN: true }),
        fc.integer({ min: 20, max: 80 }),
        (out, port, depth, since) => {
          const starboard = port ? -out : out;
          const along = 12;
          const passing = (along / SPEED) * PINGS;
          const record = passed({ along, starboard, depth }, passing + since);
          const frame = frameOf(record, 'side-scan');
          // Nearer by slant than the bottom straight below.
          const { x, y } = strongest(drawn(record, frame), frame, (px) => sideRange(frame, px) < BOTTOM - TRANSDUCER - 0.6);
          const cursor = cursorAt(record, frame, x, y) as Extract<Cursor, { view: 'side-scan' }>;
          expect(cursor.side).to.equal(port ? 'port' : 'starboard');
          expect(cursor.at, 'when, ms').to.be.closeTo((along / SPEED) * 1000, 400);
          const { place, words, at } = readCursor(cursor, cursor.at + 5000, depth, []);
          expect(place.starboard, 'to starboard').to.be.closeTo(starboard, 0.4);
          expect(place.depth).to.equal(depth);
          expect(at).to.equal(cursor.at);
          expect(words)
            .to.contain(`to ${port ? 'port' : 'starboard'}`)
            .and.to.contain('as on the Column · 5 s ago');
        },
      ),
      { numRuns: 25 },
    );
  });
  it('below is read where the boat was straight above it, whichever edge of its arch is touched', () => {
    const [along, depth] = [10, 6];
    const record = passed({ along, starboard: 0, depth }, 90);
    const frame = frameOf(record, 'sounder');
    const level = drawn(record, frame);
    const { y } = strongest(level, frame, (_, py) => (py / frame.height) * 17 > 4 && (py / frame.height) * 17 < 9);
    const arch = Array.from({ length: frame.width }, (_, x) => x).filter((x) => level(x, y) > 100);
    for (const x of [arch[2], arch[arch.length >> 1], arch.at(-3)!]) {
      const reading = readCursor(cursorAt(record, frame, x, y)!, 9000, null, []);
      expect(reading.at, 'when, ms').to.be.closeTo((along / SPEED) * 1000, 350);
      expect(reading.place).to.include({ ahead: 0, starboard: 0 });
      expect(reading.place.depth).to.be.closeTo(depth, 0.2);
      expect(reading.floor).to.be.closeTo(BOTTOM, 0.3);
    }
  });
});

describe('a cursor', () => {
  const record = passed({ along: 6, starboard: 5, depth: 5 }, 120);
  const views = fc.constantFrom<Cursor['view']>('sounder', 'side-scan', 'forward-facing');
  const shares = fc.double({ min: 0, max: 0.999, noNaN: true });
  const scales = fc.record({
    view: views,
    width: fc.constantFrom(378, 578),
    height: fc.constantFrom(216, 370, 424),
    from: fc.constantFrom(0, 3.5, 8),
    span: fc.constantFrom(4, 9, 17),
    reach: fc.constantFrom(6.25, 25, 50),
    ahead: fc.constantFrom(10, 30),
  });
  it('stands where it was touched, in each view and at each scale', () => {
    fc.assert(
      fc.property(scales, shares, shares, ({ view, from, span, ...sizes }, fx, fy) => {
        const frame = frameOf(record, view, { ...sizes, seen: { from, to: from + span } });
        const [x, y] = [fx * frame.width, fy * frame.height];
        const cursor = cursorAt(record, frame, x, y);
        if (!cursor) {
          // Past the oldest ping nothing is shown.
          const pings = view === 'sounder' ? (frame.width - x) / PING_PX : y / PING_PX;
          expect(pings, 'pings back').to.be.above(record.side.length - 1);
          return;
        }
        // Taken to the top of an arch it moves; that is told of above.
        if (cursor.view === 'sounder' && cursor.trace) return;
        const drawnAt = cursorPixels(cursor, frame);
        expect(drawnAt.x, 'across').to.be.closeTo(x, PING_PX);
        expect(drawnAt.y, 'down').to.be.closeTo(y, PING_PX);
      }),
      { numRuns: 500 },
    );
  });
  it('keeps to a paused forward-facing picture though another has come since', () => {
    const frame = frameOf(record, 'forward-facing');
    const paused = { ...frame, newest: { ...frame.newest, forward: { at: 3000, echo: { ...record.forward!.echo, transducerDepth: 2 } } } };
    const cursor = cursorAt(record, paused, 200, 300)!;
    expect(cursor.at).to.equal(3000);
    // Depth is what the picture's scale says, whatever depth the transducer hangs at.
    expect(readCursor(cursor, 3000, null, []).place.depth).to.be.closeTo((300 / 424) * 17, 1e-9);
  });
  it('and its shadow say how high a thing hangs: 9 m out by slant with a shadow 12.3 m out, 3.3 m over a bottom 12.2 m under', () => {
    const frame = frameOf(record, 'side-scan');
    const cursor = cursorAt(record, frame, 289 + (9 / 25) * 289, 100) as Extract<Cursor, { view: 'side-scan' }>;
    const { place, words } = readCursor({ ...cursor, bottom: 12.6, shadow: 12.3 }, cursor.at, null, []);
    // 12.2 · (1 − 9/12.3) = 3.27.
    expect(place.depth).to.be.closeTo(12.6 - 3.273, 0.01);
    expect(words).to.contain('by its shadow');
    expect(cursorPixels({ ...cursor, shadow: 12.3 }, frame).shadow).to.be.closeTo(289 + (12.3 / 25) * 289, 1e-6);
  });
});

describe('the picture’s colours', () => {
  it('get darker by day and lighter by night with each level, and opaque', () => {
    for (const theme of ['day', 'night'] as const) {
      const light = [...palette(theme)].map((c) => 0.2126 * (c & 255) + 0.7152 * ((c >> 8) & 255) + 0.0722 * ((c >> 16) & 255));
      for (let i = 1; i < 256; i++)
        expect(theme === 'day' ? light[i - 1] - light[i] : light[i] - light[i - 1], `${theme} ${i}`).to.be.at.least(-0.5);
      expect(Math.abs(light[255] - light[0])).to.be.above(150);
      expect([...palette(theme)].every((c) => c >>> 24 === 255)).to.equal(true);
    }
  });
});
