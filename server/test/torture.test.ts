import { expect } from 'chai';
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { torture } from '../../e2e/torture';
import { temporaryFolder } from '../../e2e/harness';
import { eachItsOwnCluster } from '../../e2e/own-clusters';

eachItsOwnCluster();
// The small version of a bench: everything that an installation does, at once, while its processes are ended.

const [data, files] = [temporaryFolder(), temporaryFolder()];
const disk = join(data.path, 'disk');
/** A disk of its own can be filled; root can make one, and not in every container. */
let fills = false;
before(() => {
  mkdirSync(disk);
  fills = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=600m,mode=0755', 'shoal', disk]).status === 0;
});
after(() => {
  if (fills) execFileSync('umount', ['-l', disk]);
  [data, files].forEach((f) => f.remove());
});

describe('an installation that is written to, imported into, backed up, restored and started, and ended over and over', () => {
  it('loses nothing that it acknowledged, doubles nothing, and is up again by itself', async function () {
    this.timeout(600_000);
    const how = {
      data: disk,
      files: files.path,
      decks: 6,
      marks: 600,
      kills: 5,
      every: 2000,
      seed: 4,
      fills: fills ? { times: 1, ms: 3000 } : undefined,
      clock: true,
    };
    const found = await torture(how);
    const { marks, imported, backups, restores } = found;
    expect(found.odd.join('\n'), 'answers that are neither done, try again nor disk full').to.equal('');
    expect(marks).to.deep.include({ lost: 0, doubled: 0 });
    expect(marks.logged).to.be.at.least(600);
    expect(imported.there, `of ${imported.imports} imports`).to.equal(imported.rows);
    expect(imported.imports).to.be.at.least(1);
    expect(backups).to.deep.include({ broken: 0, short: 0 });
    expect(backups.made).to.be.at.least(1);
    expect(restores.wrong).to.equal(0);
    expect(found.left).to.deep.equal([]);
    if (fills) expect(found.saidFull, 'it said that the disk is full').to.equal(true);
  });
});
