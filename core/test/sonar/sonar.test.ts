import { expect } from 'chai';
import {
  carriedOn,
  coneWidth,
  fromBoat,
  heightFromShadow,
  objectHeight,
  placeTarget,
  seaSoundSpeed,
  sideScanDistance,
  soundSpeed,
} from '../../src/sonar';
import { bearing, distance } from '../../src/geo';

describe('beams', () => {
  it('a 20° cone is 3.53 m wide at 10 m', () => expect(coneWidth(10, 20)).to.be.closeTo(3.53, 0.005));
  it('a side-scan target at 17 m slant from 8 m up lies 15 m off', () => expect(sideScanDistance(17, 8)).to.equal(15));
  it('a suspended one is nearer the boat’s own level', () => expect(sideScanDistance(8, 10, 7)).to.be.closeTo(7.42, 0.005));
  it('a detached shadow gives the height of a fish', () => expect(heightFromShadow(8, 12, 16)).to.equal(2));
  it('a shadow gives the height of a stump', () => expect(objectHeight(8, 12, 4)).to.equal(2));
});

describe('placing a target from the Pad', () => {
  const boat = { position: { latitude: 47.3, longitude: -33.9 }, course: 90, speed: 2 };
  it('puts a mark 15 m to starboard of a boat that heads east 15 m to its south', () => {
    const target = placeTarget(boat, 0, 15);
    expect(distance(boat.position, target)).to.be.closeTo(15, 0.05);
    expect(bearing(boat.position, target)).to.be.closeTo(180, 0.1);
  });
  it('moves it astern by the delay of the picture and by the transducer’s offset', () => {
    const target = placeTarget(boat, 0, 0, { forward: -3, starboard: 0 }, 2);
    expect(distance(boat.position, target)).to.be.closeTo(7, 0.05);
    expect(bearing(boat.position, target)).to.be.closeTo(270, 0.1);
  });
});

describe('the boat and what lies round it', () => {
  const boat = { position: { latitude: 47.3, longitude: -33.9 }, course: 215, speed: 6 };
  it('a place from the boat is the way back of placing it', () => {
    for (const [ahead, starboard] of [
      [12, 0],
      [-7, 20],
      [3, -25],
      [0, 0],
    ]) {
      const seen = fromBoat(boat, placeTarget(boat, ahead, starboard));
      expect(seen.ahead).to.be.closeTo(ahead, 0.01);
      expect(seen.starboard).to.be.closeTo(starboard, 0.01);
    }
  });
  it('is carried on by its course and speed', () => {
    const later = carriedOn(boat, 0.5);
    expect(fromBoat(boat, later).ahead).to.be.closeTo(3, 0.01);
    expect(carriedOn({ ...boat, speed: 0 }, 10)).to.equal(boat.position);
  });
});

describe('speed of sound in water', () => {
  // Marczak 1997 for pure water; for sea water the check value of UNESCO 1983, at 40 °C, 40 and 10,000 decibars.
  it('is that of the literature', () => {
    for (const [celsius, metresPerSecond] of [
      [0, 1402.4],
      [10, 1447.3],
      [20, 1482.3],
      [30, 1509.1],
    ])
      expect(soundSpeed(celsius)).to.be.closeTo(metresPerSecond, 0.1);
    expect(seaSoundSpeed(40, 40, 1000 / 0.10055)).to.be.closeTo(1731.995, 0.001);
    expect(seaSoundSpeed(10, 35, 0)).to.be.closeTo(1489.8, 0.1);
    // Without salt it is that of fresh water by another author.
    for (const t of [0, 10, 20, 30]) expect(seaSoundSpeed(t, 0)).to.be.closeTo(soundSpeed(t), 0.1);
  });
});
