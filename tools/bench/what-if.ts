import path from 'node:path';
import { pathToFileURL } from 'node:url';
import type {
  LossReference,
  MethodSheet,
  Policy,
  replayOf,
  ReplayedAttempt,
  ReplaySetting,
} from '@clear-mark/core';
import { type PackedEntry, unpackEntries } from '@clear-mark/core';
import { build } from 'vite';
import type { Person, ReplayPage } from '@clear-mark/contract';
import { SCENARIO } from '@clear-mark/demo';
import { type Database, openDatabase, whatIfService } from '@clear-mark/server';
import { ROOT, STATE } from '../paths.ts';
import { copyAttempts } from './copy-attempts.ts';
import { type Measured, medianOf } from './measured.ts';
import { openDemoPage } from './sheet-page.ts';
import { choose } from './choose.ts';

const ATTEMPTS = 20_000;
const ROUNDS = 3;
const LIMIT = 'clear-mark/lc-wedge-locator/loss';

/** “What if” of 20,000 attempts in the page's worker against the same loop in Node, the longest task of the page beside it. */
export async function benchWhatIf(url: string): Promise<Measured> {
  const { page, close } = await openDemoPage(url, async (db, fresh) => {
    if (fresh) await copyAttempts(db, ATTEMPTS, true);
  });
  try {
    const node = await inNode(url);
    await page.getByRole('link', { name: 'Insight' }).click();
    await page.getByRole('tab', { name: 'What if' }).click();
    const setting = page.locator('[data-setting=B]');
    await choose(setting.getByLabel('Limit to move'), 'Loss read: insertion loss measured');
    await page.evaluate(() => {
      const seen: number[] = [];
      (window as never as { seen: number[] }).seen = seen;
      new PerformanceObserver((list) => seen.push(...list.getEntries().map((e) => e.duration))).observe({
        entryTypes: ['longtask'],
      });
    });
    const times: number[] = [];
    const whole: number[] = [];
    // The first loads the attempts; those after score what is there.
    for (let i = 0; i <= ROUNDS; i++) {
      await setting.locator('input[name=max]').fill(`0.${50 + i}`);
      const from = performance.now();
      await page.getByRole('button', { name: 'Score again' }).click();
      await page.getByText('Cancel').waitFor();
      await page.locator('[data-test=took]').waitFor({ timeout: 300_000 });
      whole.push(performance.now() - from);
      times.push(Number(await page.locator('[data-test=took]').getAttribute('data-ms')));
    }
    const seen = await page.evaluate(() => (window as never as { seen: number[] }).seen);
    const worker = medianOf(times.slice(1));
    return {
      name: 'what if of 20,000 attempts in the worker / in Node',
      most: 2,
      unit: 'times',
      ratio: worker / node.ms,
      detail: `${node.attempts} attempts by two settings; worker ${worker.toFixed(0)} ms, Node ${node.ms.toFixed(0)} ms; loading them first ${(whole[0]! / 1000).toFixed(1)} s; longest task of the page ${Math.max(0, ...seen).toFixed(0)} ms`,
    };
  } finally {
    await close();
  }
}

/** Core built as the application's is: run from its sources by the tools' loader it is several times slower. */
async function builtCore(): Promise<{ readonly replayOf: typeof replayOf }> {
  const outDir = path.join(STATE, 'bench-core');
  await build({
    root: ROOT,
    configFile: false,
    logLevel: 'warn',
    build: { ssr: path.join(ROOT, 'packages/core/src/index.ts'), outDir, emptyOutDir: true, minify: true },
  });
  return (await import(pathToFileURL(path.join(outDir, 'index.js')).href)) as never;
}

/** Pages of attempts are asked for only; no job is begun. */
const NO_QUEUE = { add: () => Promise.reject(new Error('no queue here')) };

async function inNode(url: string): Promise<{ ms: number; attempts: number }> {
  const core = await builtCore();
  const db: Database = openDatabase(url, 2);
  try {
    const me = (await db('people').where({ role: 'lead' }).first()) as Person;
    const found = await db('classes').where({ name: SCENARIO.className }).first();
    const service = whatIfService(db, NO_QUEUE);
    const sheets = new Map<string, MethodSheet>();
    const attempts: { attempt: ReplayedAttempt; references: LossReference[] }[] = [];
    let after: string | undefined;
    do {
      // Through text, as the worker has it.
      const text = JSON.stringify(await service.replay(found.id, after === undefined ? {} : { after }, me));
      const part = JSON.parse(text) as ReplayPage;
      for (const v of part.versions) sheets.set(v.id, v.sheet);
      const references = part.references as LossReference[];
      for (const a of part.attempts) {
        const entries = unpackEntries(a.entries as PackedEntry[]);
        const attempt = { ...a, entries } as unknown as ReplayedAttempt;
        const ids = new Set(
          attempt.entries.map((e) => (e.value?.kind === 'loss' ? e.value.referenceId : '')),
        );
        attempts.push({ attempt, references: references.filter((r) => ids.has(r.id)) });
      }
      after = part.next ?? undefined;
    } while (after !== undefined);
    const times: number[] = [];
    const none = { passMark: null, policy: null };
    for (let i = 0; i <= ROUNDS; i++) {
      const settings: ReplaySetting[] = [
        { ...none, limit: null },
        { ...none, limit: { criterionId: LIMIT, min: null, max: 0.5 + i / 100 } },
      ];
      const from = performance.now();
      const replay = core.replayOf(sheets, found.policy as Policy, settings);
      for (const { attempt, references } of attempts) replay.add(attempt, references);
      replay.results(Date.now());
      times.push(performance.now() - from);
    }
    return { ms: medianOf(times.slice(1)), attempts: attempts.length };
  } finally {
    await db.destroy();
  }
}
