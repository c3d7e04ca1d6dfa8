import { randomUUID } from 'node:crypto';
import type { RequestListener } from 'node:http';
import { ROUTES } from '@clear-mark/contract';
import { existsSync } from 'node:fs';
import path from 'node:path';
import express, { type ErrorRequestHandler, type Express, type RequestHandler } from 'express';
import helmet from 'helmet';
import type pg from 'pg';
import type { Logger } from 'pino';
import { archiveRoutes } from '../archives/index.ts';
import { attemptRoutes } from '../attempts/index.ts';
import { certificateRoutes } from '../certificates/index.ts';
import { type Metrics, metricsOf, metricsRoutes } from '../metrics/index.ts';
import { openApiRoutes } from '../open-api/index.ts';
import { callRoutes } from '../calls/index.ts';
import { classRoutes } from '../classes/index.ts';
import type { Config } from '../config.ts';
import type { Database } from '../database/database.ts';
import type { Reader } from '../database/standby.ts';
import { faceRoutes } from '../faces/index.ts';
import { healthRoutes } from '../health/index.ts';
import { type InstrumentHub, instrumentRoutes } from '../instruments/index.ts';
import { type ChangeNotifier, classFeed, liveRoutes } from '../live/index.ts';
import { methodRoutes } from '../methods/index.ts';
import { auditRoutes } from '../audit/index.ts';
import { apiTokenRoutes } from '../api-tokens/index.ts';
import { benchDeviceRoutes } from '../bench-devices/index.ts';
import { heldRoutes } from '../held/index.ts';
import { accountRoutes, peopleRoutes } from '../people/index.ts';
import { referenceRoutes } from '../references/index.ts';
import type { PictureStorage } from '../pictures/index.ts';
import { courseRoutes } from '../course/index.ts';
import { measuredRoutes } from '../measured/index.ts';
import { dayRoutes } from '../days/index.ts';
import { planRoutes } from '../plan/index.ts';
import { stockRoutes } from '../stock/index.ts';
import { resultRoutes } from '../results/index.ts';
import type { JobQueue } from '../jobs/index.ts';
import { reportBatchRoutes } from '../report-batches/index.ts';
import { receiverRoutes } from '../receivers/index.ts';
import { tableRoutes } from '../tables/index.ts';
import { traceRoutes } from '../traces/index.ts';
import { whatIfRoutes } from '../what-if/index.ts';
import { type Keeping, safekeepingRoutes } from '../safekeeping/index.ts';
import type { ReadingStamps } from '../stamps/index.ts';
import { AppError } from '../errors/app-error.ts';
import { withFastPath } from '../http/fast-path.ts';
import { codeOf, problemOf } from '../http/problem.ts';
import { checked, pinnedHost, requireSameSite } from '../http/same-site.ts';
import { senders } from './senders.ts';

const BODY_LIMIT = '2mb';
const SMALL_BODY = '16kb';

export interface AppParts {
  readonly config: Config;
  readonly db: Database;
  /** Where Insight is read. */
  readonly reader: Reader;
  /** The store for pictures beside the database; null where there is none. */
  readonly storage: PictureStorage | null;
  readonly sessionPool: pg.Pool;
  readonly sessionSecret: string;
  readonly log: Logger;
  readonly notifier: ChangeNotifier;
  readonly hub: InstrumentHub;
  readonly queue: JobQueue;
  readonly stamps: ReadingStamps;
  readonly keeping: Keeping;
  readonly now: () => Date;
  /** This process is about to end. */
  readonly stopping: () => boolean;
}

/** The whole HTTP application, not yet listening. */
export function buildApp(parts: AppParts): RequestListener {
  const { config, db, log } = parts;
  const app = express();
  app.disable('x-powered-by');
  app.set('etag', 'weak');
  // Who asks and whether by TLS is told by the proxy on this machine, and by nobody else.
  if (config.behindProxy) app.set('trust proxy', 'loopback');
  const metrics = metricsOf(db, parts.reader);
  app.use(requestLog(log, metrics));
  app.use(securityHeaders(config));
  const guardHost = pinnedHost(config);
  app.use(checked(guardHost));
  app.use('/api', (_request, response, next) => {
    response.set('Cache-Control', 'no-store');
    next();
  });
  app.use('/api', checked(requireSameSite));
  const { steps, recentSender } = senders(parts);
  app.use('/api', ...steps);
  // A large body is read for somebody who may send one: signing in needs little.
  const small = express.json({ limit: SMALL_BODY, strict: true });
  const large = express.json({ limit: BODY_LIMIT, strict: true });
  app.use('/api', (request, response, next) =>
    (response.locals['me'] === null ? small : large)(request, response, next),
  );

  const router = express.Router();
  healthRoutes(router, db, parts.stopping);
  metricsRoutes(router, metrics);
  openApiRoutes(router);
  peopleRoutes(router, db, config, parts.now);
  accountRoutes(router, db, parts.now, config.mail ?? null);
  auditRoutes(router, db);
  apiTokenRoutes(router, db, parts.now);
  receiverRoutes(router, db, config);
  archiveRoutes(router, db, config.databaseUrl, parts.now, parts.storage);
  benchDeviceRoutes(router, db);
  heldRoutes(router, db, parts.now, parts.storage);
  certificateRoutes(router, db, parts.now);
  classRoutes(router, db, parts.now);
  methodRoutes(router, db, parts.now);
  const takeEntries = attemptRoutes(router, db, parts.now, parts.stamps);
  referenceRoutes(router, db, parts.now);
  pictureRoutes(router, db, parts);
  callRoutes(router, db, parts.now, parts.storage);
  traceRoutes(router, db, parts.now);
  resultRoutes(router, db, parts.reader, parts.now);
  planningRoutes(router, db, parts.now);
  tableRoutes(router, db, parts.now);
  reportBatchRoutes(router, db, parts.now, parts.queue);
  whatIfRoutes(router, db, parts.now, parts.queue);
  safekeepingRoutes(router, db, parts.now, parts.keeping);
  liveRoutes(router, db, parts.notifier, classFeed(db, parts.notifier, parts.now, log));
  const standInsPort = config.standInsPort ?? null;
  instrumentRoutes(router, {
    db,
    hub: parts.hub,
    now: parts.now,
    standInsPort,
    stamps: parts.stamps,
    networks: config.instrumentNetworks ?? [],
  });
  app.use(router);
  app.use('/api', () => {
    throw new AppError('request.unknown_route');
  });
  if (config.webDir !== null) webFiles(app, config.webDir);
  app.use(problems(log));
  return withFastPath(app, {
    route: ROUTES.sendEntries,
    guard: (request) => {
      guardHost(request);
      requireSameSite(request);
    },
    sender: recentSender,
    answer: takeEntries,
    onDone: ({ error, ...line }) => {
      metrics.seen({ ...line, route: line.path });
      if (line.status >= 500) log.error({ ...line, err: error }, 'request');
      else log.info(line, 'request');
    },
  });
}

function requestLog(log: Logger, metrics: Metrics): RequestHandler {
  return (request, response, next) => {
    const started = process.hrtime.bigint();
    const id = randomUUID();
    response.locals['log'] = log.child({ request: id });
    response.on('finish', () => {
      const ms = Number(process.hrtime.bigint() - started) / 1e6;
      const line = {
        request: id,
        method: request.method,
        path: request.path,
        status: response.statusCode,
        ms,
      };
      const route = (request.route as { path?: string } | undefined)?.path;
      metrics.seen({ ...line, route: route ?? (request.path.startsWith('/api') ? 'none' : 'page') });
      if (request.path.startsWith('/api')) log.info(line, 'request');
    });
    next();
  };
}

function securityHeaders(config: Config): RequestHandler {
  return helmet({
    contentSecurityPolicy: {
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        fontSrc: ["'self'", 'data:'],
        workerSrc: ["'self'", 'blob:'],
        connectSrc: ["'self'"],
        objectSrc: ["'none'"],
        frameAncestors: ["'none'"],
        upgradeInsecureRequests: config.tls || config.behindProxy ? [] : null,
      },
    },
    strictTransportSecurity: config.tls !== null || config.behindProxy === true,
  });
}

/** The built web application; any other path gives its start page, which routes by itself. */
function webFiles(app: Express, webDir: string): void {
  const index = path.join(webDir, 'index.html');
  if (!existsSync(index)) throw new Error(`Setting CLEAR_MARK_WEB_DIR: no index.html in ${webDir}`);
  app.use('/assets', express.static(path.join(webDir, 'assets'), { immutable: true, maxAge: '1y' }));
  app.use(express.static(webDir, { index: false, maxAge: 0 }));
  app.get('/{*splat}', (request, response, next) => {
    if (request.path.startsWith('/assets/')) return next(new AppError('request.unknown_route'));
    response.set('Cache-Control', 'no-cache').sendFile('index.html', { root: webDir });
  });
}

function problems(log: Logger): ErrorRequestHandler {
  return (error: unknown, request, response, next) => {
    const problem = problemOf(codeOf(error));
    if (problem.status >= 500) {
      log.error({ err: error, method: request.method, path: request.path }, problem.code);
    }
    if (response.headersSent) return next(error);
    response.status(problem.status).type('application/problem+json').json(problem);
  };
}

/** Pictures: of end faces, and those that values are measured in. */
function pictureRoutes(
  router: express.Router,
  db: Database,
  { now, storage }: Pick<AppParts, 'now' | 'storage'>,
): void {
  faceRoutes(router, db, now, storage);
  measuredRoutes(router, db, now, storage);
}

/** Retraining, days, and what they use up. */
function planningRoutes(router: express.Router, db: Database, now: () => Date): void {
  planRoutes(router, db, now);
  courseRoutes(router, db);
  dayRoutes(router, db, now);
  stockRoutes(router, db, now);
}
