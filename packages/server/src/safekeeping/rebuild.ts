import { signStore } from '../attempts/index.ts';
import type { Database } from '../database/database.ts';
import { derivedOf } from './verify.ts';
import { verifyStore } from './verify.store.ts';

const PAGE = 50;

/**
 * Makes the derived rows again from the newest revision of every attempt, class by class in pages, each page a
 * transaction of its own; gives how many attempts were laid out. Signed records are read only.
 */
export async function rebuildOutcomes(
  db: Database,
  onProgress: (attempts: number) => void = () => undefined,
): Promise<number> {
  let attempts = 0;
  for (const { classId, lastSeq } of await verifyStore(db).heads()) {
    for (let after = 0; ;) {
      const page = await db.transaction(async (trx) => {
        const revisions = await verifyStore(trx).page(classId, after, lastSeq, PAGE);
        const entries = await verifyStore(trx).entriesOf(revisions.map((r) => r.attemptId));
        for (const revision of revisions.filter((r) => r.newest)) {
          const rows = await derivedOf(trx, revision, entries.get(revision.attemptId) ?? []);
          await signStore(trx).replaceOutcome(revision.attemptId, rows);
        }
        return revisions;
      });
      if (page.length === 0) break;
      after = page.at(-1)!.classSeq;
      attempts += page.filter((r) => r.newest).length;
      onProgress(attempts);
    }
  }
  return attempts;
}
