import type { StockThing, ThingEvent, ThingSettings } from '@clear-mark/contract';
import type { ThingKind } from '@clear-mark/core';
import type { Database } from '../database/database.ts';
import { rowsOf, sql } from '../database/sql.ts';

/** Equipment as it is counted: all uses since it was new or last serviced. */
export interface CountedThing extends Pick<
  StockThing,
  'id' | 'label' | 'retired' | 'openedAt' | 'servicedAt' | 'used'
> {
  readonly kind: ThingKind;
  readonly settings: ThingSettings;
  /** How often it was serviced. */
  readonly services: number;
  /** Uses a day on which it was used, over the last two weeks. */
  readonly perDay: number;
}
type CountedRow = Omit<CountedThing, 'settings'> & { [K in keyof ThingSettings]: ThingSettings[K] };
export type EventRow = ThingEvent & { readonly thingId: string };
/** Rows that are written together. */
const TOGETHER = 500;
/** Over so many days the pace of use is taken. */
const PACE_DAYS = 14;

const ITEM = sql`s.item, s.uses, s.positions, s.hanging, s.flat, s.trays, s.rest_minutes as "restMinutes", s.expires_at as "expiresAt",
  s.opened_days as "openedDays",
  coalesce(s.due_on, (select i.calibration_due_on from instruments i where i.thing_id = t.id)) as "dueOn"`;

export const stockStore = (db: Database) => ({
  /** The things of a class with what was used of them; those of one id alone where one is given. */
  things: async (classId: string, now: Date, thingId: string | null = null): Promise<CountedThing[]> => {
    const rows = await rowsOf<CountedRow>(
      db,
      sql`select t.id, t.kind, t.label, t.retired_at is not null as retired, ${ITEM},
                 e.opened as "openedAt", e.serviced as "servicedAt", coalesce(e.services, 0) as services,
                 (coalesce(u.used, 0) + coalesce(c.corrected, 0))::int as used, coalesce(u.per_day, 0)::float8 as "perDay"
            from things t
            left join thing_settings s on s.thing_id = t.id
            left join lateral (
              select max(at) filter (where act = 'opened') as opened,
                     (count(*) filter (where act = 'serviced'))::int as services,
                     -- A test cord is serviced when it is checked.
                     greatest(max(at) filter (where act = 'serviced'),
                              (select max(k.at) from cord_checks k where k.thing_id = t.id)) as serviced
                from thing_events where thing_id = t.id) e on true
            left join lateral (
              select sum(amount) as corrected from thing_events
               where thing_id = t.id and at >= coalesce(e.serviced, '-infinity')) c on true
            left join lateral (
              select sum(x.uses) filter (where a.started_at >= coalesce(e.serviced, '-infinity')) as used,
                     sum(x.uses) filter (where a.started_at > ${now}::timestamptz - make_interval(days => ${PACE_DAYS}))
                     / nullif(count(distinct a.started_at::date)
                         filter (where a.started_at > ${now}::timestamptz - make_interval(days => ${PACE_DAYS})), 0) as per_day
                from attempt_uses x join attempts a on a.id = x.attempt_id
               where x.thing_id = t.id and a.withdrawn_at is null) u on true
           where t.class_id = ${classId} and (${thingId}::uuid is null or t.id = ${thingId}::uuid)
           order by t.kind, length(t.label), t.label`,
    );
    return rows.map(
      ({
        item,
        uses,
        positions,
        hanging,
        flat,
        trays,
        restMinutes,
        expiresAt,
        openedDays,
        dueOn,
        ...thing
      }): CountedThing => ({
        ...thing,
        settings: { item, uses, positions, hanging, flat, trays, restMinutes, expiresAt, openedDays, dueOn },
      }),
    );
  },

  events: (classId: string): Promise<EventRow[]> =>
    rowsOf(
      db,
      sql`select e.thing_id as "thingId", e.id, e.act, e.left_over as "left", e.reason, p.name as by, e.at
            from thing_events e join people p on p.id = e.by
           where e.class_id = ${classId} order by e.at desc, e.id desc`,
    ),

  /** False where the class has no such thing. */
  set: async (classId: string, thingId: string, s: ThingSettings): Promise<boolean> => {
    const row = {
      item: s.item,
      uses: s.uses,
      positions: s.positions,
      hanging: s.hanging,
      flat: s.flat,
      trays: s.trays,
      rest_minutes: s.restMinutes,
      expires_at: s.expiresAt,
      opened_days: s.openedDays,
      due_on: s.dueOn,
    };
    const there = await db('things').where({ class_id: classId, id: thingId }).forShare().first();
    if (!there) return false;
    await db('thing_settings')
      .insert({ thing_id: thingId, class_id: classId, ...row })
      .onConflict('thing_id')
      .merge(row);
    return true;
  },

  /** Kept once: the same id again changes nothing. */
  addEvent: async (
    classId: string,
    thingId: string,
    event: Omit<ThingEvent, 'by' | 'at'> & { readonly amount: number },
    by: string,
    at: Date,
  ): Promise<void> => {
    await db('thing_events')
      .insert({
        id: event.id,
        class_id: classId,
        thing_id: thingId,
        act: event.act,
        amount: event.amount,
        left_over: event.left,
        reason: event.reason,
        by,
        at,
      })
      .onConflict('id')
      .ignore();
  },

  /** What attempts take: their lots are things of the attempts as well, so that results can be split by them. */
  addUsesOf: async (
    classId: string,
    attempts: readonly {
      readonly attemptId: string;
      readonly taken: readonly { readonly lotId: string; readonly uses: number }[];
    }[],
  ): Promise<void> => {
    const rows = attempts.flatMap(({ attemptId, taken }) =>
      taken.map((t) => ({ attempt_id: attemptId, class_id: classId, thing_id: t.lotId, uses: t.uses })),
    );
    if (rows.length === 0) return;
    await db.batchInsert('attempt_uses', rows, TOGETHER);
    await db.raw(
      `insert into attempt_things (attempt_id, class_id, thing_id)
         select attempt_id, class_id, thing_id from attempt_uses where attempt_id = any(?::uuid[])
       on conflict do nothing`,
      [attempts.map((a) => a.attemptId)],
    );
  },
});
