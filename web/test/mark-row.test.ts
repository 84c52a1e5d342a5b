import { expect } from 'chai';
import { schemas } from '@restless-shoal/core/logbook';
import { kindWords, KINDS } from '../src/parts/records/kinds';
import { markRow, type Marked } from '../src/parts/records/mark-row';

const marked = (more: Partial<Marked>): Marked => ({
  time: '2026-05-02T06:00:00.000Z',
  position: { latitude: 48.123456789, longitude: -34.987654321 },
  kind: 'fish',
  count: 3,
  view: 'side-scan',
  species: 'zander',
  span: { top: 4.123, bottom: 5.987 },
  floor: 8,
  hardness: 0.456,
  stop: null,
  sonar: null,
  ...more,
});

describe('the contact that a mark becomes', () => {
  it('is one that the server takes, of every kind, with and without a known depth', async () => {
    for (const { kind } of KINDS)
      for (const floor of [null, 2, 8])
        expect(await schemas.contact.isValid(markRow(marked({ kind, floor }))), `${kind} over ${floor}`).to.equal(true);
  });
  it('hangs never below the bottom; what stands there reaches it', () => {
    expect(markRow(marked({}))).to.include({ top_m: 4.12, bottom_m: 5.99, water_depth_m: 8, hardness: 0.46 });
    expect(markRow(marked({ floor: 5 }))).to.include({ top_m: 4.12, bottom_m: 5 });
    expect(markRow(marked({ floor: 3 }))).to.include({ top_m: 3, bottom_m: 3 });
    for (const kind of ['cover', 'weed', 'hazard'] as const) expect(markRow(marked({ kind }))).to.include({ top_m: 4.12, bottom_m: 8 });
    expect(markRow(marked({ kind: 'bottom' }))).to.include({ top_m: null, bottom_m: null, water_depth_m: 8 });
    expect(markRow(marked({ floor: null, hardness: null }))).to.include({ bottom_m: 5.99, water_depth_m: null, hardness: null });
  });
  it('has a count and a species only where it is fish, and odds only where a species is named', () => {
    expect(markRow(marked({}))).to.include({ count: 3, species: 'zander', confidence: 0.7 });
    expect(markRow(marked({ species: null }))).to.include({ count: 3, species: null, confidence: null });
    expect(markRow(marked({ kind: 'bait' }))).to.include({ count: null, species: null, confidence: null });
  });
  it('goes with what the sonar was set to, if anybody said', () => {
    expect(markRow(marked({}))).to.include({ rig: null, settings: null });
    expect(markRow(marked({ sonar: { rig: 'Bow', settings: 'range 20 m' } }))).to.include({ rig: 'Bow', settings: 'range 20 m' });
  });
  it('is called what the button says', () =>
    expect([kindWords('fish', 1), kindWords('fish', 50), kindWords('weed', 3)]).to.deep.equal(['1 fish', '50+ fish', 'weed edge']));
});
