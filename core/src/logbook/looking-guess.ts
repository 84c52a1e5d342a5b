/** Faster than this for a while nobody reads a sonar, slower one may; between the two it stays as it was, m/s. */
const TOO_FAST = 7;
const SLOW_AGAIN = 4;
/** What a while is, ms. */
const A_WHILE = 10_000;

/**
 * Guesses from the speed when the sonar is no longer watched, and when it is again. What somebody says stands until the
 * speed has crossed over: a boat said to be looking at speed goes on looking, one said to be under way stays so when it slows.
 */
export class LookingGuess {
  private since: { fast: boolean; at: number } | null = null;
  private guessed = false;

  /**
   * Takes news of the boat.
   * @param speed m/s @param at ms @param looking what it counts as now
   * @returns what it should count as from now on; null where that stays
   */
  take(speed: number, at: number, looking: boolean): boolean | null {
    const fast = speed > TOO_FAST ? true : speed < SLOW_AGAIN ? false : null;
    if (fast === null || fast !== this.since?.fast) {
      this.since = fast === null ? null : { fast, at };
      return null;
    }
    if (at - this.since.at < A_WHILE) return null;
    // Said once: what is pressed after it stands.
    this.since.at = Infinity;
    if (fast && looking) {
      this.guessed = true;
      return false;
    }
    if (!fast && !looking && this.guessed) {
      this.guessed = false;
      return true;
    }
    return null;
  }
}
