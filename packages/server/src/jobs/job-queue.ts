import PgBoss from 'pg-boss';
import type pg from 'pg';
import type { Logger } from 'pino';
import type { Database } from '../database/database.ts';
import { QUEUE_SCHEMA } from '../database/grants.ts';

/** How long a job lies at most before a process takes it that is idle and did not add it. */
const LOOK_EVERY_SECONDS = 2;
/** The process that adds a job looks for it by itself: its transaction has ended by one of these times. */
const WAKE_AFTER_MS = [50, 250, 1000];

/** How often lost processes are looked for. */
const LOOK_FOR_LOST_SECONDS = 30;

/** A kind of work for the queue: where its jobs lie, and where those that could not be done. */
export interface JobKind {
  readonly name: string;
  /** How often a job is tried again that failed, or whose process was lost. */
  readonly retries: number;
}
const failedOf = (kind: JobKind): string => `${kind.name}_failed`;

export interface JobHandlers<T extends object> {
  readonly run: (order: T) => Promise<void>;
  /** Called once when no try is left. */
  readonly giveUp: (order: T) => Promise<void>;
}

export interface JobQueue {
  /**
   * Adds a job within a transaction: it is there when, and only when, that is committed. A process that has not finished it
   * within `seconds` is taken for lost, and another tries it.
   */
  readonly add: (trx: Database, kind: JobKind, order: object, seconds: number) => Promise<void>;
  /** From now on this process takes jobs of the kind, one after the other. */
  readonly work: <T extends object>(kind: JobKind, handlers: JobHandlers<T>) => Promise<void>;
  /** Looks now for jobs whose process is lost; it is done by itself every half minute. */
  readonly look: () => Promise<void>;
  readonly stop: () => Promise<void>;
}

/** Makes what the queue needs in the database, as its owner; the application's role may only use it. */
export async function prepareJobQueue(ownerUrl: string, kinds: readonly JobKind[]): Promise<void> {
  const queue = new PgBoss({
    connectionString: ownerUrl,
    schema: QUEUE_SCHEMA,
    supervise: false,
    schedule: false,
    max: 1,
  });
  queue.on('error', () => undefined); // A lost connection fails the call that needs it.
  await queue.start();
  try {
    for (const kind of kinds) {
      for (const name of [failedOf(kind), kind.name]) {
        if ((await queue.getQueue(name)) === null) {
          await queue.createQueue(name, {
            name,
            retryLimit: kind.retries,
            ...(name === kind.name ? { deadLetter: failedOf(kind) } : {}),
          });
        }
      }
    }
  } finally {
    await queue.stop({ graceful: false, wait: true });
  }
}

/** The jobs of all server processes of a school, kept in its database: a job outlives the process that began it. */
export async function startJobQueue(pool: pg.Pool, log: Logger): Promise<JobQueue> {
  const connection = untilClosed(pool);
  const queue = new PgBoss({
    db: connection,
    schema: QUEUE_SCHEMA,
    migrate: false,
    schedule: false,
    maintenanceIntervalSeconds: LOOK_FOR_LOST_SECONDS,
  });
  queue.on('error', (error) => log.warn({ err: error }, 'job queue'));
  await queue.start();
  const workers = new Map<string, string>();
  const timers = new Set<NodeJS.Timeout>();
  const wake = (name: string): void => {
    for (const ms of WAKE_AFTER_MS) {
      const timer = setTimeout(() => {
        timers.delete(timer);
        const worker = workers.get(name);
        if (worker !== undefined) queue.notifyWorker(worker);
      }, ms);
      timers.add(timer);
    }
  };
  return {
    add: async (trx, kind, order, seconds) => {
      await queue.send(kind.name, order, { expireInSeconds: seconds, db: withinTransaction(trx) });
      wake(kind.name);
    },
    work: async <T extends object>(kind: JobKind, { run, giveUp }: JobHandlers<T>) => {
      const options = { pollingIntervalSeconds: LOOK_EVERY_SECONDS, batchSize: 1 };
      const worker = await queue.work<T>(kind.name, options, async ([job]) => run(job!.data));
      workers.set(kind.name, worker);
      await queue.work<T>(failedOf(kind), options, async ([job]) => giveUp(job!.data));
    },
    look: () => queue.maintain(),
    stop: async () => {
      for (const timer of timers) clearTimeout(timer);
      await queue.stop({ graceful: false, wait: true });
      await connection.close();
    },
  };
}

/**
 * The queue's way to the pool, which ends before a job does that is at work when the server stops. Such a job goes back
 * into the queue with the stop, so what its handler says afterwards counts for nothing and is dropped.
 */
function untilClosed(pool: pg.Pool): PgBoss.Db & { readonly close: () => Promise<void> } {
  const underWay = new Set<Promise<unknown>>();
  let closed = false;
  return {
    executeSql: async (text, values) => {
      if (closed) return { rows: [{ count: '0' }] };
      const answer = pool.query(text, values);
      underWay.add(answer);
      try {
        return await answer;
      } finally {
        underWay.delete(answer);
      }
    },
    close: async () => {
      closed = true;
      await Promise.allSettled(underWay);
    },
  };
}

/** The queue writes by numbered parameters on the connection of the transaction. */
function withinTransaction(trx: Database): PgBoss.Db {
  return {
    executeSql: async (text, values) => {
      const connection = (await trx.client.acquireConnection()) as pg.Client;
      return connection.query(text, values);
    },
  };
}
