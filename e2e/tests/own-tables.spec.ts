import type { Page } from '@playwright/test';
import { readPdf } from '../../tools/pdf-for-tests.ts';
import { choose, enterDemo, expect, saved, testAlone as test, violations } from '../world.ts';

const downloaded = async (page: Page, press: () => Promise<void>): Promise<Buffer> => {
  const [file] = await Promise.all([page.waitForEvent('download'), press()]);
  const chunks: Buffer[] = [];
  for await (const chunk of await file.createReadStream()) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks);
};

test('a school’s own loss table sets a link’s limit; its drill and its policy are kept in versions', async ({
  page,
  own,
  problems,
}) => {
  await enterDemo(page, own, /As the lead/);
  await page.getByRole('link', { name: 'Class', exact: true }).click();
  await page.getByRole('tab', { name: 'Methods' }).click();
  const tables = page.locator('[data-test=school-tables]');
  await tables.getByRole('button', { name: 'New single-mode loss table' }).click();
  const dialog = page.locator('[data-test=table-dialog]');
  await dialog.getByLabel('Name', { exact: true }).fill('Campus links');
  await dialog.getByLabel('A connection may lose, dB').fill('0.5');
  await dialog.getByLabel('A connection may lose, dB').press('Tab');
  await expect(dialog.getByRole('textbox', { name: 'Source: A connection may lose' })).toHaveValue(
    'set by the school',
  );
  expect(await violations(page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(tables.getByRole('row', { name: /Campus links/ })).toContainText('connection 0.5 dB');

  await tables.getByRole('button', { name: 'New drill' }).click();
  await dialog.getByLabel('Name', { exact: true }).fill('Cleaves by pairs');
  await dialog.getByLabel('How it is done').fill('Ten cleaves each; each measures the other’s.');
  await choose(dialog.getByLabel('Skill', { exact: true }), 'Cleaving');
  await dialog.getByRole('button', { name: 'Save', exact: true }).click();
  await tables.getByRole('button', { name: 'Cleaves by pairs', exact: true }).click();
  await dialog.getByLabel('Minutes a piece').fill('6');
  await dialog.getByLabel('Minutes a piece').press('Tab');
  await dialog.getByRole('button', { name: 'Save as version 2' }).click();
  await expect(tables.getByRole('row', { name: /Cleaves by pairs/ })).toContainText('6 min a piece');

  await page.getByRole('link', { name: 'Links' }).click();
  await page.getByRole('button', { name: 'Riser with two pigtails' }).click();
  await choose(page.getByLabel('Allowances'), 'Campus links, version 1');
  // Two connections at 0.5 dB.
  await expect(page.locator('[data-test=limits]')).toContainText('2 → 1.00');
  await expect(page.getByText('house: set by the school', { exact: false })).toBeVisible();
  expect(problems).toEqual([]);
});

test('a skill of one’s own: named in the editor, scored on a sheet', async ({ page, own, problems }) => {
  await enterDemo(page, own, /As the lead/);
  await page.getByRole('link', { name: 'Class', exact: true }).click();
  await page.getByRole('tab', { name: 'Methods' }).click();
  await page.getByRole('button', { name: 'Begin an empty method' }).click();
  await page.locator('[data-test=method-title]').fill('Dome closure');
  await page.locator('[data-test=method-summary]').fill('Closing a dome on a loop of cable.');
  await page.locator('.pick.name').first().click();
  await page.getByLabel('How it is done').fill('Seal the ports, then close the dome.');
  const skill = page.getByRole('combobox', { name: 'Skill' });
  await skill.click();
  await skill.fill('Closure work');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /^Add a criterion to/ }).click();
  await page.getByRole('menuitem', { name: 'Check' }).click();
  await page.locator('[data-test=criterion-label]').fill('Seal holds');
  await page
    .getByRole('textbox', { name: /^Source/ })
    .first()
    .fill('our closure course');
  await expect(page.getByText('Nothing is missing: it can be published.')).toBeVisible();
  await expect(page.locator('[data-test=save-state]')).toHaveText('Saved');
  await page.getByRole('button', { name: 'Publish' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Publish' }).click();
  await expect(page.getByText(/version 1, in force/)).toBeVisible();

  const wall = await downloaded(page, async () => {
    await page.getByRole('button', { name: 'Put on paper' }).click();
    await page.getByText('Wall sheet').click();
    await page.getByRole('button', { name: 'Save as PDF' }).click();
  });
  expect(readPdf(wall)).toHaveLength(1);

  await page.getByRole('link', { name: 'Today' }).click();
  await page.locator('.tile:not(.working) button.main').first().click();
  await choose(page.getByLabel('Method', { exact: true }), 'Dome closure');
  await page.getByRole('button', { name: 'Start the piece' }).click();
  await page.waitForURL(/\/sheet\//);
  await page.locator('[data-criterion^=check] button', { hasText: 'Fail' }).click();
  await saved(page);
  await expect(page.locator('main')).toContainText('Closure work');
  expect(problems).toEqual([]);
});

test('a zone card is saved at its true size', async ({ page, own }) => {
  await enterDemo(page, own);
  await page.getByRole('link', { name: 'Faces' }).click();
  await page.getByRole('tab', { name: /criteria|tables/i }).click();
  await page.getByRole('button', { name: 'Put on paper' }).click();
  const card = await downloaded(page, () => page.getByRole('button', { name: 'Save as PDF' }).click());
  const [shown] = readPdf(card);
  // The outermost zone is 250 um, drawn 400 times as large.
  expect(Math.max(...shown!.circles.map(([, , d]) => d))).toBeCloseTo(100, 1);
});
