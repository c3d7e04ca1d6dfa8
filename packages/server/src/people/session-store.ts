import { createHash } from 'node:crypto';
import pgSimple from 'connect-pg-simple';
import session from 'express-session';
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
  const known = new Map<string, { readonly data: session.SessionData; readonly until: number }>();
  const touched = new Map<string, number>();
  const forget = (name: string): void => {
    for (const id of known.keys()) if (sessionName(id) === name) known.delete(id);
  };

  class Store extends Base {
    override get(id: string, done: Read): void {
      const there = known.get(id);
      if (there && there.until > Date.now()) return done(null, structuredClone(there.data));
      super.get(id, (error: unknown, data?: session.SessionData | null) => {
        if (!error && data) remember(id, data);
        done(error, data);
      });
    }
    override set(id: string, data: session.SessionData, done?: Done): void {
      known.delete(id);
      super.set(id, data, done);
    }
    override touch(id: string, data: session.SessionData, done?: Done): void {
      if (isTouched(id)) return done?.();
      if (touched.size > MOST_REMEMBERED) touched.clear();
      touched.set(id, Date.now());
      super.touch(id, data, done);
    }
    override destroy(id: string, done?: Done): void {
      known.delete(id);
      touched.delete(id);
      super.destroy(id, done);
    }
  }
  const isTouched = (id: string): boolean => (touched.get(id) ?? 0) > Date.now() - TOUCH_EVERY_MS;
  function recent(id: string): session.SessionData | null {
    const there = known.get(id);
    return there && there.until > Date.now() && isTouched(id) ? there.data : null;
  }
  function remember(id: string, data: session.SessionData): void {
    if (known.size > MOST_REMEMBERED) known.clear();
    known.set(id, { data: structuredClone(data), until: Date.now() + REMEMBERED_MS });
  }
  const store = new Store({
    pool,
    tableName: 'session',
    createTableIfMissing: false,
    pruneSessionInterval: 900,
    errorLog: () => undefined,
  });
  return { store, forget, recent };
}
