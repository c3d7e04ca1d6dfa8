import { ROUTES } from '@clear-mark/contract';
import { parse } from 'cookie';
import type { Request, Response, Router } from 'express';
import type { Database } from '../database/database.ts';
import { handle } from '../http/handle.ts';
import { enter } from '../people/index.ts';
import { benchDevicesService } from './bench-devices.service.ts';

const COOKIE = 'clear-mark-bench';
/** As long as browsers keep a cookie. */
const KEPT_MS = 400 * 86_400_000;
const TOKEN = /^[0-9a-f]{64}$/;
const DONE = { done: true } as const;

/** What makes a device a bench device: a cookie of its own, beside that of the session. */
function tokenOf({ headers }: Request): string | null {
  const token = parse(headers.cookie ?? '')[COOKIE];
  return token !== undefined && TOKEN.test(token) ? token : null;
}

export function benchDeviceRoutes(router: Router, db: Database): void {
  const benches = benchDevicesService(db);
  const keep = ({ secure }: Request, response: Response, token: string): void => {
    response.cookie(COOKIE, token, { httpOnly: true, sameSite: 'lax', secure, maxAge: KEPT_MS });
  };
  handle(router, ROUTES.benchDoor, ({ request }) => benches.door(tokenOf(request)));
  handle(router, ROUTES.enterByPin, async ({ body, request }) => {
    const { person, benchId } = await benches.enter(tokenOf(request), body);
    return enter(request, person, benchId);
  });
  handle(router, ROUTES.benchDevices, ({ params, request, me }) =>
    benches.ofClass(params.id, tokenOf(request), me),
  );
  handle(router, ROUTES.addBenchDevice, async ({ params, body, request, response, me }) => {
    keep(request, response, await benches.add(params.id, body, tokenOf(request), me));
    return DONE;
  });
  handle(router, ROUTES.endBenchDevice, async ({ params, me }) => {
    await benches.end(params.id, params.benchId, me);
    return DONE;
  });
  handle(router, ROUTES.setPin, async ({ body, me }) => {
    await benches.setPin(body, me);
    return DONE;
  });
  handle(router, ROUTES.dropOwnPin, async ({ me }) => {
    await benches.dropPin(me.id, me);
    return DONE;
  });
  handle(router, ROUTES.dropPinOf, async ({ params, me }) => {
    await benches.dropPin(params.id, me);
    return DONE;
  });
}
