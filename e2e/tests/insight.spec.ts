import { choose, enterDemo, expect, test, textOf } from '../world.ts';

/** Ways from the first screen to each thing that the demo’s results hold; every line ends within three taps. */
test.describe('the stories of the demo, found within three taps', () => {
  test.beforeEach(({ page, demo }) => enterDemo(page, demo));

  test('who is stuck, at which step, and since when', async ({ page }) => {
    await page.getByRole('link', { name: 'Insight' }).click();
    const need = page.locator('[data-need="Kwabena Ostrey"]').first();
    await expect(need).toContainText('cleaving');
    await expect(need).toContainText(/Most points went at “Cleave/);
    await need.getByRole('link').first().click();
    await expect(page.getByRole('heading', { level: 1, name: 'Kwabena Ostrey: cleaving' })).toBeVisible();
    await expect(page.locator('[data-test=standing]')).toContainText('Retrain.');
    await expect(page.getByRole('img', { name: /Sequential chart of Kwabena Ostrey/ })).toBeVisible();
    await page.locator('[data-test=piece]').first().click();
    await expect(page.getByRole('heading', { level: 1, name: 'Kwabena Ostrey' })).toBeVisible();
  });

  test('the blunt cleaver, told from the trainees who used it; who forgets the boot', async ({ page }) => {
    await page.getByRole('link', { name: 'Insight' }).click();
    await page.getByRole('tab', { name: 'Why it fails' }).click();
    const lines = page.locator('[data-test=stands-out]');
    await expect(lines).toContainText(/Cleaver 3, cleaving: \d+ points fewer pass/);
    await expect(lines).toContainText('That speaks for the cleaver, not the trainees.');
    await expect(lines).not.toContainText(/Cleaver [124]/);
    await expect(lines).toContainText(/Fausto Merrigan, stripping/);
    await expect(page.locator('tr:has([data-split="Cleaver 3"]) [data-skill=cleave]')).toContainText('worse');
    const boot = page.locator('tr:has([data-failure=boot-on])');
    await expect(boot).toContainText(/Fausto Merrigan: \d+ of \d+/);
    const told = await textOf(boot.getByRole('link', { name: /Fausto/ }), /: \d+ of/);
    await boot.getByRole('link', { name: /Fausto/ }).click();
    const failed = Number(/: (\d+) of/.exec(told)![1]);
    await expect(page.locator('[data-test=total]')).toHaveText(new RegExp(`^${failed} attempts`));
  });

  test('who is ready to be signed off, and on what evidence', async ({ page }) => {
    await page.getByRole('link', { name: 'Insight' }).click();
    const ready = page.locator('[data-test=ready] li', { hasText: 'Marit Solvane' });
    await ready.getByRole('link', { name: 'cleaving' }).click();
    await expect(page.locator('[data-test=standing]')).toContainText(
      /Competent\. The last \d+ outcomes passed/,
    );
    await expect(page.getByText('the lead can sign this off')).toBeVisible();
  });

  test('the day of the bad reference', async ({ page }) => {
    await page.getByRole('link', { name: 'Insight' }).click();
    await page.getByRole('tab', { name: 'Loss', exact: true }).click();
    const voids = page
      .locator('.sample')
      .first()
      .locator('dl div', { hasText: 'void readings' })
      .getByRole('link');
    const count = Number(await textOf(voids, /^\d+$/));
    expect(count).toBeGreaterThan(2);
    await voids.click();
    await expect(page.locator('[data-test=total]')).toHaveText(new RegExp(`^${count} attempts`));
    const days = page.locator('[data-test=records] .when');
    await expect(days).toHaveCount(count);
    const started = await days.allTextContents();
    expect(new Set(started.map((at) => /^\d+ \w+/.exec(at)![0])).size).toBe(1);
  });
});

test('how a skill is learned: trend, first pass, chart with its table, PNG and CSV', async ({
  page,
  demo,
}) => {
  await enterDemo(page, demo);
  await page.getByRole('link', { name: 'Insight' }).click();
  await page.getByRole('tab', { name: 'How it is learned' }).click();
  await page.getByRole('button', { name: 'Stripping', exact: true }).click();
  await expect(page).toHaveURL(/skill=strip/);
  const learned = page.locator('[data-learned=strip]');
  await expect(learned).toContainText('It is being learned');
  await expect(learned).toContainText(/Half have passed after .* attempts/);
  await expect(learned.getByRole('img', { name: /Stripping: passed by attempt/ })).toBeVisible();
  await learned.getByText('As a table').click();
  const rows = learned.locator('tbody tr');
  await expect(rows.first()).toContainText('attempt 1');
  const [csv] = await Promise.all([
    page.waitForEvent('download'),
    learned.getByRole('button', { name: 'Figures (CSV)' }).click(),
  ]);
  expect(csv.suggestedFilename()).toBe('stripping-passed-by-attempt.csv');
  let text = '';
  for await (const part of await csv.createReadStream()) text += String(part);
  expect(text.trimEnd().split('\r\n')).toHaveLength((await rows.count()) + 1);
  const [png] = await Promise.all([
    page.waitForEvent('download'),
    learned.getByRole('button', { name: 'Picture (PNG)' }).click(),
  ]);
  const parts: Buffer[] = [];
  for await (const part of await png.createReadStream()) parts.push(part as Buffer);
  const bytes = Buffer.concat(parts);
  expect(bytes.subarray(1, 4).toString()).toBe('PNG');
  expect(bytes.readUInt32BE(16)).toBeGreaterThan(1600);
  expect(bytes.length).toBeGreaterThan(10_000);
});

test('what if the loss limit were 0.3 dB: two settings side by side, in a worker, the page not held up', async ({
  page,
  demo,
}) => {
  await enterDemo(page, demo);
  await page.getByRole('link', { name: 'Insight' }).click();
  await page.getByRole('tab', { name: 'What if' }).click();
  const a = page.locator('[data-setting=A]');
  const b = page.locator('[data-setting=B]');
  await a.getByLabel(/Passes in a row/).fill('5');
  await choose(b.getByLabel('Limit to move'), 'Loss read: insertion loss measured');
  await b.locator('input[name=max]').fill('nothing');
  await expect(b.getByRole('alert')).toContainText('not a number');
  await expect(page.getByRole('button', { name: 'Score again' })).toBeDisabled();
  await b.locator('input[name=max]').fill('0,3');
  await expect(page).toHaveURL(/B-max=0(,|%2C)3/);
  await page.reload();
  await expect(b.locator('input[name=max]')).toHaveValue('0,3');
  await expect(b.locator('.choice').first()).toContainText('Loss read: insertion loss measured');
  await expect(a.getByLabel(/Passes in a row/)).toHaveValue('5');
  await page.getByRole('button', { name: 'Score again' }).click();
  const policy = page.locator('[data-result=A]');
  const limit = page.locator('[data-result=B]');
  await expect(policy).toContainText('no verdict changes');
  await expect(policy).toContainText(/\d+ standings change/);
  await expect(limit).toContainText(/Of \d+ attempts \d+ would have failed/);
  const test = limit.locator('tr:has([data-skill=whole]) td');
  expect(await test.nth(1).textContent()).not.toBe(await test.nth(2).textContent());
  // Another rule of competence: no verdict changes, standings may.
  await choose(a.getByLabel('What shows competence'), 'a share of the last');
  await a.locator('input[name=share-passes]').fill('12');
  await expect(a.getByRole('alert')).toContainText('cannot be');
  await a.locator('input[name=share-passes]').fill('7');
  await page.getByRole('button', { name: 'Score again' }).click();
  await expect(policy.locator('h3')).toContainText('7 passes among the last 10 outcomes');
  await expect(policy).toContainText('no verdict changes');
  await limit.locator('.pieces a').first().click();
  await expect(page.locator('.row-of').first()).toBeVisible();
});

test('what if over 20,000 attempts is a job of the server, with progress, and can be cancelled', async ({
  page,
  demo,
}) => {
  // The class is as large as the first page says; what follows is the server's own work.
  await page.context().route('**/replay*', async (route) => {
    const reply = await route.fetch();
    const body = (await reply.json()) as object;
    await route.fulfill({ response: reply, json: { ...body, total: 20_001 } });
  });
  await enterDemo(page, demo);
  await page.getByRole('link', { name: 'Insight' }).click();
  await page.getByRole('tab', { name: 'What if' }).click();
  const jobs: string[] = [];
  page.on('request', (r) => {
    if (/\/api\/.*\/what-if/.test(r.url()))
      jobs.push(`${r.method()} ${r.url().split('/what-if')[1] ? 'one' : 'new'}`);
  });
  const b = page.locator('[data-setting=B]');
  await choose(b.getByLabel('Limit to move'), 'Loss read: insertion loss measured');
  await b.locator('input[name=max]').fill('0.31');
  await page.getByRole('button', { name: 'Score again' }).click();
  await expect(page.locator('[data-result=B]')).toContainText(/would have failed/);
  expect(jobs[0]).toBe('POST new');
  expect(jobs).toContain('GET one');
  await b.locator('input[name=max]').fill('0.3');
  await page.getByRole('button', { name: 'Score again' }).click();
  await expect.poll(() => jobs.filter((j) => j === 'POST new').length).toBe(2);
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect.poll(() => jobs).toContain('DELETE one');
  await expect(page.getByRole('button', { name: 'Score again' })).toBeEnabled();
  await expect(page.locator('[data-result=B]')).toContainText('0.31');
});
