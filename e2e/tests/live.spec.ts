import { appendFileSync, cpSync, mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { fillClass, walk } from '../../tools/bench/class-run.ts';
import { Api } from '../api.ts';
import {
  another,
  DemoServer,
  enterDemo,
  expect,
  row,
  saved,
  testAlone as test,
  testWithWorker,
  verdict,
  webDir,
} from '../world.ts';

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
  await expect(choice.getByRole('listitem')).toHaveCount(2);
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
  await expect(tile).toContainText('Calls since');
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
  const address = await api.start(await api.classDetail(), 'acrylic-primer', 2);
  await page.goto(address);
  const second = await another(browser, own, /As the lead/);
  await row(page, 'insertion').getByRole('button', { name: 'Start' }).click();
  const strip = second.getByRole('region', { name: 'Running timers' });
  await expect(strip).toContainText('Adhesive touched to bottomed');
  await strip.getByRole('link').first().click();
  await expect(row(second, 'insertion').getByRole('timer')).toBeVisible();
  await row(second, 'insertion').getByRole('button', { name: 'Stop' }).click();
  await verdict(second, 'insertion', 'pass');
  await verdict(page, 'insertion', 'pass');
  await expect(page.getByRole('region', { name: 'Running timers' })).toHaveCount(0);
  await second.context().close();
});

test('devices whose clocks are an hour apart show the same timer', async ({ page, own, browser }) => {
  await enterDemo(page, own);
  const api = new Api(page, own);
  const address = await api.start(await api.classDetail(), 'acrylic-primer', 4);
  const second = await (await browser.newContext()).newPage();
  await second.clock.install({ time: new Date(Date.now() + 3_600_000) });
  await enterDemo(second, own, /As the lead/);
  await second.goto(address);
  await row(second, 'insertion').getByRole('button', { name: 'Start' }).click();
  await saved(second);
  await page.goto(address);
  const clock = row(page, 'insertion').getByRole('timer');
  await expect(clock).toBeVisible({ timeout: 8000 });
  expect(await clock.textContent()).toMatch(/^0:[0-2]\d$/);
  await row(page, 'insertion').getByRole('button', { name: 'Stop' }).click();
  await verdict(page, 'insertion', 'pass');
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
  await expect(row(second, 'glasses')).toHaveAttribute('data-verdict', 'pass');
  await second.context().close();
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

test('ten seconds of a full class: two instructors at four acts a second, twelve timers, none lost or doubled', async ({
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
  await page.waitForTimeout(10_000);
  for (const walker of walkers) await walker.stop();
  const acts = (await walkers[0]!.acts()) + (await walkers[1]!.acts());
  expect(acts).toBeGreaterThan(40);
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

testWithWorker(
  'a new version waits until it is asked for, and what was entered is still there',
  async ({ page }) => {
    const files = mkdtempSync(path.join(os.tmpdir(), 'clear-mark-web-'));
    cpSync(webDir, files, { recursive: true });
    const server = await DemoServer.make('demo', files);
    try {
      await enterDemo(page, server);
      await page.waitForFunction(
        async () => (await navigator.serviceWorker.ready).active?.state === 'activated',
        undefined,
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
      await page.evaluate(() => (document.documentElement.dataset['before'] = 'yes'));
      await offer.click();
      await page.waitForFunction(() => !('before' in document.documentElement.dataset), undefined);
      await verdict(page, 'glasses', 'pass');
      await verdict(page, 'shards-ready', 'pass');
      await expect(offer).toHaveCount(0);
    } finally {
      await page.goto('about:blank').catch(() => undefined);
      await server.close();
      rmSync(files, { recursive: true, force: true });
    }
  },
);
