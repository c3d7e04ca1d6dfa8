import type { CDPSession, Page } from '@playwright/test';
import { type Measured, medianOf } from './measured.ts';
import { openSheetPage } from './sheet-page.ts';
import { SIXTY, SIXTY_WITH_GRIDS } from './sixty-criteria.ts';

const PAIRS = 200;

interface Work {
  readonly script: number;
  readonly layout: number;
}
interface Pair {
  readonly tap: Work;
  readonly text: Work;
}

/**
 * Script and layout time of a tap on a sheet of 60 criteria until the verdict is painted, against that of a bare
 * Vue component changing one text in the same page; paired, 200 times.
 */
export const benchTap = (url: string): Promise<Measured> =>
  tapOn(url, SIXTY, 'tap on a sheet of 60 criteria');

/** The same where three of the sixty are grids of 24 readings each. */
export const benchTapWithGrids = (url: string): Promise<Measured> =>
  tapOn(url, SIXTY_WITH_GRIDS, 'the same with three grids among them');

async function tapOn(url: string, method: string, name: string): Promise<Measured> {
  const { page, close } = await openSheetPage(url, method);
  try {
    const pairs = await measureTaps(page, PAIRS);
    const sum = (w: Work): number => w.script + w.layout;
    const taps = pairs.map((p) => sum(p.tap));
    const texts = pairs.map((p) => sum(p.text));
    return {
      name: `${name} / bare component changing a text`,
      ratio: medianOf(taps) / medianOf(texts),
      most: 8,
      unit: 'times',
      detail: `median of ${pairs.length} pairs: tap ${medianOf(taps).toFixed(2)} ms (script ${medianOf(pairs.map((p) => p.tap.script)).toFixed(2)}, layout ${medianOf(pairs.map((p) => p.tap.layout)).toFixed(2)}), bare ${medianOf(texts).toFixed(2)} ms`,
    };
  } finally {
    await close();
  }
}

/** Work of the page so far, in ms. */
export async function workOf(session: CDPSession): Promise<Work> {
  const { metrics } = await session.send('Performance.getMetrics');
  const value = (name: string): number => (metrics.find((m) => m.name === name)?.value ?? 0) * 1000;
  return { script: value('ScriptDuration'), layout: value('LayoutDuration') + value('RecalcStyleDuration') };
}

/** Taps on open checks, each beside a change of the bare component. */
export async function measureTaps(page: Page, wanted: number): Promise<Pair[]> {
  const session = await page.context().newCDPSession(page);
  await session.send('Performance.enable');
  const work = async (selector: string, index: number): Promise<Work> => {
    const before = await workOf(session);
    await page.evaluate(
      async ([where, at]) => {
        document.querySelectorAll<HTMLElement>(where as string)[at as number]!.click();
        await new Promise<void>((resolve) =>
          requestAnimationFrame(() => requestAnimationFrame(() => resolve())),
        );
      },
      [selector, index] as const,
    );
    const after = await workOf(session);
    return { script: after.script - before.script, layout: after.layout - before.layout };
  };
  const rows = await page.locator('.row-of.check').count();
  const pairs: Pair[] = [];
  for (let i = 0; pairs.length < wanted; i++) {
    const row = i % rows;
    const text = await work('#bare button', 0);
    const tap = await work('.row-of.check .main', row);
    pairs.push({ tap, text });
    if (row === rows - 1) await undoAll(page);
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
