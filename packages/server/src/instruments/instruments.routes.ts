import { EVENT_PATHS, Id, type InstrumentEvent, type Person, ROUTES } from '@clear-mark/contract';
import type { Request, Response, Router } from 'express';
import { classForMember } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../http/app-error.ts';
import { handle, requireAccess } from '../http/handle.ts';
import type { InstrumentHub } from './hub.ts';
import { instrumentsService } from './instruments.service.ts';
import { instrumentsStore } from './instruments.store.ts';
import { orderStandIns, standInPiece } from './stand-ins.ts';

const DONE = { done: true } as const;
const HEARTBEAT_MS = 10_000;
/** A client that lets so much pile up has lost touch; it comes back and is given what it missed. */
const MOST_WAITING_BYTES = 1_048_576;

export interface InstrumentParts {
  readonly db: Database;
  readonly hub: InstrumentHub;
  readonly now: () => Date;
  /** Port of the simulated bench's control; null outside the demo. */
  readonly standInsPort: number | null;
}

export function instrumentRoutes(router: Router, { db, hub, now, standInsPort }: InstrumentParts): void {
  const instruments = instrumentsService(db, hub);
  handle(router, ROUTES.instruments, ({ params, me }) => instruments.list(params.id, me));
  handle(router, ROUTES.setInstrument, ({ params, body, me }) =>
    instruments.set(params.id, params.thingId, body, me),
  );
  handle(router, ROUTES.dropInstrument, async ({ params, me }) => {
    await instruments.drop(params.id, params.thingId, me);
    return DONE;
  });
  handle(router, ROUTES.claimInstrument, ({ params, body, me }) =>
    instruments.claim(params.id, params.thingId, body, me, now()),
  );
  handle(router, ROUTES.releaseInstrument, async ({ params, me }) => {
    await instruments.release(params.id, params.thingId, params.deviceId, me);
    return DONE;
  });
  handle(router, ROUTES.orderInstrument, async ({ params, body, me }) => {
    await instruments.order(params.id, params.thingId, body, me);
    return DONE;
  });
  handle(router, ROUTES.standInPiece, () => standInPiece(standInsPort));
  handle(router, ROUTES.standInAct, ({ body }) => orderStandIns(standInsPort, body));

  router.get(EVENT_PATHS.instruments, async (request: Request, response: Response) => {
    const me = response.locals['me'] as Person | null;
    requireAccess('signed_in', me);
    const classId = Id.safeParse(request.params['id']);
    if (!classId.success) throw new AppError('not_found.class');
    await classForMember(db, classId.data, me!);
    await stream(request, response, db, hub, classId.data);
  });
}

/**
 * What the instruments of a class show, as it comes: each event under its own number, so that a client whose stream was
 * cut names the last one and is given what it missed. `?things=` takes some of the class's instruments.
 */
async function stream(
  request: Request,
  response: Response,
  db: Database,
  hub: InstrumentHub,
  classId: string,
): Promise<void> {
  const wanted = String(request.query['things'] ?? '');
  const only = wanted === '' ? null : new Set(wanted.split(','));
  const all = await instrumentsStore(db).ofClass(classId);
  const mine = all.filter((i) => only === null || only.has(i.thingId));
  const lastId = Number(request.get('last-event-id') ?? Number.NaN);
  response.writeHead(200, {
    'Content-Type': 'text/event-stream',
    'Cache-Control': 'no-store, no-transform',
    Connection: 'keep-alive',
    'X-Accel-Buffering': 'no',
  });
  response.write('retry: 1000\n\n');
  response.socket?.setNoDelay(true);
  const send = (event: InstrumentEvent): void => {
    if (response.writableLength > MOST_WAITING_BYTES) return void response.destroy();
    const id = event.kind === 'station' || event.kind === 'claim' ? '' : `id: ${event.seq}\n`;
    response.write(`${id}data: ${JSON.stringify(event)}\n\n`);
  };
  const leave = mine.flatMap((instrument) => [
    hub.station(instrument).listen(send, Number.isFinite(lastId) ? lastId : null),
    // A changed setting is another station: the browser comes back to it by itself.
    hub.onForgotten(instrument.thingId, () => response.end()),
  ]);
  for (const { thingId, claim } of mine) if (claim) send({ ...claimHead(thingId), kind: 'claim', claim });
  leave.push(
    hub.bell.listen(classId, ({ what }) => {
      if (what === 'claim')
        void tellClaims(
          db,
          classId,
          mine.map((i) => i.thingId),
          send,
        );
    }),
  );
  const beat = setInterval(() => response.write(': here\n\n'), HEARTBEAT_MS);
  request.on('close', () => {
    clearInterval(beat);
    leave.forEach((free) => free());
  });
}

const claimHead = (thingId: string) => ({ thingId, seq: 0, at: '' });

async function tellClaims(
  db: Database,
  classId: string,
  thingIds: readonly string[],
  send: (event: InstrumentEvent) => void,
): Promise<void> {
  const now = await instrumentsStore(db).ofClass(classId);
  for (const { thingId, claim } of now) {
    if (thingIds.includes(thingId)) send({ ...claimHead(thingId), kind: 'claim', claim });
  }
}
