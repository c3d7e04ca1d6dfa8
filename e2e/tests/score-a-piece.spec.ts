import { Api } from '../api.ts';
import { enterDemo, expect, row, startPiece, test } from '../world.ts';

test('scores a whole piece by keyboard alone, signs it, and it counts', async ({ page, demo }) => {
  await enterDemo(page, demo);
  const attempt = await startPiece(page, 'Anouk Derrey');
  const acts = { checks: 0, keys: 0 };
  const press = async (key: string): Promise<void> => {
    acts.keys += 1;
    await page.keyboard.press(key);
  };
  const current = () => page.locator('.row-of.current');
  const typed: Record<string, string> = {
    'jacket-length': '70.5',
    'bare-length': '40',
    'cleave-length': '10,4',
    'cleave-angle': '0.4',
  };
  for (let guard = 0; guard < 60; guard++) {
    const name = await current().getAttribute('data-criterion');
    const state = await current().getAttribute('data-state');
    if (state !== 'open') break;
    if (name! in typed) {
      await page.keyboard.type(typed[name!]!);
      await press('Enter');
    } else if (['cleave-face', 'end-face'].includes(name!)) await press('1');
    else if (name === 'loss') {
      await page.keyboard.type('-5.70');
      await press('Enter');
      await page.keyboard.type('-6.20');
      await press('Enter');
    } else {
      acts.checks += 1;
      await press('Enter');
    }
    await expect(row(page, name!)).toHaveAttribute('data-state', 'scored');
  }
  // What is only scored when seen, and the trainee's own, may stay open.
  await expect(page.getByTestId('verdict').or(page.locator('[data-test=verdict]'))).toHaveText(
    /Pass|Marginal pass|Fail/,
  );
  await expect(page.locator('[data-test=queue-state]')).toHaveText(/All saved/);
  await press('g');
  await page.locator('[data-test=sign-now]').click();
  await expect(page.getByText(/^Signed by|Signed$/).first()).toBeVisible();
  const stored = await demo.db('attempts').where({ id: attempt }).first();
  expect(stored.state).toBe('signed');
  // A passed check is one key, never more.
  expect(acts.checks).toBeGreaterThan(9);
});

test('judges a measurement as it is typed, asks about a slip, and takes a comma', async ({ page, demo }) => {
  await enterDemo(page, demo);
  await startPiece(page, 'Cora Whitlace');
  const field = row(page, 'cleave-length').locator('input');
  await field.fill('10.5');
  await expect(row(page, 'cleave-length').locator('svg.band')).toHaveClass(/pass/);
  await field.fill('11.6');
  await expect(row(page, 'cleave-length').locator('svg.band')).toHaveClass(/fail/);
  await field.fill('105');
  await field.press('Enter');
  await expect(row(page, 'cleave-length').getByRole('alert')).toContainText('slip of the decimal sign');
  await expect(row(page, 'cleave-length')).toHaveAttribute('data-state', 'open');
  await field.press('Enter');
  await expect(row(page, 'cleave-length')).toHaveAttribute('data-verdict', 'fail');
  await expect(page.getByText('Far outside, and confirmed as typed.')).toBeVisible();
  await row(page, 'bow').getByRole('button', { name: /Fail/ }).click();
  await page.getByRole('button', { name: 'bow started early' }).click();
  const causes = page.locator('[data-test=likely-causes]');
  await expect(causes).toContainText('Bow started early');
  await expect(causes.locator('li').first()).toContainText('cleave too long');
  await causes.locator('li button').first().click();
  await expect(row(page, 'cleave-length')).toHaveClass(/current/);
  await field.fill('10,6');
  await field.press('Enter');
  await expect(row(page, 'cleave-length')).toHaveAttribute('data-verdict', 'pass');
  await field.fill('abc');
  await field.press('Enter');
  await expect(row(page, 'cleave-length').getByRole('alert')).toContainText('is not a number');
  await field.fill('-4');
  await field.press('Enter');
  await expect(row(page, 'cleave-length').getByRole('alert')).toContainText('negative');
  await expect(row(page, 'cleave-length')).toHaveAttribute('data-verdict', 'pass');
});

test('one tap passes, one tap fails and names the fault, one tap takes it back', async ({ page, demo }) => {
  await enterDemo(page, demo);
  await startPiece(page, 'Elif Sandover');
  await row(page, 'glasses').locator('.main').click();
  await expect(row(page, 'glasses')).toHaveAttribute('data-verdict', 'pass');
  const offset = async (): Promise<number> =>
    (await row(page, 'jacket-edge').boundingBox())!.y - (await row(page, 'glasses').boundingBox())!.y;
  const before = await offset();
  await row(page, 'boot-on').getByRole('button', { name: /Fail/ }).click();
  await expect(row(page, 'boot-on')).toHaveAttribute('data-verdict', 'fail');
  // Nothing jumps under the finger: the rows keep their places.
  expect(await offset()).toBe(before);
  await page.getByRole('button', { name: 'boot forgotten' }).click();
  await expect(page.locator('[data-skill=strip]')).toContainText('boot forgotten');
  await expect(page.locator('[data-test=verdict]')).toHaveText('Fail');
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(row(page, 'boot-on')).toHaveAttribute('data-state', 'open');
  await expect(page.locator('[data-test=verdict]')).toHaveText('Incomplete');
  // A scored row is only chosen by a second tap.
  await row(page, 'glasses').locator('.main').click();
  await expect(row(page, 'glasses')).toHaveAttribute('data-verdict', 'pass');
  await page.getByRole('button', { name: 'Fail instead' }).click();
  await expect(row(page, 'glasses')).toHaveAttribute('data-verdict', 'fail');
  await expect(page.getByText('Stopped: Safety glasses on')).toBeVisible();
});

test('timers run on their start, over a reload', async ({ page, demo }) => {
  await enterDemo(page, demo, /As the lead/);
  const api = new Api(page, demo);
  await page.goto(await api.start(await api.classDetail(), 'acrylic-primer', 6));
  await row(page, 'insertion').getByRole('button', { name: 'Start' }).click();
  await expect(row(page, 'insertion').getByRole('timer')).toHaveText('0:01');
  // Several at once, seen from every place, and the way back is one tap.
  await row(page, 'settle').getByRole('button', { name: 'Start' }).click();
  const strip = page.getByRole('region', { name: 'Running timers' });
  await page.getByRole('link', { name: 'Insight' }).click();
  await expect(strip.getByRole('link')).toHaveCount(2);
  await expect(strip.getByRole('link').first()).toContainText('Adhesive touched to bottomed, running');
  await strip.getByRole('link').first().click();
  await page.waitForURL(/\/sheet\//);
  await page.reload();
  await expect(row(page, 'insertion').getByRole('timer')).toHaveText(/0:0[2-9]/);
  await row(page, 'insertion').getByRole('button', { name: 'Stop' }).click();
  await expect(row(page, 'insertion')).toHaveAttribute('data-verdict', 'pass');
  await expect(strip.getByRole('link')).toHaveCount(1);
  await row(page, 'settle').getByRole('button', { name: 'Stop' }).click();
  await expect(row(page, 'settle')).toHaveAttribute('data-verdict', 'fail');
  await expect(strip).toHaveCount(0);
});

test('an incomplete attempt is signed only with a reason; a note stays with its criterion', async ({
  page,
  demo,
}) => {
  await enterDemo(page, demo);
  const attempt = await startPiece(page, 'Idris Vanmeer');
  await row(page, 'glasses').locator('.main').click();
  await row(page, 'kit').locator('.main').click();
  await page.getByRole('button', { name: 'Note' }).click();
  await page.getByLabel('Note', { exact: true }).fill('Cap was missing in the bag');
  await page.getByRole('button', { name: 'Save note' }).click();
  await page.getByRole('button', { name: 'Sign', exact: true }).click();
  await expect(page.locator('[data-test=sign-now]')).toBeDisabled();
  await page
    .locator('[data-test=sign-reason]')
    .or(page.locator('input[data-test=sign-reason]'))
    .first()
    .fill('Fire drill');
  await page.locator('[data-test=sign-now]').click();
  await expect(page.getByText('Signed incomplete')).toBeVisible();
  const notes = await demo
    .db('entry_notes')
    .join('entries', 'entries.id', 'entry_notes.entry_id')
    .where({ attempt_id: attempt });
  expect(notes.map((n: { text: string }) => n.text)).toEqual(['Cap was missing in the bag']);
});

test('a reference is set at the sheet and readings follow it', async ({ page, demo }) => {
  await enterDemo(page, demo);
  await startPiece(page, 'Kwabena Ostrey');
  await row(page, 'loss').getByRole('button', { name: 'Set reference' }).click();
  await page
    .locator('input[data-test=reference-1310]')
    .or(page.locator('[data-test=reference-1310] input'))
    .first()
    .fill('-4,80');
  await page
    .locator('input[data-test=reference-1550]')
    .or(page.locator('[data-test=reference-1550] input'))
    .first()
    .fill('-5.00');
  await page.getByRole('dialog').getByRole('button', { name: 'Set reference' }).click();
  await expect(row(page, 'loss')).toContainText('ref -4.80 dBm');
  const first = row(page, 'loss').locator('[data-part="1310"] input');
  await first.fill('-5.05');
  await first.press('Enter');
  const second = row(page, 'loss').locator('[data-part="1550"] input');
  await expect(second).toBeFocused();
  await second.fill('-6.10');
  await second.press('Enter');
  await expect(row(page, 'loss')).toHaveAttribute('data-verdict', 'fail');
  await expect(row(page, 'loss')).toContainText('1.10 dB at 1550 nm, limit 0.75 dB for this link');
  await expect(page.getByText('1550 nm is far above 1310 nm: look for a bend.')).toBeVisible();
  await expect(page.locator('[data-test=likely-causes]')).toContainText('a bend in the cord or the tray');
  await second.fill('-5.20');
  await second.press('Enter');
  await first.fill('-6.20');
  await first.press('Enter');
  const angle = row(page, 'cleave-angle').locator('input');
  await angle.fill('1.8');
  await angle.press('Enter');
  await page.getByRole('button', { name: 'Charge to cleaving' }).first().click();
  await expect(page.locator('[data-skill=cleave]')).toContainText('charged here from termination');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('[data-skill=cleave]')).not.toContainText('charged here');
  await second.fill('-4.50');
  await second.press('Enter');
  await expect(row(page, 'loss')).toContainText('below zero, so the reference was bad');
});

test('a laptop shows nine criteria at once where checks and measurements are scored', async ({
  page,
  demo,
}) => {
  await enterDemo(page, demo);
  await page.locator('[data-trainee="Bastian Holloweg"] button.main').click();
  await expect(page.locator('.row-of.current')).toBeVisible();
  const seen = await page.locator('[data-criterion]').evaluateAll((rows) => {
    const foot = document.querySelector('.dock')!.getBoundingClientRect().top;
    const head = document.querySelector('[aria-label="Method sheet"] header')!.getBoundingClientRect().bottom;
    const boxes = rows.map((row) => row.getBoundingClientRect());
    return boxes.filter((box) => box.top >= head - 1 && box.bottom <= foot + 1).length;
  });
  expect(seen).toBeGreaterThanOrEqual(9);
});
