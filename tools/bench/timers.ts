import type { Page } from '@playwright/test';
import { fillClass } from './class-run.ts';
import { type Measured, medianOf } from './measured.ts';
import { openSheetPage } from './sheet-page.ts';
import { SIXTY } from './sixty-criteria.ts';
import { measureTaps, workOf } from './tap.ts';

/** As many as a full class has; the goal speaks of ten. */
const TIMERS = 12;
const SECONDS = 12;
const TAPS = 50;

/** Script time a second of a sheet with twelve timers running, against that of one tap on it. */
export async function benchTimers(url: string): Promise<Measured> {
  const { page, close } = await openSheetPage(url, SIXTY);
  try {
    const taps = await measureTaps(page, TAPS);
    const tap = medianOf(taps.map((p) => p.tap.script));
    const idle = await scriptPerSecond(page);
    await runTimers(page);
    const running = await scriptPerSecond(page);
    return {
      name: 'twelve running timers, script a second / script of one tap',
      ratio: (running - idle) / tap,
      most: 1,
      unit: 'times',
      detail: `${running.toFixed(2)} ms a second with the timers, ${idle.toFixed(2)} without; a tap ${tap.toFixed(2)} ms`,
    };
  } finally {
    await close();
  }
}

async function runTimers(page: Page): Promise<void> {
  await fillClass(page.context(), new URL(page.url()).origin);
  await page
    .locator('.strip .timer')
    .nth(TIMERS - 1)
    .waitFor();
  await page.waitForTimeout(2000);
}

async function scriptPerSecond(page: Page): Promise<number> {
  const session = await page.context().newCDPSession(page);
  await session.send('Performance.enable');
  const before = await workOf(session);
  await page.waitForTimeout(SECONDS * 1000);
  const after = await workOf(session);
  return (after.script - before.script) / SECONDS;
}
