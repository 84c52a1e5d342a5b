import { expect } from 'chai';
import { seeded } from '../../src/numbers';
import { fishedStops, learnBites, type FishedStop, type StopsLogged } from '../../src/passage';

/** Stops of a boat that leaves when it likes: at some the fish are willing, and bite ever less often. */
function simulated(n: number, willing: number, bites: number, pace: number, seed: number): FishedStop[] {
  const random = seeded(seed);
  return Array.from({ length: n }, () => {
    const rodMinutes = 8 + 70 * random();
    const all: number[] = [];
    if (random() < willing) {
      // Unit exponential steps in what the process has brought so far.
      for (let sum = -Math.log(random()); sum < bites; sum -= Math.log(random())) all.push(-pace * Math.log(1 - sum / bites));
    }
    return { rodMinutes, bites: all.filter((t) => t < rodMinutes), fishSeen: true };
  });
}

describe('bites learned from stops', () => {
  it('finds how many bite, how fast, and how often none does', () => {
    for (const [willing, bites, pace] of [
      [0.6, 2.5, 15],
      [0.35, 4, 30],
      [0.9, 1.5, 45],
    ]) {
      const found = [1, 2, 3, 4].map((seed) => learnBites(simulated(600, willing, bites, pace, seed))!);
      const mean = (value: (f: (typeof found)[number]) => number): number => found.reduce((s, f) => s + value(f), 0) / found.length;
      expect(mean((f) => f.willing!)).to.be.closeTo(willing, 0.08);
      // The two are told apart badly where few bite; their product, what a long stop brings, is what a plan counts with.
      expect(mean((f) => f.willing! * f.bites) / (willing * bites)).to.be.within(0.85, 1.15);
      expect(mean((f) => f.pace) / pace).to.be.within(0.75, 1.3);
    }
  });
  it('stays near what is usual on a short log, and says nothing without bites', () => {
    const short = learnBites(simulated(12, 0.8, 3, 60, 3));
    expect(short!.pace).to.be.within(12, 50);
    expect(learnBites(simulated(7, 1, 3, 20, 1))).to.equal(null);
    // Who marks no fish tells how fast they bite, and not at what share of stops with fish.
    const unmarked = learnBites(simulated(300, 0.6, 2.5, 15, 2).map((s) => ({ ...s, fishSeen: false })))!;
    expect(unmarked.willing).to.equal(null);
    expect(unmarked.pace).to.be.within(10, 22);
    expect(learnBites(simulated(100, 0, 3, 20, 1))).to.equal(null);
  });
  it('reads stops as they were logged: rods, bites of the species, fish that were seen there', () => {
    const at = { latitude: 50, longitude: 10 };
    const stop = { ...at, trip_id: 't', start: '2026-06-01T06:00:00Z', rods: 2, outcome: 'fish' };
    const bite = { trip_id: 't', time: '2026-06-01T06:05:00Z', response: 'landed', species: 'zander' };
    const log: StopsLogged = {
      stops: [
        { ...stop, stop: 'a', end: '2026-06-01T06:20:00Z' },
        { ...stop, stop: 'b', latitude: 50.01, end: '2026-06-01T06:20:00Z', rods: null },
        { ...stop, stop: 'c', end: '2026-06-01T06:20:00Z', outcome: 'unfishable' },
        { ...stop, stop: 'd', end: stop.start },
      ],
      responses: [
        { ...bite, stop: 'a' },
        { ...bite, stop: 'a', species: 'perch' },
        { ...bite, stop: 'a', response: 'followed' },
        { ...bite, stop: 'b', species: null, time: '2026-06-01T07:00:00Z' },
      ],
      contacts: [{ ...at, trip_id: 't', time: '2026-06-01T05:50:00Z', kind: 'fish', species: null, stop: null }],
    };
    expect(fishedStops(log, (name) => name === 'zander')).to.deep.equal([
      { rodMinutes: 40, bites: [10], fishSeen: true },
      { rodMinutes: 20, bites: [20], fishSeen: false },
    ]);
  });
});
