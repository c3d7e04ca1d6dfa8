import type { Page } from '@playwright/test';
import { Api } from '../api.ts';
import { enterDemo, expect, row, saved, testAlone as test } from '../world.ts';

const dialog = (page: Page) => page.getByRole('dialog').filter({ visible: true });

async function setReference(page: Page, level: string): Promise<void> {
  await row(page, 'loss').getByRole('button', { name: 'Set reference' }).click();
  for (const nm of [1310, 1550]) await page.locator(`[data-test=reference-${nm}]`).fill(level);
  await dialog(page).getByRole('button', { name: 'Set reference' }).click();
}
async function read(page: Page, nm: number, level: string): Promise<void> {
  const field = row(page, 'loss').locator(`[data-part="${nm}"] input`);
  await field.fill(level);
  await field.press('Enter');
}
/** Checks a test cord on the class page: its loss, and the day until which that holds. */
async function checkCord(page: Page, cord: string, loss: string, day: string | null): Promise<void> {
  const tab = page.getByRole('tab', { name: 'Equipment' });
  if (!(await tab.isVisible())) await page.getByRole('link', { name: 'Class', exact: true }).click();
  await tab.click();
  const line = page.locator('[data-test=cord-checks] tr').filter({ hasText: cord });
  await line.getByRole('button', { name: 'Check', exact: true }).click();
  await page.locator('[data-test=cord-loss]').fill(loss);
  if (day !== null) {
    for (const label of ['Checked on', 'Holds until the end of']) {
      const field = dialog(page).getByLabel(label);
      await field.fill(day);
      await field.press('Enter');
    }
  }
  await dialog(page).getByRole('button', { name: 'Save the check' }).click();
  await expect(page.locator('[data-test=cord-loss]')).toHaveCount(0);
}

test('a test cord whose check ran out makes readings void until it is checked again', async ({
  page,
  own,
}) => {
  await enterDemo(page, own);
  const api = new Api(page, own);
  const detail = await api.classDetail();
  const cord = detail.things.find((t) => t.kind === 'cord')!;
  const line = page.locator('[data-test=cord-checks] tr').filter({ hasText: cord.label });
  await checkCord(page, cord.label, '0.2', '2026-01-15');
  await expect(line).toContainText('check it again');

  const sheet = await api.start(detail, 'lc-wedge-locator', 0, { things: [cord.id] });
  await page.goto(sheet);
  await row(page, 'loss').getByRole('button', { name: 'Set reference' }).click();
  await expect(dialog(page).getByRole('alert')).toContainText(
    `The check of ${cord.label} held until 2026-01-15`,
  );
  await page.keyboard.press('Escape');
  await setReference(page, '-5.00');
  await read(page, 1310, '-5.60');
  await expect(row(page, 'loss').locator('[data-part="1310"]')).toContainText('held until 2026-01-15');

  await checkCord(page, cord.label, '0.9', null);
  await expect(line).toContainText('fails');
  await checkCord(page, cord.label, '0.2', null);
  await expect(line).toContainText('holds');
  await page.goBack();
  await read(page, 1310, '-5.61');
  await expect(row(page, 'loss').locator('[data-part="1310"]')).not.toContainText('held until');
  await expect(row(page, 'loss').locator('[data-part="1310"]')).toContainText('0.61');
});

test('a reference that moved voids its readings; one that holds narrows the uncertainty', async ({
  page,
  own,
}) => {
  await enterDemo(page, own);
  const api = new Api(page, own);
  await page.goto(await api.start(await api.classDetail(), 'lc-wedge-locator'));
  await row(page, 'loss').getByRole('button', { name: 'Set reference' }).click();
  await dialog(page).getByText('not said').click();
  await page.getByRole('option', { name: 'Transceiver' }).click();
  for (const nm of [1310, 1550]) await page.locator(`[data-test=reference-${nm}]`).fill('-5.00');
  await dialog(page).getByRole('button', { name: 'Set reference' }).click();
  // The limit is 0.75 dB: 0.62 lies within the uncertainty of it while the drift is not known.
  await read(page, 1310, '-5.62');
  await read(page, 1550, '-5.30');
  await saved(page);
  await expect(row(page, 'loss')).toHaveAttribute('data-verdict', 'marginal_pass');

  await page.locator('[data-test=reread-here]').click();
  const line = dialog(page).locator('[data-reference="1310"]');
  await expect(line).toContainText('transceiver');
  await line.getByRole('textbox').fill('much');
  await expect(line).toContainText('“much” is not a level');
  await expect(dialog(page).getByRole('button', { name: 'Save what was read' })).toBeDisabled();
  await line.getByRole('textbox').fill('-4,99');
  await expect(line).toContainText('+0.01 dB holds');
  await dialog(page).getByRole('button', { name: 'Save what was read' }).click();
  await expect(row(page, 'loss')).toHaveAttribute('data-verdict', 'pass');

  await page.getByRole('link', { name: 'Links', exact: true }).click();
  await page.getByRole('tab', { name: 'References', exact: true }).click();
  const newest = page.locator('[data-test=references] tbody tr').filter({ hasText: '-4.99' });
  await expect(newest).toContainText('holds');
  await newest.getByRole('button', { name: 'Read again' }).click();
  await dialog(page).getByRole('textbox').fill('-4.80');
  await expect(dialog(page)).toContainText('+0.20 dB moved too far');
  await dialog(page).getByRole('button', { name: 'Save what was read' }).click();
  await expect(page.locator('[data-test=references]')).toContainText('moved too far');
  await page.goBack();
  await expect(row(page, 'loss').locator('[data-part="1310"]')).toContainText(
    'the reference moved 0.20 dB, allowed 0.10 dB',
  );
});

test('a link: a slip of forms is caught, the mandrel told, two tests stand side by side', async ({
  page,
  own,
}) => {
  await enterDemo(page, own);
  const api = new Api(page, own);
  const detail = await api.classDetail();
  const link = detail.links.find((l) => l.plan.fiberClass === 'OS2' && l.plan.fibers === 1)!;
  for (const level of ['-5.90', '-5.40']) {
    await page.goto(await api.start(detail, 'lc-wedge-locator', 1, { linkId: link.id }));
    await setReference(page, '-5.00');
    await read(page, 1310, level);
    await read(page, 1550, level);
    await saved(page);
    await page.locator('button.sign').click();
    await expect(page.locator('[data-test=sign-now]')).toBeVisible();
    // A piece that has failed is decided; one that is not whole needs a reason.
    const reason = page.locator('[data-test=sign-reason]');
    if ((await reason.count()) > 0) await reason.fill('Only the loss was asked for');
    await page.locator('[data-test=sign-now]').click();
    await expect(page.getByText(/Signed/).first()).toBeVisible();
  }
  await page.getByRole('link', { name: 'Links', exact: true }).click();
  await page.getByRole('button', { name: link.label, exact: true }).click();
  const tests = page.locator('[data-test=link-tests]');
  await expect(tests.locator('tbody tr').first()).toContainText('0.90');
  await expect(tests.locator('tbody tr').first()).toContainText('better by 0.50 dB');

  const coefficient = page.getByLabel(/^Coefficient at 1310 nm/);
  await coefficient.fill('1 dB/km = 0.1 dB per 600 ft');
  await coefficient.press('Enter');
  await expect(page.getByRole('alert')).toContainText('“0.1 dB per 600 ft” is 0.55 dB/km, not 1');
  await coefficient.fill('1 dB per 10000 ft');
  await coefficient.press('Enter');
  await expect(coefficient).toHaveValue('0.3281');

  await page.getByRole('button', { name: /multimode/ }).click();
  const launch = page.locator('[data-test=launch]');
  await expect(launch).toContainText(/Five turns, side by side, on a mandrel of (17|22) mm/);
  await launch.getByText('Bend-insensitive fiber').click();
  await expect(launch).toContainText('A bend-insensitive cord defeats the mandrel');
});
