import { checkPolicy, DEFAULT_POLICY, type Policy } from '@clear-mark/core';
import type { ClassDetail, ClassSummary, Person } from '@clear-mark/contract';
import { record } from '../audit/index.ts';
import type { Database } from '../database/database.ts';
import { createOnce } from '../database/create-once.ts';
import { oneAtATime } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import { methodVersion } from '../methods/index.ts';
import { classForInstructor } from './access.ts';
import { classesStore } from './classes.store.ts';
import { cordChecksStore } from './cord-checks.store.ts';
import { linksStore } from './links.store.ts';

export const classesService = (db: Database) => {
  const store = classesStore(db);
  return {
    list: (me: Person): Promise<ClassSummary[]> => (me.role === 'lead' ? store.all() : store.ofMember(me.id)),

    detail: async (classId: string, me: Person): Promise<ClassDetail> => {
      const found = await classForInstructor(db, classId, me);
      const [instructors, trainees, things, methods, links] = await Promise.all([
        store.members(classId, 'instructor'),
        store.trainees(classId),
        cordChecksStore(db).things(classId),
        store.methods(classId),
        linksStore(db).ofClass(classId),
      ]);
      return { ...found, instructors, trainees, things, methods, links };
    },

    add: async (summary: ClassSummary, me: Person): Promise<ClassSummary> => {
      if (summary.endsOn < summary.startsOn) throw new AppError('class.dates_crossed');
      const make = (): Promise<ClassSummary> =>
        db.transaction(async (trx) => {
          const inside = classesStore(trx);
          if (!(await inside.knowsTimeZone(summary.timeZone))) {
            throw new AppError('class.bad_time_zone', { timeZone: summary.timeZone });
          }
          await inside.insert(summary, DEFAULT_POLICY);
          await inside.addMember(summary.id, me.id, 'instructor');
          await record(trx, { kind: 'class_made', by: me.id, classId: summary.id });
          return summary;
        });
      return createOnce(
        make,
        () => store.byId(summary.id),
        (there) =>
          (['name', 'place', 'timeZone', 'startsOn', 'endsOn'] as const).every(
            (k) => there[k] === summary[k],
          ),
      );
    },

    useMethod: (classId: string, versionId: string, inUse: boolean, me: Person): Promise<void> =>
      oneAtATime(db, 'class', classId, async (trx) => {
        await classForInstructor(trx, classId, me);
        const version = await methodVersion(trx, versionId);
        if (version?.state !== 'in_force') throw new AppError('not_found.method_version');
        await classesStore(trx).useMethod(classId, versionId, inUse);
        const detail = `${version.sheet.title}, version ${version.version}: ${inUse ? 'in use' : 'not in use'}`;
        await record(trx, { kind: 'class_method', by: me.id, classId, detail });
      }),

    setPolicy: async (classId: string, policy: Policy, me: Person): Promise<void> => {
      const { policy: before } = await classForInstructor(db, classId, me);
      const checked = checkPolicy(policy);
      await db.transaction(async (trx) => {
        await classesStore(trx).setPolicy(classId, checked);
        await record(trx, { kind: 'class_policy', by: me.id, classId, detail: changesOf(before, checked) });
      });
    },
  };
};

/** What moved, by its names: `passesInARow 3 to 5`. */
const changesOf = (before: Policy, after: Policy): string =>
  (Object.keys(after) as (keyof Policy)[])
    .filter((key) => before[key] !== after[key])
    .map((key) => `${key} ${String(before[key])} to ${String(after[key])}`)
    .join(', ');
