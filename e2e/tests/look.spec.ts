import type { Page } from '@playwright/test';
import { faceWith, pngOf, speck } from '../face-pictures.ts';
import { audit, enterDemo, expect, test, tooWide, violations } from '../world.ts';

// Each view by itself, so that both workers are busy to the end.
test.describe.configure({ mode: 'parallel' });

const openSheet = async (page: Page): Promise<void> => {
  await page.locator('article.working button').first().click();
  await page.waitForURL(/\/sheet\//);
  await expect(page.locator('.outcome')).toBeVisible();
};
const VIEWS: readonly [string, (page: Page) => Promise<void>][] = [
  ['Today', async () => {}],
  ['Sheet', openSheet],
  ...(['Loss budget', 'Polarity', 'References', 'Joint loss', 'Instruments'] as const).map(
    (view): [string, (page: Page) => Promise<void>] => [
      `Links, ${view}`,
      async (page) => {
        await page.getByRole('link', { name: 'Links' }).click();
        await page.getByRole('tab', { name: view }).click();
        await expect(page.locator('h2, .notice').first()).toBeVisible();
      },
    ],
  ),
  ...(['Inspect', 'Blind calls', 'Zone criteria'] as const).map(
    (view): [string, (page: Page) => Promise<void>] => [
      `Faces, ${view}`,
      async (page) => {
        await page.getByRole('link', { name: 'Faces' }).click();
        await page.getByRole('tab', { name: view }).click();
        await expect(page.locator('.kept .tile, [data-series], table').first()).toBeVisible();
        if (view === 'Inspect') {
          await page.locator('.kept .tile').first().click();
          await expect(page.locator('[data-test=face-verdict]')).toBeVisible({ timeout: 30_000 });
        }
      },
    ],
  ),
  [
    'Faces, Many pictures',
    async (page) => {
      await page.getByRole('link', { name: 'Faces' }).click();
      await page.getByRole('tab', { name: 'Many pictures' }).click();
      const faces = [faceWith([]), faceWith([speck(7, -30, 14)])];
      const files = await Promise.all(faces.map(pngOf));
      await page
        .locator('input[type=file]')
        .first()
        .setInputFiles(files.map((buffer, i) => ({ name: `port ${i}.png`, mimeType: 'image/png', buffer })));
      await expect(page.locator('[data-test=counts]')).toHaveText(/^1 pass, 1 fail/);
    },
  ],
  ...(
    [
      ['How it is learned', '[data-learned] svg'],
      ['Loss', '.sample svg'],
      ['Why it fails', '[data-test=together]'],
      ['What if', '[data-setting=B]'],
      ['Who needs what', '[data-standing-of]'],
    ] as const
  ).map(([view, shown]): [string, (page: Page) => Promise<void>] => [
    `Insight, ${view}`,
    async (page) => {
      await page.getByRole('link', { name: 'Insight' }).click();
      await page.getByRole('tab', { name: view, exact: true }).click();
      await expect(page.locator(shown).first()).toBeVisible();
    },
  ]),
  [
    'The evidence of a standing',
    async (page) => {
      await page.getByRole('link', { name: 'Insight' }).click();
      await page.locator('[data-need] a').first().click();
      await expect(page.getByRole('img', { name: /Sequential chart/ })).toBeVisible();
    },
  ],
  [
    'Retraining',
    async (page) => {
      await page.getByRole('link', { name: 'Retraining' }).click();
      await page.locator('[data-plan]').first().getByRole('button', { name: 'Change' }).click();
      await page.getByRole('button', { name: 'Plan a session' }).click();
    },
  ],
  [
    'Records',
    async (page) => {
      await page.getByRole('link', { name: 'Insight' }).click();
      await page.locator('[data-need] a.pieces').first().click();
      await expect(page.locator('[data-test=total]')).toBeVisible();
    },
  ],
  ...(['People', 'Equipment', 'Methods', 'Practice options', 'Competence policy'] as const).map(
    (view): [string, (page: Page) => Promise<void>] => [
      `Class, ${view}`,
      async (page) => {
        await page.getByRole('link', { name: 'Class', exact: true }).click();
        await page.getByRole('tab', { name: view }).click();
        await expect(page.locator('.el-tab-pane h2').first()).toBeVisible();
      },
    ],
  ),
  [
    'Method',
    async (page) => {
      await page.getByRole('link', { name: 'Class', exact: true }).click();
      await page.getByRole('tab', { name: 'Methods' }).click();
      await page
        .getByRole('link', { name: /Pre-polished LC/ })
        .first()
        .click();
      await expect(page.getByRole('heading', { name: 'Cautions' })).toBeVisible();
    },
  ],
];

/** Opens the application again at the class's board, signed in as before. */
async function toBoard(page: Page, url: string): Promise<void> {
  await page.goto(url);
  await expect(page.locator('article.working').first()).toBeVisible();
}
/** The board again by the bar, by day: as a person goes there, and without loading everything anew. */
async function backToBoard(page: Page, url: string): Promise<void> {
  const today = page.getByRole('link', { name: 'Today', exact: true });
  if ((await today.count()) === 0) return toBoard(page, url);
  await page.evaluate(() => (document.documentElement.dataset['theme'] = 'light'));
  await today.click();
  await expect(page.locator('article.working').first()).toBeVisible();
}
async function look(page: Page, name: string, inside?: string): Promise<void> {
  const wide = await tooWide(page);
  expect.soft(wide, `${name}: scrolls sideways`).toBeLessThanOrEqual(0);
  expect.soft(await violations(page, inside), name).toEqual([]);
}

const TOGETHER = 6;
for (let first = 0; first < VIEWS.length; first += TOGETHER) {
  const some = VIEWS.slice(first, first + TOGETHER);
  const names = some.map(([name]) => name).join(', ');
  test(`WCAG 2.2 AA by axe, by day and by night, no sideways scrolling: ${names}`, async ({ page, demo }) => {
    await page.addInitScript(() => localStorage.setItem('theme', 'light'));
    await enterDemo(page, demo);
    for (const [name, open] of some) {
      await backToBoard(page, demo.url);
      await open(page);
      await look(page, name);
    }
  });
}

const DIALOGS: readonly [string, (page: Page) => Promise<void>][] = [
  ['Start', (page) => page.locator('.tile:not(.working) button.main').first().click()],
  ['Find', (page) => page.keyboard.press('/')],
  ['Person', (page) => page.getByRole('button', { name: /settings and sign out/ }).click()],
  ['Queue', (page) => page.locator('[data-test=queue-state]').click()],
  ...(['n', '!', 'g', '?'] as const).map((key): [string, (page: Page) => Promise<void>] => [
    `Sheet, key ${key}`,
    async (page) => {
      await openSheet(page);
      await page.keyboard.press(key);
    },
  ]),
  [
    'Scale by a slide',
    async (page) => {
      await page.getByRole('link', { name: 'Faces' }).click();
      await page.getByRole('button', { name: 'Scale', exact: true }).click();
    },
  ],
  [
    'Record',
    async (page) => {
      await page.getByRole('link', { name: 'Records', exact: true }).click();
      await page.locator('.el-table-v2__row .open').first().click();
    },
  ],
  [
    'Check of a cord',
    async (page) => {
      await page.getByRole('link', { name: 'Class', exact: true }).click();
      await page.getByRole('tab', { name: 'Equipment' }).click();
      await page.getByRole('button', { name: 'Check', exact: true }).first().click();
    },
  ],
];
test('every dialog passes axe while it is open, by day and by night', async ({ page, demo }) => {
  await page.addInitScript(() => localStorage.setItem('theme', 'light'));
  await enterDemo(page, demo);
  for (const [name, open] of DIALOGS) {
    await toBoard(page, demo.url);
    await open(page);
    await expect(page.locator('[role=dialog]:visible, .el-popover:visible').first(), name).toBeVisible();
    await look(page, `dialog ${name}`, '.el-dialog, .el-drawer, .el-popover');
  }
});

test('at twice the size of the letters nothing is cut off sideways', async ({ page, demo }) => {
  // 1280 px at 200 % are 640 px of the page.
  await page.setViewportSize({ width: 640, height: 400 });
  await enterDemo(page, demo);
  for (const [name, open] of VIEWS) {
    if (!['Today', 'Sheet', 'Records', 'Insight, Loss', 'Class, People'].includes(name)) continue;
    await toBoard(page, demo.url);
    await open(page);
    const wide = await tooWide(page);
    expect(wide, name).toBeLessThanOrEqual(0);
  }
});

test('the start page passes axe', async ({ page, demo }) => {
  await page.goto(`${demo.url}/`);
  await expect(page.getByRole('button', { name: /demo’s instructor/ })).toBeVisible();
  expect(await audit(page)).toEqual([]);
});

test.describe('on an upright tablet', () => {
  test.use({ viewport: { width: 768, height: 1024 }, hasTouch: true });
  test('the sheet works by touch, every target is at least 44 px', async ({ page, demo }) => {
    await enterDemo(page, demo);
    await openSheet(page);
    const wide = await tooWide(page);
    expect(wide).toBeLessThanOrEqual(0);
    const open = page.locator('.row-of.check[data-state=open]').first();
    const name = await open.getAttribute('data-criterion');
    await open.locator('.main').tap();
    await expect(page.locator(`[data-criterion="${name}"]`)).toHaveAttribute('data-verdict', 'pass');
    const small = await page
      .locator('.row-of button, .dock button, .benches button, .outcome .act')
      .evaluateAll((all) =>
        all
          .map((el) => ({ text: el.textContent?.trim(), box: el.getBoundingClientRect() }))
          .filter(({ box }) => box.width > 0 && (box.height < 44 || box.width < 44))
          .map(({ text }) => text),
      );
    expect(small).toEqual([]);
  });
});

test('a trainee sees the own record and nothing else', async ({ page, demo }) => {
  await enterDemo(page, demo, /As a trainee/);
  const own = page.locator('[data-test=own-skills]');
  await expect(own).toContainText('passes in a row');
  await expect(page.getByRole('link', { name: 'Insight' })).toHaveCount(0);
  await page.locator('.piece').first().click();
  await expect(page.locator('.outcome')).toBeVisible();
  await expect(page.locator('.row-of .failing, .dock, .sign')).toHaveCount(0);
  await page.goto(`${demo.url}/class/x/insight`);
  await expect(own).toBeVisible();
});
