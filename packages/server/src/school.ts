import type { RequestListener } from 'node:http';
import pg from 'pg';
import { type Logger, pino } from 'pino';
import { buildApp } from './app/index.ts';
import { type Config, readConfig } from './config.ts';
import { connectionSettings, type Database, openDatabase } from './database/database.ts';
import { grantToApplication } from './database/grants.ts';
import { migrate } from './database/migrate.ts';
import { readerOf } from './database/standby.ts';
import { instrumentHub } from './instruments/index.ts';
import { jobThreads, prepareJobQueue, startJobQueue } from './jobs/index.ts';
import { startNotifier } from './live/index.ts';
import { syncShippedMethods } from './methods/index.ts';
import { sessionSecret, setupService } from './people/index.ts';
import { objectStorage, startMovingPictures } from './pictures/index.ts';
import { startDeliveries } from './receivers/index.ts';
import { BATCH_WORKER, batchHandlers, REPORT_BATCH } from './report-batches/index.ts';
import { type Keeping, startNightly } from './safekeeping/index.ts';
import { readingStamps } from './stamps/index.ts';
import { traceQueries } from './tracing/index.ts';
import { WHAT_IF, WHAT_IF_WORKER, whatIfHandlers } from './what-if/index.ts';

/** One school on its database, answering requests that somebody else listens for. */
export interface School {
  readonly listener: RequestListener;
  readonly db: Database;
  /** One-time code for the first visitor, when nobody has an account yet and this is no demo. */
  readonly setupCode: string | null;
  /** Releases what was started, in reverse order. Answers are to have come to their end before. */
  readonly close: () => Promise<void>;
}
export interface SchoolNeeds {
  /** The server's clock. */
  readonly now: () => Date;
  readonly log: Logger;
  /** This process is about to end. */
  readonly stopping: () => boolean;
  readonly more: Pick<Keeping, 'anchorsInBackups'> & { readonly first?: boolean };
}

/** Brings a school's database up to date and builds everything on it. Error: what is missing; nothing stays open then. */
export async function openSchool(config: Config, needs: SchoolNeeds): Promise<School> {
  const { now, log, more } = needs;
  const db = openDatabase(config.databaseUrl, 8, config.statementMs);
  if (config.traces) traceQueries(db);
  const sessionPool = new pg.Pool({ ...connectionSettings(config.databaseUrl, config.statementMs), max: 4 });
  // Released in reverse order, whether the start or the end asks for it.
  const release: (() => Promise<void>)[] = [() => db.destroy(), () => sessionPool.end()];
  const releaseAll = async (): Promise<void> => {
    for (const free of release.reverse()) await free();
  };
  const standby = config.standbyUrl ? openDatabase(config.standbyUrl, 4, config.statementMs) : null;
  if (standby) release.push(() => standby.destroy());
  sessionPool.on('error', (error) => log.warn({ err: error }, 'session pool'));
  try {
    await prepareSchool(config, db, log);
    const queue = await startJobQueue(sessionPool, log);
    release.push(() => queue.stop());
    await queue.work(WHAT_IF, whatIfHandlers(db, jobThreads(config.databaseUrl, WHAT_IF_WORKER)));
    await queue.work(REPORT_BATCH, batchHandlers(db, jobThreads(config.databaseUrl, BATCH_WORKER)));
    const setupCode =
      config.mode === 'real' && more.first !== false ? await setupService(db).newSetupCode() : null;
    const notifier = startNotifier(config.databaseUrl, log);
    release.push(() => notifier.stop());
    if (config.mode !== 'test') release.push(startDeliveries(db, notifier, now, log));
    const hub = instrumentHub(notifier, { now });
    release.push(() => hub.stop());
    const keeping: Keeping = { safeDir: config.safeDir ?? null, ...more };
    if (config.mode !== 'test') release.push(startNightly(db, keeping, now, log));
    const storage = config.pictures ? objectStorage(config.pictures, log) : null;
    if (storage && config.mode !== 'test') release.push(startMovingPictures(db, storage, log));
    const secret = await sessionSecret(db);
    const listener = buildApp({
      stopping: needs.stopping,
      config,
      db,
      reader: readerOf(db, standby, log),
      notifier,
      hub,
      queue,
      storage,
      sessionPool,
      sessionSecret: secret,
      stamps: readingStamps(secret),
      keeping,
      log,
      now,
    });
    return { listener, db, setupCode, close: releaseAll };
  } catch (error) {
    await releaseAll();
    throw error;
  }
}

/** Brings the schema up to date as its owner; from then on the server works in the application's own role. */
async function prepareSchool(config: Config, db: Database, log: Logger): Promise<void> {
  const ownerUrl = config.ownerUrl ?? config.databaseUrl;
  const owner = ownerUrl === config.databaseUrl ? db : openDatabase(ownerUrl, 1);
  try {
    const run = await migrate(owner);
    if (run.length > 0) log.info({ run }, 'migrated');
    await prepareJobQueue(ownerUrl, [WHAT_IF, REPORT_BATCH]);
    if (owner !== db)
      await grantToApplication(owner, decodeURIComponent(new URL(config.databaseUrl).username));
    else if (config.mode === 'real')
      log.warn('no DATABASE_OWNER_URL: the application works as the owner of its tables');
  } finally {
    if (owner !== db) await owner.destroy();
  }
  await syncShippedMethods(db);
}

/** A new school: its schema, its methods, and the one-time code for its first lead. */
export async function prepareNewSchool(appUrl: string, ownerUrl: string): Promise<string | null> {
  const config = readConfig({ DATABASE_URL: appUrl, DATABASE_OWNER_URL: ownerUrl });
  const db = openDatabase(appUrl, 2);
  try {
    await prepareSchool(config, db, pino({ level: 'warn' }));
    return await setupService(db).newSetupCode();
  } finally {
    await db.destroy();
  }
}
