import type { IncomingMessage, RequestListener, ServerResponse } from 'node:http';
import path from 'node:path';
import { type Logger, pino } from 'pino';
import { answersUnderWay, type UnderWay } from '../app/index.ts';
import type { Config } from '../config.ts';
import { type Database, openDatabase } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { problemOf } from '../http/problem.ts';
import { nameOf } from '../http/same-site.ts';
import { type Listening, listenAt } from '../listening.ts';
import { openSchool, type School } from '../school.ts';
import { type Clusters, clustersIn, databaseOf } from './clusters.ts';
import { prepareRegistry, type RegisteredSchool, registryStore } from './registry.store.ts';

export interface RunningSchools {
  readonly url: string;
  /** Names of the schools that are open in this process. */
  readonly open: () => readonly string[];
  /** Looks at the registry now; it is done by itself every few seconds. */
  readonly look: () => Promise<void>;
  readonly stop: () => Promise<void>;
}
export interface SchoolsSettings {
  /** The settings that all schools share; its database is the registry. */
  readonly config: Config;
  readonly now?: () => Date;
}

const LOOK_EVERY_MS = 3000;
/** Schools that are opened beside each other. */
const AT_ONCE = 4;

interface Open {
  readonly school: School;
  readonly place: string;
  readonly underWay: UnderWay;
}

/**
 * Many schools behind one address, each on a database of its own, told apart by the name that the browser calls. What is added,
 * moved or taken out of the registry is followed while it runs. A school that cannot be opened is tried again, and hinders no other.
 */
export async function startSchools({ config, now }: SchoolsSettings): Promise<RunningSchools> {
  const log = pino({ level: config.logLevel });
  const clusters = clustersIn(config);
  const registry = openDatabase(config.databaseUrl, 2);
  const open = new Map<string, Open>();
  let known: readonly RegisteredSchool[] = [];
  let at: Listening | null = null;
  const opener: Opener = {
    config,
    clusters,
    now: now ?? (() => new Date()),
    log,
    stopping: () => at?.stopping() ?? false,
  };
  const follow = async (): Promise<void> => {
    known = await registryStore(registry).all();
    for (const [name, { place }] of open) {
      const school = known.find((s) => s.name === name);
      if (school?.open !== true || placeOf(school) !== place) await closeOne(open, name);
    }
    const missing = known.filter((s) => s.open && !open.has(s.name));
    for (let i = 0; i < missing.length; i += AT_ONCE) {
      await Promise.all(missing.slice(i, i + AT_ONCE).map((s) => openOne(open, s, opener)));
    }
  };
  let looking: Promise<void> | null = null;
  const look = (): Promise<void> =>
    (looking ??= follow()
      .catch((error: unknown) => log.warn({ err: error }, 'registry of schools'))
      .finally(() => (looking = null)));
  const timer = setInterval(() => void look(), LOOK_EVERY_MS);
  const close = async (): Promise<void> => {
    clearInterval(timer);
    await looking;
    for (const name of open.keys()) await closeOne(open, name);
    await registry.destroy();
  };
  try {
    await prepare(config);
    await look();
  } catch (error) {
    await close();
    throw error;
  }
  at = await listenAt(
    config,
    log,
    listenerOf(open, () => known),
    close,
  );
  return { url: at.url, open: () => [...open.keys()], look, stop: at.stop };
}

/** Another place is another database: names of hosts are looked up anew each time. */
const placeOf = (s: RegisteredSchool): string => `${s.cluster}/${s.database}/${s.hosts.join(',')}`;

interface Opener {
  readonly config: Config;
  readonly clusters: Clusters;
  readonly now: () => Date;
  readonly log: Logger;
  readonly stopping: () => boolean;
}

async function openOne(open: Map<string, Open>, school: RegisteredSchool, by: Opener): Promise<void> {
  const { config } = by;
  const log = by.log.child({ school: school.name });
  try {
    const { app, owner } = databaseOf(by.clusters, school);
    const own: Config = {
      ...config,
      databaseUrl: app,
      ownerUrl: owner,
      standbyUrl: null,
      hostNames: school.hosts,
      safeDir: config.safeDir ? path.join(config.safeDir, school.name) : null,
      pictures: config.pictures
        ? { ...config.pictures, url: `${config.pictures.url.replace(/\/$/, '')}/${school.name}` }
        : null,
    };
    // The code for the first visitor is given out by whoever adds the school.
    const opened = await openSchool(own, { now: by.now, log, stopping: by.stopping, more: { first: false } });
    open.set(school.name, { school: opened, place: placeOf(school), underWay: answersUnderWay() });
    log.info('school opened');
  } catch (error) {
    log.error({ err: error }, 'school not opened');
  }
}

async function closeOne(open: Map<string, Open>, name: string): Promise<void> {
  const found = open.get(name);
  if (!found) return;
  open.delete(name);
  await found.underWay.end();
  await found.school.close();
}

/** The registry's own tables, as the owner. */
async function prepare(config: Config): Promise<void> {
  const owner: Database = openDatabase(config.ownerUrl ?? config.databaseUrl, 1);
  const role = config.ownerUrl ? decodeURIComponent(new URL(config.databaseUrl).username) : null;
  try {
    await prepareRegistry(owner, role);
  } finally {
    await owner.destroy();
  }
}

function listenerOf(
  open: ReadonlyMap<string, Open>,
  known: () => readonly RegisteredSchool[],
): RequestListener {
  return (request, response) => {
    const host = nameOf(request.headers.host ?? '');
    const school = known().find((s) => s.hosts.includes(host));
    const found = school && open.get(school.name);
    if (!found) return refuse(request, response, school ? 'school.closed' : 'request.wrong_host');
    found.underWay.add(response);
    found.school.listener(request, response);
  };
}

function refuse(
  request: IncomingMessage,
  response: ServerResponse,
  code: 'school.closed' | 'request.wrong_host',
): void {
  const problem = problemOf(new AppError(code));
  request.resume();
  // Whoever opens a page reads words; a program reads what is wrong.
  const page = !(request.url ?? '').startsWith('/api') && /text\/html/.test(request.headers.accept ?? '');
  response.writeHead(problem.status, {
    'Content-Type': `${page ? 'text/html' : 'application/problem+json'}; charset=utf-8`,
    'Cache-Control': 'no-store',
    ...(code === 'school.closed' ? { 'Retry-After': '10' } : {}),
  });
  response.end(
    page ? `<!doctype html><title>Clear Mark</title><p>${problem.detail}</p>` : JSON.stringify(problem),
  );
}
