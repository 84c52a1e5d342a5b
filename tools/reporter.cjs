const { writeFileSync } = require('node:fs');
const Mocha = require('mocha');

/**
 * The spec reporter that also leaves, in the file named by SHOAL_COUNTS, "passed failed" and then a line for each that
 * failed: the end of a long output says which. A pending test is a failure.
 */
class CountingReporter extends Mocha.reporters.Spec {
  constructor(runner, options) {
    super(runner, options);
    const failed = [];
    runner.on('fail', (test, error) => failed.push(`${test.fullTitle()}: ${String(error && error.message).split('\n')[0]}`));
    runner.on('pending', (test) => failed.push(`${test.fullTitle()}: was passed over`));
    runner.once('end', () => {
      const { passes = 0, failures = 0, pending = 0 } = this.stats;
      if (process.env.SHOAL_COUNTS)
        writeFileSync(process.env.SHOAL_COUNTS, `${[`${passes} ${failures + pending}`, ...failed].join('\n')}\n`);
    });
  }
}
module.exports = CountingReporter;
