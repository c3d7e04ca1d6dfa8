import type { Page, Route } from '@playwright/test';
import {
  signOut,
  enterDemo,
  expect,
  row,
  saved,
  startPiece,
  testAlone as test,
  testWithWorker,
} from '../world.ts';

const state = (page: Page) => page.locator('[data-test=queue-state]');

/** Everything that lies on the device, as text: what somebody else could read there. */
const onTheDevice = (page: Page): Promise<string> =>
  page.evaluate(async () => {
    const open = await new Promise<IDBDatabase>((resolve, reject) => {
      const request = indexedDB.open('clear-mark');
      request.onsuccess = () => resolve(request.result);
      request.onerror = () => reject(request.error ?? new Error('closed'));
    });
    const found: Record<string, unknown[]> = {};
    for (const name of open.objectStoreNames) {
      found[name] = await new Promise((resolve, reject) => {
        const request = open.transaction(name).objectStore(name).getAll();
        request.onsuccess = () => resolve(request.result as unknown[]);
        request.onerror = () => reject(request.error ?? new Error(name));
      });
    }
    open.close();
    return JSON.stringify(found);
  });

test('after signing out the device holds nothing readable, and what was unsent goes out with the same person', async ({
  page,
  own,
}) => {
  await enterDemo(page, own);
  const attempt = await startPiece(page, 'Anouk Derrey');
  await saved(page);
  await page.route('**/api/entries', (route) => route.abort());
  await row(page, 'glasses').locator('.main').click();
  await expect(state(page)).toContainText('kept here');
  expect(await onTheDevice(page)).toContain('Anouk Derrey');
  await signOut(page);
  await expect(page.getByRole('button', { name: /demo’s instructor/ })).toBeVisible();
  const left = await onTheDevice(page);
  for (const word of ['Anouk', 'glasses', attempt, 'Harbour'])
    expect([word, left.includes(word)]).toEqual([word, false]);
  await page.unroute('**/api/entries');
  // Another person opens nothing of it.
  await page.getByRole('button', { name: /As the lead/ }).click();
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await page.waitForTimeout(500);
  expect(await own.db('entries').where({ attempt_id: attempt })).toHaveLength(0);
  await signOut(page);
  await page.getByRole('button', { name: /demo’s instructor/ }).click();
  await expect
    .poll(() => own.db('entries').where({ attempt_id: attempt }).pluck('criterion_id'))
    .toEqual([expect.stringContaining('glasses')]);
  await saved(page);
});

test('an entry that the server breaks on rests by itself; what is entered elsewhere goes out meanwhile', async ({
  page,
  own,
}) => {
  await enterDemo(page, own);
  const bad = await startPiece(page, 'Cora Whitlace');
  await saved(page);
  const breaks = async (route: Route): Promise<void> => {
    const { entries } = route.request().postDataJSON() as { entries: { attemptId: string }[] };
    if (!entries.some((e) => e.attemptId === bad)) return route.continue();
    const problem = { code: 'server.failed', status: 500, detail: 'Something went wrong on the server.' };
    await route.fulfill({
      status: 500,
      contentType: 'application/problem+json',
      body: JSON.stringify(problem),
    });
  };
  await page.route('**/api/entries', breaks);
  await row(page, 'glasses').locator('.main').click();
  const good = await startPiece(page, 'Elif Sandover');
  await row(page, 'glasses').locator('.main').click();
  await expect.poll(() => own.db('entries').where({ attempt_id: good }).pluck('seq')).toEqual([1]);
  expect(await own.db('entries').where({ attempt_id: bad })).toEqual([]);
  await state(page).click();
  await expect(page.getByRole('dialog')).toContainText('Something went wrong on the server');
  await page.keyboard.press('Escape');
  await page.unroute('**/api/entries', breaks);
  await expect.poll(() => own.db('entries').where({ attempt_id: bad }).pluck('seq')).toEqual([1]);
});

test('a note that was refused is put right on the device and sent again', async ({ page, own }) => {
  await enterDemo(page, own);
  const attempt = await startPiece(page, 'Greet Vanhollen');
  await saved(page);
  const refuse = async (route: Route): Promise<void> => {
    const { entries } = route.request().postDataJSON() as { entries: { id: string }[] };
    const receipts = entries.map(({ id }) => ({
      id,
      state: 'refused',
      code: 'request.bad_field',
      detail: 'note: no text. Nothing was changed.',
    }));
    await route.fulfill({ json: { receipts } });
  };
  await page.route('**/api/entries', refuse);
  await page.getByRole('button', { name: 'Note', exact: true }).click();
  await page.getByRole('dialog').locator('textarea, input').first().fill('hands shake a little');
  await page.getByRole('dialog').getByRole('button', { name: /note/i }).first().click();
  await expect(state(page)).toHaveText('1 not taken');
  await page.unroute('**/api/entries', refuse);
  await state(page).click();
  await page.getByRole('button', { name: 'Put right' }).click();
  await page.locator('[data-test=mend]').fill('hands shake');
  await page.getByRole('button', { name: 'Send it again' }).click();
  await page.keyboard.press('Escape');
  await saved(page);
  const notes = await own
    .db('entry_notes as n')
    .join('entries as e', 'e.id', 'n.entry_id')
    .where({ attempt_id: attempt });
  expect(notes.map((n: { text: string }) => n.text)).toEqual(['hands shake']);
});

testWithWorker(
  'a sheet that was just opened is there after a reload without the network',
  async ({ page, own }) => {
    await enterDemo(page, own);
    await page.waitForFunction(
      async () => (await navigator.serviceWorker.ready).active?.state === 'activated',
    );
    await startPiece(page, 'Marit Solvane');
    await expect(row(page, 'glasses')).toBeVisible();
    await page.context().setOffline(true);
    await page.reload();
    await expect(page.getByRole('heading', { level: 1, name: 'Marit Solvane' })).toBeVisible({
      timeout: 15_000,
    });
    await expect(row(page, 'glasses')).toBeVisible();
    await page.context().setOffline(false);
  },
);

test('the lead checks the records, sees that they fit, and is told where one does not', async ({
  page,
  own,
}) => {
  await enterDemo(page, own, /As the lead/);
  await page.getByRole('link', { name: 'Class', exact: true }).click();
  await page.getByRole('link', { name: /Safekeeping/ }).click();
  await page.locator('[data-test=check-now]').click();
  const records = page.locator('[data-mark]').filter({ hasText: 'Records' });
  await expect(records).toHaveAttribute('data-mark', 'good');
  await expect(records).toContainText('signed records fit their chains');
  await own.db.raw(
    `update outcome_skills set mark = 'V' where ctid in (select ctid from outcome_skills where skill = 'cleave' limit 1)`,
  );
  await page.locator('[data-test=check-now]').click();
  await expect(records).toHaveAttribute('data-mark', 'bad');
  await expect(page.locator('[data-test=findings]').getByRole('link').first()).toContainText(
    'rebuild-outcomes',
  );
});
