import type { Page } from '@playwright/test';
import { type RunningStandIns, startStandIns } from '@clear-mark/standins';
import { connectStandIns } from '../../tools/stand-ins.ts';
import { REFERENCE_WORDS } from '@clear-mark/words';
import { Api } from '../api.ts';
import { choose, type DemoServer, enterDemo, expect, row, test, testAlone } from '../world.ts';

const withBench = testAlone.extend<{ bench: RunningStandIns }>({
  bench: async ({ own }, use) => {
    const running = await startStandIns(3);
    await connectStandIns(own.db, running, new Date());
    await use(running);
    await running.stop();
  },
});

async function toLinks(page: Page, demo: DemoServer, view = 'Loss budget'): Promise<void> {
  await enterDemo(page, demo);
  await page.getByRole('link', { name: 'Links' }).click();
  await page.getByRole('tab', { name: view }).click();
}
const limits = (page: Page): Promise<string[]> => page.locator('[data-test=limits] .figure').allInnerTexts();

testAlone('a link is described, limited, judged and then scored on', async ({ page, own }) => {
  await toLinks(page, own);
  await page.getByRole('button', { name: 'New link', exact: true }).click();
  await page.getByLabel('Name of the link').fill('Store room run');
  await page.getByLabel('Name of the link').blur();
  // 100 m of inside plant at 1.0 dB/km and two pairs of 0.75 dB.
  expect(await limits(page)).toEqual(['1.60', '1.60']);
  await page.getByRole('button', { name: 'Add cable' }).click();
  await page.getByLabel('Length in m').fill('400');
  await page.getByLabel('Length in m').blur();
  await page.getByRole('button', { name: /Joint 1: connection/ }).click();
  // 500 m, two pairs, a splice: 0.5 + 1.5 + 0.3.
  expect(await limits(page)).toEqual(['2.30', '2.30']);
  await choose(page.locator('[data-test=reference-method]'), REFERENCE_WORDS.three_cord);
  expect(await limits(page)).toEqual(['0.80', '0.80']);
  await expect(page.getByText('in the reading: the link alone')).toBeVisible();
  await choose(page.locator('[data-test=reference-method]'), REFERENCE_WORDS.one_cord);

  await page.getByLabel('Loss at 1310 nm, dB', { exact: true }).fill('0,62');
  await page.getByLabel('Loss at 1550 nm, dB', { exact: true }).fill('1.4');
  await expect(page.locator('[data-test=conclusions]')).toContainText('bend');
  await page.getByLabel('Loss at 1550 nm, dB', { exact: true }).fill('2,6');
  await expect(page.locator('[data-part="1550.a_b"]')).toContainText('Fail');
  await page.getByLabel('Loss at 1550 nm, dB', { exact: true }).fill('0.6 dB');
  await expect(page.locator('[data-part="1550.a_b"]')).toContainText('is not a number');
  await page.getByLabel('Trainee’s loss at 1310 nm, dB').fill('0.9');
  await expect(page.locator('[data-part="1310.a_b"]')).toContainText('does not agree');

  // What cannot have a limit says so, and what to do.
  await page.getByRole('button', { name: /Far end: panel/ }).click();
  await page.getByRole('button', { name: /Far end: plug/ }).click();
  await expect(page.getByText('The far end has no connector')).toBeVisible();
  await expect(page.locator('[data-test=limits]')).toHaveCount(0);
  await page.getByRole('button', { name: /Far end: bare/ }).click();
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();

  await page.getByRole('link', { name: 'Today' }).click();
  await page.locator('[data-trainee="Anouk Derrey"] button').click();
  await choose(page.getByRole('dialog').getByLabel('Method'), 'Loss by one cord, single-mode link');
  await choose(page.locator('[data-test=link]'), 'Store room run');
  await page.getByRole('button', { name: 'Start the piece' }).click();
  await page.waitForURL(/\/sheet\//);
  await expect(page.getByText('Store room run')).toBeVisible();
  await page.locator('.loss summary').click();
  await expect(page.locator('.loss')).toContainText('500 m');
  await expect(page.locator('.loss')).toContainText('2.300 dB');
});

withBench('the meter gives reference and readings to the sheet that asked', async ({ page, own, bench }) => {
  await enterDemo(page, own);
  const api = new Api(page, own);
  const detail = await api.classDetail();
  await page.goto(await api.start(detail, 'loss-one-cord', 1));
  bench.bench.act({ act: 'connect', to: 'reference' });
  await page.getByRole('button', { name: 'Set reference' }).first().click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Take its readings' }).click();
  for (const nm of [1310, 1550]) {
    await dialog.getByRole('button', { name: `${nm} nm` }).click();
    const take = dialog.getByRole('button', { name: 'Take', exact: true }).nth(nm === 1310 ? 0 : 1);
    await expect(take).toBeEnabled();
    await take.click();
  }
  await dialog.getByRole('button', { name: 'Set reference' }).click();

  bench.bench.act({ act: 'connect', to: 'link' });
  const line = page.locator('[data-part="1310.a_b"]');
  await page.locator('.loss').getByRole('button', { name: 'Take its readings' }).click();
  await page.locator('[data-test=meter]').getByRole('button', { name: '1310 nm' }).click();
  await expect(line.getByRole('button', { name: 'Take', exact: true })).toBeEnabled();
  // At 1550 nm the meter shows another wavelength: nothing to take.
  await expect(
    page.locator('[data-part="1550.a_b"]').getByRole('button', { name: 'Take', exact: true }),
  ).toBeDisabled();
  await expect(page.locator('[data-test=meter]')).toContainText('settled');
  await line.getByRole('button', { name: 'Take', exact: true }).click();
  await expect(line).toContainText('read by Meter 1');
  await expect(line.locator('.found')).toContainText(/0\.[3-9]/);
  await expect
    .poll(() => own.db('readings').whereNotNull('instrument_id').pluck('calibrated_on'))
    .toHaveLength(1);

  // Another device wants it for another sheet.
  const other = await (await page.context().browser()!.newContext()).newPage();
  await enterDemo(other, own, /As the lead/);
  await other.goto(await new Api(other, own).start(detail, 'loss-one-cord', 2));
  await other.locator('.loss').getByRole('button', { name: 'Take its readings' }).click();
  await expect(other.locator('.loss')).toContainText('takes its readings for');
  await other.getByRole('button', { name: 'Take it over' }).click();
  await expect(other.locator('[data-test=meter]').getByRole('button', { name: '1310 nm' })).toBeVisible();
  await expect(page.locator('.loss').getByRole('button', { name: 'Take its readings' })).toBeVisible();
  await other.context().close();

  // What is no reading is said and cannot be taken.
  await page.locator('.loss').getByRole('button', { name: 'Take its readings' }).click();
  await page.locator('.loss').getByRole('button', { name: 'Take it over' }).click();
  bench.instruments.meter.fail('not_a_number');
  await expect(page.locator('[data-test=meter]')).toContainText('no number to give');
  await expect(line.getByRole('button', { name: 'Take', exact: true })).toBeDisabled();
  bench.instruments.meter.fail('silent');
  await expect(page.locator('[data-test=meter]')).toContainText('nothing comes from it');
});

withBench('a splice in one tap, and the ports walked by light', async ({ page, own, bench }) => {
  await enterDemo(page, own);
  const api = new Api(page, own);
  const detail = await api.classDetail();
  bench.bench.act({ act: 'cleave', side: 'left', care: 0 });
  bench.bench.act({ act: 'fuse' });
  await page.goto(await api.start(detail, 'single-fusion', 3));
  const angle = bench.bench.piece().left.angleDeg;
  await expect(page.locator('[data-test=splicer]')).toContainText(`${angle.toFixed(1)}°`);
  await page.getByRole('button', { name: 'Take what it shows' }).click();
  expect(angle).toBeGreaterThan(1.1);
  await expect(row(page, 'angle-left')).toHaveAttribute('data-verdict', 'fail');
  await expect(row(page, 'estimate')).toHaveAttribute('data-state', 'scored');

  await page.goto(await api.start(detail, 'mpo-trunk', 4));
  bench.bench.act({ act: 'ports', far: [2, 1, 3, 4, 5, 6, 7, 8, 9, 10, 0, 12] });
  await page.getByRole('button', { name: 'Walk by Port light 1' }).click();
  const map = page.locator('.row-of', { hasText: 'Where each port came out' });
  await expect(map).toContainText('pair 1–2 crossed');
  await expect(map).toContainText('no light from port 11');
});

test('a wrong map is explained by the parts, with what a walk cannot tell', async ({ page, demo }) => {
  await toLinks(page, demo, 'Polarity');
  await page.getByRole('button', { name: 'All as they should be' }).click();
  await expect(page.locator('[data-test=explanation]')).toContainText('Every port comes out where it should');
  await page.getByRole('button', { name: /2 Trunk A/ }).click();
  await expect(page.locator('[data-test=explanation]')).toContainText(
    'The cassette (part 1) is turned, or the trunk (part 2) is type A, or the cassette (part 3) is turned',
  );
  await choose(page.getByRole('combobox', { name: 'Ports', exact: true }), '144');
  const far = Array.from({ length: 144 }, (_, i) => i + 1);
  [far[2], far[99]] = [far[99]!, far[2]!];
  await page.getByRole('button', { name: /2 Trunk B/ }).click();
  await page.getByRole('button', { name: /2 Trunk C/ }).click();
  await page.locator('textarea').fill(far.join(' '));
  await page.getByRole('button', { name: 'Explain' }).click();
  await expect(page.locator('[data-test=explanation]')).toContainText('Fibers crossed at ports 3, 100');
  await page.locator('textarea').fill('1 2 2');
  await page.getByRole('button', { name: 'Explain' }).click();
  await expect(page.getByRole('alert')).toContainText('A map of 144 ports, and 3 came');
});

test('trays of splices with the class behind them, and what costs what', async ({ page, demo }) => {
  await enterDemo(page, demo, /As the lead/);
  await choose(page.getByLabel('Class', { exact: true }), 'Harbour Ring crew 2, splicing');
  await page.getByRole('link', { name: 'Links' }).click();
  await page.getByRole('tab', { name: 'Splices' }).click();
  await expect(page.locator('.tray li')).toHaveCount(12);
  await expect(page.locator('.facts')).toContainText('144'); // With the twelve fibers of each ribbon.
  await page.getByRole('tab', { name: 'Joint loss' }).click();
  // Common practice: 1 um off costs about 0.2 dB.
  await expect(page.locator('.causes > div', { hasText: 'Cores side by side' })).toContainText('0.205');
  const gap = page.getByRole('slider', { name: /Gap/ });
  await gap.focus();
  while ((await gap.getAttribute('aria-valuenow')) !== '50') await page.keyboard.press('ArrowRight');
  await expect(page.getByText(/return loss 14\.\d dB/)).toBeVisible();
});
