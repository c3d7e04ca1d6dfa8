import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import { Api, paste } from '../api.ts';
import {
  signOut,
  chooseUnits,
  expectUnits,
  choose,
  enterDemo,
  expect,
  row,
  testAlone as test,
} from '../world.ts';

const cell = (page: Page, part: string) => page.locator(`[data-part="${part}"]`);
const saved = (page: Page) => expect(page.locator('[data-test=queue-state]')).toContainText('All saved');

test('readings in a grid: typed, pasted, wrong cells marked, nothing wrong stored', async ({ page, own }) => {
  await enterDemo(page, own, /As the lead/);
  const api = new Api(page, own);
  const detail = await api.classDetail();
  await api.references(detail, 'one_cord', [850, 1300]);
  const address = await api.start(detail, 'mpo-trunk');
  await page.goto(address);

  // Typed: with its unit, with a comma, by Enter down the fibers.
  await cell(page, 'f1.850').fill('0,62 dB');
  await cell(page, 'f1.850').press('Enter');
  await expect(cell(page, 'f2.850')).toBeFocused();
  await page.keyboard.type('-20.71 dBm');
  await page.keyboard.press('Enter');
  await expect(row(page, 'loss')).toContainText('22 of 24 readings missing');
  await expect(row(page, 'loss')).toContainText('0.71 dB');

  // A slip of the decimal sign is asked about once.
  await cell(page, 'f3.850').fill('6.6');
  await cell(page, 'f3.850').press('Enter');
  await expect(row(page, 'loss')).toContainText('looks like a slip');
  await cell(page, 'f3.850').fill('0.66');
  await cell(page, 'f3.850').press('Enter');
  await expect(row(page, 'loss')).not.toContainText('looks like a slip');

  // Thirteen lines and three columns into twelve by two: what fits is taken, the rest is named.
  const lines = Array.from({ length: 13 }, (_, i) => `0.5${i % 10}\t0.4${i % 10}`);
  lines[4] = 'lots\t0.44';
  lines[5] = '0.55\t0,45 dB\t0.99';
  await paste(page, '[data-part="f1.850"]', lines.join('\n'));
  await expect(row(page, 'loss')).toContainText('1 of 24 readings missing');
  await expect(row(page, 'loss')).toContainText('Beyond the grid and not taken: 0.99, 0.52, 0.42');
  await expect(cell(page, 'f5.850')).toHaveAttribute('aria-invalid', 'true');
  await expect(row(page, 'loss').getByRole('alert')).toContainText('“lots” is not a number');
  await saved(page);

  // After a reload only what was good is there.
  await page.reload();
  await expect(cell(page, 'f6.1300')).toHaveValue('0,45');
  await expect(cell(page, 'f5.850')).toHaveValue('');
  await expect(row(page, 'loss')).toContainText('1 of 24 readings missing');

  // The last one is dark: the worst of all, and the row fails.
  await cell(page, 'f5.850').focus();
  await page.getByRole('button', { name: 'No light', exact: true }).nth(1).click();
  await expect(row(page, 'loss')).toHaveAttribute('data-verdict', 'fail');
  await expect(row(page, 'loss')).toContainText('no light at fiber 5, 850 nm');

  // The trainee's call agrees with it.
  await row(page, 'trainee-verdict').getByRole('button', { name: 'good', exact: true }).click();
  await expect(row(page, 'trainee-verdict')).toHaveAttribute('data-verdict', 'fail');
  await expect(row(page, 'trainee-verdict')).toContainText('a bad one called good');
  await row(page, 'trainee-verdict').getByRole('button', { name: 'bad', exact: true }).click();
  await expect(row(page, 'trainee-verdict')).toHaveAttribute('data-verdict', 'pass');
});

test('a column of twelve pasted with thirteen readings in one line', async ({ page, own }) => {
  await enterDemo(page, own, /As the lead/);
  const api = new Api(page, own);
  await page.goto(await api.start(await api.classDetail(), 'ribbon-splice'));
  const line = Array.from({ length: 13 }, (_, i) => (i === 12 ? '0.99' : `0.0${(i % 9) + 1}`)).join('\t');
  await paste(page, '[data-part="f1"]', line);
  await expect(row(page, 'estimates')).toHaveAttribute('data-verdict', 'pass');
  await expect(row(page, 'estimates')).toContainText('not taken: 0.99');
  await expect(row(page, 'estimates')).toContainText('fiber 9');
  await cell(page, 'f4').fill('0.2 mm');
  await cell(page, 'f4').press('Enter');
  await expect(row(page, 'estimates').getByRole('alert')).toContainText(
    'mm does not fit; the unit here is dB',
  );
  await expect(row(page, 'estimates')).toHaveAttribute('data-verdict', 'pass');
});

test('the ports are walked by tap and by key; a port twice is marked and not stored', async ({
  page,
  own,
}) => {
  await enterDemo(page, own, /As the lead/);
  const api = new Api(page, own);
  await page.goto(await api.start(await api.classDetail(), 'locator-continuity'));
  const map = row(page, 'port-map');
  const far = (port: number) => map.getByRole('button', { name: `Light at far port ${port}`, exact: true });
  await far(2).click();
  await far(1).click();
  await far(1).click();
  await expect(map.getByRole('alert')).toContainText('Far port 1 cannot light for both 2 and 3');
  await expect(map).toContainText('10 of 12 ports not walked yet');
  // Digits go to the walk; Enter takes each.
  const input = map.locator('input');
  await input.fill('13');
  await input.press('Enter');
  await expect(map.getByRole('alert')).toContainText('There is no port 13');
  for (const port of ['3', '4', '5', '6', '7', '8', '9', '10', '11']) {
    await input.fill(port);
    await input.press('Enter');
  }
  await expect(map).toContainText('1 of 12 ports not walked yet');
  await map.getByRole('button', { name: 'No light' }).click();
  await expect(map).toHaveAttribute('data-verdict', 'fail');
  await expect(map).toContainText('pair 1–2 crossed; no light from port 12: broken or not mated');
  await saved(page);
  await page.reload();
  await expect(map).toContainText('pair 1–2 crossed');

  // Walked again, and right this time. Taking back goes one port at a time.
  await map.getByRole('button', { name: /^Near port 1,/ }).click();
  await map.getByRole('button', { name: 'Walk 1 again' }).click();
  await expect(map).toContainText('1 of 12 ports not walked yet');
  await page.getByTitle(/Take back/).click();
  await expect(map).toContainText('pair 1–2 crossed');
});

test('schools: the class chooses, the sheet says by which it was scored', async ({ page, own }) => {
  await enterDemo(page, own, /As the lead/);
  const api = new Api(page, own);
  const detail = await api.classDetail();
  const before = await api.start(detail, 'mpo-trunk', 1);
  await page.getByRole('link', { name: 'Class', exact: true }).click();
  await page.getByRole('tab', { name: 'Practice options' }).click();
  const panel = page.locator('[data-test=practice]');
  await choose(panel.getByLabel('Which trunk is in the class’s kit?'), 'Type B, reversed');
  await choose(panel.getByLabel('How many wavelengths?'), 'The shorter one only');
  await expect(panel).toContainText('Shipped: Type A, straight through.');
  const after = await api.start(detail, 'mpo-trunk', 2);

  await page.goto(after);
  await page.getByText('Scored by 2 of the class’s own choices').click();
  await expect(page.locator('[data-test=scored-by]')).toContainText('Type B, reversed');
  await expect(row(page, 'port-map')).toContainText('This trunk: type B');
  await expect(cell(page, 'f1.1300')).toHaveCount(0);
  // A piece that was started before keeps what it was started by.
  await page.goto(before);
  await expect(page.getByText('Scored by the shipped choices')).toBeVisible();
  await expect(cell(page, 'f1.1300')).toHaveCount(1);
});

test('a wrong suggestion is put away, counted, and comes back by undo', async ({ page, own }) => {
  await enterDemo(page, own, /As the lead/);
  const api = new Api(page, own);
  await page.goto(await api.start(await api.classDetail(), 'st-wedge-locator', 3));
  await row(page, 'glow-dims').getByRole('button', { name: /^Fail/ }).click();
  const causes = page.locator('[data-test=likely-causes]');
  const first = causes.getByRole('button', { name: /^Not this/ }).first();
  const name = (await first.getAttribute('aria-label'))!.replace('Not this: ', '');
  await first.click();
  await expect(causes.getByRole('button', { name: `Not this: ${name}`, exact: true })).toHaveCount(0);
  await page.getByTitle(/Take back/).click();
  await expect(causes.getByRole('button', { name: `Not this: ${name}`, exact: true })).toBeVisible();
  await causes.getByRole('button', { name: `Not this: ${name}`, exact: true }).click();
  await saved(page);
  await page.getByRole('link', { name: 'Insight' }).click();
  await page.getByRole('tab', { name: 'Why it fails' }).click();
  const counted = page.getByRole('row', { name: new RegExp(`^${name}`) });
  await expect(counted).toContainText('0');
  await expect(counted.getByRole('cell').nth(2)).toHaveText('1');
});

test('a timer left on over night is asked about; nothing is stored by itself', async ({ page, own }) => {
  await enterDemo(page, own, /As the lead/);
  const api = new Api(page, own);
  const address = await api.start(await api.classDetail(), 'acrylic-primer', 4);
  const { me } = await api.call<{ me: { id: string } }>('GET', '/start');
  const now = new Date().toISOString();
  const startedAt = new Date(Date.now() - 14 * 3_600_000).toISOString();
  const timer = {
    id: randomUUID(),
    attemptId: address.split('/').pop(),
    kind: 'timer',
    part: 'timer',
    criterionId: 'clear-mark/acrylic-primer/insertion',
    value: { kind: 'timer', startedAt },
    voidReason: null,
    note: null,
    authorId: me.id,
    capacity: 'instructor',
    deviceId: randomUUID(),
    source: 'timer',
    at: startedAt,
    supersedes: [],
    targetId: null,
  };
  await api.call('POST', '/entries', { entries: [timer], sentAt: now });
  await page.goto(address);
  const timed = row(page, 'insertion');
  await timed.getByRole('button', { name: 'Stop' }).click();
  await expect(timed.getByRole('alert')).toContainText('It ran 14:00:');
  await expect(timed).toHaveAttribute('data-state', 'open');
  await timed.getByRole('button', { name: 'Discard the time' }).click();
  await expect(timed.getByRole('button', { name: 'Start' })).toBeVisible();
  await expect(timed).toHaveAttribute('data-state', 'open');
});

test('units are the person’s own: mm or inches, m or feet', async ({ page, own }) => {
  await enterDemo(page, own, /As the lead/);
  const api = new Api(page, own);
  const detail = await api.classDetail();
  await page.goto(await api.start(detail, 'lc-wedge', 5));
  await expect(row(page, 'cleave-length')).toContainText('10 to 11 mm');
  await chooseUnits(page, 'in, ft');
  await expect(row(page, 'cleave-length')).toContainText('0.394 to 0.433 in');
  // 0.4331 in is 11.0007 mm: over, exactly, whatever the screen rounds to.
  await row(page, 'cleave-length').locator('input').fill('0.4331');
  await row(page, 'cleave-length').locator('input').press('Enter');
  await expect(row(page, 'cleave-length')).toHaveAttribute('data-verdict', 'fail');
  await page.goto(await api.start(detail, 'loss-one-cord', 6));
  await page.getByText('Where the limit comes from').click();
  await expect(row(page, 'loss')).toContainText('656.2 ft × 1 dB/km');
  // Another person on the same device has their own.
  await signOut(page);
  await expect(page.getByRole('button', { name: /demo’s instructor/ })).toBeVisible();
  await enterDemo(page, own);
  await expectUnits(page, 'mm, m');
});
