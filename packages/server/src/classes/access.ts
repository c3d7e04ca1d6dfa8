import type { Policy, PracticeChoices } from '@clear-mark/core';
import type { ClassSummary, Person } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { classesStore } from './classes.store.ts';

/**
 * The class, when this person may work in it: the lead in all of them, an instructor in those that count the
 * person as one. Errors: `not_found.class`, `auth.not_in_class`.
 */
export async function classForInstructor(
  db: Database,
  classId: string,
  me: Person,
): Promise<ClassSummary & { policy: Policy; schools: PracticeChoices }> {
  const store = classesStore(db);
  const found = await store.byId(classId);
  if (!found) throw new AppError('not_found.class');
  if (me.role !== 'lead' && (await store.memberRole(classId, me.id)) !== 'instructor') {
    throw new AppError('auth.not_in_class');
  }
  return found;
}

/** The class, for its instructors, its trainees and the lead. Errors: `not_found.class`, `auth.not_in_class`. */
export async function classForMember(db: Database, classId: string, me: Person): Promise<ClassSummary> {
  const store = classesStore(db);
  const found = await store.byId(classId);
  if (!found) throw new AppError('not_found.class');
  if (me.role !== 'lead' && (await store.memberRole(classId, me.id)) === null) {
    throw new AppError('auth.not_in_class');
  }
  return found;
}
