import { DEFAULT_POLICY } from '@clear-mark/core';
import type { ClassSummary, CopyClassBody, Person } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { record } from '../audit/index.ts';
import { createOnce } from '../database/create-once.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { classForInstructor } from './access.ts';
import { classesStore } from './classes.store.ts';

/**
 * A new class after an earlier one: its place and zone always, the methods in use with the answers to their questions and what the
 * class said of its course, the equipment that is in use, the policy, the trainees with their groups where they are asked for. Whoever makes it is an
 * instructor of it. Errors: those of the class, `class.dates_crossed`, `request.already_there`.
 */
export async function copyClass(
  db: Database,
  fromId: string,
  { id, name, startsOn, endsOn, parts }: CopyClassBody,
  me: Person,
): Promise<ClassSummary> {
  if (endsOn < startsOn) throw new AppError('class.dates_crossed');
  const make = (): Promise<ClassSummary> =>
    db.transaction(async (trx) => {
      const from = await classForInstructor(trx, fromId, me);
      const store = classesStore(trx);
      const made: ClassSummary = { id, name, place: from.place, timeZone: from.timeZone, startsOn, endsOn };
      await store.insert(made, parts.includes('policy') ? from.policy : DEFAULT_POLICY);
      await store.addMember(id, me.id, 'instructor');
      if (parts.includes('methods')) {
        for (const method of await store.methods(fromId))
          if (method.inUse && method.state === 'in_force') await store.useMethod(id, method.versionId, true);
        for (const [practice, option] of Object.entries(from.schools))
          await store.setPractice(id, practice, option);
        await store.copyCourse(fromId, id);
      }
      if (parts.includes('equipment')) {
        for (const { kind, label, retired } of await store.things(fromId))
          if (!retired) await store.insertThing(id, { id: v7(), kind, label });
      }
      if (parts.includes('people')) {
        for (const { id: traineeId, group } of await store.trainees(fromId)) {
          await store.addMember(id, traineeId, 'trainee');
          if (group !== '') await store.setGroup(id, traineeId, group);
        }
      }
      await record(trx, {
        kind: 'class_made',
        by: me.id,
        classId: id,
        detail: `with ${parts.join(', ')} of another`,
      });
      return made;
    });
  return createOnce(
    make,
    () => classesStore(db).byId(id),
    (there) => there.name === name && there.startsOn === startsOn && there.endsOn === endsOn,
  );
}
