import { expect } from 'chai';
import { columnFor } from '../../src/lake';
import { defaultSpecies, depthWindow, firstGuessDepth, isSqueezed } from '../../src/species';
import { COLUMNS, DEPTH_CASES, type DepthCase } from './depth-cases';

const at = new Date('2026-07-20T12:00:00Z');

/** The window of a case; its column as measured on the day. */
function windowOf({ species, column, secchi, sun, maxDepth, spawning }: DepthCase) {
  const samples = COLUMNS[column].map(([depth, temperature, oxygen]: readonly number[]) => ({
    depth,
    temperature,
    oxygen: oxygen ?? null,
  }));
  const deepest = maxDepth ?? samples[samples.length - 1].depth;
  const s = defaultSpecies.find((p) => p.name === species)!;
  const surface = samples[0].temperature;
  const water = columnFor({ surface, at, latitude: 48, maxDepth: deepest, secchi, altitude: 0, lengthKm: 3, profile: { samples, at } });
  const window = depthWindow(s, { column: water, secchi, maxDepth: deepest, sunHeight: sun, spawning });
  return { s, water, window };
}

describe('fifty fish in waters that were measured', () => {
  for (const c of DEPTH_CASES)
    it(`${c.species}, ${c.column}: ${c.why}`, () => {
      const { s, water, window } = windowOf(c);
      expect(window.empty).to.equal(c.empty ?? false);
      if (c.top) expect(window.top, 'top').to.be.within(...c.top);
      if (c.bottom) expect(window.bottom, 'bottom').to.be.within(...c.bottom);
      if (!window.empty) expect(firstGuessDepth(s, window, water, c.spawning)).to.be.within(window.top, window.bottom);
    });
  it('holds fish of cold water in a lake of 40 m no higher than they live', () => {
    for (const name of ['lake trout', 'arctic char', 'whitefish']) {
      const { s, water, window } = windowOf({ species: name, column: 'clear', secchi: 7, sun: 50, why: '' });
      expect(firstGuessDepth(s, window, water), name).to.be.above(14);
    }
  });
  it('says of each edge what lies beyond it: above an upper one, below a lower one', () => {
    const edges = (species: string, column: DepthCase['column'], more: Partial<DepthCase> = {}): string[] => {
      const { window } = windowOf({ species, column, secchi: 5, sun: -20, why: '', ...more });
      return [window.topReason.code, window.bottomReason.code];
    };
    expect(edges('lake trout', 'midMinimum')).to.deep.equal(['window.oxygen.above', 'window.bottom']);
    expect(edges('lake trout', 'clear')).to.deep.equal(['window.warm', 'window.bottom']);
    expect(edges('striped bass', 'hotReservoir')).to.deep.equal(['window.warm', 'window.oxygen']);
    expect(edges('zander', 'fertile', { secchi: 1.5, sun: 50 })[0]).to.equal('window.light.shy');
    expect(edges('perch', 'autumn', { secchi: 1, sun: 20 })).to.deep.equal(['window.free', 'window.light']);
    expect(edges('largemouth bass', 'clearShallow', { sun: 50 })).to.deep.equal(['window.free', 'window.cold']);
    expect(edges('zander', 'late', { spawning: true })).to.deep.equal(['window.spawning', 'window.spawning']);
    expect(edges('cod', 'estuary', { sun: 50 })).to.deep.equal(['window.none', 'window.nothing']);
  });
  it('calls squeezed what has heat above and want of oxygen below, not what is cold all winter', () => {
    const squeezed = (species: string, column: DepthCase['column']): boolean =>
      isSqueezed(windowOf({ species, column, secchi: 3, sun: 50, why: '' }).window);
    expect(squeezed('striped bass', 'hotReservoir')).to.equal(true);
    expect(squeezed('arctic char', 'fertile')).to.equal(true);
    for (const column of ['cold', 'ice', 'autumn', 'hotMixed', 'clear'] as const)
      expect(squeezed('largemouth bass', column), column).to.equal(false);
  });
  it('has more light at depth under a clear sky than under cloud: an overcast noon brings light-shy fish up', () => {
    const c: DepthCase = { species: 'zander', column: 'warmMixed', secchi: 2, sun: 50, why: '' };
    const { s, water, window } = windowOf(c);
    const overcast = depthWindow(s, { column: water, secchi: 2, maxDepth: 10, sunHeight: 50, cloud: 1 });
    expect(window.top).to.be.above(1);
    expect(overcast.top).to.be.below(window.top - 0.5);
  });
});
