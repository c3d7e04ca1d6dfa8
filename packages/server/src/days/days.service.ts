import { dayWanted, planFaults } from '@clear-mark/core';
import type { DayPlanBody, NewDayLoadBody, Person, PlannedDay } from '@clear-mark/contract';
import type { z } from 'zod';
import { classesStore, classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { oneAtATime } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import { daysStore } from './days.store.ts';

/** Faults of a plan that no hand can make: it does not belong to its pieces. What overlaps or comes too early is shown to those who look at it. */
const NOT_WHOLE: ReadonlySet<string> = new Set(['twice', 'missing', 'unknown', 'ends_at', 'minutes']);

export const daysService = (db: Database) => ({
  day: async (classId: string, day: string, me: Person): Promise<PlannedDay> => {
    const { timeZone } = await classForInstructor(db, classId, me);
    const store = daysStore(db);
    const found = await store.saved(classId, day);
    const things = found
      ? [...Object.values(found.content.stations).flat(), ...found.content.ovens.map((o) => o.id)]
      : [];
    return {
      day,
      saved: found
        ? {
            ...found.content,
            version: found.version,
            changedAt: found.changedAt,
            changedBy: found.changedBy,
          }
        : null,
      loads: await store.loads(classId, day),
      benches: await store.benches(classId),
      signed: await store.signed(classId, day, timeZone),
      clashes: await store.clashes(classId, day, things),
    };
  },

  /** Keeps a day as it was planned. Errors: `day.changed_meanwhile`, `day.not_whole`, `day.outside_class`. */
  save: async (
    classId: string,
    day: string,
    body: DayPlanBody,
    me: Person,
    now: Date,
  ): Promise<{ version: number }> => {
    const { startsOn, endsOn } = await classForInstructor(db, classId, me);
    if (day < startsOn || day > endsOn)
      throw new AppError('day.outside_class', { day, from: startsOn, to: endsOn });
    const { plan } = body;
    if (plan) {
      const fault = planFaults(dayWanted(body), plan).find((f) => NOT_WHOLE.has(f.fault));
      if (fault) throw new AppError('day.not_whole', { problem: fault.fault.replaceAll('_', ' ') });
    }
    if (!(await daysStore(db).save(classId, day, body, me.id, now)))
      throw new AppError('day.changed_meanwhile');
    return { version: body.version + 1 };
  },

  /** An oven was loaded just now. */
  startLoad: (
    classId: string,
    day: string,
    { minutes, ...load }: z.infer<typeof NewDayLoadBody>,
    me: Person,
    now: Date,
  ): Promise<void> =>
    oneAtATime(db, 'day', classId, async (trx) => {
      await classForInstructor(trx, classId, me);
      const oven = (await classesStore(trx).things(classId)).find((t) => t.id === load.ovenId);
      if (!oven) throw new AppError('not_found.thing');
      const endsAt = new Date(now.getTime() + minutes * 60_000);
      await daysStore(trx).addLoad(classId, day, { ...load, startedAt: now, endsAt }, me.id);
    }),
  takeOut: async (classId: string, day: string, loadId: string, me: Person, now: Date): Promise<void> => {
    await classForInstructor(db, classId, me);
    if (!(await daysStore(db).takeOut(classId, day, loadId, now))) throw new AppError('not_found.load');
  },
});
