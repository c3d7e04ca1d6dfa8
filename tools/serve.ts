import { rm } from 'node:fs/promises';
import { createServer } from 'node:net';
import path from 'node:path';
import {
  isLoopback,
  openDatabase,
  readConfig,
  type Config,
  type Running,
  startSchools,
  startServer,
} from '@clear-mark/server';
import { anchorsInBackups } from './backup.ts';
import { type BackedUp, schoolsToBackUp, startBackups } from './daily-backups.ts';
import { type Cluster, ensureDatabase, existingCluster, freePort, startCluster } from './cluster.ts';
import { realHome, scratchHome, settleEarlierData } from './data-folder.ts';
import { type RunningStandIns, startStandIns } from '@clear-mark/standins';
import { loadDemoInOwnProcess } from './load-demo-process.ts';
import { connectStandIns } from './stand-ins.ts';
import type { RunOptions } from './options.ts';
import { clustersOf, REGISTRY } from './schools/clusters-of.ts';
import type { SchoolsAt } from './schools/school-work.ts';
import { startProcesses } from './processes.ts';
import { processesIn } from './process-list.ts';
import { homeLeftBehind, type Kind, runningNow, takeRunFile } from './run-file.ts';
import { buildWeb } from './web-build.ts';

export const DATABASE = 'clear_mark';
/** Beside the data: what is kept outside the database, and the daily backups. */
export const safeIn = (home: string): string => path.join(home, 'safe');
export const backupsIn = (home: string): string => path.join(home, 'backups');
const USUAL_PORT = 4180;
/** Connections of a cluster that many schools share: each process keeps six or seven a school. */
const OF_SCHOOLS = 500;
const WATCH_MS = 2000;
export const DEMO_SEED = 7;

const say = (line: string): void => console.log(line);

/** Starts the demo or the real application and stays until it is told to stop. */
export async function serve(kind: Kind, options: RunOptions): Promise<void> {
  const given = process.env['DATABASE_URL'];
  if (kind === 'demo' && given !== undefined) {
    throw new Error('The demo never uses a given DATABASE_URL. Unset it, or use ./clear-mark start.');
  }
  if (kind === 'demo' && options.processes > 1)
    throw new Error('The demo runs in one process; ./clear-mark start takes --processes.');
  if (!isLoopback(options.host)) {
    if (kind === 'demo') throw new Error('The demo runs on loopback only; ./clear-mark start takes --host.');
    if (options.tlsCert === null || options.tlsKey === null) {
      throw new Error(
        `--host ${options.host} is refused without TLS: passwords would cross the room in clear. Give --tls-cert and --tls-key.`,
      );
    }
  }
  const home = given === undefined ? await homeOf(kind, options) : null;
  const file = takeRunFile(kind, home);
  if (!file) {
    const url = runningNow(kind)?.url;
    say(url ? `Clear Mark runs already: ${url}` : 'Clear Mark is being started by another process already.');
    return;
  }
  const connections = options.schools ? { connections: OF_SCHOOLS } : {};
  const cluster = home === null ? null : await startCluster({ home, ...connections });
  const standIns = kind === 'demo' ? await startStandIns(DEMO_SEED) : null;
  try {
    const running =
      options.processes > 1
        ? await launchSeveral(options, cluster, given)
        : await launch(kind, options, cluster, given, standIns);
    file.setUrl(running.url);
    announce(kind, running, home);
    const watch = cluster ? watchCluster(cluster, connections) : null;
    const backups =
      cluster && kind === 'real' ? startBackups(() => backedUp(options, cluster, running), say) : null;
    await untilTold();
    if (watch) clearInterval(watch);
    await backups?.stop();
    say('Stopping');
    await running.stop();
  } finally {
    await standIns?.stop();
    await cluster?.stop();
    file.release();
  }
}

/** The folder of the data. Data of an earlier version are never passed over in silence. */
async function homeOf(kind: Kind, options: RunOptions): Promise<string> {
  if (kind === 'demo') return scratchHome('demo');
  const home = await realHome(options.data);
  await settleEarlierData(home, options.moveData);
  return home;
}

async function launch(
  kind: Kind,
  options: RunOptions,
  cluster: Cluster | null,
  given: string | undefined,
  standIns: RunningStandIns | null,
): Promise<Running> {
  const webDir = await buildWeb(say);
  if (cluster) await ensureDatabase(cluster, databaseFor(options));
  const config = readConfig(await settingsOf(kind, options, cluster, given, standIns, webDir));
  if (config.schools) return launchSchools(config);
  const running = await startServer(config, () => new Date(), {
    ...(cluster ? { anchorsInBackups: () => anchorsInBackups(backupsIn(cluster.home)) } : {}),
  });
  if (kind === 'demo') {
    if (cluster && (await loadShown(cluster.appUrl(DATABASE)))) say('The demo class is loaded');
    if (standIns) await connectStandIns(running.db, standIns, new Date());
  }
  return running;
}

/** Of many schools it is the registry that names them. */
const databaseFor = ({ schools }: RunOptions): string => (schools ? REGISTRY : DATABASE);

async function launchSchools(config: Config): Promise<Running> {
  const { url, stop } = await startSchools({ config });
  const db = openDatabase(config.databaseUrl, 1);
  return {
    url,
    db,
    setupCode: null,
    stop: async () => {
      await stop();
      await db.destroy();
    },
  };
}

/** What is backed up once a day. */
async function backedUp(
  options: RunOptions,
  cluster: Cluster,
  running: Running,
): Promise<readonly BackedUp[]> {
  const folder = backupsIn(cluster.home);
  const copyTo = options.backupTo;
  if (!options.schools)
    return [{ name: 'the school', ownerUrl: cluster.url(DATABASE), folder, copyTo, db: running.db }];
  const at: SchoolsAt = {
    registryUrl: cluster.url(REGISTRY),
    clusters: clustersOf(cluster.appUrl(REGISTRY), cluster.url(REGISTRY), options.clusters),
  };
  return schoolsToBackUp(at, folder, copyTo);
}

/** The settings of a server process, as it reads them from its environment. */
async function settingsOf(
  kind: Kind,
  options: RunOptions,
  cluster: Cluster | null,
  given: string | undefined,
  standIns: RunningStandIns | null,
  webDir: string,
): Promise<Record<string, string | undefined>> {
  return {
    DATABASE_URL: cluster ? cluster.appUrl(databaseFor(options)) : given,
    DATABASE_OWNER_URL: cluster ? cluster.url(databaseFor(options)) : process.env['DATABASE_OWNER_URL'],
    CLEAR_MARK_SCHOOLS: options.schools ? 'yes' : 'no',
    CLEAR_MARK_CLUSTERS: options.clusters ?? undefined,
    DATABASE_STANDBY_URL: cluster ? undefined : process.env['DATABASE_STANDBY_URL'],
    CLEAR_MARK_INSTRUMENTS: options.instruments ?? undefined,
    CLEAR_MARK_HOST_NAMES: options.names ?? undefined,
    ...passedOn('CLEAR_MARK_PICTURES_URL', 'CLEAR_MARK_PICTURES_KEY', 'CLEAR_MARK_PICTURES_SECRET'),
    ...passedOn(
      'OTEL_EXPORTER_OTLP_ENDPOINT',
      'CLEAR_MARK_PICTURES_REGION',
      'CLEAR_MARK_MAIL_SERVER',
      'CLEAR_MARK_MAIL_FROM',
    ),
    CLEAR_MARK_SAFE_DIR: cluster ? safeIn(cluster.home) : undefined,
    CLEAR_MARK_MODE: kind,
    CLEAR_MARK_HOST: options.host,
    CLEAR_MARK_PORT: String(options.port ?? (await usualPort(options.host))),
    CLEAR_MARK_BEHIND_PROXY: options.behindProxy ? 'yes' : 'no',
    CLEAR_MARK_TLS_CERT: options.tlsCert ?? undefined,
    CLEAR_MARK_TLS_KEY: options.tlsKey ?? undefined,
    CLEAR_MARK_WEB_DIR: webDir,
    CLEAR_MARK_STAND_INS_PORT: standIns ? String(standIns.controlPort) : undefined,
    CLEAR_MARK_LOG_LEVEL: process.env['CLEAR_MARK_LOG_LEVEL'] ?? 'warn',
  };
}

/** Settings that are handed to the server as they are. */
const passedOn = (...names: readonly string[]): Record<string, string | undefined> =>
  Object.fromEntries(names.map((name) => [name, process.env[name]]));

/** Several processes on one port, and a connection of this one for the backups. */
async function launchSeveral(
  options: RunOptions,
  cluster: Cluster | null,
  given: string | undefined,
): Promise<Running> {
  const webDir = await buildWeb(say);
  if (cluster) await ensureDatabase(cluster, databaseFor(options));
  const settings = await settingsOf('real', options, cluster, given, null, webDir);
  const backups = cluster ? { CLEAR_MARK_BACKUPS: backupsIn(cluster.home) } : {};
  const { url, setupCode, stop } = await startProcesses(options.processes, { ...settings, ...backups }, say);
  const db = openDatabase(settings['DATABASE_URL']!, 2);
  return {
    url,
    setupCode,
    db,
    stop: async () => {
      await stop();
      await db.destroy();
    },
  };
}

/** Loads the demo and says how far it is: on a terminal in one line, elsewhere every quarter. */
async function loadShown(databaseUrl: string): Promise<boolean> {
  const terminal = process.stdout.isTTY;
  let quarter = 0;
  const onProgress = (share: number): void => {
    const words = `Loading the demo class: ${Math.round(share * 100)} %`;
    if (terminal) process.stdout.write(`\r${words}${share >= 1 ? '\n' : ''}`);
    else if (Math.floor(share * 4) > quarter) {
      quarter = Math.floor(share * 4);
      say(words);
    }
  };
  return loadDemoInOwnProcess(databaseUrl, { seed: DEMO_SEED, story: true, now: new Date(), onProgress });
}

/** 4180 when nobody has it, otherwise any free one. */
async function usualPort(host: string): Promise<number> {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', () => void freePort().then(resolve, reject));
    probe.listen(USUAL_PORT, host, () => probe.close(() => resolve(USUAL_PORT)));
  });
}

function announce(kind: Kind, running: Running, home: string | null): void {
  say(`Clear Mark ${kind === 'demo' ? '(demo) ' : ''}is ready: ${running.url}`);
  if (running.setupCode !== null) {
    say(`One-time code for the lead’s account: ${running.setupCode}`);
  }
  if (home !== null && kind === 'real') say(`The data are in ${home}`);
  say('Ctrl-C stops it.');
}

/** Starts the database again when it was killed under us. */
function watchCluster(cluster: Cluster, connections: { connections?: number }): NodeJS.Timeout {
  let busy = false;
  return setInterval(() => {
    if (busy || processesIn(cluster.dataDir).length > 0) return;
    busy = true;
    say('The database is gone; starting it again');
    startCluster({ home: cluster.home, port: cluster.port, ...connections })
      .catch((error: Error) => say(error.message))
      .finally(() => {
        busy = false;
      });
  }, WATCH_MS);
}

function untilTold(): Promise<void> {
  return new Promise((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.once(signal, () => resolve());
  });
}

/** Stops what runs; a database that a killed server left behind as well. */
export async function stopAll(): Promise<void> {
  for (const kind of ['demo', 'real'] as const) {
    const record = runningNow(kind);
    const left = homeLeftBehind(kind);
    if (record) {
      process.kill(record.pid, 'SIGTERM');
      while (runningNow(kind)) await new Promise((resolve) => setTimeout(resolve, 100));
      say(`Stopped ${kind === 'demo' ? 'the demo' : 'Clear Mark'}`);
    }
    const home = kind === 'demo' ? await scratchHome('demo') : left;
    if (home !== null) await stopLeftOver(home);
  }
}

async function stopLeftOver(home: string): Promise<void> {
  const left = await existingCluster(home);
  if (!left) return;
  await left.stop();
  say('Stopped a database that was left running');
}

/** Throws the demo's data away. It is refused while a DATABASE_URL is given, which it could be mistaken for. */
export async function resetDemo(): Promise<void> {
  if (process.env['DATABASE_URL'] !== undefined) {
    throw new Error('reset-demo never touches a given DATABASE_URL. Unset it first.');
  }
  const record = runningNow('demo');
  if (record) {
    process.kill(record.pid, 'SIGTERM');
    while (runningNow('demo')) await new Promise((resolve) => setTimeout(resolve, 100));
  }
  const home = await scratchHome('demo');
  await (await existingCluster(home))?.stop();
  await rm(home, { recursive: true, force: true });
}
