import { choose, enterDemo, expect, testAlone as test } from '../world.ts';

test('the lead signs off what is shown, with rule, evidence and the day it lapses', async ({ page, own }) => {
  await enterDemo(page, own, /As the lead/);
  await page.getByRole('link', { name: 'Insight' }).click();
  await page.locator('tr:has([data-standing-of="Marit Solvane"]) a[data-skill=strip]').click();
  await page.getByLabel('Note, if any').fill('watched at bench 4');
  await page.getByRole('button', { name: /Sign off: 3 passes in a row/ }).click();
  const kept = page.locator('[data-test=sign-offs]');
  await expect(kept).toContainText(/Signed off on .* lapses on/);
  await expect(kept).toContainText('Rule: 3 passes in a row.');
  await expect(kept).toContainText('watched at bench 4');
  await page.goBack();
  await page.getByRole('tab', { name: 'Instructors and items' }).click();
  await expect(page.locator('[data-test=leniency]')).toContainText('as the others');
  await expect(page.locator('[data-test=items]')).toContainText('Never failed');
});

test('the plan: a session, who is in it, what to lay out, edited, as a calendar file', async ({
  page,
  own,
}) => {
  await enterDemo(page, own);
  await page.getByRole('link', { name: 'Retraining' }).click();
  const item = page.locator('[data-plan="Jonna Pellworth"][data-skill=cleave]');
  await expect(item).toContainText('Retrain.');
  await page.getByRole('button', { name: 'Plan a session' }).click();
  const form = page.getByRole('form', { name: 'Session' });
  await form.getByLabel('Minutes').fill('two');
  await form.getByRole('button', { name: 'Save the session' }).click();
  await expect(form.getByRole('alert')).toContainText('A number is needed.');
  await form.getByLabel('Minutes').fill('60');
  await form.getByLabel('Starts').fill('2 May 2030, 09:30');
  await form.getByLabel('Starts').press('Enter');
  await form.getByRole('button', { name: 'Save the session' }).click();
  const session = page.locator('[data-session]:not([data-session=none])');
  await expect(session).toContainText('Nobody is in this session yet');
  await choose(item.getByRole('combobox'), /\d/);
  await expect(session.locator('[data-plan="Jonna Pellworth"]')).toBeVisible();
  await expect(session.locator('[data-test=consumables]')).toContainText('practice fiber');
  await item.getByRole('button', { name: 'Change' }).click();
  await item.getByLabel('Pieces').fill('30');
  await item.getByLabel('Drill, in your words').fill('Cleaves with the jig only');
  await item.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(item).toContainText('Cleaves with the jig only');
  await expect(session.locator('[data-test=over]')).toContainText('more than the session has');
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Calendar file' }).click(),
  ]);
  let text = '';
  for await (const part of await file.createReadStream()) text += String(part);
  const unfolded = text.replace(/\r\n[ \t]/g, '');
  expect(unfolded).toContain('DTSTART:20300502T083000Z');
  expect(unfolded).toContain('Cleaves with the jig only\\, 30 pieces');
  await page.getByRole('button', { name: 'Give the session up' }).click();
  await page.getByRole('button', { name: 'Give it up' }).click();
  await expect(session).toHaveCount(0);
  await expect(item).toContainText('30');
});

test('little data: a sentence where there is nothing to draw, and never a number that is none', async ({
  page,
  own,
}) => {
  await enterDemo(page, own, /As the lead/);
  const [piece] = await own
    .db('outcome_skills')
    .where({ skill: 'cleave', mark: 'P' })
    .orderBy('started_at', 'desc');
  for (const table of ['outcome_skills', 'outcome_criteria', 'outcome_losses']) {
    await own.db(table).whereNot({ attempt_id: piece.attempt_id }).del();
  }
  /** Every view with the sentence that it owes. */
  const look = async (owed: Readonly<Record<string, string | RegExp>>): Promise<void> => {
    await page.getByRole('link', { name: 'Insight' }).click();
    const main = page.locator('main');
    for (const [view, sentence] of Object.entries(owed)) {
      await page.getByRole('tab', { name: view, exact: true }).click();
      await expect(main).toContainText(sentence);
      expect(await main.innerText()).not.toMatch(/NaN|undefined|Infinity|null/);
    }
    await page.goto(`${own.url}/class/${piece.class_id}/insight/${piece.trainee_id}/cleave`);
    await expect(page.getByRole('heading', { name: 'Sign-off' })).toBeVisible();
    expect(await main.innerText()).not.toMatch(/NaN|undefined|Infinity|null/);
    await page.getByRole('link', { name: 'Retraining' }).click();
    await expect(page.getByText('Nobody needs retraining')).toBeVisible();
  };
  await look({
    'Who needs what': '1 of 1',
    'How it is learned': 'One outcome alone shows no trend.',
    Loss: /over the limit|No valid reading yet/,
    'Why it fails': 'cannot be told apart here',
    'Instructors and items': 'cannot be compared',
    'What if': 'is scored again',
  });
  await own.db('outcome_skills').update({ mark: 'V' });
  await look({
    'Who needs what': 'none yet',
    'How it is learned': 'All outcomes are void or incomplete, so there is nothing to draw.',
    'Why it fails': 'cannot be told apart here',
  });
  for (const table of ['outcome_skills', 'outcome_criteria', 'outcome_losses']) await own.db(table).del();
  await page.getByRole('link', { name: 'Insight' }).click();
  await expect(page.getByText('Nothing is signed yet, so there is nothing to count.')).toBeVisible();
  await page.goto(`${own.url}/class/${piece.class_id}/insight/${piece.trainee_id}/cleave`);
  await expect(page.getByText('Nothing of this skill is signed yet.')).toBeVisible();
});
