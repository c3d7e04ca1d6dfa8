import type { Person, Safekeeping } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { anchorsInFiles, anchorsInRows } from './heads.ts';
import { safekeepingStore } from './safekeeping.store.ts';
import { type Anchor, type Verified, verifyRecords } from './verify.ts';

const SHOWN = 14;

export interface Keeping {
  readonly safeDir: string | null;
  /** Heads that older backups hold, where backups are made. */
  readonly anchorsInBackups?: () => Promise<readonly Anchor[]>;
}

export const safekeepingService = (db: Database, keeping: Keeping) => {
  const store = safekeepingStore(db);
  const check = async (me: Person | null, now: () => Date): Promise<Verified> => {
    const from = now();
    const files = await anchorsInFiles(keeping.safeDir);
    const rows = await anchorsInRows(db);
    const backups = (await keeping.anchorsInBackups?.()) ?? [];
    const found = await verifyRecords(db, [...files.anchors, ...rows, ...backups]);
    const nobody = { classId: null, classSeq: null, attemptId: null, pieceLabel: null, traineeName: null };
    const forged = files.forged.map((name) => ({ kind: 'head_forged' as const, ...nobody, from: name }));
    const whole = { ...found, findings: [...forged, ...found.findings] };
    await store.noteCheck(from, me?.id ?? null, now().getTime() - from.getTime(), whole);
    return whole;
  };
  return {
    check,
    view: async (): Promise<Safekeeping> => ({
      backups: await store.backups(SHOWN),
      lastGoodBackup: await store.lastGoodBackup(),
      checks: await store.checks(SHOWN),
      heads: await store.heads(SHOWN),
      headsInFiles: keeping.safeDir !== null,
      roleIsBound: await store.roleIsBound(),
    }),
  };
};
