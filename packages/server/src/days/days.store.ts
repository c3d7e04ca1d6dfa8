import type { DayLoad, DayPlanBody, OwnDay, PlannedDay, Timed } from '@clear-mark/contract';
import { JUDGED_MARKS } from '@clear-mark/core';
import type { Database } from '../database/database.ts';
import { fromDay, untilDay } from '../database/day-in.ts';
import { rowsOf, sql } from '../database/sql.ts';

type Content = Omit<DayPlanBody, 'version'>;
export interface SavedDay {
  readonly content: Content;
  readonly version: number;
  readonly changedAt: string;
  readonly changedBy: string;
}
export interface TimedRow extends Timed {
  readonly methodId: string;
  /** Null for all trainees of the class together. */
  readonly traineeId: string | null;
}
/** So many of the newest pieces of each trainee say how long one takes. */
const NEWEST = 20;

/** A plan that was kept before days had benches and trays. */
const filled = (content: Content): Content => ({
  ...content,
  benches: content.benches ?? {},
  ovens: content.ovens.map((o) => ({ ...o, trays: o.trays ?? 1 })),
});

export const daysStore = (db: Database) => ({
  saved: async (classId: string, day: string): Promise<SavedDay | null> => {
    const rows = await rowsOf<SavedDay>(
      db,
      sql`select d.content, d.version, d.changed_at as "changedAt", p.name as "changedBy"
            from class_days d join people p on p.id = d.changed_by
           where d.class_id = ${classId} and d.day = ${day}`,
    );
    return rows[0] ? { ...rows[0], content: filled(rows[0].content) } : null;
  },

  /** Pieces of a class that were begun on a day of its zone and are signed. */
  signed: (classId: string, day: string, zone: string): Promise<PlannedDay['signed']> =>
    rowsOf(
      db,
      sql`select trainee_id as "traineeId", method_version_id as "versionId", count(*)::int as n
            from attempts
           where class_id = ${classId} and state = 'signed'
             and ${fromDay(sql`started_at`, day, zone)} and ${untilDay(sql`started_at`, day, zone)}
           group by 1, 2`,
    ),

  /** At which bench each trainee of a class worked last. */
  benches: async (classId: string): Promise<Record<string, string>> => {
    const rows = await rowsOf<{ traineeId: string; thingId: string }>(
      db,
      sql`select distinct on (a.trainee_id) a.trainee_id as "traineeId", t.id as "thingId"
            from attempts a join attempt_things x on x.attempt_id = a.id
            join things t on t.id = x.thing_id and t.kind = 'bench' and t.retired_at is null
           where a.class_id = ${classId} order by a.trainee_id, a.started_at desc`,
    );
    return Object.fromEntries(rows.map((r) => [r.traineeId, r.thingId]));
  },

  /** Keeps the day as the next version; false where its version is another by now. One statement, so that of two who save at once one is told. */
  save: async (
    classId: string,
    day: string,
    { version, ...content }: DayPlanBody,
    by: string,
    at: Date,
  ): Promise<boolean> => {
    const row = { content: JSON.stringify(content), changed_by: by, changed_at: at };
    if (version === 0) {
      const made = await db('class_days')
        .insert({ class_id: classId, day, version: 1, ...row })
        .onConflict(['class_id', 'day'])
        .ignore()
        .returning('version');
      return made.length === 1;
    }
    const changed = await db('class_days')
      .where({ class_id: classId, day, version })
      .update({ ...row, version: version + 1 });
    return changed === 1;
  },

  loads: (classId: string, day: string): Promise<DayLoad[]> =>
    db('day_loads')
      .select([
        'id',
        'thing_id as ovenId',
        'schedule',
        'members',
        'started_at as startedAt',
        'ends_at as endsAt',
        'taken_out_at as takenOutAt',
      ])
      .where({ class_id: classId, day })
      .orderBy('started_at')
      .orderBy('id'),

  addLoad: async (
    classId: string,
    day: string,
    load: Omit<DayLoad, 'startedAt' | 'endsAt' | 'takenOutAt'> & { startedAt: Date; endsAt: Date },
    by: string,
  ): Promise<void> => {
    await db('day_loads')
      .insert({
        id: load.id,
        class_id: classId,
        day,
        thing_id: load.ovenId,
        schedule: load.schedule,
        members: JSON.stringify(load.members),
        started_at: load.startedAt,
        ends_at: load.endsAt,
        by,
      })
      .onConflict('id')
      .ignore();
  },
  /** False where there is no such load; one that is out already stays as it was. */
  takeOut: async (classId: string, day: string, id: string, at: Date): Promise<boolean> =>
    (await db('day_loads')
      .where({ class_id: classId, day, id })
      .update({ taken_out_at: db.raw('coalesce(taken_out_at, ?)', [at]) })) === 1,

  /** Things of other classes' plans of that day that have the kind and the label of one that is planned with here. */
  clashes: (
    classId: string,
    day: string,
    thingIds: readonly string[],
  ): Promise<{ thingId: string; label: string; className: string }[]> =>
    rowsOf(
      db,
      sql`select t.id as "thingId", t.label, c.name as "className"
            from things t
            join things o on o.kind = t.kind and o.label = t.label and o.class_id <> t.class_id
            join class_days d on d.class_id = o.class_id and d.day = ${day}
            join classes c on c.id = d.class_id
           where t.class_id = ${classId} and t.id = any(${thingIds}::uuid[])
             and (d.content -> 'ovens' @> jsonb_build_array(jsonb_build_object('id', o.id))
               or exists (select 1 from jsonb_each(d.content -> 'stations') s where jsonb_exists(s.value, o.id::text)))
           order by t.label, c.name`,
    ),

  /** Minutes of whole pieces by method, of the class and of each trainee: the median and the middle half. */
  timed: (classId: string): Promise<TimedRow[]> =>
    rowsOf(
      db,
      sql`select method_id as "methodId", trainee_id as "traineeId", count(*)::int as n,
                 percentile_cont(0.5) within group (order by minutes)::float8 as median,
                 percentile_cont(0.25) within group (order by minutes)::float8 as "from",
                 percentile_cont(0.75) within group (order by minutes)::float8 as "to"
            from (select method_id, trainee_id, minutes,
                         row_number() over (partition by trainee_id, method_id order by started_at desc) as newest
                    from outcome_skills
                   where class_id = ${classId} and skill = 'whole' and mark = any(${JUDGED_MARKS})
                     and minutes > 0) o
           where newest <= ${NEWEST}
           group by grouping sets ((method_id, trainee_id), (method_id))`,
    ),

  /** Plans from a day on in which somebody has pieces, with what their places are called. */
  ofTrainee: async (
    personId: string,
    now: Date,
  ): Promise<(Pick<OwnDay, 'classId' | 'className' | 'day'> & { content: Content })[]> => {
    const rows = await rowsOf<Pick<OwnDay, 'classId' | 'className' | 'day'> & { content: Content }>(
      db,
      sql`select c.id as "classId", c.name as "className", d.day, d.content
            from class_days d join classes c on c.id = d.class_id
            join class_members m on m.class_id = c.id and m.person_id = ${personId} and m.left_at is null
           where d.day >= (${now}::timestamptz at time zone c.time_zone)::date
           order by d.day limit 5`,
    );
    return rows.map((row) => ({ ...row, content: filled(row.content) }));
  },
  labels: async (classIds: readonly string[]): Promise<Map<string, string>> => {
    const rows = await db('things')
      .whereIn('class_id', classIds)
      .select<{ id: string; label: string }[]>(['id', 'label']);
    return new Map(rows.map((r) => [r.id, r.label]));
  },
  titles: async (versionIds: readonly string[]): Promise<Map<string, string>> => {
    const rows = await db('method_versions')
      .whereIn('id', versionIds)
      .select<{ id: string; title: string }[]>(['id', 'title']);
    return new Map(rows.map((r) => [r.id, r.title]));
  },
});
