import { choose, expect, row, test, violations, textOf } from '../world.ts';

test('from nothing: the lead’s account, a class, a bench, a piece, a result', async ({
  page,
  real,
  browser,
}) => {
  await page.goto(`${real.url}/`);
  await page.locator('input[name=code]').fill('AAAAA-BBBBB');
  await page.locator('input[name=name]').fill('Tamsin Orrel');
  await page.locator('input[name=login]').fill('orrel');
  await page.locator('input[name=password]').fill('a long enough phrase');
  await page.getByRole('button', { name: 'Make the account' }).click();
  await expect(page.getByRole('alert')).toContainText('not the code');
  await page.locator('input[name=code]').fill(real.setupCode.toLowerCase());
  await page.getByRole('button', { name: 'Make the account' }).click();

  await expect(page.getByRole('heading', { name: 'Classes' })).toBeVisible();
  await page.getByRole('link', { name: 'Everybody’s accounts' }).click();
  await page.locator('input[name=invite-name]').fill('Bela Okarin');
  await page.getByRole('button', { name: 'Make a code' }).click();
  const code = await textOf(page.locator('[data-test=code]'), /-/);
  // On another device the invited person opens the address with the code.
  const invited = await (await browser.newContext()).newPage();
  await invited.goto(`${real.url}/join#${code}`);
  await expect(invited.getByRole('heading', { name: 'Bela Okarin' })).toBeVisible();
  expect(await violations(invited)).toEqual([]);
  await invited.locator('input[name=login]').fill('okarin');
  await invited.locator('input[name=password]').fill('another long phrase');
  await invited.getByRole('button', { name: 'Begin' }).click();
  await expect(invited.getByRole('heading', { name: 'Classes' })).toBeVisible();
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('row', { name: /Bela Okarin/ })).toContainText('invited');
  expect(await violations(page)).toEqual([]);
  await page.getByRole('tab', { name: 'What was done' }).click();
  await expect(page.locator('[data-test=trail]')).toContainText('took an account by its code');
  await page.goto(`${real.url}/classes`);

  await page.locator('input[name=class-name]').fill('Pier crew 1');
  await page.locator('input[name=class-place]').fill('Old net loft');
  await page.getByRole('button', { name: 'Make the class' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Pier crew 1' })).toBeVisible();
  await page.getByLabel('Names of new trainees, one a line').fill('Ysolde Brack\nTorvin Hale\n\n');
  await page.getByRole('button', { name: 'Add trainees' }).click();
  await expect(page.locator('[data-test=trainees] tbody td:first-child')).toHaveText([
    'Torvin Hale',
    'Ysolde Brack',
  ]);
  await choose(page.getByLabel('Instructor to add'), 'Bela Okarin');
  await page.getByRole('button', { name: 'Add instructor' }).click();
  await expect(page.getByRole('listitem').filter({ hasText: 'Bela Okarin' })).toBeVisible();
  await page.getByRole('button', { name: 'Do this' }).first().click();
  await page.getByLabel('Label', { exact: true }).fill('Bench A');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Bench A' })).toBeVisible();
  // Of the steps to the first piece the methods are left.
  await page.getByRole('button', { name: 'Do this' }).click();
  await page.getByRole('switch', { name: /^Use / }).first().locator('xpath=..').click();
  await expect(page.getByRole('button', { name: 'Do this' })).toHaveCount(0);

  await page.getByRole('link', { name: 'Insight' }).click();
  await expect(page.getByText('Nothing is signed yet')).toBeVisible();
  await page.getByRole('link', { name: 'To today’s benches' }).click();
  await page.locator('[data-trainee="Ysolde Brack"] button').click();
  await choose(page.getByLabel('Bench', { exact: true }), 'Bench A');
  await page.getByRole('button', { name: 'Start the piece' }).click();
  await row(page, 'glasses').getByRole('button', { name: /Fail/ }).click();
  await page.getByRole('button', { name: 'Sign: fail' }).click();
  await page.locator('[data-test=sign-now]').click();
  await expect(page.getByText('Signed', { exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Insight' }).click();
  await expect(page.locator('[data-need="Ysolde Brack"]')).toContainText('A stop breach is not cleared');
});

test('an instructor signs in by name and password, and sees the own classes only', async ({ page, real }) => {
  await page.goto(`${real.url}/classes`);
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await page.locator('input[name=login]').fill('okarin');
  await page.locator('input[name=password]').fill('wrong');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert')).toContainText('do not match');
  await page.locator('input[name=password]').fill('another long phrase');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Classes' })).toBeVisible();
  await expect(page.getByRole('main').getByRole('link', { name: 'Pier crew 1' })).toBeVisible();
});
