import { MOST_TRACE_POINTS } from '@clear-mark/core';
import { type Measured, medianOf } from './measured.ts';
import { largeTraceFile } from './large-trace.ts';
import { openSheetPage } from './sheet-page.ts';
import { SIXTY } from './sixty-criteria.ts';

const STEPS = 60;
/** A display that draws sixty times a second. */
const FRAME_MS = 1000 / 60;

/** Script of one step of zooming or panning on a trace of 256k points, against a frame of the display. */
export async function benchTraceZoom(url: string): Promise<Measured> {
  const { page, close } = await openSheetPage(url, SIXTY);
  try {
    await page.getByRole('link', { name: 'Links' }).click();
    await page.getByRole('tab', { name: 'Traces' }).click();
    await page.locator('input[type=file]').setInputFiles({
      name: 'long.sor',
      mimeType: 'application/octet-stream',
      buffer: Buffer.from(largeTraceFile(4, MOST_TRACE_POINTS)),
    });
    await page.locator('[data-test=traces] tbody button').first().click();
    const chart = page.getByRole('img', { name: /^Trace long/ });
    await chart.waitFor();
    await page.locator('[data-test=events]').waitFor();
    await page.evaluate(() => {
      const seen: number[] = [];
      const path = (): string | null => document.querySelector('.trace .line')!.getAttribute('d');
      (window as never as { seen: number[] }).seen = seen;
      let began = 0;
      let before = path();
      const box = document.querySelector('.trace')!;
      for (const kind of ['keydown', 'click']) {
        box.addEventListener(kind, () => ([began, before] = [performance.now(), path()]), true);
        // What listens in between, and what Vue makes of it, is done by now.
        for (const part of box.querySelectorAll('svg, .tools button')) {
          part.addEventListener(kind, () => path() !== before && seen.push(performance.now() - began));
        }
      }
    });
    const press = (name: string): Promise<void> => page.getByRole('button', { name, exact: true }).click();
    for (let i = 0; i < STEPS; i++) {
      if (i % 6 === 5) await press('Whole trace');
      else if (i % 3 === 2) await chart.press('ArrowRight');
      else await press('Nearer');
      await page.evaluate(() => new Promise((done) => requestAnimationFrame(done)));
    }
    const script = await page.evaluate(() => (window as never as { seen: number[] }).seen);
    if (script.length < STEPS / 2) throw new Error(`only ${script.length} of ${STEPS} steps moved the view`);
    const median = medianOf(script);
    const worst = Math.max(...script);
    return {
      name: 'script of a step of zooming on a trace of 256k points / a frame of the display',
      ratio: median / FRAME_MS,
      most: 1,
      unit: 'times',
      detail: `median of ${script.length}: ${median.toFixed(1)} ms, worst ${worst.toFixed(1)} ms`,
    };
  } finally {
    await close();
  }
}
