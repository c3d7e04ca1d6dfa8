import { createHash } from 'node:crypto';
import pgSimple from 'connect-pg-simple';
import session from 'express-session';
import { LRUCache } from 'lru-cache';
import type pg from 'pg';

/** How long a session is taken as it was read: a sign-out in another process is heard of by the bell before. */
const REMEMBERED_MS = 5000;
/** A session lives on with use; its row is written for that at most once in this time. */
const TOUCH_EVERY_MS = 60_000;
const MOST_REMEMBERED = 5000;

/** The name under which the end of a session is told: the id itself stays between browser and server. */
export const sessionName = (id: string): string => createHash('sha256').update(id).digest('hex');

type Done = (error?: unknown) => void;
type Read = (error: unknown, data?: session.SessionData | null) => void;

/**
 * Sessions in the database, read at most every few seconds and written at most once a minute: a device that scores twice a
 * second would otherwise rewrite one row twice a second. The end of one rings by a trigger of its table, for its open streams
 * and for what other processes remember.
 */
export function sessionStore(pool: pg.Pool): {
  readonly store: session.Store;
  readonly forget: (name: string) => void;
  /** What a session holds, where it was read and written a moment ago; null: the store has to be asked. */
  readonly recent: (id: string) => session.SessionData | null;
} {
  const Base = pgSimple(session);
  const known = new LRUCache<string, session.SessionData>({ max: MOST_REMEMBERED, ttl: REMEMBERED_MS });
  const touched = new LRUCache<string, true>({ max: MOST_REMEMBERED, ttl: TOUCH_EVERY_MS });
  const forget = (name: string): void => {
    for (const id of known.keys()) if (sessionName(id) === name) known.delete(id);
  };

  class Store extends Base {
    override get(id: string, done: Read): void {
      const there = known.get(id);
      if (there) return done(null, structuredClone(there));
      super.get(id, (error: unknown, data?: session.SessionData | null) => {
        if (!error && data) known.set(id, structuredClone(data));
        done(error, data);
      });
    }
    override set(id: string, data: session.SessionData, done?: Done): void {
      known.delete(id);
      super.set(id, data, done);
    }
    override touch(id: string, data: session.SessionData, done?: Done): void {
      if (touched.has(id)) return done?.();
      touched.set(id, true);
      super.touch(id, data, done);
    }
    override destroy(id: string, done?: Done): void {
      known.delete(id);
      touched.delete(id);
      super.destroy(id, done);
    }
  }
  const recent = (id: string): session.SessionData | null =>
    touched.has(id) ? (known.get(id) ?? null) : null;
  const store = new Store({
    pool,
    tableName: 'session',
    createTableIfMissing: false,
    pruneSessionInterval: 900,
    errorLog: () => undefined,
  });
  return { store, forget, recent };
}
