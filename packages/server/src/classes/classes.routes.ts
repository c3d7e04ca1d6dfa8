import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { handle } from '../http/handle.ts';
import { classesService } from './classes.service.ts';
import { copyClass } from './copy-class.service.ts';
import { cordChecksService } from './cord-checks.service.ts';
import { linksService } from './links.service.ts';
import { membersService } from './members.service.ts';
import { thingsService } from './things.service.ts';
import { practiceService } from './practice.service.ts';

const DONE = { done: true } as const;

export function classRoutes(router: Router, db: Database, now: () => Date): void {
  const classes = classesService(db);
  const things = thingsService(db);
  const members = membersService(db);
  const practice = practiceService(db);
  const links = linksService(db);
  handle(router, ROUTES.classes, ({ me }) => classes.list(me));
  handle(router, ROUTES.addClass, ({ body, me }) => classes.add(body, me));
  handle(router, ROUTES.classDetail, ({ params, me }) => classes.detail(params.id, me));
  handle(router, ROUTES.addMember, ({ params, body, me }) => members.addMember(params.id, body, me));
  handle(router, ROUTES.addRoster, ({ params, body, me }) => members.addRoster(params.id, body, me));
  handle(router, ROUTES.copyClass, ({ params, body, me }) => copyClass(db, params.id, body, me));
  handle(router, ROUTES.leaveClass, async ({ params, me }) => {
    await members.leave(params.id, params.personId, me);
    return DONE;
  });
  handle(router, ROUTES.setGroup, async ({ params, body, me }) => {
    await members.setGroup(params.id, params.traineeId, body.group, me);
    return { done: true } as const;
  });
  handle(router, ROUTES.addThings, ({ params, body, me }) => things.addThings(params.id, body.things, me));
  handle(router, ROUTES.addThing, ({ params, body, me }) => things.addThing(params.id, body, me));
  handle(router, ROUTES.changeThing, ({ params, body, me }) =>
    things.retireThing(params.id, params.thingId, body.retired, me),
  );
  const cordChecks = cordChecksService(db);
  handle(router, ROUTES.addCordCheck, ({ params, body, me }) =>
    cordChecks.add(params.id, params.thingId, body, me, now()),
  );
  handle(router, ROUTES.useMethod, async ({ params, body, me }) => {
    await classes.useMethod(params.id, body.versionId, body.inUse, me);
    return DONE;
  });
  handle(router, ROUTES.classPracticeOptions, ({ params, me }) => practice.list(params.id, me));
  handle(router, ROUTES.choosePractice, async ({ params, body, me }) => {
    await practice.choose(params.id, body.practice, body.option, me);
    return practice.list(params.id, me);
  });
  handle(router, ROUTES.saveLink, ({ params, body, me }) =>
    links.save(params.id, { ...body, id: params.linkId }, me),
  );
  handle(router, ROUTES.setPolicy, async ({ params, body, me }) => {
    await classes.setPolicy(params.id, body, me);
    return DONE;
  });
}
