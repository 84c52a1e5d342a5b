import type { Page } from 'playwright-core';
import type { LatLon } from '@restless-shoal/core/geo';

export interface Told {
  chance: number;
  words: string;
}

/** What the Forecast says of a position, read from the page. */
export async function whyHere(page: Page, position: LatLon): Promise<Told> {
  await page.getByLabel('Look at a position in the forecast').fill(`${position.latitude}, ${position.longitude}`);
  await page.getByRole('button', { name: 'Why here?' }).click();
  const chance = page.getByTestId('cell-chance');
  await chance.waitFor();
  await page.waitForTimeout(600);
  // A fit that arrives meanwhile clears the reasons for a moment.
  await page.getByTestId('cell').locator('li').first().waitFor();
  return { chance: Number(await chance.getAttribute('data-value')), words: (await page.getByTestId('cell').textContent()) ?? '' };
}
