// Prints the test files that a change touches, one a line.
//   node tools/affected.mjs COMMIT          what differs from that commit, committed or not
//   node tools/affected.mjs --files A B …   what a change of these files would touch
import { execFileSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { dirname, join, normalize } from 'node:path';
import ts from 'typescript';

const ROOMS = ['core', 'server', 'web', 'demo', 'e2e', 'bench', 'tools'];
const VIEWS = ['brief', 'chart', 'deck', 'patterns', 'forecast', 'waters'];
/** What the tests of the server and of the browser run as a built program. */
const SERVER = 'server/src/main.ts';
const PAGE = 'web/src/main.tsx';
/** A change of these may change anything. */
const EVERYTHING =
  /^(package(-lock)?\.json|tsconfig[^/]*\.json|\.mocharc\.json|shoal|tools\/(test|reporter\.cjs|times\.cjs|properties\.cjs|test-cluster\.ts)|[a-z]+\/package\.json|[a-z]+\/(.*\/)?tsconfig\.json)$/;

const filesIn = (folder) =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.name === 'node_modules' || entry.name === 'dist'
      ? []
      : entry.isDirectory()
        ? filesIn(join(folder, entry.name))
        : /\.(tsx?|mjs|cjs)$/.test(entry.name)
          ? [join(folder, entry.name)]
          : [],
  );

/** The file that an import names; null for a package of others. */
function resolved(from, name) {
  const own = /^@restless-shoal\/(\w+)(?:\/(.*))?$/.exec(name);
  const base = own ? join(own[1], 'src', own[2] ?? '') : name.startsWith('.') ? normalize(join(dirname(from), name)) : null;
  if (base === null) return null;
  const found = [base, `${base}.ts`, `${base}.tsx`, join(base, 'index.ts'), base.replace(/\.js$/, '.ts')];
  return found.find((file) => existsSync(file) && statSync(file).isFile()) ?? null;
}

const imports = new Map();
function importsOf(file) {
  let list = imports.get(file);
  if (!list) {
    const text = readFileSync(file, 'utf8');
    const named = ts.preProcessFile(text, true, true).importedFiles.map((i) => i.fileName);
    // Workers are named as addresses, not imported.
    const workers = [...text.matchAll(/new URL\('(\.[^']+)', import\.meta\.url\)/g)].map((m) => m[1]);
    list = [...named, ...workers].map((name) => resolved(file, name)).filter((f) => f !== null);
    imports.set(file, list);
  }
  return list;
}

/** All that a file rests on, itself among it. */
function closure(roots) {
  const seen = new Set();
  const rest = roots.filter((file) => existsSync(file));
  while (rest.length) {
    const file = rest.pop();
    if (seen.has(file)) continue;
    seen.add(file);
    rest.push(...importsOf(file));
  }
  return seen;
}

const git = (...args) => execFileSync('git', args, { encoding: 'utf8' }).split('\n').filter(Boolean);
const [first, ...others] = process.argv.slice(2);
if (!first) {
  console.error('usage: node tools/affected.mjs COMMIT | --files FILE …');
  process.exit(2);
}
let changed;
try {
  changed = first === '--files' ? others : [...git('diff', '--name-only', first), ...git('ls-files', '--others', '--exclude-standard')];
} catch {
  console.error(`there is no commit ${first}`);
  process.exit(2);
}

const tests = ROOMS.filter((room) => existsSync(room))
  .flatMap(filesIn)
  .filter((file) => file.endsWith('.test.ts'));
const all = changed.some((file) => EVERYTHING.test(file));
const server = closure([SERVER, ...filesIn('server/src').filter((f) => /worker|thread/.test(f))]);
const page = closure([PAGE]);
/** The view that a file of the page belongs to; null for what all of them share. */
const viewOf = (file) => /^web\/src\/views\/([^/]+)\//.exec(file)?.[1] ?? null;

for (const test of tests) {
  const own = closure([test]);
  const drives = test.startsWith('e2e/') || test.startsWith('server/test/');
  const visits = test.startsWith('e2e/') ? VIEWS.filter((view) => readFileSync(test, 'utf8').toLowerCase().includes(view)) : [];
  const touched = changed.some(
    (file) =>
      own.has(file) ||
      (drives && (server.has(file) || /^server\/(migrations|rows)\//.test(file))) ||
      (test.startsWith('e2e/') && page.has(file) && (viewOf(file) === null || visits.includes(viewOf(file)))),
  );
  if (all || touched) console.log(test);
}
