import { SHIPPED_METHODS } from '@clear-mark/methods';
import { Api } from '../api.ts';
import { enterDemo, expect, row, testAlone as test } from '../world.ts';

const VALUES: Readonly<Record<string, string>> = {
  'jacket-length': '70.5',
  'bare-length': '40',
  'cleave-length': '10.4',
};

test('a connector that is well takes at most 18 acts from the start to the signature', async ({
  page,
  own,
}) => {
  await page.addInitScript(() => localStorage.setItem('loss-unit', 'dB'));
  await enterDemo(page, own, /As the lead/);
  const api = new Api(page, own);
  const detail = await api.classDetail();
  // As shipped: at working depth, nobody looks at a wedge's cleave.
  await api.call('PUT', `/classes/${detail.id}/practice-options`, {
    practice: 'inspect-cleaves',
    option: 'result',
  });
  await api.references(detail, 'single_cord', [1310, 1550]);
  await page.goto(await api.start(detail, 'lc-wedge-locator', 3));
  const current = page.locator('.row-of.current');
  let acts = 0;
  for (let guard = 0; guard < 40; guard++) {
    const name = (await current.getAttribute('data-criterion'))!;
    if ((await current.getAttribute('data-state')) !== 'open') break;
    if (name in VALUES) await page.keyboard.type(`${VALUES[name]!}\n`);
    else if (name === 'end-face') await page.keyboard.press('1');
    else if (name === 'loss') {
      // A reading a wavelength.
      acts += 1;
      await page.keyboard.type('0.20\n');
      await page.keyboard.type('0.22\n');
    } else await page.keyboard.press('p');
    acts += 1;
    await expect(row(page, name)).toHaveAttribute('data-state', 'scored');
  }
  await expect(page.locator('[data-test=verdict]')).toHaveText('Pass');
  await page.keyboard.press('g');
  await page.locator('[data-test=sign-now]').click();
  acts += 2;
  await expect(page.getByText(/^Signed by|Signed$/).first()).toBeVisible();
  expect(acts).toBeLessThanOrEqual(18);
  // The next trainee of the row is one act away.
  const here = page.url();
  await page.keyboard.press(']');
  await expect(page).not.toHaveURL(here);
});

test('a stop ends the piece for safety, is told on the board, and can be taken back until it is signed', async ({
  page,
  own,
}) => {
  await enterDemo(page, own, /As the lead/);
  const api = new Api(page, own);
  const detail = await api.classDetail();
  const address = await api.start(detail, 'handle-crimp', 2);
  await page.goto(address);
  await row(page, 'glasses').locator('.main').click();
  await page.keyboard.press('!');
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('button', { name: 'Stop the piece' })).toBeDisabled();
  await dialog.getByText('Safety glasses off').click();
  await dialog.getByLabel('What happened').fill('pushed up to the forehead');
  await dialog.getByRole('button', { name: 'Stop the piece' }).click();
  await expect(page.locator('[data-test=verdict]')).toHaveText('Fail');
  await expect(page.getByRole('alert').first()).toContainText('pushed up to the forehead');
  await expect(page.locator('[data-skill=terminate]')).toContainText('Stopped for safety');
  await page.getByRole('button', { name: 'Take the stop back' }).click();
  await expect(page.locator('[data-test=verdict]')).toHaveText('Incomplete');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('dialog').getByText('Glass shards loose').click();
  await page.getByRole('dialog').getByRole('button', { name: 'Stop the piece' }).click();
  await page.getByRole('link', { name: 'Today', exact: true }).click();
  await expect(page.getByText('Stopped: glass shards loose')).toBeVisible();
  await page.goto(address);
  await expect(page.getByRole('alert').first()).toContainText('Stopped.');
  await page.keyboard.press('g');
  await page.locator('[data-test=sign-now]').click();
  await expect(page.getByText(/^Signed by|Signed$/).first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toHaveCount(0);
  const id = address.split('/').pop();
  const marks = await own.db('outcome_skills').where({ attempt_id: id, mark: 'S' }).pluck('skill');
  expect(marks).toContain('whole');
});

test('every connector fails in the browser on each of its decisive items', async ({ page, own }) => {
  await enterDemo(page, own, /As the lead/);
  const api = new Api(page, own);
  const detail = await api.classDetail();
  const connectors = SHIPPED_METHODS.filter((m) => m.pieceKind === 'connector' && m.thingsUsed.length > 2);
  for (const [i, sheet] of connectors.entries()) {
    await page.goto(await api.start(detail, sheet.id.replace('clear-mark/', ''), i));
    await expect(page.getByRole('link', { name: sheet.title, exact: true })).toBeVisible();
    const decisive = sheet.steps
      .flatMap((s) => s.criteria)
      .filter((c) => c.kind === 'check' && c.critical)
      .map((c) => c.id.split('/')[2]!);
    const wrong = await page.evaluate(async (names) => {
      const settled = (): Promise<void> => new Promise((done) => setTimeout(done, 0));
      const told: string[] = [];
      for (const name of names) {
        const element = document.querySelector<HTMLElement>(`[data-criterion="${name}"]`)!;
        const fail = [...element.querySelectorAll('button')].find((b) => /Fail/.test(b.textContent));
        fail!.click();
        await settled();
        if (document.querySelector('[data-test=verdict]')!.textContent.trim() !== 'Fail') told.push(name);
        const undo = [...document.querySelectorAll('button')].find((b) => b.textContent.trim() === 'Undo');
        undo!.click();
        await settled();
      }
      return told;
    }, decisive);
    expect(wrong, sheet.id).toEqual([]);
    await expect(page.locator('[data-test=verdict]'), sheet.id).toHaveText('Incomplete');
  }
});
