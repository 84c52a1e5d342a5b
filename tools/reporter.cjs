const { writeFileSync } = require('node:fs');
const Mocha = require('mocha');

/** A property's message says first that it failed: seed and cause stand farther down, the counterexample may fill pages between. */
function shortly(error) {
  const lines = String(error && error.message)
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);
  const wanted = lines.filter((line, i) => i === 0 || /^\{ seed|^Got|rror/.test(line)).map((line) => line.slice(0, 300));
  const cause =
    error && error.cause
      ? ` (${String(error.cause.message ?? error.cause)
          .split('\n')[0]
          .slice(0, 300)})`
      : '';
  return wanted.slice(0, 4).join(' ') + cause;
}

/**
 * The spec reporter that also leaves, in the file named by SHOAL_COUNTS, "passed failed" and then a line for each that
 * failed: the end of a long output says which. A pending test is a failure.
 */
class CountingReporter extends Mocha.reporters.Spec {
  constructor(runner, options) {
    super(runner, options);
    const failed = [];
    runner.on('fail', (test, error) => failed.push(`${test.fullTitle()}: ${shortly(error)}`));
    runner.on('pending', (test) => failed.push(`${test.fullTitle()}: was passed over`));
    runner.once('end', () => {
      const { passes = 0, failures = 0, pending = 0 } = this.stats;
      if (process.env.SHOAL_COUNTS)
        writeFileSync(process.env.SHOAL_COUNTS, `${[`${passes} ${failures + pending}`, ...failed].join('\n')}\n`);
    });
  }
}
module.exports = CountingReporter;
