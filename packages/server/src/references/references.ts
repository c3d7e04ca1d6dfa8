import type { LossReference } from '@clear-mark/core';
import { levelOfText } from '@clear-mark/core';
import type { ClassReference, Person } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { clockOffsetMs, corrected, heldBetween } from '../clock/index.ts';
import { createOnce } from '../database/create-once.ts';
import { noticesStore } from '../notices/index.ts';
import type { Database } from '../database/database.ts';
import { classesStore, classForInstructor } from '../classes/index.ts';
import { AppError } from '../http/app-error.ts';

const COLUMNS = [
  'r.id',
  'r.instrument_id as instrumentId',
  't.label as instrumentLabel',
  'r.method',
  'r.wavelength_nm as wavelengthNm',
  'r.value_dbm as valueDbm',
  'r.shows_negative as showsNegative',
  'r.set_at as setAt',
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

type NewReference = Omit<LossReference, 'rereadDbm' | 'voidReason'> & {
  readonly instrumentId: string;
  readonly sentAt?: string | undefined;
  /** What the device claimed, where that could not be. */
  readonly claimedSetAt?: string | null;
};
type Change = { readonly id?: string | undefined; readonly note?: string | undefined } & (
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
      });
    },

    /** A change is a row of its own after those before it. */
    change: async (id: string, change: Change, by: string, at: Date): Promise<void> => {
      // The changes of one reference are numbered one after the other.
      await db.raw(`select pg_advisory_xact_lock(hashtextextended(?, 0))`, [id]);
      await db.raw(
        `insert into reference_changes (id, reference_id, seq, change, value_dbm, void_reason, note, by, at)
         select ?, ?, coalesce(max(seq), 0) + 1, ?, ?, ?, ?, ?, ? from reference_changes where reference_id = ?`,
        [
          ...[change.id ?? v7(), id, change.change],
          ...[change.change === 'reread' ? change.valueDbm : null],
          ...[change.change === 'void' ? change.reason : null, change.note ?? '', by, at, id],
        ],
      );
    },
    hasChange: async (referenceId: string, id: string): Promise<boolean> =>
      (await db('reference_changes').select('id').where({ id, reference_id: referenceId }).first()) !==
      undefined,
  };
};

export const referencesService = (db: Database) => {
  const store = referencesStore(db);
  const found = async (classId: string, id: string): Promise<ClassReference> => {
    const reference = await store.byId(classId, id);
    if (!reference) throw new AppError('not_found.reference');
    return reference;
  };
  return {
    add: async (classId: string, reference: NewReference, me: Person, now: Date): Promise<ClassReference> => {
      await classForInstructor(db, classId, me);
      levelOfText(reference.valueDbm);
      const instrument = await db('things')
        .select('kind')
        .where({ id: reference.instrumentId, class_id: classId })
        .first<{ kind: string } | undefined>();
      if (instrument?.kind !== 'instrument') throw new AppError('reference.not_instrument');
      const offset = reference.sentAt === undefined ? 0 : clockOffsetMs(reference.sentAt, now);
      const began = await classesStore(db).beganAt(classId);
      const held = heldBetween(corrected(reference.setAt, offset), began, now);
      return createOnce(
        async () => {
          await store.insert(classId, me.id, { ...reference, setAt: held.at, claimedSetAt: held.claimed });
          return found(classId, reference.id);
        },
        () => store.byId(classId, reference.id),
        (there) =>
          there.instrumentId === reference.instrumentId &&
          there.valueDbm === reference.valueDbm &&
          there.wavelengthNm === reference.wavelengthNm &&
          there.method === reference.method,
      );
    },

    /** Reads it again or voids it: added to what is known of it; signed attempts that rest on it are told. */
    change: async (
      classId: string,
      id: string,
      change: Change,
      me: Person,
      now: Date,
    ): Promise<ClassReference> => {
      await classForInstructor(db, classId, me);
      if (change.change === 'reread') levelOfText(change.valueDbm);
      await found(classId, id);
      if (change.id === undefined || !(await store.hasChange(id, change.id))) {
        await db.transaction(async (trx) => {
          await referencesStore(trx).change(id, change, me.id, now);
          const notices = noticesStore(trx);
          const cause = change.change === 'reread' ? 'reference_reread' : 'reference_void';
          await notices.raise(await notices.attemptsOnReference(id), cause, id, me.id, now);
        });
      }
      return found(classId, id);
    },
  };
};
