import { randomUUID } from 'node:crypto';
import type { Measured } from './measured.ts';
import { ownServer } from './own-server.ts';
import { signIn } from './raw-client.ts';

const SECONDS = 4;

/** How long the slowest of many small requests waits while a what-if job runs, against the slowest without one. */
export async function benchWhatIfStop(): Promise<Measured> {
  const own = await ownServer('bench_what_if_stop');
  try {
    const { cookie } = await signIn(own.url, 'lead');
    const [{ class_id: classId }] = await own
      .db('attempts')
      .select('class_id')
      .orderBy('started_at')
      .limit(1);
    const ask = async (): Promise<number> => {
      const from = performance.now();
      await (await fetch(`${own.url}/api/health`)).text();
      return performance.now() - from;
    };
    const slowest = async (until: () => Promise<boolean>): Promise<number> => {
      let most = 0;
      do {
        for (let i = 0; i < 20; i++) most = Math.max(most, await ask());
      } while (!(await until()));
      return most;
    };
    await slowest(() => Promise.resolve(true));
    const began = Date.now();
    const quiet = await slowest(() => Promise.resolve(Date.now() - began > SECONDS * 1000));
    const id = randomUUID();
    const limit = { criterionId: 'clear-mark/lc-wedge-locator/loss', max: 0.3, min: null };
    const setting = { label: 'x', passMark: null, limit, policy: null };
    const reply = await fetch(`${own.url}/api/classes/${classId}/what-if`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Cookie: cookie },
      body: JSON.stringify({ id, settings: [setting], filter: {} }),
    });
    if (!reply.ok) throw new Error(await reply.text());
    const busy = await slowest(async () => {
      const [job] = await own.db('what_if_jobs').where({ id }).select('state');
      if (job.state === 'failed') throw new Error('the job failed');
      return job.state !== 'running';
    });
    return {
      name: 'slowest small request while a what-if job runs / without one',
      ratio: busy / quiet,
      most: 10,
      unit: 'times',
      detail: `${busy.toFixed(0)} ms (goal under 50) against ${quiet.toFixed(0)} ms`,
    };
  } finally {
    await own.stop();
  }
}
