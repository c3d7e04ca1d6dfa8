import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { MailSettings } from '../config.ts';
import type { Database } from '../database/database.ts';
import { handle } from '../http/handle.ts';
import { accountsService } from './accounts.service.ts';
import { joinService } from './join.service.ts';
import { mailCode } from './mail-code.ts';
import { ownAccountService } from './own-account.service.ts';
import { secondFactors } from './second-factor.ts';
import { enter } from './sessions.ts';

const DONE = { done: true } as const;

export function accountRoutes(
  router: Router,
  db: Database,
  now: () => Date,
  mail: MailSettings | null,
): void {
  const accounts = accountsService(db, now, mail);
  const joining = joinService(db, now);
  const own = ownAccountService(db, now);
  handle(router, ROUTES.secondFactorRequired, () => own.secondFactorRequired());
  handle(router, ROUTES.requireSecondFactor, async ({ body, me }) => {
    await own.requireSecondFactor(body.required, me);
    return DONE;
  });
  handle(router, ROUTES.accounts, () => accounts.all());
  handle(router, ROUTES.inviteAccount, ({ body, me }) => accounts.invite(body, me));
  handle(router, ROUTES.giveCode, ({ params, me }) => accounts.giveCode(params.id, me));
  handle(router, ROUTES.mailCode, async ({ params, body, me, request }) => {
    // Which hosts there are was looked at before any route.
    const origin = `${request.protocol}://${request.get('host') ?? ''}`;
    await mailCode(db, { id: params.id, ...body, origin }, mail, me, now());
    return DONE;
  });
  handle(router, ROUTES.withdrawCode, async ({ params, me }) => {
    await accounts.withdrawCode(params.id, me);
    return DONE;
  });
  handle(router, ROUTES.changeAccount, async ({ params, body, me }) => {
    await accounts.change(params.id, body, me);
    return DONE;
  });
  handle(router, ROUTES.disableAccount, async ({ params, body, me }) => {
    await accounts.disable(params.id, body.disabled, me);
    return DONE;
  });
  handle(router, ROUTES.endSessionsOf, async ({ params, me }) => {
    await accounts.endSessions(params.id, me);
    return DONE;
  });
  handle(router, ROUTES.dropSecondFactorOf, async ({ params, me }) => {
    await secondFactors(db).drop(params.id, me.id);
    return DONE;
  });

  handle(router, ROUTES.lookAtCode, ({ body, request }) => joining.look(body.code, request.ip ?? ''));
  handle(router, ROUTES.join, async ({ body, request }) => {
    const { person, secondFactor } = await joining.join(body, request.ip ?? '');
    return secondFactor ? null : enter(request, person);
  });

  handle(router, ROUTES.ownAccount, ({ me }) => own.state(me));
  handle(router, ROUTES.changeOwnPassword, async ({ body, me, request }) => {
    await own.changePassword(body, me, request.sessionID);
    return DONE;
  });
  handle(router, ROUTES.endOwnSessions, async ({ me, request }) => {
    await own.endOtherSessions(me, request.sessionID);
    return DONE;
  });
  handle(router, ROUTES.beginSecondFactor, ({ body, me }) => own.beginSecondFactor(me, body.password));
  handle(router, ROUTES.confirmSecondFactor, ({ body, me }) => own.confirmSecondFactor(me, body.code));
  handle(router, ROUTES.dropOwnSecondFactor, async ({ body, me }) => {
    await own.dropSecondFactor(me, body.password);
    return DONE;
  });
}
