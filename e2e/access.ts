import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { expect } from 'chai';
import type { Page } from 'playwright-core';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** What an accessibility checker finds at WCAG A and AA. */
export async function violations(page: Page): Promise<string[]> {
  await page.evaluate(axe);
  const { held, broken } = (await page.evaluate(
    `axe.run({ runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'] }).then(r => ({ held: r.passes.length, broken: r.violations.map(v => v.id + ': ' + v.nodes.slice(0, 3).map(n => n.html.slice(0, 140)).join(' | ')) }))`,
  )) as { held: number; broken: string[] };
  expect(held, 'rules that had something to check').to.be.above(10);
  return broken;
}
