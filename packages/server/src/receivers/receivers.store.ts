import type { Delivery, Receiver, ReceiverKind } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { rowsOf, type Sql, sql } from '../database/sql.ts';
import type { RecordToTell } from './statements.ts';

/** Something to be told, with whom it is told to. */
export interface Due {
  readonly id: string;
  readonly event: string;
  readonly at: Date | string;
  readonly classId: string | null;
  readonly subjectId: string | null;
  readonly revision: number | null;
  /** Tries before this one. */
  readonly tries: number;
  readonly kind: ReceiverKind;
  readonly address: string;
  readonly secret: string;
  readonly home: string;
}

const MOST_AT_ONCE = 20;
/** A process that was lost while it sent gives the row back after this. */
const LEASE = '1 minute';

const recordsWhere = (where: Sql): Sql => sql`
  select a.id as "attemptId", r.revision, r.kind, a.class_id as "classId", c.name as "className",
         a.trainee_id as "traineeId", p.name as "traineeName", s.id as "signedById", s.name as "signedByName",
         r.signed_at as "signedAt", a.started_at as "startedAt", i.label as "pieceLabel", v.method_id as "methodId",
         v.version as "methodVersion", v.title as "methodTitle", r.outcome ->> 'verdict' as verdict,
         (r.outcome #>> '{points,earned}')::float8 as earned, (r.outcome #>> '{points,possible}')::float8 as possible
    from signed_revisions r
    join attempts a on a.id = r.attempt_id
    join classes c on c.id = a.class_id
    join people p on p.id = a.trainee_id
    join people s on s.id = r.signed_by
    join pieces i on i.id = a.piece_id
    join method_versions v on v.id = a.method_version_id
   where ${where} order by r.class_seq`;

export const receiversStore = (db: Database) => ({
  all: (): Promise<Receiver[]> =>
    rowsOf(
      db,
      sql`select r.id, r.kind, r.label, r.address, r.events, r.paused,
                 (select count(*) from deliveries d where d.receiver_id = r.id
                    and d.delivered_at is null and d.given_up_at is null)::int as waiting,
                 (select count(*) from deliveries d where d.receiver_id = r.id and d.given_up_at is not null)::int as lost
            from receivers r order by r.label, r.made_at`,
    ),
  insert: async (row: {
    readonly id: string;
    readonly kind: ReceiverKind;
    readonly label: string;
    readonly address: string;
    readonly home: string;
    readonly secret: string;
    readonly events: readonly string[];
    readonly by: string;
  }): Promise<void> => {
    const { by, events, ...rest } = row;
    await db('receivers').insert({ ...rest, events: [...events], made_by: by });
  },
  pause: async (id: string, paused: boolean): Promise<boolean> =>
    (await db('receivers').where({ id }).update({ paused })) > 0,
  drop: async (id: string): Promise<boolean> => (await db('receivers').where({ id }).delete()) > 0,
  isThere: async (id: string): Promise<boolean> =>
    (await db('receivers').where({ id }).first('id')) !== undefined,

  deliveries: async (receiverId: string): Promise<Delivery[]> => {
    const rows = await rowsOf<Delivery & { deliveredAt: Date | null; givenUpAt: Date | null }>(
      db,
      sql`select id, event, at, tries, next_try as "nextTry", delivered_at as "deliveredAt",
                 given_up_at as "givenUpAt", last_answer as "lastAnswer"
            from deliveries where receiver_id = ${receiverId} order by at desc, id limit 50`,
    );
    const iso = (at: Date | string): string => new Date(at).toISOString();
    const orNull = (at: Date | string | null): string | null => (at === null ? null : iso(at));
    return rows.map((r) => ({
      ...r,
      at: iso(r.at),
      nextTry: iso(r.nextTry),
      deliveredAt: orNull(r.deliveredAt),
      givenUpAt: orNull(r.givenUpAt),
    }));
  },
  addTry: async (receiverId: string): Promise<void> => {
    await db('deliveries').insert({ receiver_id: receiverId, event: 'try' });
  },
  again: async (receiverId: string, id: string): Promise<boolean> =>
    (await db('deliveries').where({ receiver_id: receiverId, id }).whereNull('delivered_at').update({
      tries: 0,
      next_try: db.fn.now(),
      given_up_at: null,
    })) > 0,

  /** Takes what is due for this process: for others it is not due again before the lease ends. */
  take: (): Promise<Due[]> =>
    rowsOf(
      db,
      sql`update deliveries d set next_try = now() + ${LEASE}::interval, tries = d.tries + 1
            from receivers r
           where r.id = d.receiver_id and d.id in (
             select d2.id from deliveries d2 join receivers r2 on r2.id = d2.receiver_id and not r2.paused
              where d2.delivered_at is null and d2.given_up_at is null and d2.next_try <= now()
              order by d2.next_try limit ${MOST_AT_ONCE} for update of d2 skip locked)
          returning d.id, d.event, d.at, d.class_id as "classId", d.subject_id as "subjectId", d.revision,
                    d.tries - 1 as tries, r.kind, r.address, r.secret, r.home`,
    ),
  delivered: async (id: string, answer: string): Promise<void> => {
    await db('deliveries').where({ id }).update({ delivered_at: db.fn.now(), last_answer: answer });
  },
  failed: async (id: string, answer: string, waitSeconds: number): Promise<void> => {
    await rowsOf(
      db,
      sql`update deliveries set last_answer = ${answer}, next_try = now() + make_interval(secs => ${waitSeconds})
           where id = ${id}`,
    );
  },
  givenUp: async (id: string, answer: string): Promise<void> => {
    await db('deliveries').where({ id }).update({ given_up_at: db.fn.now(), last_answer: answer });
  },
  /** What was delivered long ago is forgotten. */
  forgetOld: async (): Promise<void> => {
    await db('deliveries').whereRaw(`delivered_at < now() - interval '30 days'`).delete();
  },

  record: async (attemptId: string, revision: number): Promise<RecordToTell | null> =>
    (
      await rowsOf<RecordToTell>(
        db,
        recordsWhere(sql`r.attempt_id = ${attemptId} and r.revision = ${revision}`),
      )
    )[0] ?? null,
  /** Every record of a class in the order of its chain, the earlier ones of amended pieces included. */
  recordsOf: (classId: string): Promise<RecordToTell[]> =>
    rowsOf(db, recordsWhere(sql`r.class_id = ${classId}`)),
});
