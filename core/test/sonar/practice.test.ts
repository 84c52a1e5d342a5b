import { expect } from 'chai';
import { seeded } from '../../src/numbers';
import {
  absorption,
  bottomOf,
  heightFromShadow,
  judged,
  nextSkill,
  practiceRound,
  sideScanDistance,
  skillStates,
  SKILLS,
  sounderPing,
  type Practised,
  type PracticePicture,
  type PracticeRound,
  type Scene,
} from '../../src/sonar';

/** Strongest level of some pings between two depths or ranges, and its mean. */
function levelsIn({ pings, range, transducerDepth, view }: PracticePicture, [first, last]: [number, number], [from, to]: [number, number]): { most: number; mean: number } {
  let [most, sum, n] = [0, 0, 0];
  for (let p = Math.max(0, Math.round(first)); p < Math.min(pings.length, last); p++) {
    const half = view === 'side-scan' ? pings[p].length / 2 : pings[p].length;
    const sample = (at: number): number => (view === 'side-scan' ? half + (at / range) * half : ((at - transducerDepth) / range) * half);
    for (let i = Math.max(0, Math.floor(sample(from))); i < Math.min(pings[p].length, sample(to)); i++, n++) {
      most = Math.max(most, pings[p][i]);
      sum += pings[p][i];
    }
  }
  return { most, mean: sum / Math.max(1, n) };
} // prettier-ignore

const rounds = (skill: PracticeRound['skill'], difficulty = 0.3): PracticeRound[] =>
  Array.from({ length: 5 }, (_, k) => practiceRound(skill, difficulty, 100 + k));

describe('a round of practice', () => {
  it('is the same for a seed, another for the next, and its own answer is right', () => {
    for (const skill of SKILLS)
      for (const difficulty of [0, 1]) {
        const [a, b, c] = [5, 5, 6].map((seed) => practiceRound(skill, difficulty, seed));
        const bytes = ({ pings }: PracticePicture): string => Buffer.concat(pings).toString('latin1');
        expect(bytes(a.picture(3)) === bytes(b.picture(3)), skill).to.equal(true);
        expect(bytes(a.picture()) === bytes(c.picture()), skill).to.equal(false);
        const { asked } = a;
        const truth = asked.by === 'gain' ? (asked.low + asked.high) / 2 : asked.answer;
        expect(judged(asked, truth).right, skill).to.equal(true);
        if (asked.by === 'number') expect(judged(asked, asked.answer + 1.01 * asked.tolerance + asked.step).right, skill).to.equal(false);
        if (asked.by === 'choice') for (const other of asked.options) expect(judged(asked, other).right).to.equal(other === asked.answer);
        if (asked.by === 'gain')
          expect([judged(asked, asked.low - 1).right, judged(asked, asked.high + 1).right]).to.deep.equal([false, false]);
      }
  });
  it('shows its targets where it points them out afterwards, and nothing like them beside', () => {
    for (const skill of ['depth', 'count', 'past', 'what', 'height', 'side'] as const)
      for (const round of rounds(skill)) {
        const picture = round.picture();
        for (const { what, pings, at } of round.pointed.filter((p) => !['shadow', 'under-the-boat'].includes(p.what))) {
          const seen = levelsIn(picture, pings, at);
          expect(seen.most, `${skill} ${what}`).to.be.above(90);
        }
      }
    for (const round of rounds('depth')) {
      const [fish] = round.pointed;
      const above = levelsIn(round.picture(), fish.pings, [1, fish.at[0] - 1]);
      expect(above.most).to.be.below(levelsIn(round.picture(), fish.pings, fish.at).most - 15);
    }
  });
  it('of height and side follows the side-scan’s geometry, its shadow dark', () => {
    for (const round of rounds('height')) {
      const { height, range, shadow, over } = round.told;
      expect(heightFromShadow(height, range, shadow)).to.be.closeTo(over, 1e-9);
      const [fish, dark] = round.pointed;
      const [y] = [(dark.pings[0] + dark.pings[1]) / 2];
      const beside: [number, number] = [Math.max(0, y - 90), Math.max(10, y - 40)];
      expect(levelsIn(round.picture(), [y - 2, y + 2], dark.at).mean).to.be.below(0.8 * levelsIn(round.picture(), beside, dark.at).mean);
      expect(fish.at[0] < 0).to.equal(dark.at[0] < 0);
    }
    for (const round of rounds('side')) {
      const { height, range, flat } = round.told;
      expect(sideScanDistance(range, height)).to.be.closeTo(flat, 1e-9);
      const answer = round.asked.by === 'choice' ? round.asked.answer : null;
      if (!answer || typeof answer === 'string') throw new Error('asked something else');
      expect(answer.side === 'port').to.equal(round.pointed[0].at[1] < 0);
      expect(answer.far).to.be.closeTo(flat, 0.51);
    }
  });
  it('of bottom and thermocline has them at their depth; hard ground alone has a second echo', () => {
    for (const round of rounds('hardness')) {
      const picture = round.picture();
      const middle = picture.pings.map((levels) => bottomOf({ levels, range: picture.range, transducerDepth: picture.transducerDepth }) ?? 0).sort((a, b) => a - b)[130]; // prettier-ignore
      expect(middle).to.be.closeTo(round.pointed[0].at[0], 0.3);
      const strongest = picture.pings.map((_, p) => levelsIn(picture, [p, p + 1], [round.told.twice - 0.4, round.told.twice + 0.4]).most);
      const second = strongest.reduce((sum, v) => sum + v, 0) / strongest.length;
      const answer = round.asked.by === 'choice' && round.asked.answer;
      expect(second > 90, `${answer} ${second}`).to.equal(answer === 'hard');
    }
    for (const round of rounds('thermocline')) {
      const { top, bottom } = round.told;
      const picture = round.picture();
      const inside = levelsIn(picture, [0, 260], [top + 0.25 * (bottom - top), bottom - 0.25 * (bottom - top)]).mean;
      expect(inside).to.be.above(1.4 * levelsIn(picture, [0, 260], [1, top - 0.3]).mean);
    }
  });
  it('of gain: within the window the target shows in clear water, below it does not, above the water fills', () => {
    for (const round of rounds('gain')) {
      if (round.asked.by !== 'gain') throw new Error('asked something else');
      const { low, high } = round.asked;
      const [fish] = round.pointed;
      const at = (gain: number): { target: number; water: number } => ({
        target: levelsIn(round.picture(gain), fish.pings, fish.at).most,
        water: levelsIn(round.picture(gain), [0, 100], [fish.at[0] - 1.5, fish.at[0] - 0.3]).mean,
      });
      const [below, right, above] = [low - 8, (low + high) / 2, high + 12].map(at);
      expect(right.target, 'target').to.be.above(110);
      expect(right.water, 'water').to.be.below(75);
      expect(below.target, 'too low').to.be.below(110);
      expect(above.water, 'too high').to.be.above(80);
    }
  });
});

describe('echoes by frequency', () => {
  it('of a faint fish at 28 m stand out of the noise at 200 kHz and are lost at 1,200 kHz', () => {
    const scene: Scene = {
      depthAt: () => 40,
      hardnessAt: () => 0.5,
      near: () => [{ id: 'fish', kind: 'fish', x: 0, y: 0, depth: 28, radius: 0, half: 0, strength: -50 }],
      thermocline: null,
    };
    const contrast = (frequency: number): number => {
      const how = { beam: 20, range: 36, samples: 720, pulse: 0.0001, soundSpeed: 1470, gain: 0, frequency, random: seeded(4) };
      const pings = Array.from({ length: 40 }, () => sounderPing(scene, { x: 0, y: 0, depth: 0, heading: 0 }, how));
      const mean = (from: number, to: number): number => pings.reduce((s, p) => s + p.slice(from, to).reduce((a, b) => a + b, 0) / (to - from), 0) / pings.length; // prettier-ignore
      return mean(560, 561) - mean(520, 550);
    };
    // What 1,200 kHz loses more on 28 m there and back is more than the fish stands out by.
    expect(2 * 28 * (absorption(1200, 15) - absorption(200, 15))).to.be.above(15);
    expect(contrast(200)).to.be.above(50);
    expect(contrast(1200)).to.be.below(0.6 * contrast(200));
  });
});

describe('what is asked next', () => {
  const random = seeded(11);
  /** Somebody who is right by how hard a question is for them. */
  const practised = (able: (skill: Practised['skill']) => number, rounds: number): Practised[] => {
    const history: Practised[] = [];
    for (let at = 0; at < rounds; at++) {
      const { skill, difficulty } = nextSkill(history, random);
      history.push({ skill, at, difficulty, right: random() < 1 / (1 + Math.exp((difficulty - able(skill)) * 12)) });
    }
    return history;
  };
  it('follows the learner: it settles where three of four are right', () => {
    const history = practised(() => 0.55, 900).slice(300);
    const share = history.filter((h) => h.right).length / history.length;
    expect(share).to.be.within(0.68, 0.82);
    for (const { difficulty } of skillStates(history)) expect(difficulty).to.be.within(0.2, 0.85);
  });
  it('brings weak skills back sooner, forgets none, and never asks one twice in a row', () => {
    const history = practised((skill) => (skill === 'count' ? 0.05 : 0.9), 400);
    const asked = (skill: string): number => history.filter((h) => h.skill === skill).length;
    const others = SKILLS.filter((s) => s !== 'count').map(asked);
    expect(asked('count')).to.be.above(1.5 * Math.max(...others));
    expect(Math.min(...others)).to.be.above(10);
    history.forEach((h, k) => k && expect(h.skill).to.not.equal(history[k - 1].skill));
    expect(nextSkill([], random, ['depth']).skill).to.equal('depth');
  });
});
