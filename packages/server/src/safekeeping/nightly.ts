import type { Logger } from 'pino';
import { tryLock } from '../database/locks.ts';
import type { Database } from '../database/database.ts';
import { facesStore } from '../faces/index.ts';
import { keepDailyHeads } from './heads.ts';
import { type Keeping, safekeepingService } from './safekeeping.service.ts';
import { safekeepingStore } from './safekeeping.store.ts';

const LOOK_EVERY_MS = 600_000;
/** The first look waits until a start has settled, and no longer: a server that runs an hour a day is checked as well. */
const FIRST_LOOK_MS = 30_000;
const CHECK_EVERY_MS = 22 * 3_600_000;
/** Any fixed number: every process asks for the same lock, and one of them does the night's work. */
const LOCK = 0x0c1ea8;

/**
 * What is done once a day by one of the server's processes: heads of the chains are kept, records are checked against
 * them, pictures that nobody came to use are dropped. Returns what stops it.
 */
export function startNightly(
  db: Database,
  keeping: Keeping,
  now: () => Date,
  log: Logger,
): () => Promise<void> {
  let running: Promise<void> | null = null;
  const look = (): void => {
    running ??= night(db, keeping, now, log)
      .catch((error: unknown) => log.warn({ err: error }, 'nightly'))
      .finally(() => (running = null));
  };
  const timers = [setTimeout(look, FIRST_LOOK_MS), setInterval(look, LOOK_EVERY_MS)];
  for (const timer of timers) timer.unref();
  return async () => {
    for (const timer of timers) clearTimeout(timer);
    await running;
  };
}

export async function night(db: Database, keeping: Keeping, now: () => Date, log: Logger): Promise<void> {
  await db.transaction(async (trx) => {
    if (!(await tryLock(trx, LOCK))) return;
    await keepDailyHeads(trx, keeping.safeDir, now());
    const last = await safekeepingStore(trx).lastCheck();
    if (last !== null && now().getTime() - Date.parse(last) < CHECK_EVERY_MS) return;
    const { findings, revisions } = await safekeepingService(trx, keeping).check(null, now);
    if (findings.length > 0) log.error({ findings }, 'records do not fit their chain');
    else log.info({ revisions }, 'records checked');
    await facesStore(trx).dropOrphans();
  });
}
