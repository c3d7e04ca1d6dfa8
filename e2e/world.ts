import AxeBuilder from '@axe-core/playwright';
import { randomUUID } from 'node:crypto';
import path from 'node:path';
import { test as base, type Browser, expect, type Locator, type Page } from '@playwright/test';
import { readConfig, type Running, startServer } from '@clear-mark/server';
import { DEMO_TEMPLATE } from '../tools/demo-template.ts';
import { choose } from '../tools/bench/choose.ts';
import { freePort } from '../tools/cluster.ts';
import { ROOT } from '../tools/paths.ts';
import pg from 'pg';

const clusterUrl = process.env['CLEAR_MARK_TEST_CLUSTER'] ?? '';
const appUrl = process.env['CLEAR_MARK_TEST_APP'] ?? '';
const webDir = process.env['CLEAR_MARK_WEB_DIR'] ?? path.join(ROOT, 'packages/web/dist');

async function admin(sql: string): Promise<void> {
  const client = new pg.Client({ connectionString: clusterUrl });
  await client.connect();
  await client.query(sql).finally(() => client.end());
}

/** One server with the demo class on a database of its own; it can be stopped and started again. */
export class DemoServer {
  private running: Running | null = null;
  private constructor(
    readonly databaseUrl: string,
    private readonly database: string,
    readonly port: number,
    private readonly mode: 'demo' | 'real',
    private readonly files: string,
  ) {}

  /** `files` is the built application that it serves. */
  static async make(mode: 'demo' | 'real', files = webDir): Promise<DemoServer> {
    const database = `e2e_${randomUUID().replaceAll('-', '')}`;
    const template = mode === 'demo' ? DEMO_TEMPLATE : 'template1';
    await admin(`create database "${database}" template "${template}"`);
    const url = clusterUrl.replace(/[^/]*$/, database);
    const server = new DemoServer(url, database, await freePort(), mode, files);
    await server.start();
    return server;
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }
  get db(): Running['db'] {
    return this.running!.db;
  }
  get setupCode(): string {
    return this.running!.setupCode!;
  }

  async start(): Promise<void> {
    this.running = await startServer(
      readConfig({
        DATABASE_URL: appUrl.replace(/[^/]*$/, this.database),
        DATABASE_OWNER_URL: this.databaseUrl,
        CLEAR_MARK_MODE: this.mode,
        CLEAR_MARK_PORT: String(this.port),
        CLEAR_MARK_WEB_DIR: this.files,
        CLEAR_MARK_LOG_LEVEL: 'error',
      }),
    );
  }
  async stop(): Promise<void> {
    await this.running?.stop();
    this.running = null;
  }
  async close(): Promise<void> {
    await this.stop();
    await admin(`drop database "${this.database}" with (force)`);
  }
}

export { webDir };

export const test = base.extend<{ problems: string[] }, { demo: DemoServer; real: DemoServer }>({
  demo: [
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const server = await DemoServer.make('demo');
      await use(server);
      await server.close();
    },
    { scope: 'worker', timeout: 300_000 },
  ],
  real: [
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const server = await DemoServer.make('real');
      await use(server);
      await server.close();
    },
    { scope: 'worker', timeout: 300_000 },
  ],
  /** Errors of the page; a test that expects some empties the list. */
  problems: [
    async ({ page }, use) => {
      const problems: string[] = [];
      page.on('pageerror', (error) => problems.push(error.message));
      await use(problems);
      expect(problems).toEqual([]);
    },
    { auto: true },
  ],
});

/** What stands there, once it does: a page may come before what it counts. */
export async function textOf(there: Locator, like: RegExp): Promise<string> {
  await expect(there).toHaveText(like);
  return (await there.textContent())!.trim();
}

/** For tests that stop their server, or leave the class changed: a server and a database of their own. */
export const testAlone = test.extend<{ own: DemoServer }>({
  // eslint-disable-next-line no-empty-pattern
  own: async ({}, use) => {
    const server = await DemoServer.make('demo');
    await use(server);
    await server.close();
  },
});

/** For tests of what the service worker keeps: the application itself, without a network. */
export const testWithWorker = testAlone.extend({ serviceWorkers: 'allow' });

export { choose, expect };

export async function enterDemo(
  page: Page,
  demo: DemoServer,
  as: RegExp = /demo’s instructor/,
): Promise<void> {
  await page.goto(`${demo.url}/`);
  await page.getByRole('button', { name: as }).click();
  await page.waitForURL(/\/(today|me|classes)$/);
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
}

/** Starts a piece for a trainee who has nothing open; gives the id of the attempt. */
export async function startPiece(page: Page, trainee: string): Promise<string> {
  await page.getByRole('link', { name: 'Today' }).click();
  await page.locator(`[data-trainee="${trainee}"] button`).click();
  await page.getByRole('button', { name: 'Start the piece' }).click();
  await page.waitForURL(/\/sheet\//);
  await expect(page.getByRole('heading', { level: 1, name: trainee })).toBeVisible();
  return page.url().split('/').pop()!;
}

export const row = (page: Page, criterion: string) => page.locator(`[data-criterion="${criterion}"]`);

/** Waits until everything that was entered has reached the server. */
export const saved = (page: Page) =>
  expect(page.locator('[data-test=queue-state]')).toContainText('All saved');

/** Waits until a criterion shows a verdict. */
export const verdict = (page: Page, name: string, wanted: string) =>
  expect(row(page, name)).toHaveAttribute('data-verdict', wanted);

/** A second device with somebody signed in. */
export async function another(browser: Browser, own: DemoServer, as: RegExp): Promise<Page> {
  const page = await (await browser.newContext()).newPage();
  await enterDemo(page, own, as);
  return page;
}

const personMenu = (page: Page) => page.getByRole('button', { name: /settings and sign out/ });

export async function signOut(page: Page): Promise<void> {
  await personMenu(page).click();
  await page.getByRole('button', { name: 'Sign out', exact: true }).click();
  // What is unsent is locked first: whoever goes on before that is still signed in.
  await page.waitForURL((url) => url.pathname === '/');
}

/** Chooses the person's own units, such as `in, ft`. */
export async function chooseUnits(page: Page, units: string): Promise<void> {
  await personMenu(page).click();
  await choose(page.getByLabel('Units'), units);
  await personMenu(page).click();
}

export async function expectUnits(page: Page, units: string): Promise<void> {
  await personMenu(page).click();
  await expect(page.locator('.units')).toContainText(units);
  await personMenu(page).click();
}

/** How far the page is wider than its window, px: 0 or less where nothing scrolls sideways. */
export const tooWide = (page: Page): Promise<number> =>
  page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);

/** What axe finds against WCAG 2.2 AA, or of the contrast of colours alone; `within` leaves out what lies half under a dialog. */
export async function audit(page: Page, of: 'all' | 'contrast' = 'all', within?: string): Promise<string[]> {
  // Nothing here is in a frame: axe puts its results together on the page itself, without another one.
  const axe = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] });
  if (within !== undefined) axe.include(within);
  if (of === 'all') axe.withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']);
  else axe.withRules(['color-contrast']);
  return (await axe.analyze()).violations.map(
    (v) =>
      `${v.id}: ${v.nodes
        .map((n) => n.target.join(' '))
        .slice(0, 3)
        .join(' | ')}`,
  );
}

/**
 * What axe finds by day, and in the colours of the night: the two differ in their colours alone, by the tokens that `data-theme` chooses, so that
 * by night only these are looked at again.
 */
export async function violations(page: Page, within?: string): Promise<string[]> {
  const paint = (theme: 'light' | 'dark'): Promise<void> =>
    page.evaluate((t) => document.documentElement.setAttribute('data-theme', t), theme);
  await paint('light');
  const byDay = await audit(page, 'all', within);
  await paint('dark');
  // Colours that fade would be caught half-way.
  await page.waitForTimeout(400);
  const byNight = await audit(page, 'contrast', within);
  return [...byDay, ...byNight.map((found) => `by night ${found}`)];
}
