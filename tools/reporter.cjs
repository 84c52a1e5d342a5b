const { writeFileSync } = require('node:fs');
const Mocha = require('mocha');

/** The spec reporter that also leaves "passed failed" in the file named by SHOAL_COUNTS. A pending test is a failure. */
class CountingReporter extends Mocha.reporters.Spec {
  constructor(runner, options) {
    super(runner, options);
    runner.once('end', () => {
      const { passes = 0, failures = 0, pending = 0 } = this.stats;
      if (process.env.SHOAL_COUNTS) writeFileSync(process.env.SHOAL_COUNTS, `${passes} ${failures + pending}\n`);
    });
  }
}
module.exports = CountingReporter;
