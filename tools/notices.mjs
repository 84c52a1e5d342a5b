import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

// Writes THIRD-PARTY-NOTICES.md: the packages that the application ships or runs with, their licences and the words that
// these want repeated. With --check it only compares.

const root = join(import.meta.dirname, '..');
const lock = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8'));
/** What the pages are built with and hold parts of. */
const INSIDE = /^node_modules\/(workbox-[a-z-]+|daisyui|tailwindcss)$/;
const packages = Object.entries(lock.packages)
  .filter(([path, p]) => path.startsWith('node_modules/') && !p.link && !p.optional && ((!p.dev && !p.devOptional) || INSIDE.test(path)))
  .filter(([path]) => existsSync(join(root, path, 'package.json')))
  .map(([path, { version }]) => {
    const own = JSON.parse(readFileSync(join(root, path, 'package.json'), 'utf8'));
    const file = readdirSync(join(root, path)).find((name) => /^(licen[cs]e|copying)/i.test(name));
    const text = file
      ? readFileSync(join(root, path, file), 'utf8')
          .replaceAll('\r', '')
          .trim()
      : '';
    const licence =
      typeof own.license === 'string' ? own.license : (own.license?.type ?? own.licenses?.map((l) => l.type).join(' or ') ?? '');
    return { name: `${own.name} ${version}`, licence, text };
  })
  .sort((a, b) => (a.name < b.name ? -1 : 1));

// One text for all that share it.
const texts = new Map();
for (const { name, text } of packages) if (text) texts.set(text, [...(texts.get(text) ?? []), name]);
const lines = [
  '# Third-party notices',
  '',
  `Restless Shoal ships or runs with ${packages.length} packages of others. Made by \`node tools/notices.mjs\`.`,
  '',
  ...packages.map(({ name, licence }) => `- ${name}: ${licence || 'see its text'}`),
  '',
  ...[...texts].flatMap(([text, names]) => [`## ${names.join(', ')}`, '', '```text', text.replaceAll('```', "'''"), '```', '']),
];
const notices = `${lines.join('\n').trimEnd()}\n`;
const path = join(root, 'THIRD-PARTY-NOTICES.md');
if (!process.argv.includes('--check')) writeFileSync(path, notices);
else if (!existsSync(path) || readFileSync(path, 'utf8') !== notices) {
  console.error('THIRD-PARTY-NOTICES.md is not what is installed: run node tools/notices.mjs');
  process.exit(1);
}
