import type { IncomingMessage } from 'node:http';
import { type Person, ROUTES } from '@clear-mark/contract';
import session from 'express-session';
import type { RequestHandler } from 'express';
import { LRUCache } from 'lru-cache';
import type pg from 'pg';
import { tokenCallers } from '../api-tokens/index.ts';
import type { Config } from '../config.ts';
import type { Database } from '../database/database.ts';
import type { ChangeNotifier } from '../live/index.ts';
import { AppError } from '../errors/app-error.ts';
import { requireText } from '../http/handle.ts';
import { type Caller, peopleService, sessionStore } from '../people/index.ts';

const SESSION_MS = 12 * 3_600_000;
/** How long a person is taken as last read. */
const CALLER_MS = 5000;
const MOST_REMEMBERED = 5000;

/** What whoever still needs a second factor may ask for. */
const BEFORE_SECOND_FACTOR: ReadonlySet<string> = new Set(
  [
    ROUTES.health,
    ROUTES.start,
    ROUTES.signIn,
    ROUTES.ownAccount,
    ROUTES.beginSecondFactor,
    ROUTES.classes,
  ].map((r) => r.path),
);

export interface SenderParts {
  readonly config: Config;
  readonly db: Database;
  readonly notifier: ChangeNotifier;
  readonly sessionPool: pg.Pool;
  readonly sessionSecret: string;
  readonly now: () => Date;
}

/** Who sends a request: by the session behind its cookie. */
export function senders({ config, db, notifier, sessionPool, sessionSecret, now }: SenderParts) {
  const tokens = tokenCallers(db, notifier);
  const { store, forget, recent } = sessionStore(sessionPool);
  notifier.listen('session', ({ what }) => forget(what));
  const people = callers(db);
  notifier.listen('person', ({ what }) => people.forget(what));
  /** The session behind a cookie header that was found to be rightly signed. */
  const checkedCookies = new LRUCache<string, string>({ max: MOST_REMEMBERED });

  const sessions = session({
    name: 'clear-mark',
    secret: sessionSecret,
    resave: false,
    saveUninitialized: false,
    rolling: true,
    cookie: {
      httpOnly: true,
      sameSite: 'lax',
      secure: config.behindProxy ? 'auto' : config.tls !== null,
      maxAge: SESSION_MS,
    },
    store,
  });

  const whoCalls: RequestHandler = async (request, response, next) => {
    requireText(request.query);
    const { authorization } = request.headers;
    const path = `/api${request.path}`;
    const token =
      authorization === undefined ? null : await tokens.take(authorization, request.method, path, now());
    if (token) tokens.follow(token, response);
    const id = token ? token.personId : request.session.personId;
    const caller = id === undefined ? null : await people.get(id);
    const me = caller?.person ?? null;
    if (token && me === null) throw new AppError('auth.bad_token');
    response.locals['me'] = me;
    if (caller?.needsSecondFactor) {
      response.locals['needsSecondFactor'] = true;
      if (!BEFORE_SECOND_FACTOR.has(path)) throw new AppError('auth.second_factor_first');
      return next();
    }
    const { cookie } = request.headers;
    if (me !== null && token === null && cookie !== undefined) checkedCookies.set(cookie, request.sessionID);
    next();
  };

  /** Who sends, where session and person were read a moment ago; null: the steps above find out. */
  function recentSender({ headers }: IncomingMessage): Person | null {
    if (headers.authorization !== undefined) return null;
    const sessionId = headers.cookie === undefined ? undefined : checkedCookies.get(headers.cookie);
    const personId = sessionId === undefined ? undefined : recent(sessionId)?.personId;
    const caller = personId === undefined ? null : people.recent(personId);
    return caller === null || caller.needsSecondFactor ? null : caller.person;
  }

  return { steps: [sessions, whoCalls], recentSender };
}

/** As the database rings where it may be about anybody. */
const EVERYBODY = 'all';

/** People as last read: each is asked for again after seconds. */
function callers(db: Database) {
  const people = peopleService(db);
  const known = new LRUCache<string, Caller>({ max: MOST_REMEMBERED, ttl: CALLER_MS });
  const recent = (id: string): Caller | null => known.get(id) ?? null;
  async function get(id: string): Promise<Caller | null> {
    const there = recent(id);
    if (there) return there;
    const caller = await people.caller(id);
    // One who has to do something first is asked for anew, so that it opens at once when it is done.
    if (caller && !caller.needsSecondFactor) known.set(id, caller);
    else known.delete(id);
    return caller;
  }
  const forget = (id: string): void => {
    if (id === EVERYBODY) known.clear();
    else known.delete(id);
  };
  return { get, recent, forget };
}
