import type { ClassLink, Person } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { sqlStateOf, UNIQUE_VIOLATION } from '../database/sql-state.ts';
import { AppError } from '../errors/app-error.ts';
import { classForInstructor } from './access.ts';
import { linksStore } from './links.store.ts';

export const linksService = (db: Database) => ({
  /** Made new or described anew; attempts that were begun keep the link as it was. */
  save: async (classId: string, link: ClassLink, me: Person): Promise<ClassLink> => {
    await classForInstructor(db, classId, me);
    try {
      if (!(await linksStore(db).save(classId, link, me.id))) throw new AppError('link.other_class');
    } catch (error) {
      if (sqlStateOf(error) === UNIQUE_VIOLATION)
        throw new AppError('link.label_taken', { label: link.label });
      throw error;
    }
    return (await linksStore(db).byId(classId, link.id))!;
  },
});
