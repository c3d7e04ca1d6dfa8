import { choose, enterDemo, expect, test, testAlone } from '../world.ts';

testAlone(
  'a trainee calls a series blind, learns the result at the end, and an instructor signs it',
  async ({ page, own, browser }) => {
    await enterDemo(page, own, /trainee/);
    const trainee = await page.getByRole('heading', { level: 1 }).textContent();
    await page.getByRole('link', { name: 'Begin' }).click();
    await page.getByRole('button', { name: 'Begin' }).click();
    for (let i = 1; i <= 10; i++) {
      await expect(page.getByRole('heading', { level: 1 })).toHaveText(`Face ${i} of 10`);
      const fail = page.getByRole('button', { name: 'Fail' });
      await expect(fail).toBeEnabled();
      // No word of what it is before the end.
      await expect(page.locator('[data-test=calls-sentence]')).toHaveCount(0);
      if (i === 1) {
        await page.locator('.frame').click({ position: { x: 200, y: 150 } });
        await expect(page.locator('.frame .dot')).toHaveText('scratch');
      }
      if (i % 2 === 0) await page.keyboard.press('b');
      else await fail.click();
    }
    await expect(page.locator('[data-test=calls-sentence]')).toContainText(/good ones? w(as|ere) called bad/);
    await expect(page.locator('[data-test=sensitivity]')).toContainText(/^(\d) of \1, 100 %/);
    await expect(page.getByText('waits for an instructor’s signature')).toBeVisible();
    await expect(page.locator('.seen li')).toHaveCount(10);

    const teacher = await (await browser.newContext()).newPage();
    await enterDemo(teacher, own);
    await teacher.getByRole('link', { name: 'Faces' }).click();
    await teacher.getByRole('tab', { name: 'Blind calls' }).click();
    const series = teacher.locator('[data-series="First look"]');
    await series.getByRole('button', { name: trainee!.split(':')[0]! }).click();
    await expect(series).toContainText('Bad faces called bad');
    await series.getByRole('link', { name: 'Its sheet' }).click();
    await expect(teacher.locator('[data-criterion=sensitivity]')).toHaveAttribute('data-verdict', 'pass');
    await expect(teacher.locator('[data-criterion=specificity]')).toHaveAttribute('data-verdict', 'fail');
    await teacher.context().close();
  },
);

test('a series is set from the simulated scope, balanced, and called by an instructor', async ({
  page,
  demo,
}) => {
  await enterDemo(page, demo);
  await page.getByRole('link', { name: 'Faces' }).click();
  await page.getByRole('tab', { name: 'Blind calls' }).click();
  await page.getByRole('button', { name: 'Set a series' }).click();
  await expect(page.getByText('Give the series a name.')).toBeVisible();
  await page.getByLabel('Name').fill('Near the limit');
  await choose(page.getByLabel('How many'), '8');
  await page.getByRole('button', { name: 'Save series' }).click();
  const series = page.locator('[data-series="Near the limit"]');
  await expect(series).toContainText('8 faces, 4 bad', { timeout: 120_000 });
  await series.getByRole('link', { name: 'Call it yourself' }).click();
  await page.getByRole('button', { name: 'Begin' }).click();
  for (let i = 1; i <= 8; i++) {
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(`Face ${i} of 8`);
    await expect(page.getByRole('button', { name: 'Pass' })).toBeEnabled();
    await page.keyboard.press('g');
  }
  await expect(page.locator('[data-test=calls-sentence]')).toHaveText('4 bad faces were called good.');
  // What was found is drawn over every face, now that all are called.
  await expect(page.locator('[data-test=seen]')).toHaveCount(8);
  await expect(page.locator('.wrong [data-test=seen] path').first()).toBeVisible();
});

test('a series from kept pictures needs both kinds', async ({ page, demo }) => {
  await enterDemo(page, demo);
  await page.getByRole('link', { name: 'Faces' }).click();
  await page.getByRole('tab', { name: 'Blind calls' }).click();
  await page.getByRole('button', { name: 'Set a series' }).click();
  await page.getByLabel('Name').fill('From the class');
  await choose(page.getByLabel('Faces from'), 'the pictures of this class');
  await page.getByRole('button', { name: 'Choose those nearest to the limit' }).click();
  const pressed = page.locator('.pick [aria-pressed=true]');
  await expect(pressed).not.toHaveCount(0);
  for (let left = await pressed.count(); left > 0; left--) await pressed.first().click();
  const tiles = (verdict: string) => page.locator('.pick .tile', { hasText: verdict });
  for (let i = 0; i < 4; i++) await tiles('Pass').nth(i).click();
  await expect(page.getByText('two bad ones at least')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save series' })).toBeDisabled();
  for (let i = 0; i < 2; i++) await tiles('Fail').nth(i).click();
  await page.getByRole('button', { name: 'Save series' }).click();
  await expect(page.locator('[data-series="From the class"]')).toContainText('6 faces, 2 bad');
});

test('a face that nobody calls in time is left without a call', async ({ page, demo }) => {
  await enterDemo(page, demo);
  const classes = (await (await page.request.get(`${demo.url}/api/classes`)).json()) as { id: string }[];
  const faces = await page.request.get(`${demo.url}/api/classes/${classes[0]!.id}/faces`);
  const rows = (await faces.json()) as { id: string; verdict: 'pass' | 'fail'; view: string }[];
  const of = (verdict: string): string[] =>
    rows.filter((r) => r.verdict === verdict && r.view === 'single').map((r) => r.id);
  const faceIds = [...of('pass').slice(0, 2), ...of('fail').slice(0, 2)];
  const id = '0190aaaa-0000-7000-8000-00000000ca11';
  const made = await page.request.post(`${demo.url}/api/classes/${classes[0]!.id}/call-series`, {
    data: { id, label: 'Quick', faceIds, missWeight: 3, secondsEach: 3 },
  });
  expect(made.status()).toBe(200);
  await page.goto(`${demo.url}/calls/${id}`);
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('timer')).toBeVisible();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Face 2 of 4');
  for (let i = 2; i <= 4; i++) {
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(`Face ${i} of 4`);
    await expect(page.getByRole('button', { name: 'Pass' })).toBeEnabled();
    await page.keyboard.press('g');
  }
  await expect(page.locator('[data-test=calls-sentence]')).toContainText('1 without a call.');
});
