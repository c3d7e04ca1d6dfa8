import { choose, enterDemo, expect, test, textOf } from '../world.ts';

test.beforeEach(async ({ page, demo }) => {
  await enterDemo(page, demo);
  await page.getByRole('link', { name: 'Insight' }).click();
  await expect(page.getByRole('heading', { name: 'Who needs what again' })).toBeVisible();
});

test('a rate leads to exactly the attempts that it counts', async ({ page }) => {
  const link = page.locator('[data-test=skill-rates] tr:has([data-skill=cleave]) a').first();
  const n = Number((await textOf(link, / of \d+/)).split(' of ')[1]);
  await link.click();
  await expect(page.locator('[data-test=total]')).toHaveText(new RegExp(`^${n} attempts`));
  const chips = page.locator('[data-test=chips]');
  await expect(chips).toContainText('Cleaving');
  await chips.getByRole('button', { name: 'Remove: with a verdict' }).click();
  await expect(page).not.toHaveURL(/verdict=/);
  await expect(page.locator('[data-test=total]')).not.toHaveText(new RegExp(`^${n} attempts`));
});

test('the loss sample has its limit, its table twin, and its outliers', async ({ page }) => {
  await page.getByRole('tab', { name: 'Loss', exact: true }).click();
  const sample = page.locator('.sample').first();
  await expect(sample.locator('svg').first()).toBeVisible();
  await expect(sample).toContainText('over the limit 0.75');
  await sample.getByText('More figures, and the bars as a table').click();
  const counts = await sample.locator('tbody tr td:last-child').allTextContents();
  const n = Number(await textOf(sample.locator('dd').first(), /^\d+$/));
  expect(counts.map(Number).reduce((a, b) => a + b)).toBe(n);
  const over = sample.locator('dl div', { hasText: 'over the limit' }).getByRole('link');
  const count = Number(await textOf(over, /^\d+$/));
  await over.click();
  await expect(page.locator('[data-test=total]')).toHaveText(new RegExp(`^${count} attempt`));
});

test('losses in order of time: chart, words, table twin, and from a point to its piece', async ({ page }) => {
  await page.getByRole('tab', { name: 'Loss', exact: true }).click();
  await page.getByRole('button', { name: 'Over time' }).click();
  await expect(page).toHaveURL(/loss=time/);
  const sample = page.locator('.sample').first();
  await expect(sample.getByRole('img', { name: /in order of time, 240 readings/ })).toBeVisible();
  await expect(sample.locator('[data-test=apart]')).toContainText('95 % of such work stays under');
  await expect(sample.locator('[data-test=apart]')).toContainText(/readings/);
  await sample.getByText(/stand out; all as a table/).click();
  const outside = sample.locator('tbody tr', { hasText: 'outside' }).first();
  const who = (await outside.locator('td').nth(1).textContent())!;
  expect(Number(await outside.locator('td').nth(2).textContent())).toBeGreaterThan(0.5);
  await outside.getByRole('link').click();
  await expect(page.getByRole('heading', { level: 1, name: who })).toBeVisible();
  await page.goBack();
  await page.getByRole('button', { name: 'Distribution' }).click();
  await expect(page.locator('.sample').first()).toContainText('More figures');
});

test('CSV of attempts and outcomes', async ({ page }) => {
  await page.getByRole('link', { name: 'Records' }).click();
  await page.getByRole('button', { name: 'Take out', exact: true }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Attempts as CSV' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('attempts.csv');
  const stream = await download.createReadStream();
  let text = '';
  for await (const part of stream) text += String(part);
  const total = Number((await textOf(page.locator('[data-test=total]'), /^\d+ attempt/)).split(' ')[0]);
  expect(text.trimEnd().split('\r\n')).toHaveLength(total + 1);
});

test('filters live in the address', async ({ page }) => {
  await page.getByRole('button', { name: 'Filter', exact: true }).click();
  await choose(page.getByLabel('Trainee'), 'Fausto Merrigan');
  await expect(page).toHaveURL(/trainee=/);
  await page.getByRole('tab', { name: 'Why it fails' }).click();
  await expect(page.locator('[data-failure=boot-on]')).toContainText('boot');
  await page.reload();
  await expect(page.getByText('Rates and samples are narrowed')).toBeVisible();
  await expect(page.locator('[data-failure=boot-on]')).toBeVisible();
  await page.getByRole('tab', { name: 'Who needs what' }).click();
  await expect(page.locator('[data-standing-of]')).toHaveCount(1);
  await page.getByRole('button', { name: 'Remove: Fausto Merrigan' }).click();
  await expect(page).not.toHaveURL(/trainee=/);
});

test('the policy says whom it would sign off and retrain while it is set', async ({ page }) => {
  await page.getByRole('link', { name: 'Class', exact: true }).click();
  await page.getByRole('tab', { name: 'Competence policy' }).click();
  const foretold = page.locator('[data-test=operating]');
  const bad = foretold.locator('tr:has([data-rate="0.3"]) td');
  await expect(bad.nth(1)).toHaveText('99 %');
  // Three in a row at 0.7: (0.7^-3 - 1) / 0.3 = 6.4.
  await expect(bad.nth(3)).toHaveText('6.4');
  await foretold.getByRole('button', { name: '10 pieces' }).click();
  await expect(bad.nth(1)).not.toHaveText('99 %');
  const wanted = page.getByLabel('Passes in a row that show competence');
  await wanted.fill('6');
  await expect(bad.nth(3)).toHaveText('25.0');
  await wanted.fill('60');
  await expect(foretold).toContainText('window is shorter');
  await wanted.fill('3');
  await page.getByLabel('Failure rate of a good trainee').fill('0,4');
  await expect(foretold).toContainText('nothing to tell apart');
  await page.getByLabel('Failure rate of a good trainee').fill('0,1');
  await expect(foretold.locator('[data-test=chart-limits]')).toContainText('signals at 2.20');
  await page.getByRole('button', { name: 'The chart of learning' }).click();
  // One who is not ready runs a hundred pieces or more to a false call.
  await expect.poll(async () => Number(await bad.nth(3).textContent())).toBeGreaterThanOrEqual(100);
});
