import type { Page } from '@playwright/test';
import { sorOfTrace, writeSor } from '@clear-mark/core';
import { rngFrom, seriesTrace } from '@clear-mark/sim';
import { type RunningStandIns, startStandIns } from '@clear-mark/standins';
import { connectStandIns } from '../../tools/stand-ins.ts';
import { Api } from '../api.ts';
import { choose, enterDemo, expect, row, saved, testAlone, verdict, violations } from '../world.ts';

const test = testAlone.extend<{ bench: RunningStandIns }>({
  bench: async ({ own }, use) => {
    const running = await startStandIns(3);
    await connectStandIns(own.db, running, new Date());
    await use(running);
    await running.stop();
  },
});

const LABELS = { cableId: '', fiberId: '', from: '', to: '', operator: '', comment: '', takenAtS: 0 };
const traceFile = (name: string, seed: number) => ({
  name,
  mimeType: 'application/octet-stream',
  buffer: Buffer.from(writeSor(sorOfTrace(seriesTrace(rngFrom(seed)), LABELS))),
});
const notATrace = {
  name: 'notes.txt',
  mimeType: 'text/plain',
  buffer: Buffer.from('Splices in tray 2 done again on Monday.'),
};
const toTraces = async (page: Page): Promise<void> => {
  await page.getByRole('link', { name: 'Links' }).click();
  await page.getByRole('tab', { name: 'Traces' }).click();
};
const dialog = (page: Page) => page.getByRole('dialog').filter({ visible: true });

const CHECKS = ['ends-clean', 'markers', 'verdict', 'record'];

/** Taps the trace where an event of the table lies, by the axis of the drawing. */
async function markAt(page: Page, share: number): Promise<void> {
  const box = (await page.locator('.trace svg').first().boundingBox())!;
  await page.mouse.click(box.x + 52 + share * (box.width - 60), box.y + 200);
}

test('from the OTDR on the bench to a signed piece', async ({ page, own, bench }) => {
  bench.bench.act({ act: 'fuse' });
  bench.bench.act({ act: 'connect', to: 'link' });
  await enterDemo(page, own);
  const api = new Api(page, own);
  await page.goto(await api.start(await api.classDetail(), 'otdr-link'));
  await page.getByRole('link', { name: 'Its trace' }).click();
  await expect(page.getByText('What is kept now goes with')).toBeVisible();
  await page.getByRole('button', { name: 'Take one with an OTDR' }).click();
  await choose(dialog(page).getByLabel('Range'), '2000 m');
  await choose(dialog(page).getByLabel('Link'), 'Simulated bench, spliced half-way');
  expect(await violations(page)).toEqual([]);
  await dialog(page).getByRole('button', { name: 'Take the trace' }).click();

  // Both connectors where the cords end, held against the plan.
  const plan = page.locator('[data-test=plan]');
  await expect(plan).toContainText('connection at 499.9 m');
  await expect(plan.locator('tbody tr')).toHaveCount(3);
  await expect(page.locator('[data-test=link-loss]')).toContainText('planned 200.0 m');
  expect(await violations(page)).toEqual([]);

  // Markers, by the mouse and by the keys; crossed they say so and give no number.
  await page.getByRole('button', { name: 'Markers A and B' }).click();
  const markers = page.locator('[data-test=markers]');
  await expect(markers).toContainText('Loss by the two lines');
  const a = page.getByRole('slider', { name: 'Marker A' });
  const before = Number(await a.getAttribute('aria-valuenow'));
  await a.focus();
  await page.keyboard.press('ArrowLeft');
  await expect.poll(async () => Number(await a.getAttribute('aria-valuenow'))).toBeLessThan(before);
  for (let i = 0; i < 12; i++) await page.keyboard.press('Shift+ArrowRight');
  await expect(markers).toContainText('crossed');
  await expect(markers).not.toContainText('Loss by the two lines');
  await page.getByRole('button', { name: 'Markers A and B' }).click();

  // The trainee marks what there is; our events are hidden meanwhile.
  await page.getByRole('button', { name: 'Let a trainee mark the events' }).click();
  await expect(page.locator('[data-test=events]')).toHaveCount(0);
  for (const m of [499.95, 699.95]) await markAt(page, m / 1999.9);
  await page.getByText('End of the fiber', { exact: true }).click();
  await markAt(page, 999.95 / 1999.9);
  await page.getByRole('button', { name: 'Compare' }).click();
  await expect(page.locator('[data-test=reading-result]')).toContainText('the end found');
  await expect(page.getByText('8 values are on its sheet.')).toBeVisible();
  await page.getByRole('link', { name: 'To the sheet' }).click();
  await verdict(page, 'ghosts-called', 'pass');
  // The set-up as the trace shows it, where nobody had ticked it yet.
  for (const shown of ['launch-longer', 'receive-cord', 'range', 'pulse', 'index'])
    await verdict(page, shown, 'pass');
  await expect(row(page, 'events-found')).toContainText(/[01]\.\d{3}/);
  await saved(page);

  // The rest of the sheet, and the signature.
  for (const check of CHECKS) await row(page, check).locator('.main').click();
  const apart = row(page, 'loss-apart').locator('input');
  await apart.fill('0.01');
  await apart.press('Enter');
  await saved(page);
  await page.getByRole('button', { name: /^Sign: / }).click();
  await page.locator('[data-test=sign-now]').click();
  await expect(page.getByText(/^Signed by|Signed$/).first()).toBeVisible();
  // The trace stays with the piece, and no reading of it moves what was signed.
  await page.getByRole('link', { name: 'Trace at 1310 nm' }).click();
  await page.getByRole('button', { name: 'Let a trainee mark the events' }).click();
  await markAt(page, 0.25);
  await page.getByRole('button', { name: 'Compare' }).click();
  await expect(page.getByRole('alert')).toContainText('signed');
});

test('files are opened, one that is none is refused, two lie over each other', async ({ page, own }) => {
  await enterDemo(page, own);
  await toTraces(page);
  await page
    .locator('input[type=file]')
    .setInputFiles([traceFile('Panel 1.sor', 11), traceFile('Panel 2.sor', 12), notATrace]);
  await expect(page.getByRole('alert')).toContainText('notes.txt: This is no trace file');
  const list = page.locator('[data-test=traces]');
  await expect(list.locator('tbody tr')).toHaveCount(2);
  expect(await violations(page)).toEqual([]);
  for (const i of [0, 1]) await list.locator('tbody .el-checkbox').nth(i).click();
  await page.getByRole('button', { name: 'Lay 2 over each other' }).click();
  await expect(page.locator('.trace .line')).toHaveCount(2);
  await page.getByText(/^Differences from/).click();
  await expect(page.getByRole('img', { name: /^Difference of traces/ })).toBeVisible();
  // Brought near by the keys, and back.
  const chart = page.getByRole('img', { name: /^Trace Panel/ });
  await chart.focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press('+');
  await expect(chart).not.toHaveAccessibleName(/Shown from 0\.0 m/);
  await page.keyboard.press('0');
  await expect(chart).toHaveAccessibleName(/Shown from 0\.0 m/);
});

test('a series is set from simulated plants and read by a trainee', async ({ page, own, browser }) => {
  await enterDemo(page, own);
  await toTraces(page);
  await page.getByRole('button', { name: 'Set a series' }).click();
  await page.locator('[data-test=trace-series]').getByLabel('Name').fill('Plants of Monday');
  await choose(page.locator('[data-test=trace-series]').getByLabel('How many'), '4');
  await page.getByRole('button', { name: 'Save series' }).click();
  await expect(page.getByRole('heading', { name: 'Plants of Monday: 4 traces' })).toBeVisible();

  const trainee = await (await browser.newContext()).newPage();
  await enterDemo(trainee, own, /trainee/);
  const toRead = trainee.getByRole('region', { name: 'Traces to read' });
  await toRead.getByRole('link', { name: 'Begin' }).click();
  await trainee.getByRole('button', { name: 'Begin' }).click();
  for (let i = 1; i <= 4; i++) {
    await expect(trainee.getByRole('heading', { name: `Trace ${i} of 4` })).toBeVisible();
    await markAt(trainee, 0.5);
    if (i === 1) expect(await violations(trainee)).toEqual([]);
    await trainee.getByRole('button', { name: i % 2 === 0 ? 'It passes' : 'It fails' }).click();
  }
  await expect(trainee.getByText(/of 4 verdicts right/)).toBeVisible();
  await expect(trainee.getByText('It waits for an instructor’s signature')).toBeVisible();
  await trainee.getByRole('button', { name: 'Show it with its events' }).first().click();
  await expect(trainee.locator('.trace .event').first()).toBeVisible();

  await page.reload();
  await page.getByRole('link', { name: 'Its sheet' }).click();
  await expect(row(page, 'found')).toContainText(/[01]\.\d{3}/);
});
