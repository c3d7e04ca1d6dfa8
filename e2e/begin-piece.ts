import type { Page } from '@playwright/test';
import { choose } from './world.ts';

/** A new piece by a method, on its sheet. */
export async function begin(page: Page, method: RegExp): Promise<void> {
  await page.getByRole('link', { name: 'Today' }).click();
  await page.locator('[data-trainee="Idris Vanmeer"] button').click();
  await choose(page.getByLabel('Method', { exact: true }), method);
  await page.getByRole('button', { name: 'Start the piece' }).click();
  await page.waitForURL(/\/sheet\//);
}
