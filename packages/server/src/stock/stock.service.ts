import { type Lot, type Need, takeLots, type ThingState, thingState } from '@clear-mark/core';
import type { NewThingEventBody, Person, Stock, StockThing, ThingSettings } from '@clear-mark/contract';
import type { z } from 'zod';
import { classForInstructor } from '../classes/index.ts';
import { courseStore, workIn } from '../course/index.ts';
import type { Database } from '../database/database.ts';
import { oneAtATime } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import { type CountedThing, stockStore } from './stock.store.ts';

/** Equipment and lots of a class: what is set of them, what is left, what falls due. */
export const stockService = (db: Database) => ({
  stock: async (classId: string, me: Person, now: Date): Promise<Stock> => {
    await classForInstructor(db, classId, me);
    const store = stockStore(db);
    const events = await store.events(classId);
    const things = (await store.things(classId, now)).map((thing): StockThing => {
      const { perDay: _, services, ...shown } = thing;
      const { positions } = thing.settings;
      const { goodUntilMs, ...state } = stateOf(thing, now);
      return {
        ...shown,
        left: state.left,
        position: positions === null ? null : (services % positions) + 1,
        lastsDays: state.lastsDays,
        warnings: [...state.warnings],
        goodUntil: goodUntilMs === null ? null : new Date(goodUntilMs).toISOString(),
        events: events.filter((e) => e.thingId === thing.id).map(({ thingId: _thing, ...event }) => event),
      };
    });
    return { things, items: await courseStore(db).items(classId) };
  },

  set: async (classId: string, thingId: string, settings: ThingSettings, me: Person): Promise<void> => {
    await classForInstructor(db, classId, me);
    const isThere = await db.transaction(async (trx) => {
      const items = await courseStore(trx).items(classId);
      if (settings.item !== null && !items.some((i) => i.id === settings.item))
        throw new AppError('stock.no_such_item', { item: settings.item });
      return stockStore(trx).set(classId, thingId, settings);
    });
    if (!isThere) throw new AppError('not_found.thing');
  },

  /** Under the class's lock, as pieces are begun: a correction says what is left now, and nothing is counted between. */
  addEvent: (
    classId: string,
    thingId: string,
    { left, ...event }: z.infer<typeof NewThingEventBody>,
    me: Person,
    now: Date,
  ): Promise<void> =>
    oneAtATime(db, 'class', classId, async (trx) => {
      await classForInstructor(trx, classId, me);
      const store = stockStore(trx);
      const thing = (await store.things(classId, now, thingId))[0];
      if (!thing) throw new AppError('not_found.thing');
      const corrected = event.act === 'corrected';
      if (corrected && (thing.settings.uses === null || left === null))
        throw new AppError('stock.not_counted', { label: thing.label });
      const amount = corrected ? thing.settings.uses! - left! - thing.used : 0;
      await store.addEvent(classId, thingId, { ...event, left: corrected ? left : null, amount }, me.id, now);
    }),
});

/** What is left of a thing, and what is wrong with it. A check that is due on a day is due when that day begins in UTC. */
export function stateOf({ settings, used, perDay, openedAt }: CountedThing, now: Date): ThingState {
  const ms = (at: string | null): number | null => (at === null ? null : Date.parse(at));
  return thingState(
    {
      uses: settings.uses,
      used,
      perDay,
      expiresMs: ms(settings.expiresAt),
      openedMs: ms(openedAt),
      openedDays: settings.openedDays,
      dueMs: ms(settings.dueOn),
    },
    now.getTime(),
  );
}

/** Lots of a class that can be taken from. */
export const lotsOf = (things: readonly CountedThing[], now: Date): Lot[] =>
  things.flatMap((thing) => {
    const { left, goodUntilMs } = stateOf(thing, now);
    const { item } = thing.settings;
    return item === null || thing.retired || left === null
      ? []
      : [{ id: thing.id, item, left, goodUntilMs, isOpened: thing.openedAt !== null }];
  });

/**
 * What a new attempt takes of stock and of tools that wear, counted without anyone typing: its method's items from the lots whose turn it is, or from
 * those that were picked; arcs, cleaves and matings of the tools that were picked. What is short is not taken: scoring waits for no stock.
 */
export async function takeStock(
  trx: Database,
  classId: string,
  attempt: { readonly id: string; readonly methodId: string; readonly thingIds: readonly string[] },
  at: Date,
): Promise<void> {
  const { items, tools } = (await workIn(trx, classId))(attempt.methodId);
  const things = await stockStore(trx).things(classId, at);
  const isPicked = (id: string): boolean => attempt.thingIds.includes(id);
  const lots = lotsOf(things, at);
  const needs = Object.entries(items).map(([item, uses]): Need => ({ item, uses }));
  const ofTurn = lots.filter((l) => isPicked(l.id) || !lots.some((o) => o.item === l.item && isPicked(o.id)));
  const worn = things.flatMap(({ id, kind }) => {
    const uses = isPicked(id) ? tools[kind as keyof typeof tools] : undefined;
    return uses === undefined ? [] : [{ lotId: id, uses }];
  });
  const taken = [...takeLots(ofTurn, needs, at.getTime()).taken, ...worn];
  await stockStore(trx).addUsesOf(classId, [{ attemptId: attempt.id, taken }]);
}
