import type { BrowserContext, Page } from '@playwright/test';

/** One instructor of a run: a page that scores, and every entry that it sent. */
export interface Walker {
  readonly page: Page;
  readonly sent: Set<string>;
  readonly acts: () => Promise<number>;
  readonly stop: () => Promise<void>;
}

const ACT_EVERY_MS = 250;
/** Acts at one bench before the instructor walks on. */
const ACTS_A_BENCH = 12;

/**
 * Lets an instructor walk from bench to bench and score: a check passed, taken back, passed, at four acts a second, by
 * the same taps and keys as a hand. The acts are counted in the page, the entries by what it sends.
 */
export async function walk(page: Page): Promise<Walker> {
  const sent = new Set<string>();
  page.on('request', (request) => {
    if (request.method() !== 'POST' || !request.url().endsWith('/api/entries')) return;
    const body = request.postDataJSON() as { entries: { id: string }[] };
    for (const { id } of body.entries) sent.add(id);
  });
  await page.evaluate(
    ([every, atBench]) => {
      const run = { acts: 0, here: 0, timer: 0 };
      (window as unknown as { walk: typeof run }).walk = run;
      run.timer = window.setInterval(() => {
        const undo = document.querySelector<HTMLElement>('.dock [title^="Take back"]:not([disabled])');
        const open = document.querySelector<HTMLElement>('.row-of.check[data-state="open"] .main');
        if (run.here >= atBench!) {
          run.here = 0;
          window.dispatchEvent(new KeyboardEvent('keydown', { key: ']', bubbles: true }));
          return;
        }
        const target = run.here % 3 === 2 ? (undo ?? open) : (open ?? undo);
        run.here += 1;
        if (!target) return;
        target.click();
        run.acts += 1;
      }, every);
    },
    [ACT_EVERY_MS, ACTS_A_BENCH] as const,
  );
  const read = (name: 'acts' | 'timer'): Promise<number> =>
    page.evaluate((key) => (window as unknown as { walk: Record<string, number> }).walk[key]!, name);
  return {
    page,
    sent,
    acts: () => read('acts'),
    stop: async () => {
      await page.evaluate((timer) => window.clearInterval(timer), await read('timer'));
      await page.waitForFunction(
        () => document.querySelector('[data-test=queue-state]')?.textContent?.includes('All saved'),
        undefined,
        { timeout: 30_000 },
      );
    },
  };
}

/** Starts a piece for every trainee who has none open, and twelve timers over them; gives the class's id. */
export async function fillClass(
  context: BrowserContext,
  url: string,
): Promise<{ classId: string; attempts: string[] }> {
  const call = async <T>(method: string, path: string, data?: unknown): Promise<T> => {
    const reply = await context.request.fetch(`${url}/api${path}`, { method, ...(data ? { data } : {}) });
    if (!reply.ok()) throw new Error(`${method} ${path}: ${reply.status()} ${await reply.text()}`);
    return (await reply.json()) as T;
  };
  const me = await call<{ me: { id: string } }>('GET', '/start');
  const [{ id: classId }] = await call<[{ id: string }]>('GET', '/classes');
  const detail = await call<{
    trainees: { id: string }[];
    methods: { versionId: string; methodId: string; inUse: boolean }[];
  }>('GET', `/classes/${classId}`);
  const version = detail.methods.find((m) => m.inUse && m.methodId.endsWith('/lc-wedge-locator'))!;
  const now = new Date().toISOString();
  const deviceId = crypto.randomUUID();
  type Open = { id: string; traineeId: string; methodVersionId: string };
  const catchUp = () => call<{ attempts: Open[] }>('POST', `/classes/${classId}/catch-up`, { known: {} });
  const busy = new Set((await catchUp()).attempts.map((a) => a.traineeId));
  for (const [i, trainee] of detail.trainees.entries()) {
    if (busy.has(trainee.id)) continue;
    await call('POST', `/classes/${classId}/attempts`, {
      id: crypto.randomUUID(),
      traineeId: trainee.id,
      methodVersionId: version.versionId,
      pieceId: crypto.randomUUID(),
      pieceLabel: `R-${i + 1}`,
      thingIds: [],
      startedAt: now,
      sentAt: now,
      deviceId,
    });
  }
  const { attempts } = await catchUp();
  const timed = attempts.filter((a) => a.methodVersionId === version.versionId).slice(0, 12);
  const entries = timed.map(({ id }) => ({
    id: crypto.randomUUID(),
    attemptId: id,
    kind: 'timer',
    part: 'timer',
    voidReason: null,
    note: null,
    criterionId: `${version.methodId}/settle`,
    value: { kind: 'timer', startedAt: now },
    authorId: me.me.id,
    capacity: 'instructor',
    deviceId,
    source: 'timer',
    at: now,
    supersedes: [],
    targetId: null,
  }));
  await call('POST', '/entries', { entries, sentAt: now });
  return { classId, attempts: attempts.map((a) => a.id) };
}
