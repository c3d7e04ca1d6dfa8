import { marksOf, type Verdict } from '@clear-mark/core';
import type { AttemptOrder, AttemptRow } from '@clear-mark/contract';
import type { Database } from '../../database/database.ts';
import { dayOf } from '../../database/day-in.ts';
import { own, rowsOf, type Sql, sql } from '../../database/sql.ts';

export interface AttemptListRow extends Omit<AttemptRow, 'verdict' | 'skills'> {
  readonly marks: Readonly<Record<string, string>> | null;
}

const COLUMNS = sql`a.id as "attemptId", a.trainee_id as "traineeId", p.name as "traineeName",
  i.label as "pieceLabel", v.title as "methodTitle", a.started_at as "startedAt", a.state, r.reason,
  ${dayOf(own('a.started_at'), own('k.time_zone'))} as day,
  (select json_object_agg(s.skill, s.mark) from outcome_skills s where s.attempt_id = a.id) as marks,
  coalesce((select json_agg(json_build_object('wavelengthNm', w.nm, 'lossDb', w.db) order by w.nm)
              from (select wavelength_nm as nm, max(loss_db) as db from outcome_losses l
                     where l.attempt_id = a.id group by wavelength_nm) w), '[]') as losses`;

const JOINS = sql`join people p on p.id = a.trainee_id
  join pieces i on i.id = a.piece_id
  join method_versions v on v.id = a.method_version_id
  join classes k on k.id = a.class_id
  left join lateral (select reason from signed_revisions where attempt_id = a.id
                      order by revision desc limit 1) r on true`;

export interface ListOrder {
  readonly sort: AttemptOrder;
  /** From the least on. */
  readonly up: boolean;
}

const BEST_FIRST: readonly Verdict[] = ['pass', 'marginal_pass', 'marginal_fail', 'fail'];

/** What each order goes by; equal ones follow by their start. Verdicts from a pass to a fail, then what has none. */
const KEYS: Readonly<Record<AttemptOrder, Sql>> = {
  started: own('null::int'),
  trainee: sql`(select lower(kp.name) from people kp where kp.id = o.trainee_id)`,
  piece: sql`(select lower(ki.label) from attempts ka join pieces ki on ki.id = ka.piece_id where ka.id = o.attempt_id)`,
  method: sql`(select lower(kv.title) from attempts ka join method_versions kv on kv.id = ka.method_version_id
                where ka.id = o.attempt_id)`,
  verdict: sql`array_position(${BEST_FIRST.flatMap((v) => marksOf(v))}::text[], o.mark::text)`,
};

export const attemptListStore = (db: Database) => ({
  /** A page of the attempts whose outcome meets a condition, in an order, and how many meet it in all. */
  page: async (
    where: Sql,
    { sort, up }: ListOrder,
    limit: number,
    skip: number,
  ): Promise<{ total: number; rows: AttemptListRow[] }> => {
    const inOrder = up
      ? sql`h.key asc, h.started_at asc, h.attempt_id asc`
      : sql`h.key desc nulls last, h.started_at desc, h.attempt_id desc`;
    const rows = await rowsOf<AttemptListRow & { total: number }>(
      db,
      sql`with hit as (
            select o.attempt_id, o.started_at, ${KEYS[sort]} as key from outcome_skills o where ${where}
          ), total as (select count(*)::int as n from hit)
          select total.n as total, ${COLUMNS}
            from total, (select * from hit h order by ${inOrder} limit ${limit} offset ${skip}) h
            join attempts a on a.id = h.attempt_id ${JOINS}
           order by ${inOrder}`,
    );
    return { total: rows[0]?.total ?? 0, rows: rows.map(({ total: _, ...row }) => row) };
  },

  /** The newest attempts of one trainee, in all classes. */
  ofTrainee: (traineeId: string, limit: number): Promise<AttemptListRow[]> =>
    rowsOf(
      db,
      sql`select ${COLUMNS} from attempts a ${JOINS}
           where a.trainee_id = ${traineeId} and a.state <> 'withdrawn'
           order by a.started_at desc, a.id desc limit ${limit}`,
    ),
});
