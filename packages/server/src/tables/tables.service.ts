import { checkPolicy } from '@clear-mark/core';
import type { Person, Plan, SchoolTable, SchoolTableBody } from '@clear-mark/contract';
import type { z } from 'zod';
import { record } from '../audit/index.ts';
import type { Database } from '../database/database.ts';
import { canonicalJson } from '../chain/index.ts';
import { oneAtATime } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import { tablesStore } from './tables.store.ts';

export const tablesService = (db: Database) => ({
  all: (): Promise<SchoolTable[]> => tablesStore(db).newest(),

  versions: async (id: string): Promise<SchoolTable[]> => {
    const found = await tablesStore(db).versions(id);
    if (found.length === 0) throw new AppError('not_found.school_table');
    return found;
  },

  /** A save is a further version. Sent again as it is kept already it is no harm. */
  save: (
    id: string,
    { from, retired, table }: z.infer<typeof SchoolTableBody>,
    me: Person,
    now: Date,
  ): Promise<SchoolTable> =>
    oneAtATime(db, 'school_table', id, async (trx) => {
      const store = tablesStore(trx);
      const [newest] = await store.versions(id);
      if (newest && newest.kind !== table.kind) throw new AppError('school_table.other_kind');
      if (newest?.version === from + 1 && isSame(newest, { ...table, retired })) return newest;
      if (!newest && from > 0) throw new AppError('not_found.school_table');
      if ((newest?.version ?? 0) !== from) throw new AppError('school_table.moved');
      if (table.kind === 'policy') checkPolicy(table.content.policy);
      await store.insert(id, from + 1, table, { retired, by: me.id, at: now });
      const state = retired ? ', out of use' : '';
      await record(trx, {
        kind: 'school_table',
        by: me.id,
        detail: `${table.title}, version ${from + 1}${state}`,
      });
      return (await store.versions(id))[0]!;
    }),
});

const isSame = (
  { title, content, retired }: SchoolTable,
  given: Pick<SchoolTable, 'title' | 'content' | 'retired'>,
): boolean =>
  canonicalJson({ title, content, retired }) ===
  canonicalJson({ title: given.title, content: given.content, retired: given.retired });

/** The drills of the school that are in use. */
export const schoolDrills = async (db: Database): Promise<Plan['drills']> =>
  (await tablesStore(db).newest()).flatMap((t) => (t.kind === 'drill' && !t.retired ? t.content : []));
