import { FILES, type InstrumentEvent, type Person, ROUTES } from '@clear-mark/contract';
import type { Request, Response, Router } from 'express';
import { classForMember } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { eventStream } from '../live/index.ts';
import { handle, handleFile } from '../http/handle.ts';
import type { ReadingStamps } from '../stamps/index.ts';
import type { InstrumentHub } from './hub.ts';
import { claimsService } from './claims.service.ts';
import { instrumentsService } from './instruments.service.ts';
import { instrumentsStore } from './instruments.store.ts';
import { orderStandIns, standInPiece } from './stand-ins.ts';

const DONE = { done: true } as const;

export interface InstrumentParts {
  readonly db: Database;
  readonly hub: InstrumentHub;
  readonly now: () => Date;
  /** Port of the simulated bench's control; null outside the demo. */
  readonly standInsPort: number | null;
  readonly stamps: ReadingStamps;
  /** Where instruments may be, beside this machine. */
  readonly networks: readonly string[];
}

export function instrumentRoutes(router: Router, parts: InstrumentParts): void {
  const { db, hub, now, standInsPort, networks } = parts;
  const instruments = instrumentsService(db, hub, networks);
  const claims = claimsService(db, hub);
  handle(router, ROUTES.instruments, ({ params, me }) => instruments.list(params.id, me));
  handle(router, ROUTES.setInstrument, ({ params, body, me }) =>
    instruments.set(params.id, params.thingId, body, me),
  );
  handle(router, ROUTES.dropInstrument, async ({ params, me }) => {
    await instruments.drop(params.id, params.thingId, me);
    return DONE;
  });
  handle(router, ROUTES.claimInstrument, ({ params, body, me }) =>
    claims.claim(params.id, params.thingId, body, me, now()),
  );
  handle(router, ROUTES.releaseInstrument, async ({ params, me }) => {
    await claims.release(params.id, params.thingId, params.deviceId, me, now());
    return DONE;
  });
  handle(router, ROUTES.orderInstrument, async ({ params, body, me }) => {
    await claims.order(params.id, params.thingId, body, me, now());
    return DONE;
  });
  handle(router, ROUTES.standInPiece, () => standInPiece(standInsPort));
  handle(router, ROUTES.standInAct, ({ body }) => orderStandIns(standInsPort, body));

  handleFile(router, FILES.instrumentEvents, async ({ id, me, request, response }) => {
    const classId = id('id', 'not_found.class');
    await classForMember(db, classId, me);
    await stream(request, response, parts, classId, me);
  });
}

/**
 * What the instruments of a class show, as it comes: each event under its own number, so that a client whose stream was
 * cut names the last one and is given what it missed. `?things=` takes some of the class's instruments. Each reading goes
 * out with the proof that it was given out.
 */
async function stream(
  request: Request,
  response: Response,
  { db, hub, stamps }: InstrumentParts,
  classId: string,
  me: Person,
): Promise<void> {
  const wanted = String(request.query['things'] ?? '');
  const only = wanted === '' ? null : new Set(wanted.split(','));
  const all = await instrumentsStore(db).ofClass(classId);
  const mine = all.filter((i) => only === null || only.has(i.thingId));
  const lastId = Number(request.get('last-event-id') ?? Number.NaN);
  const after = Number.isSafeInteger(lastId) ? lastId : null;
  eventStream(request, response, hub.notifier, ({ write, end }) => {
    const send = (event: InstrumentEvent): void => {
      const id = event.kind === 'station' || event.kind === 'claim' ? '' : `id: ${event.seq}\n`;
      const told = me.role === 'lead' ? event : withoutCause(event);
      write(`${id}data: ${JSON.stringify({ ...told, ...stamps.of(classId, event) })}\n\n`);
    };
    const leave = mine.flatMap((instrument) => [
      hub.station(instrument).listen(send, after),
      // A changed setting is another station: the browser comes back to it by itself.
      hub.onForgotten(instrument.thingId, end),
    ]);
    for (const { thingId, claim } of mine) if (claim) send({ ...claimHead(thingId), kind: 'claim', claim });
    const ids = mine.map((i) => i.thingId);
    leave.push(
      hub.notifier.listen(classId, ({ what }) => {
        if (what === 'claim') void tellClaims(db, classId, ids, send).catch(() => undefined);
      }),
    );
    return () => leave.forEach((free) => free());
  });
}

/** That nothing comes, and not why: what answers behind an address is for those who may set it. */
const withoutCause = (event: InstrumentEvent): InstrumentEvent =>
  event.kind === 'station' && event.fault !== null ? { ...event, fault: 'no_answer' } : event;

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
