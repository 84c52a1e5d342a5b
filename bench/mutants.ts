import { execFileSync, spawn } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';
import { seeded, wilson } from '@restless-shoal/core/numbers';
import { benchFolder, finish, held } from './support';

// How many small faults the tests notice: in so many places of the code one operator, number or truth is put for another,
// and the tests of its room are run. Of the core those are the tests in the mirror folder and the one that compares all that
// the views say of the demo, of the server its own.

const COUNT = Number(process.argv[2] ?? 400);
const ONLY = process.argv[3] ?? '';
const SEED = 20;
const root = join(dirname(fileURLToPath(import.meta.url)), '../..');
const PATIENCE_MS = 240_000;

const WHOLE = 'demo/test/unchanged.test.ts';
/** Rooms with the tests that answer for them. */
const ROOMS: [source: string, tests: string[]][] = [
  ['core/src/forecast', ['core/test/forecast', WHOLE]],
  ['core/src/logbook', ['core/test/logbook', 'core/test/formats', WHOLE]],
  ['core/src/lake', ['core/test/lake', WHOLE]],
  ['core/src/sonar', ['core/test/sonar', WHOLE]],
  ['server/src', ['server/test/api.test.ts', 'server/test/charts-api.test.ts', 'server/test/bags-and-trash.test.ts', 'server/test/contract.test.ts', 'server/test/water-files.test.ts', 'server/test/zip.test.ts', 'server/test/parts.test.ts', 'server/test/feed.test.ts', 'server/test/backup.test.ts', 'server/test/derivations.test.ts', 'server/test/listen.test.ts', 'server/test/command-line.test.ts']], // prettier-ignore
];

interface Mutant {
  file: string;
  line: number;
  from: number;
  to: number;
  was: string;
  is: string;
  tests: string[];
}

const OTHER: Partial<Record<ts.SyntaxKind, string>> = {
  [ts.SyntaxKind.PlusToken]: '-',
  [ts.SyntaxKind.MinusToken]: '+',
  [ts.SyntaxKind.AsteriskToken]: '/',
  [ts.SyntaxKind.SlashToken]: '*',
  [ts.SyntaxKind.LessThanToken]: '<=',
  [ts.SyntaxKind.LessThanEqualsToken]: '<',
  [ts.SyntaxKind.GreaterThanToken]: '<',
  [ts.SyntaxKind.GreaterThanEqualsToken]: '>',
  [ts.SyntaxKind.EqualsEqualsEqualsToken]: '!==',
  [ts.SyntaxKind.ExclamationEqualsEqualsToken]: '===',
  [ts.SyntaxKind.AmpersandAmpersandToken]: '||',
  [ts.SyntaxKind.BarBarToken]: '&&',
  [ts.SyntaxKind.PlusEqualsToken]: '-=',
};

/** Every place of a file where one thing can be put for another. */
function placesIn(file: string, tests: string[]): Mutant[] {
  const text = readFileSync(join(root, file), 'utf8');
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const found: Mutant[] = [];
  const add = (node: ts.Node, is: string): void => {
    const [from, to] = [node.getStart(source), node.getEnd()];
    found.push({ file, line: source.getLineAndCharacterOfPosition(from).line + 1, from, to, was: text.slice(from, to), is, tests });
  };
  const visit = (node: ts.Node): void => {
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node) || ts.isInterfaceDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const other = OTHER[node.operatorToken.kind];
      const joins = node.operatorToken.kind === ts.SyntaxKind.PlusToken && [node.left, node.right].some((s) => ts.isStringLiteralLike(s));
      if (other && !joins) add(node.operatorToken, other);
    } else if (ts.isNumericLiteral(node)) add(node, node.text === '0' ? '1' : `(${node.text} * 1.5)`);
    else if (node.kind === ts.SyntaxKind.TrueKeyword) add(node, 'false');
    else if (node.kind === ts.SyntaxKind.FalseKeyword) add(node, 'true');
    else if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken) add(node, node.operand.getText(source));
    else if (ts.isConditionalExpression(node)) add(node.condition, `!(${node.condition.getText(source)})`);
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

const filesIn = (folder: string): string[] =>
  readdirSync(join(root, folder), { withFileTypes: true }).flatMap((f) =>
    f.isDirectory() ? filesIn(join(folder, f.name)) : f.name.endsWith('.ts') ? [join(folder, f.name)] : [],
  );

const random = seeded(SEED);
const places = ROOMS.filter(([room]) => room.includes(ONLY)).flatMap(([room, tests]) =>
  filesIn(room).flatMap((file) => placesIn(file, tests)),
);
// A line counts once, whatever stands in it.
const lines = new Map<string, Mutant[]>();
for (const m of places) lines.set(`${m.file}:${m.line}`, [...(lines.get(`${m.file}:${m.line}`) ?? []), m]);
const keys = [...lines.keys()];
const chosen: Mutant[] = [];
while (chosen.length < COUNT && keys.length) {
  const [key] = keys.splice(Math.floor(random() * keys.length), 1);
  const here = lines.get(key)!;
  chosen.push(here[Math.floor(random() * here.length)]);
}

const folder = benchFolder();
/** A copy of the work, with the packages of this one. */
function copyOfWork(n: number): string {
  const copy = join(folder.path, `${n}`);
  mkdirSync(copy);
  execFileSync('sh', ['-c', `git -C "${root}" archive HEAD | tar x -C "${copy}"`]);
  for (const at of ['core', 'server', 'web', 'demo', 'e2e']) {
    const packages = join(root, at, 'node_modules');
    if (existsSync(packages)) symlinkSync(packages, join(copy, at, 'node_modules'));
  }
  // What is imported by name is that of the copy.
  const packages = join(copy, 'node_modules');
  mkdirSync(join(packages, '@restless-shoal'), { recursive: true });
  for (const name of readdirSync(join(root, 'node_modules')))
    if (name !== '@restless-shoal') symlinkSync(join(root, 'node_modules', name), join(packages, name));
  for (const name of readdirSync(join(root, 'node_modules/@restless-shoal')))
    symlinkSync(join(copy, name), join(packages, '@restless-shoal', name));
  return copy;
}

function run(copy: string, program: string, args: string[]): Promise<boolean> {
  return new Promise((done) => {
    const child = spawn(program, args, { cwd: copy, stdio: 'ignore', detached: true });
    const late = setTimeout(() => process.kill(-child.pid!, 'SIGKILL'), PATIENCE_MS);
    child.on('close', (code) => {
      clearTimeout(late);
      done(code === 0);
    });
  });
}

let killed = 0;
let done = 0;
const survivors: string[] = [];
const testsIn = (copy: string, tests: string[]): string[] =>
  tests.flatMap((t) =>
    t.endsWith('.ts')
      ? [t]
      : readdirSync(join(copy, t))
          .filter((f) => f.endsWith('.test.ts'))
          .map((f) => join(t, f)),
  );
/** What is quick and near first; what compares the whole only where that noticed nothing. */
const passes = async (copy: string, tests: string[]): Promise<boolean> => {
  for (const t of [tests.filter((f) => !f.startsWith('demo/')), tests.filter((f) => f.startsWith('demo/'))])
    if (t.length && !(await passesAll(copy, t))) return false;
  return true;
};
const passesAll = (copy: string, tests: string[]): Promise<boolean> =>
  run(copy, 'npx', ['--no-install', 'mocha', '--bail', '--timeout', '120000', ...testsIn(copy, tests)]);

async function work(n: number): Promise<void> {
  const copy = copyOfWork(n);
  // Tests that fail on the code as it is would notice everything.
  if (!(await run(join(copy, 'server'), 'node', ['build.mjs']))) throw new Error('the copy of the work does not build');
  if (n === 0)
    for (const tests of new Set(chosen.map((m) => m.tests)))
      if (!(await passes(copy, tests))) throw new Error(`fails as it is: ${tests.join(' ')}`);
  for (let m = chosen.pop(); m; m = chosen.pop()) {
    const path = join(copy, m.file);
    const text = readFileSync(path, 'utf8');
    writeFileSync(path, text.slice(0, m.from) + m.is + text.slice(m.to));
    const builds = !m.file.startsWith('server/') || (await run(join(copy, 'server'), 'node', ['build.mjs']));
    const passed = builds && (await passes(copy, m.tests));
    writeFileSync(path, text);
    done++;
    if (passed) survivors.push(`${m.file}:${m.line}: ${m.was} → ${m.is}`);
    else killed++;
    if (done % 10 === 0) console.log(`${done} of ${COUNT}: ${killed} noticed`);
  }
}
await Promise.all(Array.from({ length: Math.max(1, Math.min(2, availableParallelism())) }, (_, n) => work(n)));
folder.remove();
for (const line of survivors.sort()) console.log(`not noticed  ${line}`);
const [low, high] = wilson(killed, done, 1.645);
console.log(`${killed} of ${done} noticed, 90 % interval ${low.toFixed(3)} to ${high.toFixed(3)}`);
finish([held('share of faults that the tests notice', killed / done, '>=', 0.85)]);
