import { DemoServer, enterDemo, expect, test, violations, textOf } from '../world.ts';

test('a class goes from one school to another as an archive', async ({ page, demo, browser }) => {
  await enterDemo(page, demo, /lead/);
  await page.goto(`${demo.url}/classes`);
  await page.getByRole('link', { name: 'Harbour Ring crew 2, splicing' }).click();
  await page.getByRole('link', { name: 'Records' }).click();
  const records = await textOf(page.locator('[data-test=total]'), /^\d+ attempts/);
  await page.getByRole('button', { name: 'Take out', exact: true }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'The class as an archive' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('class-archive.zip');
  const file = await download.path();

  const school = await DemoServer.make('real');
  const there = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  try {
    await there.goto(`${school.url}/`);
    await there.locator('input[name=code]').fill(school.setupCode);
    await there.locator('input[name=name]').fill('Sunniva Aldermoor');
    await there.locator('input[name=login]').fill('aldermoor');
    await there.locator('input[name=password]').fill('a long enough phrase');
    await there.getByRole('button', { name: 'Make the account' }).click();
    await there.getByRole('button', { name: 'Take a class in from an archive' }).click();
    const dialog = there.getByRole('dialog', { name: 'A class from an archive' });
    await dialog.locator('input[type=file]').setInputFiles(file);
    await expect(dialog.getByRole('heading', { name: 'Harbour Ring crew 2, splicing' })).toBeVisible();
    await expect(dialog).toContainText('a new account, closed until you open it');
    expect(await violations(there)).toEqual([]);
    await dialog.getByRole('button', { name: 'Take the class in' }).click();
    await expect(
      there.getByRole('heading', { level: 1, name: 'Harbour Ring crew 2, splicing' }),
    ).toBeVisible();
    await there.getByRole('link', { name: 'Records', exact: true }).click();
    await expect(there.locator('[data-test=total]')).toHaveText(records);
    await there.getByRole('link', { name: 'Insight' }).click();
    await expect(there.getByRole('heading', { name: 'Insight' })).toBeVisible();

    await there.goto(`${school.url}/classes`);
    await there.getByRole('button', { name: 'Take a class in from an archive' }).click();
    await dialog.locator('input[type=file]').setInputFiles(file);
    await expect(dialog).toContainText('This class is here already');
  } finally {
    await there.close();
    await school.close();
  }
});
