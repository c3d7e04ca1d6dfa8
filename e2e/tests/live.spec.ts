import { criteriaOfSheet, goodValue, nameOf } from '../../packages/methods/src/piece-for-tests.ts';
import { SHIPPED_METHODS } from '@clear-mark/methods';
import { appendFileSync, cpSync, mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { Browser, Page, Request } from '@playwright/test';
import { fillClass, walk } from '../../tools/bench/class-run.ts';
import { Api } from '../api.ts';
import { DemoServer, enterDemo, expect, row, testAlone as test, webDir } from '../world.ts';

const saved = (page: Page) =>
  expect(page.locator('[data-test=queue-state]')).toContainText('All saved', { timeout: 20_000 });
const verdict = (page: Page, name: string, wanted: string) =>
  expect(row(page, name)).toHaveAttribute('data-verdict', wanted, { timeout: 8000 });
async function another(browser: Browser, own: DemoServer, as: RegExp): Promise<Page> {
  const page = await (await browser.newContext()).newPage();
  await enterDemo(page, own, as);
  return page;
}

test('what one instructor scores is on the other’s sheet and board within a moment', async ({
  page,
  own,
  browser,
}) => {
  await enterDemo(page, own);
  const api = new Api(page, own);
  const detail = await api.classDetail();
  const address = await api.start(detail, 'bench-cleave', 0);
  const trainee = detail.trainees[0]!.name;
  const second = await another(browser, own, /As the lead/);
  await second.goto(address);
  await page.goto(address);
  await expect(row(second, 'glasses')).toBeVisible();
  await row(page, 'glasses').locator('.main').click();
  await verdict(second, 'glasses', 'pass');
  // And the other way, while the first looks at the board.
  await page.getByRole('link', { name: 'Today' }).click();
  await row(second, 'shards-ready').getByRole('button', { name: /^Fail/ }).click();
  await expect(page.locator(`[data-trainee="${trainee}"]`)).toContainText('Bench cleave', {
    ignoreCase: true,
  });
  // The server away and back between two entries: the stream is made again, and nothing is missed.
  await own.stop();
  await row(second, 'coating-gone').locator('.main').click();
  await own.start();
  await page.goto(address);
  await verdict(page, 'coating-gone', 'pass');
  await saved(second);
  await second.context().close();
});

test('two results that do not know of each other: both are shown, one is chosen, then it is signed', async ({
  page,
  own,
  browser,
}) => {
  await enterDemo(page, own);
  const api = new Api(page, own);
  const address = await api.start(await api.classDetail(), 'bench-cleave', 1);
  const second = await another(browser, own, /As the lead/);
  await second.goto(address);
  await expect(row(second, 'glasses')).toBeVisible();
  await second.context().setOffline(true);
  await page.goto(address);
  await row(page, 'glasses').locator('.main').click();
  await saved(page);
  await row(second, 'glasses').getByRole('button', { name: /^Fail/ }).click();
  await verdict(second, 'glasses', 'fail');
  await second.context().setOffline(false);
  const choice = row(page, 'glasses').locator('[data-test=keep]');
  await expect(choice.getByRole('listitem')).toHaveCount(2, { timeout: 15_000 });
  await expect(choice).toContainText('pass');
  await expect(choice).toContainText('fail');
  await expect(row(page, 'glasses')).toHaveAttribute('data-state', 'conflict');
  await choice.getByRole('listitem').filter({ hasText: 'pass' }).getByRole('button').click();
  await verdict(page, 'glasses', 'pass');
  await verdict(second, 'glasses', 'pass');
  await second.context().close();
});

test('a trainee starts at the own bench, calls, and what is theirs counts once it was seen', async ({
  page,
  own,
  browser,
}) => {
  await enterDemo(page, own);
  const trainee = await another(browser, own, /As a trainee/);
  const name = (await trainee.getByRole('heading', { level: 1 }).textContent())!.split(':')[0]!;
  await trainee.getByRole('button', { name: 'Start a piece' }).click();
  await expect(row(trainee, 'kit')).toBeVisible();
  await row(trainee, 'kit').locator('.main').click();
  await row(trainee, 'glasses').locator('.main').click();
  await verdict(trainee, 'kit', 'pass');
  await expect(row(trainee, 'glasses')).toContainText('not witnessed');
  await trainee.getByRole('button', { name: 'Call the instructor' }).click();
  await expect(trainee.getByText('Instructor called')).toBeVisible();

  const tile = page.locator(`[data-trainee="${name}"]`);
  await expect(tile).toContainText('Calls since', { timeout: 8000 });
  await tile.locator('button').first().click();
  await expect(page.getByText('Calls you')).toBeVisible();
  await page.getByRole('button', { name: 'I am here' }).click();
  await expect(trainee.getByRole('button', { name: 'Call the instructor' })).toBeVisible({ timeout: 8000 });
  await row(page, 'glasses').getByRole('button', { name: 'I saw it' }).click();
  await verdict(page, 'glasses', 'pass');
  await verdict(trainee, 'glasses', 'pass');
  await trainee.context().close();
});

test('a timer started on one device runs, and is stopped, on the other', async ({ page, own, browser }) => {
  await enterDemo(page, own);
  const api = new Api(page, own);
  const address = await api.start(await api.classDetail(), 'lc-wedge-locator', 2);
  await page.goto(address);
  const second = await another(browser, own, /As the lead/);
  await row(page, 'time-open').getByRole('button', { name: 'Start' }).click();
  const strip = second.getByRole('region', { name: 'Running timers' });
  await expect(strip).toContainText('Cleave to insertion', { timeout: 8000 });
  await strip.getByRole('link').first().click();
  await expect(row(second, 'time-open').getByRole('timer')).toBeVisible();
  await row(second, 'time-open').getByRole('button', { name: 'Stop' }).click();
  await verdict(second, 'time-open', 'pass');
  await verdict(page, 'time-open', 'pass');
  await expect(page.getByRole('region', { name: 'Running timers' })).toHaveCount(0);
  await second.context().close();
});

test('devices whose clocks are an hour apart show the same timer', async ({ page, own, browser }) => {
  await enterDemo(page, own);
  const api = new Api(page, own);
  const address = await api.start(await api.classDetail(), 'lc-wedge-locator', 4);
  const second = await (await browser.newContext()).newPage();
  await second.clock.install({ time: new Date(Date.now() + 3_600_000) });
  await enterDemo(second, own, /As the lead/);
  await second.goto(address);
  await row(second, 'time-open').getByRole('button', { name: 'Start' }).click();
  await saved(second);
  await page.goto(address);
  const clock = row(page, 'time-open').getByRole('timer');
  await expect(clock).toBeVisible({ timeout: 8000 });
  expect(await clock.textContent()).toMatch(/^0:[0-2]\d$/);
  await row(page, 'time-open').getByRole('button', { name: 'Stop' }).click();
  await verdict(page, 'time-open', 'pass');
  await second.context().close();
});

test('a stream that is cut, or held back on its way: the device asks by itself', async ({
  page,
  own,
  browser,
}) => {
  await enterDemo(page, own);
  const api = new Api(page, own);
  const address = await api.start(await api.classDetail(), 'bench-cleave', 5);
  const second = await (await browser.newContext()).newPage();
  await second.route('**/events', (route) => route.abort());
  await enterDemo(second, own, /As the lead/);
  await second.goto(address);
  await expect(row(second, 'glasses')).toBeVisible();
  await page.goto(address);
  await row(page, 'glasses').locator('.main').click();
  await expect(row(second, 'glasses')).toHaveAttribute('data-verdict', 'pass', { timeout: 12_000 });
  await second.context().close();
});

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
  await page.goto(await api.start(await api.classDetail(), 'bench-cleave', 7));
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
    .poll(() => own.db('entries').where('criterion_id', 'like', '%bench-cleave/glasses').pluck('id'), {
      timeout: 20_000,
    })
    .toHaveLength(1);
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

test('without the network: three whole pieces started and scored, the page closed and opened, then all signed', async ({
  page,
  own,
}) => {
  await enterDemo(page, own, /As the lead/);
  const api = new Api(page, own);
  const detail = await api.classDetail();
  const { versionId } = detail.methods.find((m) => m.methodId === 'clear-mark/bench-cleave')!;
  await api.call('PUT', `/classes/${detail.id}/methods`, { versionId, inUse: true });
  await page.goto(`${own.url}/class/${detail.id}/today`);
  await expect(page.locator('.tile').first()).toBeVisible();
  // The application is on the device once its worker has taken over.
  await page.waitForFunction(async () => (await navigator.serviceWorker.ready).active?.state === 'activated');
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
    await page.getByLabel('Method').selectOption(versionId);
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
});

test('a piece is found by the label that a scanner types, and no key of it acts on the sheet', async ({
  page,
  own,
}) => {
  await enterDemo(page, own);
  const api = new Api(page, own);
  const detail = await api.classDetail();
  await page.goto(await api.start(detail, 'bench-cleave', 3));
  await expect(row(page, 'glasses')).toBeVisible();
  const { label, name } = await page.evaluate(async (classId) => {
    const reply = await fetch(`/api/classes/${classId}/catch-up`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ known: {} }),
    });
    const { attempts } = (await reply.json()) as { attempts: { pieceLabel: string; traineeName: string }[] };
    const other = attempts[attempts.length - 1]!;
    return { label: other.pieceLabel, name: other.traineeName };
  }, detail.id);
  // A keyboard-wedge scanner types the whole label and Enter faster than any hand.
  await page.evaluate((text) => {
    const keys = [...text, 'Enter'].map(
      (key) => new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }),
    );
    for (const key of keys) document.body.dispatchEvent(key);
  }, label);
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
  await page.goBack();
  await expect(page.locator('.row-of[data-state="scored"]')).toHaveCount(0);
});

test('twenty seconds of a full class: two instructors at four acts a second, twelve timers, none lost or doubled', async ({
  page,
  own,
  browser,
}) => {
  await enterDemo(page, own, /As the lead/);
  const { attempts } = await fillClass(page.context(), own.url);
  const second = await another(browser, own, /demo’s instructor/);
  const walkers = [];
  for (const [i, one] of [page, second].entries()) {
    await one
      .locator('article.working button')
      .nth(i * 4)
      .click();
    await expect(one.locator('.row-of').first()).toBeVisible();
    walkers.push(await walk(one));
  }
  await expect(page.getByRole('region', { name: 'Running timers' }).getByRole('link')).toHaveCount(12);
  await page.waitForTimeout(20_000);
  for (const walker of walkers) await walker.stop();
  const acts = (await walkers[0]!.acts()) + (await walkers[1]!.acts());
  expect(acts).toBeGreaterThan(80);
  const sent = [...walkers[0]!.sent, ...walkers[1]!.sent];
  expect(new Set(sent).size).toBe(acts);
  expect(await own.db('entries').whereIn('id', sent)).toHaveLength(acts);
  const rows = await own.db('entries').whereIn('attempt_id', attempts).select('attempt_id', 'seq');
  for (const id of attempts) {
    const seqs = rows
      .filter((r: { attempt_id: string }) => r.attempt_id === id)
      .map((r: { seq: number }) => r.seq);
    expect(seqs.sort((a: number, b: number) => a - b)).toEqual(seqs.map((_: number, i: number) => i + 1));
  }
  await second.context().close();
});

test('a new version waits until it is asked for, and what was entered is still there', async ({ page }) => {
  const files = mkdtempSync(path.join(os.tmpdir(), 'clear-mark-web-'));
  cpSync(webDir, files, { recursive: true });
  const server = await DemoServer.make('demo', files);
  try {
    await enterDemo(page, server);
    await page.waitForFunction(
      async () => (await navigator.serviceWorker.ready).active?.state === 'activated',
    );
    const api = new Api(page, server);
    await page.goto(await api.start(await api.classDetail(), 'bench-cleave', 5));
    await row(page, 'glasses').locator('.main').click();
    // Another build: its worker differs.
    appendFileSync(path.join(files, 'service-worker.js'), '\n// another build\n');
    await page.evaluate(async () => (await navigator.serviceWorker.ready).update());
    const offer = page.getByRole('button', { name: 'New version: load it' });
    await expect(offer).toBeVisible({ timeout: 15_000 });
    // Nothing is reloaded by itself.
    await row(page, 'shards-ready').locator('.main').click();
    await expect(offer).toBeVisible();
    await Promise.all([page.waitForEvent('load'), offer.click()]);
    await verdict(page, 'glasses', 'pass');
    await verdict(page, 'shards-ready', 'pass');
    await expect(offer).toHaveCount(0);
  } finally {
    await page.goto('about:blank');
    await server.close();
    rmSync(files, { recursive: true, force: true });
  }
});
