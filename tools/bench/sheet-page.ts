import path from 'node:path';
import { chromium, type Page } from '@playwright/test';
import {
  type Database,
  migrate,
  openDatabase,
  readConfig,
  startServer,
  syncShippedMethods,
} from '@clear-mark/server';
import { build } from 'vite';
import { loadDemo } from '../load-demo.ts';
import { ROOT, STATE } from '../paths.ts';
import { CHROMIUM } from './browser.ts';
import { sixtyCriteria } from './sixty-criteria.ts';
import { choose } from './choose.ts';

const BENCH_WEB = path.join(STATE, 'bench-web');

export interface SheetPage {
  readonly page: Page;
  readonly close: () => Promise<void>;
}

/** The application with the demo class as `prepare` leaves it, and a page with its instructor signed in. */
export async function openDemoPage(
  url: string,
  prepare: (db: Database, fresh: boolean) => Promise<void>,
): Promise<SheetPage> {
  await build({
    root: path.join(ROOT, 'packages/web'),
    mode: 'bench',
    logLevel: 'warn',
    build: { outDir: BENCH_WEB, emptyOutDir: true },
  });
  const db = openDatabase(url, 2);
  await migrate(db);
  await syncShippedMethods(db);
  await prepare(db, await loadDemo(db, { seed: 7, story: true, now: new Date() }));
  await db.destroy();
  const server = await startServer(
    readConfig({
      DATABASE_URL: url,
      CLEAR_MARK_MODE: 'demo',
      CLEAR_MARK_WEB_DIR: BENCH_WEB,
      CLEAR_MARK_LOG_LEVEL: 'error',
    }),
  );
  const browser = await chromium.launch(CHROMIUM);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(server.url);
  await page.getByRole('button', { name: /demo’s instructor/ }).click();
  const close = async (): Promise<void> => {
    await browser.close();
    await server.stop();
  };
  return { page, close };
}

/**
 * The same with the benchmark's sheets, and a new piece by one of them. The page carries a bare component beside the sheet,
 * which is the yardstick.
 */
export async function openSheetPage(url: string, method: string): Promise<SheetPage> {
  const open = await openDemoPage(url, async (db, fresh) => {
    if (fresh) await sixtyCriteria(db);
  });
  const { page } = open;
  await page.locator('[data-trainee="Anouk Derrey"] button').click();
  await choose(page.getByRole('dialog').getByLabel('Method'), method);
  await page.getByRole('button', { name: 'Start the piece' }).click();
  await page.locator('.row-of').nth(59).waitFor();
  await page.locator('#bare button').waitFor();
  return open;
}
