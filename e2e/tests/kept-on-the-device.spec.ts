import { criteriaOfSheet, goodValue, nameOf } from '../../packages/methods/src/piece-for-tests.ts';
import { SHIPPED_METHODS } from '@clear-mark/methods';
import type { Page, Request } from '@playwright/test';
import { Api } from '../api.ts';
import { choose, enterDemo, expect, row, saved, testAlone as test, testWithWorker } from '../world.ts';

test('the session ends while scoring: the entry waits, and goes out when another instructor signs in here', async ({
  page,
  own,
}) => {
  await enterDemo(page, own);
  const api = new Api(page, own);
  const address = await api.start(await api.classDetail(), 'bench-cleave', 6);
  await page.goto(address);
  await expect(row(page, 'glasses')).toBeVisible();
  await own.db('session').del();
  await row(page, 'glasses').locator('.main').click();
  const state = page.locator('[data-test=queue-state]');
  await expect(state).toHaveText('1 waiting, sign in');
  await expect(row(page, 'glasses')).toHaveAttribute('data-verdict', 'pass');
  await state.click();
  await page.getByRole('button', { name: 'Sign in to send' }).click();
  await page.getByRole('button', { name: /As the lead/ }).click();
  await saved(page);
  const [entry] = await own.db('entries').where({ attempt_id: address.split('/').pop()! });
  const people = await own
    .db('people')
    .whereIn('id', [entry.author_id, entry.delivered_by])
    .select('id', 'role');
  const roleOf = (id: string) => people.find((p: { id: string }) => p.id === id).role;
  expect([roleOf(entry.author_id), roleOf(entry.delivered_by)]).toEqual(['instructor', 'lead']);
});

test('a device without room keeps what is entered in the page, says so, and can hand it out as a file', async ({
  page,
  own,
}) => {
  await enterDemo(page, own);
  const api = new Api(page, own);
  const sheet = await api.start(await api.classDetail(), 'bench-cleave', 7);
  await page.goto(sheet);
  await expect(row(page, 'glasses')).toBeVisible();
  await page.evaluate(() => {
    IDBObjectStore.prototype.add = () => {
      throw new DOMException('no room', 'QuotaExceededError');
    };
  });
  await page.route('**/api/entries', (route) => route.abort());
  await row(page, 'glasses').locator('.main').click();
  const state = page.locator('[data-test=queue-state]');
  await expect(state).toHaveText('Device storage is full');
  await state.click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as a file' }).click();
  expect((await download).suggestedFilename()).toBe('clear-mark-entries.json');
  await page.keyboard.press('Escape');
  await page.unroute('**/api/entries');
  await expect
    .poll(() =>
      own
        .db('entries')
        .where({ attempt_id: sheet.split('/').pop() })
        .pluck('id'),
    )
    .toHaveLength(1);
});

test('a sheet that the device keeps is worked on by key while the server has not answered yet', async ({
  page,
  own,
}) => {
  await enterDemo(page, own);
  const api = new Api(page, own);
  await page.goto(await api.start(await api.classDetail(), 'bench-cleave', 6));
  await expect(row(page, 'glasses')).toBeVisible();
  let answer = (): void => undefined;
  const held = new Promise<void>((done) => (answer = done));
  await page.route('**/catch-up', async (route) => {
    await held;
    await route.continue();
  });
  await page.reload();
  await expect(row(page, 'glasses')).toBeVisible();
  await page.keyboard.press('p');
  await expect(row(page, 'glasses')).toHaveAttribute('data-verdict', 'pass');
  const current = page.locator('.row-of.current');
  const at = await current.getAttribute('data-criterion');
  expect(at).not.toBe('glasses');
  const answered = page.waitForResponse('**/catch-up');
  answer();
  await answered;
  await saved(page);
  // The answer moves nothing under the hand.
  await expect(current).toHaveAttribute('data-criterion', at!);
});

/** Clicks and types a good piece on the sheet that is open. */
async function scoreAll(page: Page, method: string): Promise<void> {
  const sheet = SHIPPED_METHODS.find((m) => m.id === `clear-mark/${method}`)!;
  const acts = criteriaOfSheet(sheet).map((c) => {
    const value = c.kind === 'loss' ? null : goodValue(c);
    const text =
      value?.kind === 'count' ? String(value.count) : value && 'text' in value ? (value.text ?? '') : '';
    return { row: nameOf(c), kind: c.kind, text };
  });
  await page.evaluate(async (list) => {
    const settled = (): Promise<void> => new Promise((done) => setTimeout(done, 0));
    for (const { row: name, kind, text } of list) {
      const element = document.querySelector<HTMLElement>(`[data-criterion="${name}"]`)!;
      if (kind === 'check') element.querySelector<HTMLElement>('.main')!.click();
      else if (kind === 'grade') element.querySelector<HTMLElement>('.level')!.click();
      else {
        const input = element.querySelector<HTMLInputElement>('input[data-number]')!;
        input.value = text;
        input.dispatchEvent(new Event('input', { bubbles: true }));
        await settled();
        input.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
      }
      await settled();
    }
  }, acts);
  await expect(page.locator('[data-test=verdict]')).toHaveText('Pass');
}

testWithWorker(
  'without the network: three whole pieces started and scored, the page closed and opened, then all signed',
  async ({ page, own }) => {
    await enterDemo(page, own, /As the lead/);
    const api = new Api(page, own);
    const detail = await api.classDetail();
    const { versionId, title } = detail.methods.find((m) => m.methodId === 'clear-mark/bench-cleave')!;
    await api.call('PUT', `/classes/${detail.id}/methods`, { versionId, inUse: true });
    await page.goto(`${own.url}/class/${detail.id}/today`);
    await expect(page.locator('.tile').first()).toBeVisible();
    // The application is on the device once its worker has taken over.
    await page.waitForFunction(
      async () => (await navigator.serviceWorker.ready).active?.state === 'activated',
    );
    await page.waitForTimeout(1500);

    const context = page.context();
    await context.setOffline(true);
    await expect(page.locator('[data-test=away]')).toBeVisible({ timeout: 15_000 });
    const requests: Request[] = [];
    page.on('request', (r) => requests.push(r));
    const free = ['Anouk Derrey', 'Cora Whitlace', 'Elif Sandover'];
    const addresses: string[] = [];
    for (const name of free) {
      await page.locator(`[data-trainee="${name}"] button`).first().click();
      await choose(page.getByRole('dialog').getByLabel('Method'), title);
      await page.getByRole('button', { name: 'Start the piece' }).click();
      await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
      await scoreAll(page, 'bench-cleave');
      addresses.push(page.url());
      await page.getByRole('link', { name: 'Today' }).click();
    }
    // Opening a sheet asks the network for nothing but whether it is back.
    requests.length = 0;
    await page.locator(`[data-trainee="${free[0]!}"] button`).first().click();
    await expect(page.locator('[data-test=verdict]')).toHaveText('Pass');
    const reached: string[] = [];
    for (const request of requests) {
      const response = await request.response().catch(() => null);
      if (!response?.fromServiceWorker()) reached.push(request.url());
    }
    expect(reached.filter((u) => !/\/(entries|events|catch-up|attempts)$/.test(u))).toEqual([]);
    // The method with its limits and sources opens as well.
    await page.getByRole('link', { name: /Bench cleave/ }).click();
    await expect(page.getByRole('heading', { name: 'Cautions' })).toBeVisible();

    await page.close();
    const again = await context.newPage();
    await again.goto(addresses[1]!);
    await expect(again.getByRole('heading', { level: 1, name: free[1]! })).toBeVisible();
    await expect(again.locator('[data-test=verdict]')).toHaveText('Pass');
    await expect(again.locator('[data-test=queue-state]')).toContainText(/\d+ (kept here|on the way)/);

    await context.setOffline(false);
    await saved(again);
    for (const address of addresses) {
      await again.goto(address);
      await again.getByRole('button', { name: 'Sign: pass' }).click();
      await again.locator('[data-test=sign-now]').click();
      await expect(again.getByText(/^Signed by/)).toBeVisible();
    }
    const ids = addresses.map((a) => a.split('/').pop()!);
    const criteria = criteriaOfSheet(SHIPPED_METHODS.find((m) => m.id === 'clear-mark/bench-cleave')!);
    for (const id of ids) {
      const rows = await own.db('entries').where({ attempt_id: id }).orderBy('seq');
      expect(rows.map((e: { criterion_id: string }) => e.criterion_id)).toEqual(criteria.map((c) => c.id));
    }
    expect(await own.db('signed_revisions').whereIn('attempt_id', ids)).toHaveLength(3);
  },
);
