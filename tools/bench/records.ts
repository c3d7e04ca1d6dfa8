import { openDatabase } from '@clear-mark/server';
import { copyAttempts } from './copy-attempts.ts';
import { type Measured, medianOf } from './measured.ts';
import { openDemoPage } from './sheet-page.ts';

const ATTEMPTS = 100_000;
const ROUNDS = 9;
/** A frame that its script holds up longer is seen. */
const FRAME_MS = 50;

/** The yardstick: the newest hundred of a class and how many there are, with nothing joined to them. */
const BARE = `with hit as (select attempt_id, started_at from outcome_skills where class_id = ? and skill = 'whole')
  select (select count(*) from hit) as total, h.* from (select * from hit order by started_at desc limit 100) h`;

/**
 * Records of 100,000 attempts: the first lines as the page gets them, against the bare query; and the frame of most script
 * while the list is scrolled from its top.
 */
export async function benchRecords(url: string): Promise<Measured> {
  const { page, close } = await openDemoPage(url, async (db, fresh) => {
    if (fresh) await copyAttempts(db, ATTEMPTS, false);
  });
  const db = openDatabase(url, 2);
  try {
    await page.getByRole('link', { name: 'Records' }).click();
    await page.locator('.el-table-v2__row .open').first().waitFor({ timeout: 120_000 });
    const classId = /[0-9a-f-]{36}/.exec(new URL(page.url()).pathname)![0];
    const bare = async (): Promise<number> => {
      const from = performance.now();
      await db.raw(BARE, [classId]);
      return performance.now() - from;
    };
    const asked = await page.evaluate(() =>
      performance
        .getEntriesByType('resource')
        .map((e) => e.name)
        .filter((name) => name.includes('/attempts'))
        .pop(),
    );
    const first = async (): Promise<number> =>
      page.evaluate(async (path) => {
        const from = performance.now();
        await (await fetch(path)).json();
        return performance.now() - from;
      }, asked!);
    await first();
    await bare();
    const pairs: number[] = [];
    const times: number[][] = [[], []];
    for (let i = 0; i < ROUNDS; i += 1) {
      const b = await bare();
      const f = await first();
      pairs.push(f / b);
      times[0]!.push(f);
      times[1]!.push(b);
    }
    const worst = await scrolled(page);
    const held = (worst?.script ?? 0) > FRAME_MS ? `, over the ${FRAME_MS} ms of a frame` : '';
    const frame = worst
      ? `worst frame while scrolling ${worst.script.toFixed(0)} ms of script, ${worst.whole.toFixed(0)} ms with layout and paint${held}`
      : 'no late frame while scrolling';
    return {
      name: 'first lines of 100,000 records / bare query',
      ratio: medianOf(pairs),
      most: 1.5,
      unit: 'times',
      detail: `page ${medianOf(times[0]!).toFixed(0)} ms, bare ${medianOf(times[1]!).toFixed(0)} ms; ${frame}`,
    };
  } finally {
    await db.destroy();
    await close();
  }
}

/** A frame that came late, ms: its script without the layout that it asked for, and the whole. */
interface LateFrame {
  readonly script: number;
  readonly whole: number;
}

/** The frame of most script while the list of a page is scrolled by the wheel; null where none came late. */
async function scrolled(page: Awaited<ReturnType<typeof openDemoPage>>['page']): Promise<LateFrame | null> {
  await page.evaluate(() => {
    interface Frame extends PerformanceEntry {
      readonly scripts: readonly {
        readonly duration: number;
        readonly forcedStyleAndLayoutDuration: number;
      }[];
    }
    const seen: { script: number; whole: number }[] = [];
    (window as never as { seen: unknown }).seen = seen;
    new PerformanceObserver((list) => {
      for (const frame of list.getEntries() as Frame[]) {
        const script = frame.scripts.reduce((sum, s) => sum + s.duration - s.forcedStyleAndLayoutDuration, 0);
        seen.push({ script, whole: frame.duration });
      }
    }).observe({ type: 'long-animation-frame' });
  });
  const box = (await page.locator('[data-test=records]').boundingBox())!;
  await page.mouse.move(box.x + 200, box.y + 200);
  for (let i = 0; i < 60; i += 1) {
    await page.mouse.wheel(0, 700);
    await page.waitForTimeout(60);
  }
  const seen = await page.evaluate(() => (window as never as { seen: LateFrame[] }).seen);
  return seen.sort((a, b) => b.script - a.script)[0] ?? null;
}
