import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { choose, enterDemo, expect, test, textOf } from '../world.ts';

const total = (page: Page) => page.locator('[data-test=total]');
const count = async (page: Page): Promise<number> =>
  Number((await textOf(total(page), /^\d+ attempt/)).split(' ')[0]);
const names = (page: Page) => page.locator('[data-test=records] .open');

async function toRecords(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'Records' }).click();
  await expect(names(page).first()).toBeVisible();
}

test('the records are searched, sorted and filtered, all in the address', async ({ page, demo }) => {
  await enterDemo(page, demo);
  await toRecords(page);
  const all = await count(page);

  await page.getByLabel('Search trainee or piece').fill('soLV');
  await expect(page).toHaveURL(/search=soLV/);
  await expect(names(page).first()).toHaveText('Marit Solvane');
  const hers = await count(page);
  expect(hers).toBeLessThan(all);
  await page.reload();
  await expect(total(page)).toHaveText(`${hers} attempts`);

  await page.getByLabel('Search trainee or piece').fill('nobody of that name');
  await expect(page.getByText('Nothing fits these filters.')).toBeVisible();
  await page.getByRole('link', { name: 'Show all records' }).click();
  await expect(total(page)).toHaveText(`${all} attempts`);

  await page.getByRole('button', { name: 'More filters' }).click();
  await choose(page.getByLabel('Signed by'), 'Osric Bellamont');
  await expect.poll(() => count(page)).toBeLessThan(all);
  await choose(page.getByLabel('Signed by'), 'anybody');
  await expect(total(page)).toHaveText(`${all} attempts`);

  await page.getByText('Trainee', { exact: true }).last().click();
  await expect(page).toHaveURL(/sort=trainee/);
  await expect(names(page).first()).toHaveText('Anouk Derrey');
  await page.getByText('Trainee', { exact: true }).last().click();
  await expect(names(page).first()).toHaveText('Petra Lindqvale');
});

test('the list is scrolled to its end, and its last records are there', async ({ page, demo }) => {
  await enterDemo(page, demo);
  await toRecords(page);
  const body = page.locator('[data-test=records] .el-table-v2__body > div').first();
  await body.evaluate((el) => el.scrollTo(0, el.scrollHeight));
  await expect(names(page).last()).toBeVisible();
  await expect(page.locator('[data-test=records]').getByText('loading')).toHaveCount(0);
  // Only what is seen is there, however long the list.
  expect(await names(page).count()).toBeLessThan(60);
});

test('chosen records are saved as a file, and one opens beside the list', async ({ page, demo }) => {
  await enterDemo(page, demo);
  await toRecords(page);
  for (const nth of [0, 2]) await page.locator('[data-test=records] .box').nth(nth).click();
  await expect(page.getByText('2 chosen')).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save the chosen as CSV' }).click(),
  ]);
  const lines = readFileSync(await download.path(), 'utf8')
    .trimEnd()
    .split('\r\n');
  expect(lines).toHaveLength(3);
  expect(lines[0]).toMatch(/^Trainee,Piece,Method,Day,Started,Result,Stripping/);
  expect(lines[1]).toContain((await names(page).first().textContent())!);

  const name = (await names(page).nth(1).textContent())!;
  await names(page).nth(1).click();
  const beside = page.getByRole('dialog').filter({ hasText: name });
  await expect(beside).toContainText('Loss at');
  await beside.getByRole('link', { name: 'Open its sheet' }).click();
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
});

test('which columns are seen is kept on the device', async ({ page, demo }) => {
  await enterDemo(page, demo);
  await toRecords(page);
  const head = page.locator('[data-test=records] .el-table-v2__header');
  await expect(head).not.toContainText('Cleaving');
  await page.getByRole('button', { name: 'Columns' }).click();
  const columns = page.getByRole('list', { name: 'Columns of the list' });
  await columns.getByText('Cleaving').click();
  await columns.getByText('Method').click();
  await expect(head).toContainText('Cleaving');
  const keys = (): Promise<(string | null)[]> =>
    columns.locator('li').evaluateAll((all) => all.map((li) => li.getAttribute('data-key')));
  expect((await keys()).slice(0, 3)).toEqual(['started', 'loss', 'cleave']);
  await columns.getByRole('button', { name: 'Cleaving earlier' }).click();
  expect((await keys()).slice(0, 3)).toEqual(['started', 'cleave', 'loss']);
  // By its handle, over the first line.
  await columns.locator('[data-key=loss] .handle').dragTo(columns.locator('[data-key=started] .handle'));
  await expect.poll(async () => (await keys())[0]).toBe('loss');
  await page.reload();
  await expect(head).toContainText('Cleaving');
  await expect(head).not.toContainText('Method');
  await expect(head).toContainText(/Loss.*Started.*Cleaving/s);
});

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });
  test('a trainee sees how each skill stands and what is missing, and nothing is cut off', async ({
    page,
    demo,
  }) => {
    await enterDemo(page, demo, /As a trainee/);
    const skills = page.locator('[data-test=own-skills] li');
    await expect(skills.first()).toBeVisible();
    expect(await skills.count()).toBeGreaterThan(4);
    await expect(page.locator('[data-test=own-skills]')).toContainText('passed');
    const wide = await page.evaluate(() =>
      [...document.querySelectorAll('main *')]
        .filter((el) => el.getBoundingClientRect().right > window.innerWidth + 1)
        .map((el) => el.className),
    );
    expect(wide).toEqual([]);
    await page.locator('.piece').first().tap();
    await expect(page.locator('.outcome')).toBeVisible();
  });
});
