import { expect } from 'chai';
import { destination, type LatLon } from '../../src/geo';
import { seeded } from '../../src/numbers';
import { boatAlong, DEFAULT_RIG, mountOffsets, passedObjects, passesOf, placeTarget, simulatedPasses } from '../../src/sonar';

const object: LatLon = { latitude: 48.187, longitude: -34.59 };
const start = Date.parse('2026-06-01T10:00:00Z');
const truth = { forward: -2, starboard: 0.5, delay: 1.5 };
type Mark = LatLon & { time: string; kind: string };

/** A trip on which the object is passed on these courses and speeds, and marked as a rig places what shows straight below. */
function passed(passes: [number, number][], rig = DEFAULT_RIG): { contacts: Mark[]; track: (LatLon & { time: string })[] } {
  const contacts: Mark[] = [];
  const track: (LatLon & { time: string })[] = [];
  for (const [k, [course, speed]] of passes.entries()) {
    const at = start + 300_000 * k;
    // The antenna where the object is under the transducer on a picture that is as old as the delay.
    const antenna = destination(destination(object, course, -truth.forward + speed * truth.delay), course - 90, truth.starboard);
    for (let j = -10; j <= 10; j++) track.push({ time: new Date(at + 1000 * j).toISOString(), ...destination(antenna, course, speed * j) });
    const mark = placeTarget({ position: antenna, course, speed }, 0, 0, rig, rig.delay);
    contacts.push({ time: new Date(at).toISOString(), kind: 'cover', ...mark });
  }
  return { contacts, track };
}
const four: [number, number][] = [[40, 1], [220, 1], [40, 3], [220, 3]]; // prettier-ignore

describe('passes by one object', () => {
  it('are found among the marks of a trip and give offset and delay, however the rig was set meanwhile', () => {
    for (const rig of [DEFAULT_RIG, { ...DEFAULT_RIG, forward: 1, starboard: -0.4, delay: 0.7 }]) {
      const trip = passed(four, rig);
      const other = destination(object, 90, 80);
      trip.contacts.splice(
        2,
        0,
        { time: new Date(start + 450_000).toISOString(), kind: 'cover', ...other },
        { ...trip.contacts[0], kind: 'fish' },
      );
      const [first, ...more] = passedObjects(trip);
      expect(more).to.deep.equal([]);
      expect(first.map((p) => Math.round(p.boat.speed))).to.deep.equal([1, 1, 3, 3]);
      const found = mountOffsets(passesOf(first, () => rig));
      if (typeof found === 'string') throw new Error(found);
      expect(found.forward.value).to.be.closeTo(truth.forward, 0.03);
      expect(found.starboard.value).to.be.closeTo(truth.starboard, 0.03);
      expect(found.delay.value).to.be.closeTo(truth.delay, 0.03);
    }
  });
  it('of a simulated boat tell how its rig is mounted', () => {
    const mount = { forward: -1.8, starboard: 0.4, delay: 1.5 };
    const found = mountOffsets(simulatedPasses(mount, seeded(4)));
    if (typeof found === 'string') throw new Error(found);
    for (const name of ['forward', 'starboard', 'delay'] as const) expect(found[name].value, name).to.be.closeTo(mount[name], 0.6);
    expect(found.noise).to.be.within(0.1, 0.7);
  });
  it('are none where marks are of one pass, of a boat that stands, or too few', () => {
    expect(passedObjects(passed(four.slice(0, 2)))).to.deep.equal([]);
    const trip = passed(four);
    const once = trip.contacts.map((c, k) => ({ ...c, time: new Date(start + 1000 * k).toISOString() }));
    expect(passedObjects({ contacts: once, track: trip.track })).to.deep.equal([]);
    expect(passedObjects(passed(four.map(([c]) => [c, 0.05])))).to.deep.equal([]);
    expect(boatAlong(trip.track.slice(0, 1))).to.deep.equal([]);
  });
});
