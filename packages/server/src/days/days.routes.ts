import { Day, FILES, ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import { classesStore, classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { handle, handleFile } from '../http/handle.ts';
import { dayCalendar } from './calendar.ts';
import { dayMethods } from './day-methods.ts';
import { daysService } from './days.service.ts';
import { daysStore } from './days.store.ts';
import { ownDays, wordsOf } from './own-days.ts';

const done = { done: true } as const;

export function dayRoutes(router: Router, db: Database, now: () => Date): void {
  const days = daysService(db);
  handle(router, ROUTES.day, ({ params, me }) => days.day(params.id, params.day, me));
  handle(router, ROUTES.dayMethods, ({ params, me }) => dayMethods(db, params.id, me));
  handle(router, ROUTES.saveDay, ({ params, body, me }) => days.save(params.id, params.day, body, me, now()));
  handle(router, ROUTES.startLoad, async ({ params, body, me }) => {
    await days.startLoad(params.id, params.day, body, me, now());
    return done;
  });
  handle(router, ROUTES.takeLoadOut, async ({ params, me }) => {
    await days.takeOut(params.id, params.day, params.loadId, me, now());
    return done;
  });
  handle(router, ROUTES.ownDays, ({ me }) => ownDays(db, me, now()));
  handleFile(router, FILES.dayCalendar, async ({ id, me, request, response }) => {
    const classId = id('id', 'not_found.class');
    const found = await classForInstructor(db, classId, me);
    const day = Day.safeParse(request.params['day']);
    const saved = day.success ? await daysStore(db).saved(classId, day.data) : null;
    if (!saved) throw new AppError('not_found.day');
    const names = new Map((await classesStore(db).trainees(classId)).map((t) => [t.id, t.name]));
    const words = await wordsOf(db, [{ classId, content: saved.content }]);
    const text = dayCalendar(
      saved.content,
      words,
      {
        name: found.name,
        place: found.place,
        nameOf: (person) => names.get(person) ?? 'Somebody who left',
        timeOf: (instant) =>
          new Date(instant).toLocaleTimeString('en-GB', {
            timeZone: found.timeZone,
            hour: '2-digit',
            minute: '2-digit',
          }),
      },
      now(),
    );
    response.type('text/calendar').attachment(`day-${day.data!}.ics`).send(text);
  });
}
