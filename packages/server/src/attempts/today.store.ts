import type { Database } from '../database/database.ts';
import { fromDay, untilDay } from '../database/day-in.ts';
import { own, rowsOf, sql } from '../database/sql.ts';
import { WHOLE } from './sign.store.ts';

export interface SignedRow {
  readonly traineeId: string;
  readonly attemptId: string;
  readonly pieceLabel: string;
  readonly mark: string;
}
/** One thing of a trainee's latest attempt; a row without a thing when it used none. */
export interface LastUsedRow {
  readonly traineeId: string;
  readonly versionId: string;
  /** When the latest piece was signed; null while it is open. */
  readonly signedAt: string | null;
  readonly id: string | null;
  readonly kind: string;
  readonly label: string;
}

export const todayStore = (db: Database) => ({
  signedOn: (classId: string, day: string, timeZone: string): Promise<SignedRow[]> => {
    const startedAt = own('o.started_at');
    return rowsOf(
      db,
      sql`select o.trainee_id as "traineeId", o.attempt_id as "attemptId", p.label as "pieceLabel", o.mark
            from outcome_skills o
            join attempts a on a.id = o.attempt_id
            join pieces p on p.id = a.piece_id
           where o.class_id = ${classId} and o.skill = ${WHOLE}
             and ${fromDay(startedAt, day, timeZone)} and ${untilDay(startedAt, day, timeZone)}
           order by o.started_at`,
    );
  },

  /** What each trainee's latest attempt was made by and with. */
  lastUsed: (classId: string): Promise<LastUsedRow[]> =>
    rowsOf(
      db,
      sql`select a.trainee_id as "traineeId", a.method_version_id as "versionId",
                 (select max(signed_at) from signed_revisions r where r.attempt_id = a.id) as "signedAt",
                 t.id, t.kind, t.label
            from class_members m
            cross join lateral (
              select id, trainee_id, method_version_id from attempts
               where trainee_id = m.person_id and class_id = m.class_id
               order by started_at desc limit 1
            ) a
            left join attempt_things x on x.attempt_id = a.id
            left join things t on t.id = x.thing_id and t.retired_at is null
           where m.class_id = ${classId} and m.role = 'trainee' and m.left_at is null
           order by t.kind`,
    ),

  pieceCounts: (classId: string): Promise<{ traineeId: string; n: number }[]> =>
    rowsOf(
      db,
      sql`select trainee_id as "traineeId", count(id)::int as n from attempts
           where class_id = ${classId} group by trainee_id`,
    ),
});
