import { expect } from 'chai';
import { sounderPing, targetStrength, type BoatFix, type Scene } from '@restless-shoal/core/sonar';
import { destination } from '@restless-shoal/core/geo';
import { appliedLog, appliedPlan, appliedTrip, isConflict, ofLog, withoutBase } from '../src/offline/apply';
import type { Entry } from '../src/offline/outbox';
import { EchoRecord } from '../src/state/echo-record';
import { deckReducer, startOfTrip, type DeckAction } from '../src/views/deck/deck-state';
import { hectaresLookedAt, lookedAround } from '../src/views/deck/looked';
import { readCursor, sounderCursor } from '../src/views/deck/picture-cursor';
import { drawSounder, pingOf, pixelOf } from '../src/views/deck/picture-drawing';
import { stretchesOf } from '../src/views/deck/track-sheet';

const start = { latitude: 48.2, longitude: -34.6 };

describe('a cursor on the sonar’s picture', () => {
  // East at 2 m/s with ten pings a second; a fish 7 m down that is straight below after 20 s.
  const record = new EchoRecord();
  const fixes: BoatFix[] = Array.from({ length: 200 }, (_, i) => ({
    at: i * 200,
    position: destination(start, 90, i * 0.4),
    course: 90,
    speed: 2,
  }));
  let seed = 7;
  const random = (): number => (seed = (seed * 16807) % 2147483647) / 2147483647;
  const target = { id: 'f', kind: 'fish' as const, x: 40, y: 0, depth: 7, radius: 0, half: 0, strength: targetStrength(0.5) };
  const scene: Scene = { depthAt: () => 10, hardnessAt: () => 0.5, near: (x) => (Math.abs(x - 40) < 6 ? [target] : []), thermocline: null };
  for (let ping = 0; ping < 390; ping++) {
    const levels = sounderPing(
      scene,
      { x: ping * 0.2, y: 0, depth: 0.4, heading: 90 },
      { beam: 20, range: 14, samples: 400, pulse: 0.0001, soundSpeed: 1450, gain: 0, random },
    );
    record.take({ view: 'sounder', range: 14, transducerDepth: 0.4, beam: 20, levels }, ping * 100);
  }
  it('means the top of the arch that it touches the edge of, where the boat was then', () => {
    const cursor = sounderCursor(record, 194, 7.3)!;
    const { at, words, floor, place } = readCursor(cursor, 38_900, null, fixes);
    expect(at).to.be.closeTo(20_000, 300);
    expect(place.depth).to.be.closeTo(7, 0.15);
    expect(floor).to.be.closeTo(10, 0.2);
    expect(words).to.match(/^7\.0 m deep, [23]\.\d m off the bottom · 19 s ago, (39|40) m back$/);
    expect(record.seen).to.deep.equal({ singles: 1, masses: 0 });
  });
  it('stays where it is touched where no echo is', () => {
    expect(sounderCursor(record, 60, 4)).to.include({ ping: 60, depth: 4, trace: null });
    expect(sounderCursor(record, 9999, 4)).to.equal(null);
  });
  it('and the drawing agree on where a ping and a depth are', () => {
    for (const ping of [380, 300, 250]) expect(pingOf(pixelOf(ping, 600, 389), 600, 389)).to.equal(ping);
    const [width, height] = [300, 120];
    const pixels = new Uint32Array(width * height);
    drawSounder({ pixels, width, height, colours: Uint32Array.from({ length: 256 }, (_, i) => i) }, record, 250, { from: 0, to: 12 });
    const column = (x: number): number[] => Array.from({ length: height }, (_, y) => pixels[y * width + x]);
    const loudest = (list: number[], to: number): number => list.slice(0, to).indexOf(Math.max(...list.slice(0, to)));
    // Ping 200 has the fish 7 m down: 70 pixels, and the bottom 10 m down: 100 pixels.
    expect(loudest(column(pixelOf(200, width, 250)), 90)).to.be.closeTo(70, 2);
    expect(loudest(column(pixelOf(160, width, 250)), 120)).to.be.closeTo(100, 3);
  });
});

describe('what was looked at', () => {
  const fix = (i: number, mode: 'scan' | 'transit' = 'scan') => ({
    ...destination(start, 90, i * 10),
    trip: 'A',
    time: new Date(Date.UTC(2026, 4, 2, 6, 0, i * 5)).toISOString(),
    mode,
    // As deep as the transducer hangs: ranges are then distances over the ground.
    depth_m: 0.4,
    heading_deg: 90,
    view: 'side-scan' as const,
    port_range_m: 25,
    starboard_range_m: 25,
    sector_deg: null,
    sector_range_m: null,
  });
  it('is a band as wide as both ranges: 100 m by 50 m are half a hectare, and under way none', () => {
    const track = Array.from({ length: 11 }, (_, i) => fix(i));
    expect(hectaresLookedAt(track, 32625, () => 8)).to.be.closeTo(0.5, 0.01);
    expect(
      hectaresLookedAt(
        track.map((f) => ({ ...f, mode: 'transit' as const })),
        32625,
        () => 8,
      ),
    ).to.equal(0);
    expect(hectaresLookedAt([], null, () => 8)).to.equal(0);
  });
  it('lies behind the boat on the Pad, to both sides', () => {
    const boat = { position: destination(start, 90, 50), course: 90, speed: 2, at: 0, accuracy: null, depth: 8 };
    const fixes = Array.from({ length: 6 }, (_, i) => fix(i));
    const all = lookedAround(boat, fixes, 30, 8, []).flatMap((p) => p.ring);
    expect(Math.max(...all.map(([, ahead]) => ahead))).to.be.closeTo(0, 0.2);
    expect(Math.min(...all.map(([, ahead]) => ahead))).to.be.closeTo(-50, 0.5);
    expect(Math.min(...all.map(([s]) => s))).to.be.closeTo(-25, 0.5);
    expect(Math.max(...all.map(([s]) => s))).to.be.closeTo(25, 0.5);
  });
  it('is told apart by whether something was seen about there', () => {
    const boat = { position: destination(start, 90, 50), course: 90, speed: 2, at: 0, accuracy: null, depth: 8 };
    const fixes = Array.from({ length: 6 }, (_, i) => fix(i));
    const told = (mark: { latitude: number; longitude: number }[]): string =>
      lookedAround(boat, fixes, 60, 8, mark)
        .map((p) => (p.seen ? 'fish' : '-'))
        .join(' ');
    expect(told([])).to.equal('- - - - -');
    // 5 m along the first band, to the side of it but within the cell of a look.
    expect(told([destination(destination(start, 90, 5), 180, 30)])).to.equal('fish fish - - -');
    expect(told([destination(destination(start, 90, 5), 180, 60)])).to.equal('- - - - -');
  });
  it('comes as stretches of one mode and view; a gap begins another', () => {
    const track = [fix(0), fix(1), fix(2, 'transit'), fix(3, 'transit'), fix(60), fix(61)];
    expect(stretchesOf(track).map((s) => `${s.mode} ${(Date.parse(s.to) - Date.parse(s.from)) / 1000}`)).to.deep.equal([
      'scan 5',
      'transit 5',
      'scan 5',
    ]);
    expect(stretchesOf([fix(0), fix(60)])).to.have.length(2);
  });
});

describe('an edit that another device got before', () => {
  const entry = (path: string, refusedAs: string | null): Entry => ({
    seq: 1,
    method: 'PUT',
    path,
    body: { count: 3 },
    refused: refusedAs && 'in whatever language',
    refusedAs,
    sentAt: null,
  });
  it('is told apart from what is refused for itself, and can be written all the same', () => {
    const path = '/trips/t/contacts/c?base=2';
    expect(isConflict(entry(path, 'changed-elsewhere'))).to.equal(true);
    expect(isConflict(entry(path, 'field-out-of-range'))).to.equal(false);
    expect(isConflict(entry(path, null))).to.equal(false);
    expect(withoutBase(path)).to.equal('/trips/t/contacts/c');
  });
  it('shows on this device like any other change, under its own id', () => {
    const detail = {
      asOf: 0,
      trip: { id: 't' },
      track: [],
      stops: [],
      contacts: [{ id: 'c', count: 1, version: 2 }],
      responses: [],
      photos: [],
    };
    const { contacts } = appliedTrip(detail as never, [entry('/trips/t/contacts/c?base=2', null)]);
    expect(contacts).to.deep.equal([{ id: 'c', count: 3 }]);
  });
});

describe('what is chosen on the Deck', () => {
  const after = (...actions: DeckAction[]): typeof startOfTrip => actions.reduce(deckReducer, startOfTrip);
  it('stays as it is until it is chosen otherwise', () => {
    const chosen = after({ type: 'kind', kind: 'bait' }, { type: 'count', count: 5 }, { type: 'touched', span: { top: 2, bottom: 3 } });
    expect(chosen).to.deep.equal({ ...startOfTrip, kind: 'bait', count: 5, touched: { top: 2, bottom: 3 } });
  });
  it('a stop begins with what the fish do, whatever was shown at the last one', () => {
    expect(after({ type: 'side', side: 'mark' }, { type: 'fishing' }).side).to.equal('stop');
  });
  it('pad and picture take turns, and being led to a place closes nothing', () => {
    expect(after({ type: 'screen' }).screen).to.equal('picture');
    expect(after({ type: 'screen' }, { type: 'screen' }).screen).to.equal('pad');
    expect(after({ type: 'open', entry: 'a' }, { type: 'go', to: 'a' })).to.include({ opened: 'a', goingTo: 'a' });
  });
});

describe('what this device wrote and no server has yet', () => {
  const entry = (method: Entry['method'], path: string, body: unknown, seq = 1): Entry => ({
    seq,
    method,
    path,
    body,
    refused: null,
    sentAt: null,
  });
  it('is in the log: a trip with its profile and its reading, each once', () => {
    const log = { asOf: 0, trips: [], readings: [], profiles: [] };
    const time = '2026-05-02T06:00:00Z';
    const samples = [0, 5].map((depth_m) => ({ profile: 'P', time, depth_m, temperature_c: 14 - depth_m }));
    const entries = [
      entry('PUT', '/waters/w/trips/t', { trip: 'Profile', start: time, end: time, purpose: 'scout' }),
      entry('POST', '/trips/t/profiles', samples),
      entry('POST', '/trips/t/profiles', samples),
      entry('POST', '/trips/t/conditions', { time, surface_temperature_c: 14 }),
    ];
    expect(entries.every((e) => ofLog(e, 'w'))).to.equal(true);
    const { trips, profiles, readings } = appliedLog(log, 'w', entries);
    expect(trips.map((t) => t.trip)).to.deep.equal(['Profile']);
    expect(profiles.map((p) => [p.trip, p.depth_m, p.temperature_c, p.oxygen_mg_l])).to.deep.equal([
      ['Profile', 0, 14, null],
      ['Profile', 5, 9, null],
    ]);
    expect(readings).to.have.length(1);
  });
  it('is on the plan of its water: put there once, taken off, and back when put there again', () => {
    const place = (id: string) => ({ id, name: id, words: null, latitude: 1, longitude: 2, depth_m: null });
    const put = (id: string, water = 'w'): Entry => entry('POST', `/waters/${water}/plan`, { places: [place(id)] });
    const ids = (...entries: Entry[]): string[] => appliedPlan([place('a')], 'w', entries).map((p) => p.id);
    expect(ids(put('b'), put('b'), put('c', 'other'))).to.deep.equal(['a', 'b']);
    expect(ids(put('b'), entry('DELETE', '/waters/w/plan/a', null))).to.deep.equal(['b']);
    expect(ids(entry('DELETE', '/waters/w/plan/a', null), put('a'))).to.deep.equal(['a']);
  });
});
