import { chosenOption, type MethodSheet, type SchoolChoices } from '@clear-mark/core';
import type { ClassSchool, Person } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { methodVersion } from '../methods/index.ts';
import { classForInstructor } from './access.ts';
import { classesStore } from './classes.store.ts';

export const schoolsService = (db: Database) => ({
  /** The schools that bear on the methods in use, with what the class chose. */
  list: async (classId: string, me: Person): Promise<ClassSchool[]> => {
    const { schools: chosen } = await classForInstructor(db, classId, me);
    return schoolsOf(await sheetsInUse(db, classId), chosen);
  },

  choose: async (classId: string, school: string, option: string, me: Person): Promise<void> => {
    const { schools: chosen } = await classForInstructor(db, classId, me);
    const known = schoolsOf(await sheetsInUse(db, classId), chosen).find((s) => s.id === school);
    if (!known?.options.some((o) => o.id === option)) {
      throw new AppError('school.unknown', { school, given: option });
    }
    await classesStore(db).setSchool(classId, school, option);
  },
});

async function sheetsInUse(db: Database, classId: string): Promise<MethodSheet[]> {
  const inUse = (await classesStore(db).methods(classId)).filter((m) => m.inUse);
  const versions = await Promise.all(inUse.map((m) => methodVersion(db, m.versionId)));
  return versions.flatMap((v) => (v ? [v.sheet] : []));
}

/** Each school once, with the options and the methods of all sheets that have it. */
function schoolsOf(sheets: readonly MethodSheet[], chosen: SchoolChoices): ClassSchool[] {
  const merged = new Map<string, ClassSchool>();
  for (const sheet of sheets) {
    for (const school of sheet.schools ?? []) {
      const there = merged.get(school.id);
      if (there) there.methods.push(sheet.title);
      else {
        merged.set(school.id, {
          id: school.id,
          question: school.question,
          options: school.options.map(({ id, label }) => ({ id, label })),
          default: school.default,
          reason: school.reason,
          chosen: chosenOption(school, chosen),
          methods: [sheet.title],
        });
      }
    }
  }
  return [...merged.values()];
}
