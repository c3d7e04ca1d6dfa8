import { createServer as createHttp, type Server } from 'node:http';
import { createServer as createHttps } from 'node:https';
import { readFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import pg from 'pg';
import { type Logger, pino } from 'pino';
import type { Config } from './config.ts';
import { connectionSettings, type Database, openDatabase } from './database/database.ts';
import { grantToApplication } from './database/grants.ts';
import { migrate } from './database/migrate.ts';
import { readerOf } from './database/standby.ts';
import { buildApp, type Drain, drainOf } from './app/index.ts';
import { instrumentHub } from './instruments/index.ts';
import { jobThreads, prepareJobQueue, startJobQueue } from './jobs/index.ts';
import { startNotifier } from './live/index.ts';
import { syncShippedMethods } from './methods/index.ts';
import { objectStorage, startMovingPictures } from './pictures/index.ts';
import { sessionSecret, setupService } from './people/index.ts';
import { type Keeping, startNightly } from './safekeeping/index.ts';
import { readingStamps } from './stamps/index.ts';
import { WHAT_IF, WHAT_IF_WORKER, whatIfHandlers } from './what-if/index.ts';
import { startDeliveries } from './receivers/index.ts';
import { BATCH_WORKER, batchHandlers, REPORT_BATCH } from './report-batches/index.ts';

export interface Running {
  readonly url: string;
  readonly db: Database;
  /** One-time code for the first visitor, when nobody has an account yet and this is no demo. */
  readonly setupCode: string | null;
  readonly stop: () => Promise<void>;
}

const KEEP_ALIVE_MS = 65_000;

/**
 * Builds everything and listens. What is started here is released by `stop()` in reverse order.
 * `now` is the server's clock; tests hand in their own. Of several processes of one server the `first` alone gives the code out for
 * the first visitor.
 */
export async function startServer(
  config: Config,
  now: () => Date = () => new Date(),
  more: Pick<Keeping, 'anchorsInBackups'> & { readonly first?: boolean } = {},
): Promise<Running> {
  const log: Logger = pino({ level: config.logLevel });
  const db = openDatabase(config.databaseUrl, 8, config.statementMs);
  const sessionPool = new pg.Pool({ ...connectionSettings(config.databaseUrl, config.statementMs), max: 4 });
  // Released in reverse order, whether the start or the stop asks for it.
  const release: (() => Promise<void>)[] = [() => db.destroy(), () => sessionPool.end()];
  const releaseAll = async (): Promise<void> => {
    for (const free of release.reverse()) await free();
  };
  const standby = config.standbyUrl ? openDatabase(config.standbyUrl, 4, config.statementMs) : null;
  if (standby) release.push(() => standby.destroy());
  sessionPool.on('error', (error) => log.warn({ err: error }, 'session pool'));
  try {
    await prepare(config, db, log);
    const queue = await startJobQueue(sessionPool, log);
    release.push(() => queue.stop());
    await queue.work(WHAT_IF, whatIfHandlers(db, jobThreads(config.databaseUrl, WHAT_IF_WORKER)));
    await queue.work(REPORT_BATCH, batchHandlers(db, jobThreads(config.databaseUrl, BATCH_WORKER)));
    await syncShippedMethods(db);
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
    let drain: Drain | null = null;
    const app = buildApp({
      stopping: () => drain?.stopping() ?? false,
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
    const server = config.tls
      ? createHttps({ cert: readFileSync(config.tls.certFile), key: readFileSync(config.tls.keyFile) }, app)
      : createHttp(app);
    // Longer than proxies keep a connection that nobody uses: otherwise one asks on it in the moment it is closed.
    server.keepAliveTimeout = KEEP_ALIVE_MS;
    await listen(server, config);
    const { port } = server.address() as AddressInfo;
    const host = config.host.includes(':') ? `[${config.host}]` : config.host;
    const url = `${config.tls ? 'https' : 'http'}://${host}:${port}`;
    log.info({ url }, 'listening');
    drain = drainOf(server);
    const { stop: drained } = drain;
    const stopOnce = async (): Promise<void> => {
      await drained();
      await releaseAll();
    };
    let stopping: Promise<void> | null = null;
    const stop = (): Promise<void> => (stopping ??= stopOnce());
    return { url, db, setupCode, stop };
  } catch (error) {
    await releaseAll();
    throw error;
  }
}

/** Brings the schema up to date as its owner; from then on the server works in the application's own role. */
async function prepare(config: Config, db: Database, log: Logger): Promise<void> {
  const ownerUrl = config.ownerUrl ?? config.databaseUrl;
  const owner = ownerUrl === config.databaseUrl ? db : openDatabase(ownerUrl, 1);
  try {
    const run = await migrate(owner);
    if (run.length > 0) log.info({ run }, 'migrated');
    await prepareJobQueue(ownerUrl, [WHAT_IF, REPORT_BATCH]);
    if (owner === db) {
      if (config.mode === 'real')
        log.warn('no DATABASE_OWNER_URL: the application works as the owner of its tables');
      return;
    }
    await grantToApplication(owner, decodeURIComponent(new URL(config.databaseUrl).username));
  } finally {
    if (owner !== db) await owner.destroy();
  }
}

function listen(server: Server, config: Config): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(config.port, config.host, () => resolve());
  });
}
