import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PASSWORD, freshDatabase } from './harness.ts';

let server: ChildProcess;
let url: string;
let setupCode: string;
let pids: readonly number[];
let drop: () => Promise<void>;
beforeAll(async () => {
  const made = await freshDatabase();
  ({ drop } = made);
  const script = fileURLToPath(new URL('./several-processes.ts', import.meta.url));
  server = spawn(process.execPath, ['--import', 'tsx', script], {
    env: {
      ...process.env,
      DATABASE_URL: made.appUrl,
      DATABASE_OWNER_URL: made.url,
      CLEAR_MARK_MODE: 'real',
      CLEAR_MARK_LOG_LEVEL: 'silent',
      CLEAR_MARK_PORT: '0',
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  const [line] = (await once(server.stdout!, 'data')) as [Buffer];
  ({ url, setupCode, pids } = JSON.parse(line.toString()) as {
    url: string;
    setupCode: string;
    pids: readonly number[];
  });
}, 120_000);
afterAll(async () => {
  server.kill('SIGKILL');
  await drop();
});

/** Each on a connection of its own, so that the processes take turns. */
const get = (path: string): Promise<Response> =>
  fetch(`${url}${path}`, { headers: { Connection: 'close' }, signal: AbortSignal.timeout(5000) });
/** When the process began that answers, and its id: each process tells its own. */
async function whoAnswers(): Promise<number> {
  const text = await (await get('/metrics')).text();
  return Number(/^process_start_time_seconds (\S+)$/m.exec(text)![1]);
}
async function several(): Promise<Set<number>> {
  const began = new Set<number>();
  for (let i = 0; i < 12; i += 1) began.add(await whoAnswers().catch(() => 0));
  began.delete(0);
  return began;
}

describe('several processes of one server', () => {
  it('answer on one port, share sessions, and give one code for the first visitor', async () => {
    const reply = await fetch(`${url}/api/setup`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Connection: 'close' },
      body: JSON.stringify({ code: setupCode, name: 'Ruta Almqvist', login: 'ruta', password: PASSWORD }),
    });
    expect(reply.status).toBe(200);
    const cookie = reply.headers.getSetCookie()[0]!.split(';')[0]!;
    const asked = Array.from({ length: 8 }, () =>
      fetch(`${url}/api/accounts`, { headers: { Cookie: cookie, Connection: 'close' } }),
    );
    expect((await Promise.all(asked)).map((r) => r.status)).toEqual(Array(8).fill(200));
    await expect.poll(async () => (await several()).size, { timeout: 60_000 }).toBe(2);
  });
  it('one that is lost is started again, and the others answer meanwhile', async () => {
    const before = await several();
    process.kill(pids[0]!, 'SIGKILL');
    await expect
      .poll(
        async () => {
          const now = await several();
          return now.size === 2 && [...now].some((began) => !before.has(began));
        },
        { timeout: 60_000 },
      )
      .toBe(true);
    expect((await get('/api/ready')).status).toBe(200);
  });
  it('end in order when they are told to', async () => {
    server.kill('SIGTERM');
    const [code] = (await once(server, 'exit')) as [number];
    expect(code).toBe(0);
    await expect(get('/api/ready')).rejects.toThrow('fetch failed');
  });
});
