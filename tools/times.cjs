const { appendFileSync } = require('node:fs');

/** Notes how long each test file took, in the file named by SHOAL_TIMES: a line with seconds and the file's name. */
let began = 0;
exports.mochaHooks = {
  beforeAll() {
    began = Date.now();
  },
  afterAll() {
    const [first] = this.test.parent.suites;
    if (process.env.SHOAL_TIMES && first)
      appendFileSync(process.env.SHOAL_TIMES, `${Math.round((Date.now() - began) / 1000)} ${first.file}\n`);
  },
};
