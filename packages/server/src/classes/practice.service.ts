import { chosenOption, type MethodSheet, type PracticeChoices } from '@clear-mark/core';
import type { ClassPracticeOption, Person } from '@clear-mark/contract';
import { record } from '../audit/index.ts';
import type { Database } from '../database/database.ts';
import { oneAtATime } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import { methodVersion } from '../methods/index.ts';
import { classForInstructor } from './access.ts';
import { classesStore } from './classes.store.ts';

export const practiceService = (db: Database) => ({
  /** The practice options that bear on the methods in use, with what the class chose. */
  list: async (classId: string, me: Person): Promise<ClassPracticeOption[]> => {
    const { schools: chosen } = await classForInstructor(db, classId, me);
    return practiceOptionsOf(await sheetsInUse(db, classId), chosen);
  },

  choose: (classId: string, practice: string, option: string, me: Person): Promise<void> =>
    oneAtATime(db, 'class', classId, async (trx) => {
      const { schools: chosen } = await classForInstructor(trx, classId, me);
      const known = practiceOptionsOf(await sheetsInUse(trx, classId), chosen).find((s) => s.id === practice);
      if (!known?.options.some((o) => o.id === option)) {
        throw new AppError('practice.unknown', { practice, given: option });
      }
      await classesStore(trx).setPractice(classId, practice, option);
      await record(trx, { kind: 'class_practice', by: me.id, classId, detail: `${practice}: ${option}` });
    }),
});

async function sheetsInUse(db: Database, classId: string): Promise<MethodSheet[]> {
  const inUse = (await classesStore(db).methods(classId)).filter((m) => m.inUse);
  const versions = await Promise.all(inUse.map((m) => methodVersion(db, m.versionId)));
  return versions.flatMap((v) => (v ? [v.sheet] : []));
}

/** Each practice once, with the options and the methods of all sheets that have it. */
function practiceOptionsOf(sheets: readonly MethodSheet[], chosen: PracticeChoices): ClassPracticeOption[] {
  const merged = new Map<string, ClassPracticeOption>();
  for (const sheet of sheets) {
    for (const practice of sheet.schools ?? []) {
      const there = merged.get(practice.id);
      if (there) there.methods.push(sheet.title);
      else {
        merged.set(practice.id, {
          id: practice.id,
          question: practice.question,
          options: practice.options.map(({ id, label }) => ({ id, label })),
          default: practice.default,
          reason: practice.reason,
          chosen: chosenOption(practice, chosen),
          methods: [sheet.title],
        });
      }
    }
  }
  return [...merged.values()];
}
