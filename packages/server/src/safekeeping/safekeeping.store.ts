import type { BackupRow, CheckRow, Finding } from '@clear-mark/contract';
import { v7 } from 'uuid';
import type { Database } from '../database/database.ts';
import type { Verified } from './verify.ts';

export const safekeepingStore = (db: Database) => ({
  backups: (most: number): Promise<BackupRow[]> =>
    db('backups').select(['at', 'file', 'bytes', 'sha256', 'failed']).orderBy('at', 'desc').limit(most),
  lastGoodBackup: async (): Promise<string | null> =>
    (await db('backups').whereNull('failed').max<{ max: string | null }[]>('at'))[0]?.max ?? null,
  noteBackup: async (backup: Omit<BackupRow, 'at'> & { at: Date }): Promise<void> => {
    await db('backups').insert({ id: v7(), ...backup });
  },

  checks: (most: number): Promise<CheckRow[]> =>
    db('checks as k')
      .leftJoin('people as p', 'p.id', 'k.by')
      .select(['k.at', 'p.name as by', 'k.ms', 'k.revisions', 'k.findings'])
      .orderBy('k.at', 'desc')
      .limit(most),
  noteCheck: async (at: Date, by: string | null, ms: number, found: Verified): Promise<void> => {
    await db('checks').insert({
      id: v7(),
      at,
      by,
      ms,
      revisions: found.revisions,
      findings: JSON.stringify(found.findings satisfies readonly Finding[]),
    });
    await db('checks').whereRaw(`at < now() - interval '1 year'`).del();
  },
  lastCheck: async (): Promise<string | null> =>
    (await db('checks').max<{ max: string | null }[]>('at'))[0]?.max ?? null,

  heads: (most: number): Promise<{ day: string; className: string; classSeq: number; hash: string }[]> =>
    db('daily_heads as h')
      .join('classes as c', 'c.id', 'h.class_id')
      .select([
        db.raw(`to_char(h.day, 'YYYY-MM-DD') as day`),
        'c.name as className',
        'h.class_seq as classSeq',
        'h.hash',
      ])
      .orderBy([{ column: 'h.day', order: 'desc' }, { column: 'c.name' }])
      .limit(most),

  /** Whether the role that this connects as may do what an application never needs. */
  roleIsBound: async (): Promise<boolean> => {
    const { rows } = await db.raw(
      `select not (select rolsuper from pg_roles where rolname = current_user)
          and not exists (select 1 from pg_class k join pg_namespace n on n.oid = k.relnamespace
                where n.nspname = 'public' and k.relkind = 'r' and pg_has_role(current_user, k.relowner, 'usage'))
          and not has_table_privilege('entries', 'truncate') as bound`,
    );
    return rows[0].bound as boolean;
  },
});
