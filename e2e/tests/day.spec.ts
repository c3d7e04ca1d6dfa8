import type { Page } from '@playwright/test';
import { dayIn, daysAfter } from '@clear-mark/core';
import { another, choose, enterDemo, expect, startPiece, testAlone as test, violations } from '../world.ts';

const ZONE = 'Europe/Lisbon';
const today = (): string => dayIn(ZONE, new Date());

async function toDay(page: Page, view = 'Plan', day: string | null = null): Promise<void> {
  await page.getByRole('link', { name: 'Day', exact: true }).click();
  await page.getByRole('tab', { name: view }).click();
  if (day) {
    await page.getByLabel('Day', { exact: true }).fill(day);
    await page.getByLabel('Day', { exact: true }).press('Enter');
  }
}
async function add(page: Page, method: string | RegExp): Promise<void> {
  await choose(page.getByLabel('Method', { exact: true }), method);
  await page.locator('[data-test=add-pieces]').click();
}
const plan = async (page: Page): Promise<void> => {
  await page.locator('[data-test=plan]').click();
  await expect(page.locator('[data-test=ends]')).toBeVisible();
  await expect(page.locator('[data-test=bound]')).toContainText('found in');
};
const saved = (page: Page) => expect(page.locator('[data-test=saved]')).toHaveText('saved');
const EPOXY = 'Heat-cured epoxy, crimped, cured and polished';

test('a day is planned, moved by hand, planned again when it comes differently, and printed', async ({
  page,
  own,
}) => {
  await enterDemo(page, own);
  await toDay(page, 'Plan', daysAfter(today(), 1));
  await add(page, EPOXY);
  await add(page, /Single fusion/);
  await expect(page.locator('[data-test=wanted]')).toContainText(EPOXY);
  await plan(page);
  const board = page.locator('[data-test=board]');
  await expect(board.locator('g.block.load').first()).toBeVisible();
  await expect(page.locator('[data-test=bound]')).toContainText('32 of 32 pieces planned');
  await expect(page.locator('[data-test=conflicts]')).toHaveCount(0);
  expect(await violations(page)).toEqual([]);
  await saved(page);

  // A block is dragged into others: it is locked there, and what it runs into is said.
  const block = board.locator('g.block.movable.work').nth(2);
  await block.scrollIntoViewIfNeeded();
  const box = (await block.boundingBox())!;
  await page.mouse.move(box.x + 3, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(box.x + 60, box.y + 8, { steps: 4 });
  await page.mouse.move(box.x + 110, box.y + 8, { steps: 4 });
  await page.mouse.up();
  await expect(page.locator('[data-test=conflicts]')).toContainText('In conflict');
  await expect(board.locator('g.block.locked').first()).toBeVisible();
  await page.locator('[data-test=undo-day]').click();
  await expect(page.locator('[data-test=conflicts]')).toHaveCount(0);
  // By keys as well.
  await block.focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowRight');
  await expect(page.locator('[data-test=conflicts]')).toContainText('In conflict');
  await page.locator('[data-test=fit]').click();
  await expect(page.locator('[data-test=conflicts]')).toHaveCount(0);
  await expect(page.locator('[data-test=moved]')).toContainText('elsewhere than before');
  await expect(board.locator('g.block.locked').first()).toBeVisible();
  await saved(page);

  // From ten on a scope is broken.
  await page.locator('[data-test=different]').click();
  const dialog = page.getByRole('dialog').filter({ visible: true });
  await choose(dialog.getByLabel('Who or what is away', { exact: true }), 'Scope A');
  await dialog.getByText('What was begun before then stays').click();
  await page.locator('[data-test=replan]').click();
  await expect(dialog).toHaveCount(0);
  await expect(page.locator('[data-test=conflicts]')).toHaveCount(0);
  await expect(board.getByText('Scope A')).toHaveCount(0);
  await saved(page);

  // It is there for whoever opens it next, as a file, and on paper without its tools.
  const ends = await page.locator('[data-test=ends]').textContent();
  const file = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Calendar file' }).click();
  let text = '';
  for await (const part of await (await file).createReadStream()) text += String(part);
  expect(text.match(/BEGIN:VEVENT/g)).toHaveLength(32);
  await page.reload();
  await expect(page.locator('[data-test=ends]')).toHaveText(ends!);
  await page.emulateMedia({ media: 'print' });
  await expect(board.locator('g.block').first()).toBeVisible();
  await expect(page.locator('[data-test=plan]')).toBeHidden();
});

test('a day is taken from the course, and planned again with who is behind', async ({ page, own }) => {
  await enterDemo(page, own);
  // Of another day: what was begun before the hour at which the test runs would stand fast.
  await toDay(page, 'Plan', daysAfter(today(), 3));
  await page.getByLabel('Pieces each').fill('2');
  await page.getByLabel('Pieces each').press('Tab');
  await page.locator('[data-test=from-course]').click();
  await expect(page.locator('[data-test=wanted]')).toContainText(EPOXY);
  await plan(page);
  await expect(page.locator('[data-test=board]')).toContainText(/Bench \d/);
  await saved(page);
  await page.locator('[data-test=different]').click();
  const dialog = page.getByRole('dialog').filter({ visible: true });
  await page.locator('[data-test=add-late]').click();
  const rows = page.locator('[data-test=late]');
  await choose(rows.last().getByLabel('Who is behind'), /Petra Lindqvale/);
  await page.locator('[data-test=replan]').click();
  await expect(dialog).toHaveCount(0);
  await expect(page.locator('[data-test=conflicts]')).toHaveCount(0);
});

test('what does not fit is said with what would help', async ({ page, own }) => {
  await enterDemo(page, own);
  await toDay(page, 'Plan', daysAfter(today(), 2));
  await add(page, EPOXY);
  await page.getByRole('button', { name: /^Oven 1/ }).click();
  await page.getByRole('button', { name: /^Oven 2/ }).click();
  await page.locator('[data-test=plan]').click();
  const left = page.locator('[data-test=left]');
  await expect(left).toContainText('no oven of this day takes connectors hanging');
  await left.locator('[data-test=what-would]').click();
  await expect(page.locator('[data-test=fits]')).toContainText('Everything fits with one more oven.');
  await page.getByRole('button', { name: /^Oven 1/ }).click();
  await plan(page);
  await expect(left).toHaveCount(0);
  // Thirty finishing films are left, each used once: the pieces after them are not planned.
  await add(page, EPOXY);
  await plan(page);
  await expect(left).toContainText('2 × Heat-cured epoxy');
  await expect(left).toContainText('not enough that is good of Finishing film: enter a new lot in Stock');
  await expect(page.locator('[data-test=bound]')).toContainText('30 of 32 pieces planned');
});

test('an oven is loaded on one device, counts down on another, and is emptied; trainees see their own day', async ({
  page,
  own,
  browser,
}) => {
  await enterDemo(page, own);
  await toDay(page, 'Plan', today());
  await add(page, EPOXY);
  await plan(page);
  await saved(page);
  const second = await another(browser, own, /As the lead/);
  await toDay(page, 'Now');
  expect(await violations(page)).toEqual([]);
  await page.locator('[data-test=loaded]').first().click();
  await expect(page.locator('[data-test=load]')).toHaveCount(1);
  const strip = second.getByRole('region', { name: 'Ovens' });
  await expect(strip).toContainText(/Oven \d 2[45]:\d\d/);
  await page.locator('[data-test=take-out]').click();
  await expect(strip).toHaveCount(0);
  const phone = await another(browser, own, /As a trainee/);
  await expect(phone.locator('[data-test=own-day]')).toContainText(/Oven \d/);
});

test('stock is counted by a piece as it begins, put right with a reason, and bought for a course', async ({
  page,
  own,
}) => {
  await enterDemo(page, own);
  await toDay(page, 'Stock');
  const row = page.getByRole('row', { name: /Connector with a wedge, W-118/ });
  await expect(row).toContainText('31 of');
  expect(await violations(page)).toEqual([]);
  await startPiece(page, 'Petra Lindqvale');
  await toDay(page, 'Stock');
  await expect(row).toContainText('30 of');
  await row.getByRole('button', { name: 'Change' }).click();
  const dialog = page.getByRole('dialog').filter({ visible: true });
  await dialog.getByLabel('Left, pieces').fill('12');
  await dialog.getByLabel('Why').fill('one box was lent');
  await dialog.getByRole('button', { name: 'Put right' }).click();
  await expect(dialog).toContainText('count put right to 12, one box was lent');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await expect(row).toContainText('12 of');
  // An item of our own, a lot of it, and what takes it.
  await page.locator('[data-test=new-item]').click();
  await dialog.getByLabel('What it is called').fill('Heat pad');
  await page.locator('[data-test=save-item]').click();
  await expect(dialog).toHaveCount(0);
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByRole('dialog', { name: 'Heat pad' })).toBeVisible();
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await page.getByRole('tab', { name: 'Course and shopping' }).click();
  const wedge = page.getByLabel(/^Good pieces each: Pre-polished LC, wedge/);
  await expect(wedge).toHaveValue('12');
  await wedge.fill('40');
  await wedge.press('Tab');
  const shopping = page.locator('[data-test=shopping]');
  await expect(shopping).toContainText('Connector with a wedge');
  await page
    .locator('[data-test=course]')
    .getByRole('row', { name: /Pre-polished LC, wedge/ })
    .getByRole('button', { name: 'Change' })
    .click();
  await choose(dialog.getByLabel('One more item'), 'Heat pad');
  await page.locator('[data-test=take-item]').click();
  await page.locator('[data-test=save-work]').click();
  await expect(dialog).toHaveCount(0);
  await expect(shopping).toContainText('Heat pad');
  expect(await violations(page)).toEqual([]);
  const file = page.waitForEvent('download');
  await page.locator('[data-test=shopping-csv]').click();
  expect((await file).suggestedFilename()).toBe('shopping-list.csv');
});
