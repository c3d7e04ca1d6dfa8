import { mkdtemp, rm } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { FACE_STATES, randomFace, rngFrom } from '@clear-mark/sim';
import sharp from 'sharp';
import type { Measured } from './measured.ts';
import { openSheetPage } from './sheet-page.ts';
import { SIXTY } from './sixty-criteria.ts';

const PICTURES = 5;
/** A task that is longer is felt. */
const FELT_MS = 50;

/** The longest task of the page while pictures of 1280x960 are read, measured and shown, against what is felt. */
export async function benchFacesPage(url: string): Promise<Measured> {
  const { page, close } = await openSheetPage(url, SIXTY);
  const folder = await mkdtemp(path.join(os.tmpdir(), 'clear-mark-page-'));
  try {
    await page.getByRole('link', { name: 'Faces' }).click();
    const input = page.locator('input[type=file]');
    await input.waitFor({ state: 'attached' });
    await page.waitForTimeout(1500);
    await page.evaluate(() => {
      const seen: number[] = [];
      (window as never as { seen: number[] }).seen = seen;
      new PerformanceObserver((list) => seen.push(...list.getEntries().map((e) => e.duration))).observe({
        entryTypes: ['longtask'],
      });
    });
    for (let i = 0; i < PICTURES; i++) {
      const { width, height, data } = randomFace(rngFrom(900 + i), {}, FACE_STATES[i]!);
      const raw = { width, height, channels: 1 as const };
      const name = `face-${i}.png`;
      const file = path.join(folder, name);
      await sharp(Buffer.from(data), { raw }).png().toFile(file);
      // From the disk, as a person's file comes: handed over as data it would be decoded by a task of the page.
      await input.setInputFiles(file);
      await page.getByRole('img', { name: `Picture ${name}` }).waitFor();
      await page.locator('[data-test=face-verdict]').waitFor();
      await page.waitForTimeout(500);
    }
    const seen = await page.evaluate(() => (window as never as { seen: number[] }).seen);
    const longest = Math.max(0, ...seen);
    return {
      name: 'Longest task of the page while faces are measured / 50 ms',
      ratio: longest / FELT_MS,
      most: 1,
      unit: 'times',
      detail: `${PICTURES} pictures; ${seen.length} tasks over 50 ms, the longest ${longest.toFixed(0)} ms`,
    };
  } finally {
    await close();
    await rm(folder, { recursive: true, force: true });
  }
}
