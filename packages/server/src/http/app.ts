import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import path from 'node:path';
import pgSimple from 'connect-pg-simple';
import express, { type ErrorRequestHandler, type Express, type RequestHandler } from 'express';
import session from 'express-session';
import helmet from 'helmet';
import type pg from 'pg';
import type { Logger } from 'pino';
import { attemptRoutes } from '../attempts/index.ts';
import { callRoutes } from '../calls/index.ts';
import { classRoutes } from '../classes/index.ts';
import type { Config } from '../config.ts';
import type { Database } from '../database/database.ts';
import { faceRoutes } from '../faces/index.ts';
import { healthRoutes } from '../health/health.routes.ts';
import { type InstrumentHub, instrumentRoutes } from '../instruments/index.ts';
import { type Bell, liveRoutes } from '../live/index.ts';
import { methodRoutes } from '../methods/index.ts';
import { peopleRoutes, peopleService } from '../people/index.ts';
import { referenceRoutes } from '../references/index.ts';
import { planRoutes } from '../plan/index.ts';
import { resultRoutes } from '../results/index.ts';
import { whatIfRoutes } from '../what-if/index.ts';
import { AppError } from './app-error.ts';
import { codeOf, problemOf } from './problem.ts';

const BODY_LIMIT = '2mb';
const SESSION_MS = 12 * 3_600_000;

export interface AppParts {
  readonly config: Config;
  readonly db: Database;
  readonly sessionPool: pg.Pool;
  readonly sessionSecret: string;
  readonly log: Logger;
  readonly bell: Bell;
  readonly hub: InstrumentHub;
  readonly now: () => Date;
}

/** The whole HTTP application, not yet listening. */
export function buildApp(parts: AppParts): Express {
  const { config, db, log } = parts;
  const app = express();
  app.disable('x-powered-by');
  app.set('etag', 'weak');
  app.use(requestLog(log));
  app.use(securityHeaders(config));
  app.use('/api', (_request, response, next) => {
    response.set('Cache-Control', 'no-store');
    next();
  });
  app.use('/api', sessions(parts));
  app.use('/api', sameOrigin);
  app.use('/api', express.json({ limit: BODY_LIMIT, strict: true }));
  app.use('/api', async (request, response, next) => {
    const id = request.session.personId;
    response.locals['me'] = id === undefined ? null : await peopleService(db).byId(id);
    next();
  });

  const router = express.Router();
  healthRoutes(router, db);
  peopleRoutes(router, db, config);
  classRoutes(router, db);
  methodRoutes(router, db);
  attemptRoutes(router, db, parts.now);
  referenceRoutes(router, db, parts.now);
  faceRoutes(router, db);
  callRoutes(router, db, parts.now);
  resultRoutes(router, db, parts.now);
  planRoutes(router, db, parts.now);
  whatIfRoutes(router, db, parts.now);
  liveRoutes(router, db, parts.bell);
  const standInsPort = config.standInsPort ?? null;
  instrumentRoutes(router, { db, hub: parts.hub, now: parts.now, standInsPort });
  app.use(router);
  app.use('/api', () => {
    throw new AppError('request.unknown_route');
  });
  if (config.webDir !== null) webFiles(app, config.webDir);
  app.use(problems(log));
  return app;
}

function requestLog(log: Logger): RequestHandler {
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
        upgradeInsecureRequests: config.tls ? [] : null,
      },
    },
    strictTransportSecurity: config.tls !== null,
  });
}

function sessions({ config, sessionPool, sessionSecret }: AppParts): RequestHandler {
  const Store = pgSimple(session);
  return session({
    name: 'clear-mark',
    secret: sessionSecret,
    resave: false,
    saveUninitialized: false,
    rolling: true,
    cookie: { httpOnly: true, sameSite: 'lax', secure: config.tls !== null, maxAge: SESSION_MS },
    store: new Store({
      pool: sessionPool,
      tableName: 'session',
      createTableIfMissing: false,
      pruneSessionInterval: 900,
      errorLog: () => undefined,
    }),
  });
}

/** A browser names the page that a changing request comes from; only our own may change anything. */
const sameOrigin: RequestHandler = (request, _response, next) => {
  const origin = request.get('origin');
  const changes = request.method !== 'GET' && request.method !== 'HEAD';
  if (changes && origin !== undefined && hostOf(origin) !== request.get('host')) {
    throw new AppError('request.wrong_origin');
  }
  next();
};

function hostOf(origin: string): string | null {
  return URL.canParse(origin) ? new URL(origin).host : null;
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
