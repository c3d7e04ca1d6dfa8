import { chromium, type CDPSession, type Page } from '@playwright/test';
import { migrate, openDatabase, readConfig, startServer, syncShippedMethods } from '@clear-mark/server';
import { build } from 'vite';
import path from 'node:path';
import { loadDemo } from '../load-demo.ts';
import { ROOT, STATE } from '../paths.ts';
import { CHROMIUM } from './browser.ts';
import { fillClass, type Walker, walk } from './class-run.ts';
import type { Measured } from './measured.ts';

const WEB = path.join(STATE, 'bench-web');
/** Ten minutes, unless the environment asks for a shorter look. */
const MINUTES = Number(process.env['CLEAR_MARK_CLASS_MINUTES'] ?? '10');

/**
 * Sixteen trainees at work, twelve timers, two instructors who score four times a second each. Nothing may be lost or
 * doubled, and the page that only looks on may not grow: its heap after a forced collection, late against early.
 */
export async function benchClass(url: string): Promise<Measured> {
  await build({
    root: path.join(ROOT, 'packages/web'),
    logLevel: 'warn',
    build: { outDir: WEB, emptyOutDir: true },
  });
  const db = openDatabase(url, 4);
  await migrate(db);
  await syncShippedMethods(db);
  await loadDemo(db, { seed: 7, story: true, now: new Date() });
  const server = await startServer(
    readConfig({
      DATABASE_URL: url,
      CLEAR_MARK_MODE: 'demo',
      CLEAR_MARK_WEB_DIR: WEB,
      CLEAR_MARK_LOG_LEVEL: 'error',
    }),
  );
  const browser = await chromium.launch(CHROMIUM);
  try {
    const enter = async (as: RegExp): Promise<Page> => {
      const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
      const page = await context.newPage();
      await page.goto(server.url);
      await page.getByRole('button', { name: as }).click();
      await page.locator('.tile').first().waitFor();
      return page;
    };
    const onlooker = await enter(/As the lead/);
    const { attempts } = await fillClass(onlooker.context(), server.url);
    const walkers: Walker[] = [];
    for (const as of [/demo’s instructor/, /As the lead/]) {
      const page = await enter(as);
      await page
        .locator('article.working button')
        .nth(walkers.length * 3)
        .click();
      await page.locator('.row-of').first().waitFor();
      walkers.push(await walk(page));
    }
    const session = await onlooker.context().newCDPSession(onlooker);
    await session.send('Performance.enable');
    const wait = (minutes: number): Promise<void> => onlooker.waitForTimeout(minutes * 60_000);
    await wait(MINUTES * 0.2);
    const early = await heapOf(session);
    const before = await scriptOf(session);
    await wait(MINUTES * 0.8);
    const late = await heapOf(session);
    const script = (await scriptOf(session)) - before;
    for (const walker of walkers) await walker.stop();
    const acts = (await Promise.all(walkers.map((w) => w.acts()))).reduce((a, b) => a + b, 0);
    const sent = new Set(walkers.flatMap((w) => [...w.sent]));
    const stored: string[] = await db('entries')
      .whereIn('id', [...sent])
      .pluck('id');
    const rows: { n: string; seqs: string }[] = await db('entries')
      .whereIn('attempt_id', attempts)
      .groupBy('attempt_id')
      .select(db.raw('count(*) as n, max(seq) as seqs'));
    const gaps = rows.filter((r) => Number(r.n) !== Number(r.seqs)).length;
    const lost = sent.size - stored.length;
    const right = lost === 0 && gaps === 0 && acts === sent.size;
    return {
      name: `heap of a page that looks on, minute ${MINUTES} / minute ${MINUTES * 0.2}`,
      ratio: right ? late / early : Infinity,
      most: 1.05,
      unit: 'times',
      detail: `${acts} acts, ${sent.size} entries sent, ${lost} lost, ${gaps} attempts with a gap; heap ${(early / 1e6).toFixed(1)} and ${(late / 1e6).toFixed(1)} MB; ${((script * 1000) / (acts * 0.8)).toFixed(2)} ms script of the board per update`,
    };
  } finally {
    await browser.close();
    await server.stop();
    await db.destroy();
  }
}

async function heapOf(session: CDPSession): Promise<number> {
  await session.send('HeapProfiler.collectGarbage');
  await session.send('HeapProfiler.collectGarbage');
  return metric(session, 'JSHeapUsedSize');
}
const scriptOf = (session: CDPSession): Promise<number> => metric(session, 'ScriptDuration');
async function metric(session: CDPSession, name: string): Promise<number> {
  const { metrics } = await session.send('Performance.getMetrics');
  return metrics.find((m) => m.name === name)!.value;
}
