import type { LossReference } from '@clear-mark/core';
import type { ClassReference } from '@clear-mark/contract';
import { v7 } from 'uuid';
import type { Database } from '../database/database.ts';
import { lockThing } from '../database/locks.ts';
import { rowsOf, sql } from '../database/sql.ts';

const COLUMNS = [
  'r.id',
  'r.instrument_id as instrumentId',
  't.label as instrumentLabel',
  'r.method',
  'r.wavelength_nm as wavelengthNm',
  'r.value_dbm as valueDbm',
  'r.shows_negative as showsNegative',
  'r.set_at as setAt',
  'r.leg',
  'r.light',
];
/** What was made of it since: the newest reading again, the newest reason that it is void, and every change by itself. */
const CHANGES = (db: Database) => [
  'p.name as setBy',
  ...['reread', 'void'].map((change) => {
    const [column, name] = change === 'reread' ? ['value_dbm', 'rereadDbm'] : ['void_reason', 'voidReason'];
    return db.raw(
      `(select ${column} from reference_changes c where c.reference_id = r.id and c.change = '${change}'
         order by c.seq desc limit 1) as "${name}"`,
    );
  }),
  db.raw(`coalesce((select jsonb_agg(jsonb_build_object('change', c.change, 'valueDbm', c.value_dbm,
      'voidReason', c.void_reason, 'note', c.note, 'by', q.name, 'at', c.at) order by c.seq)
    from reference_changes c join people q on q.id = c.by where c.reference_id = r.id), '[]') as changes`),
];

export type NewReference = Omit<LossReference, 'rereadDbm' | 'voidReason'> & {
  readonly instrumentId: string;
  readonly sentAt?: string | undefined;
  /** What the device claimed, where that could not be. */
  readonly claimedSetAt?: string | null;
};
export type ReferenceChange = { readonly id?: string | undefined; readonly note?: string | undefined } & (
  | { readonly change: 'reread'; readonly valueDbm: string }
  | { readonly change: 'void'; readonly reason: NonNullable<LossReference['voidReason']> }
);

export const referencesStore = (db: Database) => {
  const select = () =>
    db('loss_references as r')
      .join('things as t', 't.id', 'r.instrument_id')
      .join('people as p', 'p.id', 'r.set_by')
      .select([...COLUMNS, ...CHANGES(db)]);
  return {
    byId: async (classId: string, id: string): Promise<ClassReference | null> =>
      (await select().where({ 'r.class_id': classId, 'r.id': id }).first()) ?? null,

    /** References that these readings point at, and those set in the last hours, newest first. */
    forAttempt: (classId: string, attemptId: string, hours: number): Promise<ClassReference[]> =>
      select()
        .where('r.class_id', classId)
        .andWhere((where) =>
          where
            .whereIn('r.id', db('readings').select('reference_id').where({ attempt_id: attemptId }))
            .orWhereRaw('r.set_at > now() - make_interval(hours => ?)', [hours]),
        )
        .orderBy('r.set_at', 'desc'),

    /** References set in the last hours, newest first. */
    recent: (classId: string, hours: number): Promise<ClassReference[]> =>
      select()
        .where('r.class_id', classId)
        .andWhereRaw('r.set_at > now() - make_interval(hours => ?)', [hours])
        .orderBy('r.set_at', 'desc'),

    insert: async (classId: string, by: string, reference: NewReference): Promise<void> => {
      await db('loss_references').insert({
        id: reference.id,
        class_id: classId,
        instrument_id: reference.instrumentId,
        method: reference.method,
        wavelength_nm: reference.wavelengthNm,
        value_dbm: reference.valueDbm,
        shows_negative: reference.showsNegative,
        set_at: reference.setAt,
        claimed_set_at: reference.claimedSetAt ?? null,
        set_by: by,
        leg: reference.leg ?? null,
        light: reference.light ?? null,
      });
    },

    /** A change is a row of its own after those before it. */
    change: async (id: string, change: ReferenceChange, by: string, at: Date): Promise<void> => {
      // The changes of one reference are numbered one after the other.
      await lockThing(db, 'reference', id);
      const valueDbm = change.change === 'reread' ? change.valueDbm : null;
      const reason = change.change === 'void' ? change.reason : null;
      await rowsOf(
        db,
        sql`insert into reference_changes (id, reference_id, seq, change, value_dbm, void_reason, note, by, at)
            select ${change.id ?? v7()}, ${id}, coalesce(max(seq), 0) + 1, ${change.change}, ${valueDbm}, ${reason},
                   ${change.note ?? ''}, ${by}, ${at}
              from reference_changes where reference_id = ${id}`,
      );
    },
    hasChange: async (referenceId: string, id: string): Promise<boolean> =>
      (await db('reference_changes').select('id').where({ id, reference_id: referenceId }).first()) !==
      undefined,

    /** The kind of one of the class's things; null when it has none such. */
    kindOfThing: async (classId: string, id: string): Promise<string | null> =>
      (await db('things').where({ id, class_id: classId }).pluck('kind'))[0] ?? null,
  };
};
