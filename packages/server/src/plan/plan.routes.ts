import { FILES, ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { handle, handleFile } from '../http/handle.ts';
import { planCalendar } from './calendar.ts';
import { ownSkills } from './own-skills.ts';
import { planService } from './plan.service.ts';

const done = { done: true } as const;

export function planRoutes(router: Router, db: Database, now: () => Date): void {
  const plans = planService(db);
  handle(router, ROUTES.plan, ({ params, me }) => plans.plan(params.id, me, now()));
  handle(router, ROUTES.ownSkills, ({ me }) => ownSkills(db, me, now()));
  handle(router, ROUTES.changePlanItem, async ({ params, body, me }) => {
    await plans.change(params.id, params.itemId, body, me);
    return done;
  });
  handle(router, ROUTES.savePlanSession, async ({ params, body, me }) => {
    await plans.saveSession(params.id, { ...body, id: params.sessionId }, me);
    return done;
  });
  handle(router, ROUTES.dropPlanSession, async ({ params, me }) => {
    await plans.dropSession(params.id, params.sessionId, me);
    return done;
  });
  handleFile(router, FILES.planCalendar, async ({ id, me, response }) => {
    const classId = id('id', 'not_found.class');
    const found = await classForInstructor(db, classId, me);
    const text = planCalendar(await plans.plan(classId, me, now()), found, now());
    response.type('text/calendar').attachment('retraining.ics').send(text);
  });
}
