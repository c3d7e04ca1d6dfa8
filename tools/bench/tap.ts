import path from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { migrate, openDatabase, readConfig, startServer, syncShippedMethods } from '@clear-mark/server';
import { build } from 'vite';
import { loadDemo } from '../load-demo.ts';
import { ROOT, STATE } from '../paths.ts';
import { CHROMIUM } from './browser.ts';
import { type Measured, medianOf } from './measured.ts';
import { sixtyCriteria } from './sixty-criteria.ts';

const PAIRS = 200;
const BENCH_WEB = path.join(STATE, 'bench-web');

interface Work {
  readonly script: number;
  readonly layout: number;
}

/**
 * Script and layout time of a tap on a sheet of 60 criteria until the verdict is painted, against that of a bare
 * Vue component changing one text in the same page; paired, 200 times.
 */
export async function benchTap(url: string): Promise<Measured> {
  await build({
    root: path.join(ROOT, 'packages/web'),
    mode: 'bench',
    logLevel: 'warn',
    build: { outDir: BENCH_WEB, emptyOutDir: true },
  });
  const db = openDatabase(url, 2);
  await migrate(db);
  await syncShippedMethods(db);
  await loadDemo(db, { seed: 7, story: true, now: new Date() });
  await sixtyCriteria(db);
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
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await openSheet(page, server.url);
    const pairs = await measure(page);
    const sum = (w: Work): number => w.script + w.layout;
    const taps = pairs.map((p) => sum(p.tap));
    const texts = pairs.map((p) => sum(p.text));
    return {
      name: 'tap on a sheet of 60 criteria / bare component changing a text',
      ratio: medianOf(taps) / medianOf(texts),
      most: 8,
      unit: 'times',
      detail: `median of ${pairs.length} pairs: tap ${medianOf(taps).toFixed(2)} ms (script ${medianOf(pairs.map((p) => p.tap.script)).toFixed(2)}, layout ${medianOf(pairs.map((p) => p.tap.layout)).toFixed(2)}), bare ${medianOf(texts).toFixed(2)} ms`,
    };
  } finally {
    await browser.close();
    await server.stop();
  }
}

async function openSheet(page: Page, url: string): Promise<void> {
  await page.goto(url);
  await page.getByRole('button', { name: /demo’s instructor/ }).click();
  await page.locator('[data-trainee="Anouk Derrey"] button').click();
  await page.getByLabel('Method').selectOption({ label: 'Sixty criteria' });
  await page.getByRole('button', { name: 'Start the piece' }).click();
  await page.locator('.row-of').nth(59).waitFor();
  await page.locator('#bare button').waitFor();
}

async function measure(page: Page): Promise<{ tap: Work; text: Work }[]> {
  const session = await page.context().newCDPSession(page);
  await session.send('Performance.enable');
  const read = async (): Promise<Work> => {
    const { metrics } = await session.send('Performance.getMetrics');
    const value = (name: string): number => (metrics.find((m) => m.name === name)?.value ?? 0) * 1000;
    return {
      script: value('ScriptDuration'),
      layout: value('LayoutDuration') + value('RecalcStyleDuration'),
    };
  };
  const work = async (selector: string, index: number): Promise<Work> => {
    const before = await read();
    await page.evaluate(
      async ([wanted, at]) => {
        const all = document.querySelectorAll<HTMLElement>(wanted as string);
        all[at as number]!.click();
        await new Promise<void>((resolve) =>
          requestAnimationFrame(() => requestAnimationFrame(() => resolve())),
        );
      },
      [selector, index] as const,
    );
    const after = await read();
    return { script: after.script - before.script, layout: after.layout - before.layout };
  };
  const pairs: { tap: Work; text: Work }[] = [];
  for (let i = 0; pairs.length < PAIRS; i++) {
    const row = i % 60;
    const text = await work('#bare button', 0);
    const tap = await work('.row-of .main', row);
    pairs.push({ tap, text });
    if (row === 59) await undoAll(page);
  }
  return pairs;
}

/** Takes every entry back, so that the next round taps open rows again. */
async function undoAll(page: Page): Promise<void> {
  for (let i = 0; i < 60; i++) {
    await page.evaluate(() => document.querySelector<HTMLElement>('.dock [title^="Take back"]')?.click());
  }
  await page.waitForFunction(() => document.querySelectorAll('.row-of.done').length === 0);
  await page.waitForFunction(() =>
    document.querySelector('[data-test=queue-state]')?.textContent?.includes('All saved'),
  );
}
