import type { Page } from '@playwright/test';
import { enterDemo, expect, signOut, testAlone as test, tooWide } from '../world.ts';

test.describe.configure({ mode: 'parallel' });

const inside = async (page: Page, where: string): Promise<void> => {
  const wide = await tooWide(page);
  expect(wide, `${where}: scrolls sideways`).toBeLessThanOrEqual(0);
};
/** By hand on a screen that is touched, else by mouse. */
const press =
  (page: Page, touch: boolean) => async (role: 'link' | 'button' | 'tab', name: string | RegExp) => {
    const target = page.getByRole(role, { name, exact: typeof name === 'string' }).first();
    await (touch ? target.tap() : target.click());
  };

const SIZES = [
  { name: 'a laptop', width: 1280, height: 800, touch: false },
  { name: 'an upright tablet', width: 768, height: 1024, touch: true },
  { name: 'a phone', width: 390, height: 844, touch: true },
  { name: 'a laptop at 200 %', width: 640, height: 400, touch: false },
] as const;

for (const { name, width, height, touch } of SIZES) {
  test.describe(`on ${name}`, () => {
    test.use({ viewport: { width, height }, hasTouch: touch });
    test('an instructor scores, a lead adds equipment and undoes, a trainee reads the own record', async ({
      page,
      own,
    }) => {
      page.setDefaultTimeout(60_000);
      const go = press(page, touch);
      await enterDemo(page, own);
      await inside(page, 'Today');
      await page.locator('[data-trainee="Anouk Derrey"] button').first().click();
      await go('button', 'Start the piece');
      await expect(page.getByRole('heading', { level: 1, name: 'Anouk Derrey' })).toBeVisible();
      const first = page.locator('.row-of.check[data-state=open]').first();
      const criterion = await first.getAttribute('data-criterion');
      const main = first.locator('.main');
      await (touch ? main.tap() : main.click());
      await expect(page.locator(`[data-criterion="${criterion}"]`)).toHaveAttribute('data-verdict', 'pass');
      await inside(page, 'Sheet');
      for (const place of ['Records', 'Insight', 'Retraining']) {
        await go('link', place);
        await expect(page.getByRole('heading', { level: 1, name: place })).toBeVisible();
        await inside(page, place);
      }

      await signOut(page);
      await enterDemo(page, own, /As the lead/);
      await go('link', 'Class');
      await go('tab', 'Equipment');
      await page.getByRole('textbox', { name: 'Label' }).fill('Bench 99');
      await go('button', 'Add');
      const added = page.getByRole('button', { name: 'Bench 99' });
      await expect(added).toBeVisible();
      await (touch ? added.tap() : added.click());
      await expect(added).toContainText('out of use');
      await go('button', 'Undo');
      await expect(added).not.toContainText('out of use');
      await inside(page, 'Class');

      await signOut(page);
      await enterDemo(page, own, /As a trainee/);
      await expect(page.locator('[data-test=own-skills]')).toContainText('passes in a row');
      await inside(page, 'The own record');
    });
  });
}

test('by keys alone: a piece is found, a check passes, it is taken back, and another place is reached', async ({
  page,
  own,
}) => {
  await page.goto(`${own.url}/`);
  const reach = async (name: RegExp): Promise<void> => {
    for (let n = 0; n < 60; n += 1) {
      const at = await page.evaluate(() => {
        const el = document.activeElement;
        if (!el?.matches('button, a, [role=button]')) return '';
        return `${el.getAttribute('aria-label') ?? ''} ${el.textContent}`.trim();
      });
      if (name.test(at)) return;
      await page.keyboard.press('Tab');
    }
    throw new Error(`not reached by Tab: ${String(name)}`);
  };
  await expect(page.getByRole('button', { name: /demo’s instructor/ })).toBeVisible();
  await reach(/demo’s instructor/);
  await page.keyboard.press('Enter');
  await expect(page.locator('article.working').first()).toBeVisible();
  const trainee = await page.locator('article.working').first().getAttribute('data-trainee');
  await page.keyboard.press('/');
  await expect(page.getByRole('combobox', { name: /Trainee, piece/ })).toBeFocused();
  await page.keyboard.type(trainee!);
  await expect(page.getByRole('option').first()).toContainText(trainee!);
  await page.keyboard.press('Enter');
  await expect(page.locator('.outcome')).toBeVisible();
  const open = page.locator('.row-of.check[data-state=open]');
  const before = await open.count();
  await page.keyboard.press('p');
  await expect(open).not.toHaveCount(before);
  await page.keyboard.press('z');
  await page.keyboard.press('/');
  // Typed on at once it would be a scanner's label: a person sees the list open first.
  await expect(page.getByRole('combobox', { name: /Trainee, piece/ })).toBeFocused();
  await page.keyboard.type('Retraining');
  await expect(page.getByRole('option').first()).toContainText('Retraining');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'Retraining' })).toBeVisible();
  await reach(/Plan a session/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('form', { name: 'Session' })).toBeVisible();
});
