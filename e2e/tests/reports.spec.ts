import type { Page } from '@playwright/test';
import { partsOfPdf, wordsOfPdf } from '../../tools/pdf-for-tests.ts';
import { enterDemo, expect, testAlone as test, violations } from '../world.ts';

const saved = async (page: Page): Promise<string> => {
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as PDF', exact: true }).first().click(),
  ]);
  const chunks: Buffer[] = [];
  for await (const chunk of await file.createReadStream()) chunks.push(chunk as Buffer);
  const bytes = Buffer.concat(chunks);
  // It can be read aloud: its title is the one heading of the first order.
  const { isMarked, pages } = await partsOfPdf(bytes);
  expect(isMarked).toBe(true);
  const first = pages[0]!.parts.flatMap((p) => p.parts);
  expect(first.filter((p) => p.role === 'H1')).toHaveLength(1);
  return (await wordsOfPdf(bytes)).join('');
};
const bare = (text: string): string => text.replace(/\s/g, '');

test('a class report says on paper what Insight says on the screen; a certificate is issued and checked by anybody', async ({
  page,
  own,
  browser,
  problems,
}) => {
  await enterDemo(page, own, /As the lead/);
  await page.getByRole('link', { name: 'Records' }).click();
  await page.getByRole('link', { name: 'Reports' }).click();
  const rates = page.locator('.report section', { hasText: 'Pass rates' }).locator('tbody tr');
  await expect(rates.first()).toBeVisible();
  expect(await violations(page)).toEqual([]);
  const cells = (await rates.allInnerTexts()).flatMap((row) => row.split('\t'));
  const paper = await saved(page);
  for (const cell of cells) expect(paper).toContain(bare(cell));
  // The same rates stand in Insight.
  await page.getByRole('link', { name: 'Insight' }).click();
  await expect(page.locator('main')).toContainText('signed attempts');
  const sentence = await page
    .locator('main p', { hasText: /passed \(95 % interval/ })
    .first()
    .innerText();
  expect(paper).toContain(bare(sentence));

  // A competent trainee is signed off, and certified.
  const competent = page.getByRole('link', { name: /^Competent/ }).first();
  await competent.click();
  await page.waitForURL(/insight\/[0-9a-f-]+\/./);
  const [, traineeId] = /insight\/([0-9a-f-]+)\//.exec(page.url())!;
  await page
    .getByRole('button', { name: /^Sign .*off/ })
    .first()
    .click();
  await expect(page.locator('main')).toContainText(/[Ss]igned off/);
  await page.goto(page.url().replace(/insight\/.*$/, `reports?of=${traineeId}`));
  const certificates = page.locator('[data-test=certificates]');
  const option = page.locator('.el-select-dropdown__item:visible');
  /** Takes a skill, or leaves it again; the list opens and closes after the tap. */
  const tap = async (nth: number): Promise<void> => {
    await certificates.locator('.el-select__wrapper').click();
    await expect(option.first()).toBeVisible();
    await option.nth(nth).click();
    await page.keyboard.press('Escape');
    await expect(option).toHaveCount(0);
  };
  await certificates.locator('.el-select__wrapper').click();
  await expect(option.first()).toBeVisible();
  const count = await option.count();
  await page.keyboard.press('Escape');
  await expect(option).toHaveCount(0);
  for (let i = 0; i < count; i += 1) {
    await tap(i);
    await certificates.getByRole('button', { name: 'Issue a certificate' }).click();
    const issued = certificates.getByText('It holds');
    const refused = certificates.getByRole('alert');
    await expect(issued.or(refused).first()).toBeVisible();
    if (await issued.isVisible()) break;
    // Not signed off in this one: another is tried.
    await tap(i);
  }
  const code = (await certificates.locator('tbody tr td').nth(1).innerText()).trim();

  const anybody = await (await browser.newContext()).newPage();
  await anybody.goto(`${own.url}/verify/${code}`);
  await expect(anybody.getByText('It holds')).toBeVisible();
  await expect(anybody.locator('body')).not.toContainText(/trainee|Harbour|Cleav/i);
  expect(await violations(anybody)).toEqual([]);
  await certificates.getByRole('button', { name: /^Withdraw:/ }).click();
  await page.locator('#withdraw-reason').fill('Issued to the wrong trainee');
  await page.getByRole('button', { name: 'Withdraw it' }).click();
  await expect(certificates.getByText('Withdrawn', { exact: true })).toBeVisible();
  await anybody.getByRole('button', { name: 'Check it' }).click();
  await expect(anybody.getByText('Withdrawn', { exact: true })).toBeVisible();
  expect(problems).toEqual([]);
});

test('a signed piece is amended: old and new value, the reason, and the list of records follows', async ({
  page,
  own,
  problems,
}) => {
  await enterDemo(page, own, /instructor/);
  await page.getByRole('link', { name: 'Records' }).click();
  const [, classId] = /class\/([^/]+)/.exec(page.url())!;
  const { rows } = await page.evaluate(
    async (id) => (await fetch(`/api/classes/${id}/attempts`)).json(),
    classId,
  );
  const signed = (rows as { attemptId: string; state: string; verdict: string }[]).find(
    (r) => r.state === 'signed' && r.verdict === 'pass',
  )!;
  await page.goto(`${own.url}/class/${classId}/sheet/${signed.attemptId}`);
  await page.getByRole('link', { name: 'Amend' }).click();
  await expect(page.getByText('Nothing yet: enter it in its row.')).toBeVisible();
  await page.locator('[data-criterion=glasses] .main').click();
  await page.locator('[data-test=chosen]').getByRole('button', { name: 'Fail' }).click();
  await expect(page.locator('[data-test=amended-verdict]')).toContainText('Fail');
  await expect(page.locator('[data-test=sign-amendment]')).toBeDisabled();
  await page.getByLabel('Why it is amended').fill('Seen on the bench camera afterwards');
  expect(await violations(page)).toEqual([]);
  await page.locator('[data-test=sign-amendment]').click();
  const records = page.locator('[data-test=revisions]');
  await expect(records).toContainText(/Amended by .*, fail/);
  await expect(records).toContainText('Seen on the bench camera afterwards');
  await expect(records.locator('s')).toHaveText('pass');
  const after = await page.evaluate(
    async (id) => (await fetch(`/api/classes/${id}/attempts`)).json(),
    classId,
  );
  const row = (after.rows as { attemptId: string; verdict: string }[]).find(
    (r) => r.attemptId === signed.attemptId,
  );
  expect(row!.verdict).toBe('fail');
  expect(problems).toEqual([]);
});
