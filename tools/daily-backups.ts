import { mkdir } from 'node:fs/promises';
import path from 'node:path';
import { type Database, databaseOf, openDatabase, safekeepingStore } from '@clear-mark/server';
import { scheduledBackup } from './backup.ts';
import { onRegistry, type SchoolsAt } from './schools/school-work.ts';

const BACKUP_EVERY_MS = 24 * 3_600_000;
const LOOK_EVERY_MS = 600_000;

/** What is to be backed up, where its backups go, and where a copy of each. */
export interface BackedUp {
  readonly name: string;
  readonly ownerUrl: string;
  readonly folder: string;
  readonly copyTo: string | null;
  /** Where it is noted; opened for it where it is not given. */
  readonly db?: Database;
}
type Say = (line: string) => void;

/** A backup a day of each, as soon as its last is a day old; what failed is kept with its reason, for the lead to see. */
export function startBackups(
  each: () => Promise<readonly BackedUp[]>,
  say: Say,
): { stop: () => Promise<void> } {
  let running: Promise<void> | null = null;
  const all = async (): Promise<void> => {
    for (const one of await each()) {
      await backUp(one, say).catch((error: Error) =>
        say(`The daily backup of ${one.name} failed: ${error.message}`),
      );
    }
  };
  const look = (): void => {
    running ??= all()
      .catch((error: Error) => say(`The daily backups failed: ${error.message}`))
      .finally(() => (running = null));
  };
  look();
  const timer = setInterval(look, LOOK_EVERY_MS);
  return {
    stop: async () => {
      clearInterval(timer);
      await running;
    },
  };
}

async function backUp(one: BackedUp, say: Say): Promise<void> {
  const db = one.db ?? openDatabase(one.ownerUrl, 1);
  const store = safekeepingStore(db);
  try {
    const now = new Date();
    const last = await store.lastGoodBackup();
    if (last !== null && now.getTime() - Date.parse(last) < BACKUP_EVERY_MS) return;
    try {
      if (one.copyTo !== null) await mkdir(one.copyTo, { recursive: true });
      const made = await scheduledBackup(one.ownerUrl, one.folder, one.copyTo, now);
      await store.noteBackup({ at: now, ...made, failed: null });
    } catch (error) {
      const failed = (error as Error).message.slice(0, 500);
      say(`The daily backup of ${one.name} failed: ${failed}`);
      await store.noteBackup({ at: now, file: one.folder, bytes: 0, sha256: null, failed });
    }
  } finally {
    if (!one.db) await db.destroy();
  }
}

/** All open schools of a registry, each with a folder of its own. */
export const schoolsToBackUp = async (
  at: SchoolsAt,
  folder: string,
  copyTo: string | null,
): Promise<BackedUp[]> =>
  (await onRegistry(at, (registry) => registry.all()))
    .filter((s) => s.open)
    .map((s) => ({
      name: s.name,
      ownerUrl: databaseOf(at.clusters, s).owner,
      folder: path.join(folder, s.name),
      copyTo: copyTo === null ? null : path.join(copyTo, s.name),
    }));
