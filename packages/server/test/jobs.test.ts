import pg from 'pg';
import { pino } from 'pino';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { prepareJobQueue, startJobQueue } from '../src/jobs/index.ts';
import { World } from './harness.ts';

const log = pino({ level: 'silent' });
let world: World;
beforeAll(async () => {
  world = await World.make();
});
afterAll(() => world.close());

const soon = async (holds: () => boolean | Promise<boolean>): Promise<void> => {
  for (let i = 0; i < 100 && !(await holds()); i++) await new Promise((done) => setTimeout(done, 100));
  expect(await holds()).toBe(true);
};

/** A queue as a further server process has one, in the application's own role. */
async function another(name: string, retries: number) {
  const kind = { name, retries };
  await prepareJobQueue(world.url, [kind]);
  await world.owner.raw('grant select, insert, update, delete on all tables in schema job_queue to public');
  const pool = new pg.Pool({ connectionString: world.appUrl, max: 2 });
  const queue = await startJobQueue(pool, log);
  const end = async (): Promise<void> => {
    await queue.stop();
    await pool.end();
  };
  return { kind, queue, end };
}

describe('the queue of jobs', () => {
  it('has a job when its transaction is committed, and none when it is not', async () => {
    const { kind, queue, end } = await another('kept', 0);
    const done: string[] = [];
    await queue.work<{ id: string }>(kind, {
      run: async ({ id }) => void done.push(id),
      giveUp: async () => undefined,
    });
    await expect(
      world.db.transaction(async (trx) => {
        await queue.add(trx, kind, { id: 'undone' }, 60);
        throw new Error('no');
      }),
    ).rejects.toThrow('no');
    await world.db.transaction((trx) => queue.add(trx, kind, { id: 'kept' }, 60));
    await soon(() => done.length > 0);
    expect(done).toEqual(['kept']);
    await end();
  });

  it('a job that fails is tried again, and given up once', async () => {
    const { kind, queue, end } = await another('failing', 1);
    const [tried, given]: [string[], string[]] = [[], []];
    await queue.work<{ id: string }>(kind, {
      run: async ({ id }) => {
        tried.push(id);
        throw new Error('broken');
      },
      giveUp: async ({ id }) => void given.push(id),
    });
    const id = v7();
    await world.db.transaction((trx) => queue.add(trx, kind, { id }, 60));
    await soon(() => given.length > 0);
    expect([tried, given]).toEqual([[id, id], [id]]);
    await end();
  });

  it('a job whose process is lost goes to another process', async () => {
    const { kind, queue, end } = await another('lost', 1);
    const id = v7();
    await world.db.transaction((trx) => queue.add(trx, kind, { id }, 1));
    // Taken by a process that is never heard of again.
    const taken = await world.owner.raw(
      `update job_queue.job set state = 'active', started_on = now() - interval '1 hour' where data->>'id' = ?`,
      [id],
    );
    expect(taken.rowCount).toBe(1);
    const done: string[] = [];
    await queue.work<{ id: string }>(kind, {
      run: async (order) => void done.push(order.id),
      giveUp: async () => undefined,
    });
    await queue.look();
    await soon(() => done.length > 0);
    expect(done).toEqual([id]);
    await end();
  });

  it('a job at work when its server stops goes to another, and what it says after the stop is dropped', async () => {
    const first = await another('stopped', 2);
    const second = await another('stopped', 2);
    const done: string[] = [];
    let release = (): void => undefined;
    const gate = new Promise<void>((resolve) => (release = resolve));
    let begun = false;
    await first.queue.work<{ id: string }>(first.kind, {
      run: async () => {
        begun = true;
        await gate;
      },
      giveUp: async () => undefined,
    });
    const id = v7();
    await world.db.transaction((trx) => first.queue.add(trx, first.kind, { id }, 60));
    await soon(() => begun);
    await first.end();
    release(); // An answer sent to the ended pool would be an unhandled rejection, which fails the run.
    await second.queue.work<{ id: string }>(second.kind, {
      run: async (order) => void done.push(order.id),
      giveUp: async () => undefined,
    });
    await soon(() => done.length > 0);
    expect(done).toEqual([id]);
    await second.end();
  });

  it('the application’s role uses the queue and cannot change its shape', async () => {
    await expect(world.db.raw('create table job_queue.mine (id int)')).rejects.toMatchObject({
      code: '42501',
    });
    await expect(world.db.raw('drop table job_queue.job')).rejects.toMatchObject({ code: '42501' });
  });
});
