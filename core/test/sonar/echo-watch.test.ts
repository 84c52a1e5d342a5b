import { expect } from 'chai';
import { EchoWatch, sounderPing, targetStrength, traces, type Scene, type SceneTarget, type SounderColumn } from '../../src/sonar';

function noise(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 16807) % 2147483647) / 2147483647;
}
const fish = (x: number, depth: number): SceneTarget => ({
  id: `fish ${x}`,
  kind: 'fish',
  x,
  y: 0,
  depth,
  radius: 0,
  half: 0,
  strength: targetStrength(0.5),
});

/** A pass at 2 m/s with ten pings a second over 10 m of water. @param along what goes with the boat at a ping */
function pass(
  seed: number,
  metres: number,
  fixed: SceneTarget[],
  along: (ping: number, x: number) => SceneTarget[] = () => [],
): SounderColumn[] {
  const random = noise(seed);
  return Array.from({ length: metres * 5 }, (_, ping) => {
    const x = ping * 0.2;
    const all = [...fixed, ...along(ping, x)];
    const scene: Scene = {
      depthAt: () => 10,
      hardnessAt: () => 0.5,
      near: (px, py, reach) => all.filter((t) => Math.hypot(t.x - px, t.y - py) <= reach + t.radius),
      thermocline: null,
    };
    const levels = sounderPing(
      scene,
      { x, y: 0, depth: 0.4, heading: 90 },
      { beam: 20, range: 14, samples: 350, pulse: 0.0001, soundSpeed: 1450, gain: 0, random },
    );
    return { levels, range: 14, transducerDepth: 0.4 };
  });
}
const hanging = (kind: 'lure' | 'weight', depth: number, x: number): SceneTarget => ({
  ...fish(x + 0.1, depth),
  id: kind,
  kind,
  strength: -32,
});
/** Watches a pass, and says at a ping what something at a depth is. */
function watched(columns: SounderColumn[], said: Record<number, [depth: number, kind: 'lure' | 'weight' | 'wash']> = {}): EchoWatch {
  const watch = new EchoWatch(4);
  columns.forEach((column, ping) => {
    watch.take(column, ping);
    if (said[ping]) expect(watch.name(ping, ...said[ping]), `something at ${said[ping][0]} m`).to.equal(true);
  });
  return watch;
}
const free = (watch: EchoWatch): number[] =>
  watch.traces.filter((t) => t.clutter === null && t.form !== 'standing').map((t) => Number(t.depth.toFixed(1)));

describe('what a sounder shows beside fish', () => {
  const planted = [fish(12, 7.2), fish(25, 3.1), fish(38, 5)];
  it('a lure moved up and down is no fish once it was named, though it leaves the water and comes back; the fish are', () => {
    // Out of the cone between pings 90 and 120, and back where it was.
    const lure = (ping: number, x: number): SceneTarget[] =>
      ping > 90 && ping < 120 ? [] : [hanging('lure', 4.2 + 0.4 * Math.sin(ping / 8), x)];
    for (const seed of [3, 17]) {
      const columns = pass(seed, 50, planted, lure);
      expect(free(watched(columns)).length, 'unnamed').to.be.above(3);
      const watch = watched(columns, { 30: [4.3, 'lure'] });
      expect(watch.clutter).to.deep.equal(['lure']);
      expect(free(watch)).to.have.length(3);
      free(watch).forEach((depth, k) => expect(depth).to.be.closeTo(planted[k].depth, 0.1));
    }
  });
  it('a weight on its wire and another boat’s wash are left out too, each said once', () => {
    const along = (ping: number, x: number): SceneTarget[] => [
      hanging('weight', 6.1, x),
      ...(ping % 100 < 40 ? [{ ...fish(x, 0.9), id: 'wash', kind: 'wash' as const, radius: 0.5, half: 0.4, strength: -26 }] : []),
    ];
    const columns = pass(8, 50, planted, along);
    expect(free(watched(columns)).length, 'unnamed').to.be.above(3);
    const watch = watched(columns, { 20: [6.1, 'weight'], 30: [0.8, 'wash'] });
    expect(watch.clutter).to.have.members(['weight', 'wash']);
    expect(free(watch)).to.have.length(3);
  });
  it('is fish again after it was said to be out, and nothing is named where nothing is', () => {
    const columns = pass(5, 40, [], (ping, x) => (ping < 60 || ping > 120 ? [hanging('lure', 5, x)] : []));
    const watch = new EchoWatch(4);
    columns.forEach((column, ping) => {
      watch.take(column, ping);
      if (ping === 20) {
        expect(watch.name(ping, 8.2, 'lure')).to.equal(false);
        watch.name(ping, 5, 'lure');
      }
      if (ping === 100) watch.unname('lure');
    });
    expect(watch.traces.map((t) => t.clutter)).to.deep.equal(['lure', null]);
  });
  it('tells a body, a cloud clear of the bottom and timber that stands on it apart', () => {
    const found = traces(
      pass(11, 45, [
        fish(8, 5),
        { ...fish(20, 4), kind: 'bait', radius: 2.5, half: 0.9, strength: -36 },
        { ...fish(34, 9), kind: 'timber', radius: 2, half: 1, strength: -26 },
      ]),
      5,
    );
    const at = (x: number, reach: number) => found.filter((t) => Math.abs(t.ping * 0.2 - x) < reach);
    expect(at(8, 1).map((t) => t.form)).to.deep.equal(['single']);
    expect(at(20, 4).some((t) => t.form === 'mass' && t.thick > 1)).to.equal(true);
    expect(at(34, 3).filter((t) => t.form !== 'standing')).to.deep.equal([]);
  });
});
