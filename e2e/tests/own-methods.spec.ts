import { readPdf } from '../../tools/pdf-for-tests.ts';
import { enterDemo, expect, saved, testAlone as test, tooWide, verdict, violations } from '../world.ts';

test('a lead copies a method, changes a length and a limit, publishes it, and a piece is scored by it', async ({
  page,
  own,
  problems,
}) => {
  await enterDemo(page, own, /As the lead/);
  await page.getByRole('link', { name: 'Class', exact: true }).click();
  await page.getByRole('tab', { name: 'Methods' }).click();
  await page.getByRole('link', { name: 'Bench cleave with inspection' }).click();
  await page.getByRole('button', { name: 'Copy as a new method' }).click();
  await page.getByLabel('Name of the new method').fill('Bench cleave, 12 mm');
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Bench cleave, 12 mm' })).toBeVisible();

  // The limit, its aim and its source; the sheet beside it judges by what is written.
  await page.locator('[data-pick=cleave-length]').click();
  await page.locator('[data-test=limit-lower]').fill('11,5');
  await page.locator('[data-test=limit-upper]').fill('12,5');
  await page.getByLabel('Aim', { exact: true }).fill('12');
  await page.getByLabel('Source: Not under', { exact: true }).fill('our cleavers are set to 12 mm');
  await page.getByLabel('Source: Not over', { exact: true }).fill('our cleavers are set to 12 mm');
  const tried = page.locator('.try [data-criterion=cleave-length]');
  await tried.locator('input[data-number]').fill('13');
  await tried.locator('input[data-number]').press('Enter');
  await expect(tried).toHaveAttribute('data-verdict', 'fail');
  await tried.locator('input[data-number]').fill('12');
  await tried.locator('input[data-number]').press('Enter');
  await expect(tried).toHaveAttribute('data-verdict', 'pass');

  // A step goes elsewhere by the keyboard, a criterion is written and taken out again.
  await page.locator('.pick.name').first().click();
  await page.getByRole('button', { name: 'Add a criterion to Bench made safe' }).click();
  await page.getByRole('menuitem', { name: 'Count' }).click();
  await expect(page.getByRole('button', { name: 'Publish' })).toBeDisabled();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Nothing is missing: it can be published.')).toBeVisible();
  await expect(page.locator('[data-test=save-state]')).toHaveText('Saved');

  // What moved, in words, and what it would have done to the pieces of the class.
  await page.getByRole('link', { name: 'Compare' }).click();
  const differences = page.locator('[data-test=differences]');
  await expect(differences).toContainText('12.5 to 13.5 mm');
  await expect(differences).toContainText('11.5 to 12.5 mm, aim 12 (house: our cleavers are set to 12 mm)');
  await page.getByRole('button', { name: 'Score the signed pieces again' }).click();
  await expect(page.locator('[data-test=outcomes]')).toContainText(/[1-9]\d* would no longer pass/);
  await page.goBack();

  await page.getByRole('button', { name: 'Publish' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Publish' }).click();
  await expect(page.getByText(/version 1, in force/)).toBeVisible();

  // The class uses it at once.
  await page.getByRole('link', { name: 'Today' }).click();
  const free = page.locator('.tile:not(.working) button.main').first();
  await free.click();
  await page.getByRole('combobox', { name: 'Method' }).click();
  await page.getByRole('option', { name: 'Bench cleave, 12 mm' }).click();
  await page.getByRole('button', { name: 'Start the piece' }).click();
  await page.waitForURL(/\/sheet\//);
  const length = page.locator('[data-criterion=cleave-length] input[data-number]');
  await length.fill('13');
  await length.press('Enter');
  await verdict(page, 'cleave-length', 'fail');
  await saved(page);
  expect(problems).toEqual([]);
});

test('two leads at one draft: steps of each are kept, the same step is told', async ({
  page,
  own,
  browser,
}) => {
  await enterDemo(page, own, /As the lead/);
  await page.getByRole('link', { name: 'Class', exact: true }).click();
  await page.getByRole('tab', { name: 'Methods' }).click();
  await page.getByRole('button', { name: 'Begin an empty method' }).click();
  await page.locator('[data-test=method-title]').fill('Closure work');
  await expect(page.locator('[data-test=save-state]')).toHaveText('Saved');
  const other = await (await browser.newContext()).newPage();
  await enterDemo(other, own, /As the lead/);
  await other.goto(page.url());
  await expect(other.getByRole('heading', { level: 1, name: 'Closure work' })).toBeVisible();

  await page.getByRole('button', { name: 'Add a step' }).click();
  await page.locator('[data-test=step-title]').fill('Tray laid out');
  await expect(page.locator('[data-test=save-state]')).toHaveText('Saved');
  await other.locator('[data-test=method-summary]').fill('Loose tube into a closure.');
  await expect(other.locator('.pick.name', { hasText: 'Tray laid out' })).toBeVisible();
  await expect(other.locator('[data-test=save-state]')).toHaveText('Saved');

  await page.locator('[data-test=step-title]').fill('Tray cleared');
  await expect(page.locator('[data-test=save-state]')).toHaveText('Saved');
  await other.locator('.pick.name', { hasText: 'Tray laid out' }).click();
  await other.locator('[data-test=step-title]').fill('Tray turned');
  await expect(other.getByRole('alert')).toContainText('Somebody else changed the same meanwhile');
  await other.getByRole('button', { name: 'Load theirs' }).click();
  await expect(other.locator('.pick.name', { hasText: 'Tray cleared' })).toBeVisible();
  await other.getByRole('button', { name: 'The method as a whole' }).click();
  await expect(other.locator('[data-test=method-summary]')).toHaveValue('Loose tube into a closure.');
  await other.context().close();
});

test('a method is put on paper, and taken to another school as a pack', async ({ page, own }) => {
  await enterDemo(page, own, /As the lead/);
  await page.getByRole('link', { name: 'Class', exact: true }).click();
  await page.getByRole('tab', { name: 'Methods' }).click();
  const packs = page.locator('[data-test=packs]');
  await packs.getByRole('button', { name: 'Save methods as a pack' }).click();
  await page.getByLabel('Name of the pack').fill('Harbour methods');
  await page.getByLabel('Who wrote it').fill('Harbour Ring');
  await page.getByLabel('What may be done with it').fill('Free for teaching.');
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save the pack' }).click(),
  ]);
  let text = '';
  for await (const part of await file.createReadStream()) text += String(part);
  expect(file.suggestedFilename()).toBe('harbour-methods.json');
  const open = (content: string) =>
    packs
      .locator('input[type=file]')
      .setInputFiles({ name: 'pack.json', mimeType: 'application/json', buffer: Buffer.from(content) });
  await open(text);
  await expect(packs.locator('[data-test=preview]')).toContainText('Harbour methods by Harbour Ring');
  await expect(packs.getByRole('button', { name: 'Take all of them' })).toBeDisabled();
  await open(text.replace('Free for teaching.', 'Free for all.'));
  await expect(packs.getByRole('alert')).toContainText('its digest does not fit');
  await open('{ "format": ');
  await expect(packs.getByRole('alert')).toContainText('is no JSON file');

  await page.getByRole('link', { name: 'Pre-polished LC, wedge released, with fault locator' }).click();
  for (const what of ['Strip card', 'Score sheet of the class']) {
    await page.getByRole('button', { name: 'Put on paper' }).click();
    await page.getByRole('radio', { name: what }).check({ force: true });
    const [pdf] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save as PDF' }).click(),
    ]);
    const parts: Buffer[] = [];
    for await (const part of await pdf.createReadStream()) parts.push(part as Buffer);
    const bytes = Buffer.concat(parts);
    expect(bytes.subarray(0, 5).toString()).toBe('%PDF-');
    const pages = readPdf(bytes);
    expect(pages.flatMap((p) => p.lines).length, what).toBeGreaterThan(20);
  }
});

test('editor and comparison pass axe, by day and by night, and fit a tablet', async ({ page, own }) => {
  await enterDemo(page, own, /As the lead/);
  await page.getByRole('link', { name: 'Class', exact: true }).click();
  await page.getByRole('tab', { name: 'Methods' }).click();
  await page.getByRole('link', { name: 'Bench cleave with inspection' }).click();
  await page.getByRole('button', { name: 'Copy as a new method' }).click();
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await page.locator('[data-pick=cleave-length]').click();
  await page.locator('[data-test=limit-lower]').fill('14');
  await expect(page.locator('.problems')).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.locator('[data-pick=cleave-look], .pick.name').first().click();
  expect(await violations(page)).toEqual([]);
  await page.setViewportSize({ width: 768, height: 1024 });
  expect(await tooWide(page)).toBeLessThanOrEqual(0);
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole('link', { name: 'Compare' }).click();
  await expect(page.locator('[data-test=differences]')).toBeVisible();
  expect(await violations(page)).toEqual([]);
});
