import { expect } from 'chai';
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';

const root = join(__dirname, '../..');
const touchedBy = (...files: string[]): string[] =>
  execFileSync('node', ['tools/affected.mjs', '--files', ...files], { cwd: root, encoding: 'utf8' })
    .split('\n')
    .filter(Boolean);

describe('what a change touches', () => {
  it('a formula: its own test, what computes with it, and what is driven as a whole; not what knows nothing of it', () => {
    const touched = touchedBy('core/src/lake/state.ts');
    expect(touched).to.include.members(['core/test/lake/lake.test.ts', 'core/test/forecast/brief.test.ts', 'e2e/views.test.ts']);
    expect(touched).to.not.include('core/test/units/units.test.ts');
  });
  it('one view: the browser tests that visit it, no test of the server', () => {
    const touched = touchedBy('web/src/views/deck/pad.tsx');
    expect(touched).to.include.members(['e2e/deck.test.ts', 'e2e/views.test.ts']);
    expect(touched).to.not.include('e2e/import-assistant.test.ts');
    expect(touched.filter((file) => file.startsWith('server/') || file.startsWith('core/'))).to.deep.equal([]);
  });
  it('a document nothing, the list of packages everything', () => {
    expect(touchedBy('docs/lake.md')).to.deep.equal([]);
    expect(touchedBy('package-lock.json')).to.include.members([
      'core/test/units/units.test.ts',
      'server/test/api.test.ts',
      'e2e/deck.test.ts',
    ]);
  });
});
