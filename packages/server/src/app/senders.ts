import type { IncomingMessage } from 'node:http';
import type { Person } from '@clear-mark/contract';
import session from 'express-session';
import type { RequestHandler } from 'express';
import { LRUCache } from 'lru-cache';
import type pg from 'pg';
import type { Config } from '../config.ts';
import type { Database } from '../database/database.ts';
import type { ChangeNotifier } from '../live/index.ts';
import { peopleService } from '../people/index.ts';
import { requireText } from '../http/handle.ts';
import { sessionStore } from '../people/index.ts';

const SESSION_MS = 12 * 3_600_000;
/** How long a person is taken as last read. */
const CALLER_MS = 5000;
const MOST_REMEMBERED = 5000;

export interface SenderParts {
  readonly config: Config;
  readonly db: Database;
  readonly notifier: ChangeNotifier;
  readonly sessionPool: pg.Pool;
  readonly sessionSecret: string;
}

/** Who sends a request: by the session behind its cookie. */
export function senders({ config, db, notifier, sessionPool, sessionSecret }: SenderParts) {
  const { store, forget, recent } = sessionStore(sessionPool);
  notifier.listen('session', ({ what }) => forget(what));
  const people = callers(db);
  /** The session behind a cookie header that was found to be rightly signed. */
  const checkedCookies = new LRUCache<string, string>({ max: MOST_REMEMBERED });

  const sessions = session({
    name: 'clear-mark',
    secret: sessionSecret,
    resave: false,
    saveUninitialized: false,
    rolling: true,
    cookie: { httpOnly: true, sameSite: 'lax', secure: config.tls !== null, maxAge: SESSION_MS },
    store,
  });

  const whoCalls: RequestHandler = async (request, response, next) => {
    requireText(request.query);
    const id = request.session.personId;
    const me = id === undefined ? null : await people.get(id);
    response.locals['me'] = me;
    const { cookie } = request.headers;
    if (me !== null && cookie !== undefined) checkedCookies.set(cookie, request.sessionID);
    next();
  };

  /** Who sends, where session and person were read a moment ago; null: the steps above find out. */
  function recentSender({ headers }: IncomingMessage): Person | null {
    const sessionId = headers.cookie === undefined ? undefined : checkedCookies.get(headers.cookie);
    const personId = sessionId === undefined ? undefined : recent(sessionId)?.personId;
    return personId === undefined ? null : people.recent(personId);
  }

  return { steps: [sessions, whoCalls], recentSender };
}

/** People as last read: each is asked for again after seconds. */
function callers(db: Database) {
  const people = peopleService(db);
  const known = new LRUCache<string, Person>({ max: MOST_REMEMBERED, ttl: CALLER_MS });
  const recent = (id: string): Person | null => known.get(id) ?? null;
  async function get(id: string): Promise<Person | null> {
    const there = recent(id);
    if (there) return there;
    const person = await people.byId(id);
    if (person) known.set(id, person);
    else known.delete(id);
    return person;
  }
  return { get, recent };
}
