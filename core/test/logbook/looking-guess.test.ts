import { expect } from 'chai';
import { LookingGuess } from '../../src/logbook';

/** What a boat counts as, second by second, at the given speeds. @param said presses, by second */
function course(speeds: number[], said: Record<number, boolean> = {}): string {
  const guess = new LookingGuess();
  let looking = true;
  return speeds
    .map((speed, second) => {
      looking = said[second] ?? looking;
      looking = guess.take(speed, second * 1000, looking) ?? looking;
      return looking ? 'L' : '-';
    })
    .join('');
}
const at = (speed: number, seconds: number): number[] => Array<number>(seconds).fill(speed);

describe('whether the sonar is watched', () => {
  it('is guessed from ten seconds of speed, and back from ten slow ones; a gust of speed changes nothing', () => {
    expect(course([...at(2, 5), ...at(9, 15), ...at(2, 15)])).to.equal('L'.repeat(15) + '-'.repeat(15) + 'L'.repeat(5));
    expect(course([...at(2, 5), ...at(9, 8), ...at(2, 12)])).to.equal('L'.repeat(25));
    expect(course([...at(9, 15), ...at(5, 20)])).to.equal('L'.repeat(10) + '-'.repeat(25));
  });
  it('stands as somebody said it, until the speed has crossed over', () => {
    // Looking at speed: said, and it stays.
    expect(course(at(9, 30), { 15: true })).to.equal('L'.repeat(10) + '-'.repeat(5) + 'L'.repeat(15));
    // Under way and slow: nobody guessed that, so nobody takes it back.
    expect(course([...at(2, 5), ...at(1, 30)], { 5: false })).to.equal('L'.repeat(5) + '-'.repeat(30));
  });
});
