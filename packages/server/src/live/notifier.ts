import pg from 'pg';
import type { Logger } from 'pino';
import { connectionSettings } from '../database/database.ts';

/**
 * What rang: a class, and what changed in it: `references`, `class`, `claim`, or the id of an attempt with what became of
 * it: `entries`, `started`, `signed`, `withdrawn`, `again`. Under the name `session` the end of a session rings, under `person` a change of an
 * account.
 */
export interface Change {
  readonly classId: string;
  readonly what: string;
  readonly more: string;
}
type Listener = (notify: Change) => void;

export interface ChangeNotifier {
  /** Hears a class until the returned function is called. */
  readonly listen: (classId: string, listener: Listener) => () => void;
  readonly stop: () => Promise<void>;
}

const FIRST_WAIT_MS = 250;
const LONGEST_WAIT_MS = 5000;
const BEAT_MS = 15_000;
const ANSWER_MS = 5000;
/** A notify that every listener hears: after a lost connection nobody knows what was missed. */
const EVERYTHING = null;

/**
 * One connection a process that listens to the database's notifications and passes them to whoever hears a class.
 * A lost connection is made again; then everybody is rung once, since a notification may have been missed.
 */
export function startNotifier(databaseUrl: string, log: Logger): ChangeNotifier {
  const listeners = new Map<string, Set<Listener>>();
  let client: pg.Client | null = null;
  let stopped = false;
  let wait = FIRST_WAIT_MS;
  let timer: NodeJS.Timeout | null = null;

  const notify = (classId: string | null, what: string, more: string): void => {
    for (const [heard, set] of listeners) {
      if (classId !== EVERYTHING && heard !== classId) continue;
      for (const listener of set) listener({ classId: heard, what, more });
    }
  };
  const again = (): void => {
    client = null;
    if (stopped || timer) return;
    timer = setTimeout(() => {
      timer = null;
      void connect();
    }, wait);
    timer.unref();
    wait = Math.min(wait * 2, LONGEST_WAIT_MS);
  };
  async function connect(): Promise<void> {
    const next = new pg.Client({
      ...connectionSettings(databaseUrl),
      idle_in_transaction_session_timeout: 0,
    });
    let lost = false;
    const lose = (): void => {
      if (lost) return;
      lost = true;
      again();
    };
    next.on('error', (error) => {
      log.warn({ err: error }, 'notifier');
      lose();
    });
    next.on('end', lose);
    next.on('notification', ({ payload }) => {
      const [classId, what, more] = (payload ?? '').split(' ');
      if (classId && what) notify(classId, what, more ?? (/^[0-9a-f-]{36}$/.test(what) ? 'entries' : ''));
    });
    try {
      await next.connect();
      await next.query('listen clear_mark');
      if (stopped) return void (await next.end());
      client = next;
      wait = FIRST_WAIT_MS;
      watch(next, () => client === next, lose);
      notify(EVERYTHING, 'class', '');
    } catch (error) {
      log.warn({ err: error }, 'notifier');
      lose();
    }
  }
  void connect();

  return {
    listen: (classId, listener) => {
      const set = listeners.get(classId) ?? new Set();
      listeners.set(classId, set.add(listener));
      return () => {
        set.delete(listener);
        if (set.size === 0 && listeners.get(classId) === set) listeners.delete(classId);
      };
    },
    stop: async () => {
      stopped = true;
      if (timer) clearTimeout(timer);
      await client?.end();
    },
  };
}

/**
 * A connection that only listens would never learn that a firewall has forgotten it: it is asked something now and then, and
 * given up when no answer comes.
 */
function watch(listening: pg.Client, isCurrent: () => boolean, lose: () => void): void {
  const beat = setInterval(() => {
    if (!isCurrent()) return clearInterval(beat);
    const late = setTimeout(() => {
      clearInterval(beat);
      if (isCurrent()) lose();
      void listening.end().catch(() => undefined);
    }, ANSWER_MS);
    const answered = (): void => clearTimeout(late);
    listening.query('select 1').then(answered, answered);
  }, BEAT_MS);
  beat.unref();
}
