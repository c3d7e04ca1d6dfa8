import type { Person, Thing } from '@clear-mark/contract';
import { createOnce } from '../database/create-once.ts';
import type { Database } from '../database/database.ts';
import { oneAtATime } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import { classForInstructor } from './access.ts';
import { classesStore } from './classes.store.ts';

/** The equipment of a class: one piece, a whole list, in use or not. */
export const thingsService = (db: Database) => {
  const store = classesStore(db);
  return {
    addThing: async (classId: string, thing: Omit<Thing, 'retired'>, me: Person): Promise<Thing> => {
      await classForInstructor(db, classId, me);
      return createOnce(
        async () => {
          await store.insertThing(classId, thing);
          return { ...thing, retired: false };
        },
        async () => {
          const there = (await store.things(classId)).find((t) => t.id === thing.id);
          if (!there) throw new AppError('thing.label_taken', { label: thing.label });
          return there;
        },
        (there) => there.kind === thing.kind && there.label === thing.label,
      );
    },

    addThings: (
      classId: string,
      things: readonly Pick<Thing, 'id' | 'kind' | 'label'>[],
      me: Person,
    ): Promise<{ added: number }> =>
      oneAtATime(db, 'class', classId, async (trx) => {
        await classForInstructor(trx, classId, me);
        const inside = classesStore(trx);
        const taken = new Set((await inside.things(classId)).map((t) => `${t.kind} ${t.label}`));
        for (const { id, kind, label } of things) {
          if (taken.has(`${kind} ${label}`)) throw new AppError('thing.label_taken', { label });
          taken.add(`${kind} ${label}`);
          await inside.insertThing(classId, { id, kind, label });
        }
        return { added: things.length };
      }),

    retireThing: async (classId: string, thingId: string, retired: boolean, me: Person): Promise<Thing> => {
      await classForInstructor(db, classId, me);
      const thing = await store.retireThing(classId, thingId, retired);
      if (!thing) throw new AppError('not_found.thing');
      return thing;
    },
  };
};
