import { enterDemo, expect, row, saved, startPiece, test as onTheDemo, testAlone as test } from '../world.ts';

/** Every key of the sheet, and what follows. */
test('each key does what the list of keys says, and nothing with a modifier or in a field for text', async ({
  page,
  own,
}) => {
  await enterDemo(page, own);
  const attempt = await startPiece(page, 'Cora Whitlace');
  const current = page.locator('.row-of.current');
  const name = async (): Promise<string> => (await current.getAttribute('data-criterion'))!;
  const state = (of: string) => row(page, of);

  await test.step('? opens the list, Escape closes it', async () => {
    await page.keyboard.press('?');
    const list = page.getByRole('dialog');
    await expect(list).toContainText('Next and previous trainee');
    // While it is open no key acts on the sheet behind it.
    await page.keyboard.press('x');
    await page.keyboard.press('Escape');
    await expect(list).toBeHidden();
    await expect(page.locator('.row-of[data-state=scored]')).toHaveCount(0);
  });

  const first = await name();
  await test.step('down and up go from criterion to criterion', async () => {
    await page.keyboard.press('ArrowDown');
    expect(await name()).not.toBe(first);
    await page.keyboard.press('ArrowUp');
    expect(await name()).toBe(first);
    await page.keyboard.press('ArrowUp');
    expect(await name()).toBe(first);
  });

  await test.step('with Control, Alt or Meta held a key is the browser’s', async () => {
    for (const key of ['Control+x', 'Alt+s', 'Meta+g']) await page.keyboard.press(key);
    await expect(state(first)).toHaveAttribute('data-state', 'open');
    await expect(page.getByRole('dialog')).toHaveCount(0);
  });

  await test.step('X fails a check, Z takes it back, Enter passes it and goes on', async () => {
    await page.keyboard.press('x');
    await expect(state(first)).toHaveAttribute('data-verdict', 'fail');
    await page.keyboard.press('z');
    await expect(state(first)).toHaveAttribute('data-state', 'open');
    expect(await name()).toBe(first);
    await page.keyboard.press('Enter');
    await expect(state(first)).toHaveAttribute('data-verdict', 'pass');
    expect(await name()).not.toBe(first);
  });

  await test.step('P passes the open checks of the step at hand, what is sampled too', async () => {
    await row(page, 'wedge-in').locator('.main').first().click();
    await page.keyboard.press('z');
    await page.locator('h1').click();
    await page.keyboard.press('p');
    for (const of of ['bow', 'wedge-in', 'clean-guide']) {
      await expect(state(of)).toHaveAttribute('data-verdict', 'pass');
    }
    expect(await name()).toBe('both-sides');
  });

  await test.step('E says of all that is only scored when seen that it was not seen', async () => {
    await page.keyboard.press('e');
    await expect(state('yarn')).toHaveAttribute('data-state', 'not_seen');
    await expect(state('finish')).toHaveAttribute('data-state', 'not_seen');
    await expect(state('both-sides')).toHaveAttribute('data-state', 'open');
    await expect(page.getByRole('button', { name: /Rest not seen/ })).toHaveCount(0);
  });

  await test.step('S says not seen and goes on; capitals are the same keys', async () => {
    const of = await name();
    await page.keyboard.press('Shift+S');
    await expect(state(of)).toHaveAttribute('data-state', 'not_seen');
    expect(await name()).not.toBe(of);
    await page.keyboard.press('z');
    await expect(state(of)).toHaveAttribute('data-state', 'open');
  });

  await test.step('digits go into a measurement from anywhere, Enter takes it', async () => {
    await row(page, 'bare-length').locator('.main').first().click();
    expect(await name()).toBe('bare-length');
    await page.locator('h1').click();
    await page.keyboard.type('40');
    await page.keyboard.press('Enter');
    await expect(state('bare-length')).toHaveAttribute('data-verdict', 'pass');
  });

  await test.step('typed slowly or as fast as a scanner, no digit is lost', async () => {
    for (const [value, delay] of [
      ['39.75', 0],
      ['40.25', 120],
    ] as const) {
      await row(page, 'bare-length').locator('input').fill('');
      await page.locator('h1').click();
      await page.keyboard.type(value, { delay });
      await expect(row(page, 'bare-length').locator('input')).toHaveValue(value);
    }
    await page.keyboard.press('Enter');
    await expect(state('bare-length')).toHaveAttribute('data-verdict', 'pass');
  });

  await test.step('a digit chooses a level of a scale, and one that is not there nothing', async () => {
    await row(page, 'cleave-face').locator('.main').first().click();
    await page.locator('h1').click();
    expect(await name()).toBe('cleave-face');
    await page.keyboard.press('9');
    await page.keyboard.press('1');
    await expect(state('cleave-face')).toHaveAttribute('data-verdict', 'pass');
  });

  await test.step('T starts a timer and stops it', async () => {
    await row(page, 'settle').locator('.main').first().click();
    await page.locator('h1').click();
    await page.keyboard.press('t');
    await expect(page.getByRole('region', { name: 'Running timers' }).getByRole('link')).toHaveCount(1);
    await page.keyboard.press('t');
    await expect(page.getByRole('region', { name: 'Running timers' })).toHaveCount(0);
  });

  await test.step('N writes a note, in which keys are letters', async () => {
    await page.keyboard.press('n');
    const note = page.getByRole('dialog').getByRole('textbox');
    await note.fill('');
    await note.pressSequentially('next: x s g z');
    await expect(note).toHaveValue('next: x s g z');
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toBeHidden();
  });

  await test.step('/ finds on the sheet too, and keys are letters in it', async () => {
    await page.keyboard.press('/');
    const field = page.getByRole('combobox', { name: /Trainee, piece, method/ });
    await expect(field).toBeFocused();
    await page.keyboard.type('xsgz/');
    await expect(field).toHaveValue('xsgz/');
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toBeHidden();
  });

  await test.step('G asks for the signature, and signs nothing by itself', async () => {
    await page.keyboard.press('g');
    await expect(page.locator('[data-test=sign-now]')).toBeVisible();
    await page.keyboard.press('Escape');
    await saved(page);
    expect((await own.db('attempts').where({ id: attempt }).first()).state).toBe('open');
  });

  await test.step('] and [ go to the next trainee who has an open piece, and back', async () => {
    const here = page.url();
    await page.keyboard.press(']');
    await expect(page).not.toHaveURL(here);
    await expect(page.locator('.row-of').first()).toBeVisible();
    await page.keyboard.press('[');
    await expect(page).toHaveURL(here);
  });
});

onTheDemo(
  'find leads by keys alone to a view, a piece, a method, the records, an act',
  async ({ page, demo }) => {
    await enterDemo(page, demo);
    const find = async (text: string, ...keys: string[]): Promise<void> => {
      await page.keyboard.press('/');
      await expect(page.getByRole('combobox', { name: /Trainee, piece, method/ })).toBeFocused();
      await page.keyboard.type(text);
      for (const key of [...keys, 'Enter']) await page.keyboard.press(key);
      await expect(page.getByRole('dialog')).toBeHidden();
    };
    await find('polarity');
    await expect(page).toHaveURL(/links\?view=ports/);
    await find('holloweg');
    await expect(page.getByRole('heading', { level: 1, name: 'Bastian Holloweg' })).toBeVisible();
    await find('bench cleave');
    await expect(page.getByRole('heading', { level: 1, name: 'Bench cleave with inspection' })).toBeVisible();
    // The last of the list: the search of all records.
    await find('cora', 'ArrowUp');
    await expect(page).toHaveURL(/records\?search=cora/);
    await find('night');
    await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark');
    await page.getByRole('textbox', { name: /^Search/ }).press('/');
    await expect(page.getByRole('dialog')).toBeHidden();
  },
);
