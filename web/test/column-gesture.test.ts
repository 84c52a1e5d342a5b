import { expect } from 'chai';
import fc from 'fast-check';
import {
  beginTouch,
  columnScale,
  depthOfY,
  endTouch,
  moveTouch,
  spanAround,
  spanWithin,
  yOfDepth,
  type DepthSpan,
} from '../src/parts/records/column-gesture';
import { deckLayout } from '../src/views/deck/deck-layout';

/** Heights of the Column on a phone, a phone held sideways and a desk. */
const HEIGHTS = [deckLayout(390, 728), deckLayout(776, 346), deckLayout(1196, 736)].map((l) => l.column.height - 26);
const middle = ({ top, bottom }: DepthSpan): number => (top + bottom) / 2;

describe('a touch of the Column', () => {
  it('moves the span to where it was tapped, whatever stood there before and however the finger trembles', () => {
    const jitter = fc.integer({ min: -4, max: 4 });
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 60, noNaN: true }),
        fc.constantFrom(...HEIGHTS),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 0.6, noNaN: true }),
        fc.array(jitter, { maxLength: 6 }),
        (floor, height, at, before, tall, trembling) => {
          const scale = columnScale(floor, 10, height);
          const old = { top: before * floor * (1 - tall), bottom: before * floor * (1 - tall) + tall * floor };
          const y = yOfDepth(scale, at * floor);
          let touch = beginTouch(scale, old, y);
          for (const by of trembling) touch = moveTouch(touch, y + by).touch;
          const span = endTouch(touch, y + (trembling.at(-1) ?? 0));
          const metresPerPixel = scale.max / height;
          expect(Math.abs(middle(span) - at * floor)).to.be.at.most(4 * metresPerPixel + 0.06);
          expect(span.top).to.be.at.least(0);
          expect(span.bottom).to.be.at.most(Number(floor.toFixed(2)) + 0.005);
        },
      ),
      { numRuns: 500 },
    );
  });
  it('beside the edges of a span is a tap like any other: 18 m of water, a span at 9.5–10.5 m', () => {
    const scale = columnScale(18, 10, 290);
    const span = { top: 9.5, bottom: 10.5 };
    for (const depth of [6, 8, 8.7, 9.5, 10, 10.5, 11.5, 12]) {
      const y = yOfDepth(scale, depth);
      expect(middle(endTouch(moveTouch(beginTouch(scale, span, y), y + 2).touch, y + 2))).to.be.closeTo(depth, 0.06);
    }
  });
  it('that is dragged from an edge moves that edge, from elsewhere it draws a new span', () => {
    const scale = columnScale(20, 10, 400);
    const span = { top: 4, bottom: 9 };
    const drag = (from: number, to: number): DepthSpan => endTouch(beginTouch(scale, span, yOfDepth(scale, from)), yOfDepth(scale, to));
    expect(drag(4, 6)).to.deep.equal({ top: 6, bottom: 9 });
    expect(drag(9.3, 14)).to.deep.equal({ top: 4, bottom: 14 });
    // Past the other edge it stays a span.
    expect(drag(9, 2)).to.deep.equal({ top: 4, bottom: 4 });
    expect(drag(13, 16)).to.deep.equal({ top: 13, bottom: 16 });
    expect(drag(16, 12.5)).to.deep.equal({ top: 12.5, bottom: 16 });
  });
  it('on an edge shows nothing new until it is a tap or a drag', () => {
    const scale = columnScale(20, 10, 400);
    const span = { top: 4, bottom: 9 };
    expect(moveTouch(beginTouch(scale, span, yOfDepth(scale, 4.2)), yOfDepth(scale, 4.3)).span).to.deep.equal(span);
    expect(moveTouch(beginTouch(scale, span, yOfDepth(scale, 13)), yOfDepth(scale, 13)).span).to.deep.equal({ top: 12.5, bottom: 13.5 });
  });
});

describe('the span on the Column', () => {
  it('lies in the water: before anybody has tapped, and when the boat comes over shallower ground', () => {
    for (const floor of [0.3, 1.7, 4, 18, 60]) {
      const first = spanWithin(null, floor);
      expect(first.top).to.be.at.least(0);
      expect(first.bottom).to.be.at.most(floor);
      expect(first.bottom).to.be.above(first.top);
    }
    expect(spanWithin({ top: 4.5, bottom: 5.5 }, 1.7)).to.deep.equal({ top: 0.7, bottom: 1.7 });
    expect(spanWithin({ top: 4.5, bottom: 5.5 }, 12)).to.deep.equal({ top: 4.5, bottom: 5.5 });
  });
  it('has its middle where it was tapped, also at the surface and on the bottom', () => {
    expect(spanAround(0.2, 8)).to.deep.equal({ top: 0, bottom: 0.4 });
    expect(spanAround(8, 8)).to.deep.equal({ top: 8, bottom: 8 });
    expect(spanAround(4, 8)).to.deep.equal({ top: 3.5, bottom: 4.5 });
  });
  it('goes to pixels and back', () => {
    const scale = columnScale(7.3, 10, 333);
    for (const depth of [0, 0.1, 3.4, 7.3]) expect(depthOfY(scale, yOfDepth(scale, depth))).to.be.closeTo(depth, 1e-9);
  });
});

describe('the room of the Deck', () => {
  it('is laid out whole on every screen: nothing that marks lies outside it', () => {
    fc.assert(
      fc.property(fc.integer({ min: 360, max: 1900 }), fc.integer({ min: 330, max: 1300 }), (w, h) => {
        const { shape, column, pad, aside } = deckLayout(w, h);
        const beside = shape === 'desk' ? column.width + 18 : column.width;
        expect(beside + pad + aside).to.be.at.most(w);
        expect(pad).to.be.at.least(160);
        if (h > 500) expect(Math.max(column.height, pad)).to.be.below(h);
      }),
    );
  });
});
