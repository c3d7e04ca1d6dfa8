import { enterDemo, expect, row, startPiece, testAlone as test, testWithWorker } from '../world.ts';

test('entries made while the server is away arrive once, in order, after it is back', async ({
  page,
  own,
}) => {
  await enterDemo(page, own);
  const attempt = await startPiece(page, 'Anouk Derrey');
  await row(page, 'glasses').locator('.main').click();
  await expect(page.locator('[data-test=queue-state]')).toHaveText(/All saved/);
  await own.stop();
  const names = ['shards-ready', 'kit', 'boot-on', 'jacket-edge'];
  for (const name of names) await row(page, name).locator('.main').click();
  for (const name of names) await expect(row(page, name)).toHaveAttribute('data-verdict', 'pass');
  await expect(page.locator('[data-test=queue-state]')).toHaveText(/4 kept here, no server/);
  await page.locator('[data-test=queue-state]').click();
  await expect(page.getByRole('dialog')).toContainText('shards ready');
  await page.keyboard.press('Escape');
  await own.start();
  await expect(page.locator('[data-test=queue-state]')).toHaveText(/All saved/);
  const stored = await own.db('entries').where({ attempt_id: attempt }).orderBy('seq');
  expect(stored.map((e: { criterion_id: string }) => e.criterion_id.split('/').pop())).toEqual([
    'glasses',
    ...names,
  ]);
});

testWithWorker('entries survive a reload that comes before the server is back', async ({ page, own }) => {
  await enterDemo(page, own);
  const attempt = await startPiece(page, 'Cora Whitlace');
  await expect(row(page, 'kit')).toBeVisible();
  // The page can be loaded, but entries are not taken.
  await page.route('**/api/entries', (route) => route.abort());
  await row(page, 'kit').locator('.main').click();
  await row(page, 'jacket-edge').getByRole('button', { name: /Fail/ }).click();
  await expect(page.locator('[data-test=queue-state]')).toHaveText(/2 kept here/);
  await page.reload();
  await expect(row(page, 'kit')).toHaveAttribute('data-verdict', 'pass');
  await expect(row(page, 'jacket-edge')).toHaveAttribute('data-verdict', 'fail');
  await expect(page.locator('[data-test=queue-state]')).toHaveText(/2 kept here/);
  await page.unroute('**/api/entries');
  await expect(page.locator('[data-test=queue-state]')).toHaveText(/All saved/);
  expect(await own.db('entries').where({ attempt_id: attempt })).toHaveLength(2);
});

test('a server restarted while an instructor scores loses nothing that it acknowledged', async ({
  page,
  own,
}) => {
  await enterDemo(page, own);
  const attempt = await startPiece(page, 'Elif Sandover');
  const names = [
    'glasses',
    'shards-ready',
    'kit',
    'boot-on',
    'jacket-edge',
    'no-nick',
    'coating-gone',
    'bend-holds',
  ];
  for (const [i, name] of names.entries()) {
    await row(page, name).locator('.main').click();
    if (i === 3) {
      await own.stop();
      await own.start();
    }
  }
  await expect(page.locator('[data-test=queue-state]')).toHaveText(/All saved/);
  const stored = await own.db('entries').where({ attempt_id: attempt }).orderBy('seq');
  expect(stored.map((e: { criterion_id: string }) => e.criterion_id.split('/').pop())).toEqual(names);
});

test('an attempt signed elsewhere meanwhile: the entry is kept beside, and the person is told', async ({
  page,
  own,
  browser,
}) => {
  await enterDemo(page, own);
  const attempt = await startPiece(page, 'Idris Vanmeer');
  await row(page, 'glasses').locator('.main').click();
  await expect(page.locator('[data-test=queue-state]')).toHaveText(/All saved/);
  const second = await (await browser.newContext()).newPage();
  await enterDemo(second, own);
  await second.goto(page.url());
  // Out of reach before the other signs: a page that has heard of it takes no more taps.
  await page.context().setOffline(true);
  await expect(page.locator('[data-test=queue-state]')).toHaveText(/No network/);
  await second.getByRole('button', { name: 'Sign', exact: true }).click();
  await second.locator('[data-test=sign-reason]').first().fill('Bench needed');
  await second.locator('[data-test=sign-now]').click();
  await expect(second.getByText('Signed incomplete')).toBeVisible();
  await row(page, 'kit').locator('.main').click();
  await expect(page.locator('[data-test=queue-state]')).toHaveText(/1 kept here/);
  await page.context().setOffline(false);
  await expect(page.locator('[data-test=queue-state]')).toHaveText(/1 not taken/);
  await page.locator('[data-test=queue-state]').click();
  await expect(page.getByRole('dialog')).toContainText('kept beside it for an amendment');
  expect(await own.db('unmerged_entries').where({ attempt_id: attempt })).toHaveLength(1);
  await second.context().close();
});
