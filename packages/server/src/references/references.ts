import type { LossReference } from '@clear-mark/core';
import { parseDecimal } from '@clear-mark/core';
import type { ClassReference, Person } from '@clear-mark/contract';
import { clockOffsetMs, corrected } from '../clock/index.ts';
import type { Database } from '../database/database.ts';
import { classForInstructor } from '../classes/index.ts';
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
  'r.reread_dbm as rereadDbm',
  'r.void_reason as voidReason',
];

type NewReference = Omit<LossReference, 'rereadDbm' | 'voidReason'> & {
  readonly instrumentId: string;
  readonly sentAt?: string | undefined;
};
type Change =
  | { readonly change: 'reread'; readonly valueDbm: string }
  | { readonly change: 'void'; readonly reason: NonNullable<LossReference['voidReason']> };

export const referencesStore = (db: Database) => {
  const select = () =>
    db('loss_references as r').join('things as t', 't.id', 'r.instrument_id').select(COLUMNS);
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
      await db('loss_references')
        .insert({
          id: reference.id,
          class_id: classId,
          instrument_id: reference.instrumentId,
          method: reference.method,
          wavelength_nm: reference.wavelengthNm,
          value_dbm: reference.valueDbm,
          shows_negative: reference.showsNegative,
          set_at: reference.setAt,
          set_by: by,
        })
        .onConflict('id')
        .ignore();
    },

    change: async (classId: string, id: string, change: Change): Promise<void> => {
      const columns =
        change.change === 'reread' ? { reread_dbm: change.valueDbm } : { void_reason: change.reason };
      await db('loss_references').where({ class_id: classId, id }).update(columns);
    },
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
      parseDecimal(reference.valueDbm);
      const instrument = await db('things')
        .select('kind')
        .where({ id: reference.instrumentId, class_id: classId })
        .first<{ kind: string } | undefined>();
      if (instrument?.kind !== 'instrument') throw new AppError('reference.not_instrument');
      const offset = reference.sentAt === undefined ? 0 : clockOffsetMs(reference.sentAt, now);
      await store.insert(classId, me.id, { ...reference, setAt: corrected(reference.setAt, offset) });
      return found(classId, reference.id);
    },

    change: async (classId: string, id: string, change: Change, me: Person): Promise<ClassReference> => {
      await classForInstructor(db, classId, me);
      if (change.change === 'reread') parseDecimal(change.valueDbm);
      await found(classId, id);
      await store.change(classId, id, change);
      return found(classId, id);
    },
  };
};
