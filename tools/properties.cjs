const fc = require('fast-check');

// What a property fails on is reported at once: making it smaller can take longer than all tests, and looks like a hang.
// `SHRINK=1` makes it smaller all the same.
fc.configureGlobal({ endOnFailure: !process.env.SHRINK });

// A list that should be empty is shown with what is in it.
void import('chai').then(({ config }) => (config.truncateThreshold = 0));
