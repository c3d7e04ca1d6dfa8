import { enterDemo, expect, test, violations, textOf } from '../world.ts';

test('a device at a bench: names, a PIN, the next person goes on at the same place', async ({
  page,
  demo,
}) => {
  await enterDemo(page, demo);
  await page.getByRole('link', { name: 'Class', exact: true }).click();
  await page.getByRole('tab', { name: 'Equipment' }).click();
  await page.locator('input[name=bench-label]').fill('Bench 4');
  await page.getByRole('button', { name: 'Make this a bench device' }).click();
  await expect(page.getByText('this device', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: /settings and sign out/ }).click();
  await page.getByRole('button', { name: 'Sign out', exact: true }).click();

  await expect(page.getByRole('heading', { name: 'Bench 4' })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.getByRole('button', { name: 'Osric Bellamont' }).click();
  for (const digit of '4072') await page.getByRole('button', { name: digit, exact: true }).click();
  await page.getByRole('button', { name: 'In', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('That is not the PIN.');
  expect(await violations(page)).toEqual([]);
  await page.keyboard.type('4071');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Today' })).toBeVisible();
  await page.getByRole('link', { name: 'Records' }).click();
  await page.getByRole('button', { name: 'Change person' }).click();

  await page.getByRole('button', { name: 'Nkeiru Havelind' }).click();
  await page.keyboard.type('4071');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Records' })).toBeVisible();
});

test('equipment comes out of a file, and all reports of the class go into one', async ({ page, demo }) => {
  await enterDemo(page, demo);
  await page.getByRole('link', { name: 'Class', exact: true }).click();
  await page.getByRole('tab', { name: 'Equipment' }).click();
  await page.getByRole('button', { name: 'Out of a file' }).click();
  const dialog = page.getByRole('dialog', { name: 'Equipment out of a file' });
  const file = 'Type;Label\r\nscope;Scope 21\r\ncleaver;Cleaver 1\r\n';
  await dialog
    .locator('input[type=file]')
    .setInputFiles({ name: 'stock.csv', mimeType: 'text/csv', buffer: Buffer.from(file) });
  await expect(dialog).toContainText('there already: left out');
  expect(await violations(page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Add 1' }).click();
  await expect(page.getByRole('button', { name: 'Scope 21' })).toBeVisible();

  await page.getByRole('link', { name: 'Records' }).click();
  await page.getByRole('link', { name: 'Reports' }).click();
  const all = page.getByRole('button', { name: 'Class report and every record as a ZIP' });
  await all.click();
  await page.getByRole('button', { name: 'Cancel', exact: true }).click();
  await expect(page.getByText('Cancelled.')).toBeVisible();
  await all.click();
  const save = page.getByRole('link', { name: 'Save the 17 reports' });
  await expect(save).toBeVisible({ timeout: 90_000 });
  const [download] = await Promise.all([page.waitForEvent('download'), save.click()]);
  expect(download.suggestedFilename()).toBe('reports.zip');
});

test('a lead sees other programs, and the own account offers tokens', async ({ page, demo }) => {
  await enterDemo(page, demo, /lead/);
  await page.goto(`${demo.url}/accounts?view=programs`);
  await expect(page.getByRole('heading', { name: 'Tell another program' })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.goto(`${demo.url}/account`);
  await page.locator('input[name=token-label]').fill('Sheet of the office');
  await page.getByRole('button', { name: 'Make a token' }).click();
  const token = await textOf(page.locator('[data-test=token]'), /\S/);
  expect(await violations(page)).toEqual([]);
  const reply = await page.request.get(`${demo.url}/api/classes`, {
    headers: { Authorization: `Bearer ${token}` },
  });
  expect(reply.status()).toBe(403);
  expect(await reply.json()).toMatchObject({ code: 'auth.token_rights' });
});
