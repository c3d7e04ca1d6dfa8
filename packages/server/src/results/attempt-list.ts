import { type Skill, SKILLS, type Verdict, verdictOfMark } from '@clear-mark/core';
import type { AttemptList, AttemptListFilter, AttemptRow, Person } from '@clear-mark/contract';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { dayOf } from '../database/day-in.ts';
import { type Condition, filterCondition, type Scope } from './filter.ts';
import { FAIL_MARKS, JUDGED_MARKS, PASS_MARKS } from './results.store.ts';

/** The longest list that is shown at once; the total stands above it. */
const MOST_ROWS = 100;

const MARKS: Readonly<Record<NonNullable<AttemptListFilter['verdict']>, string>> = {
  pass: "('P')",
  marginal_pass: "('p')",
  marginal_fail: "('f')",
  fail: "('F', 'S')",
  void: "('V')",
  incomplete: "('I')",
  passed: PASS_MARKS,
  failed: FAIL_MARKS,
  judged: JUDGED_MARKS,
};

/** The attempts behind a number: the filter's condition on the outcome of one skill, or of the whole. */
export function listCondition(scope: Scope, filter: AttemptListFilter): Condition {
  const base = filterCondition(scope, filter);
  const parts = [base.sql, 'o.skill = ?'];
  const bindings: (string | number)[] = [...(base.bindings as string[]), filter.skill ?? 'whole'];
  const aboutReading = filter.wavelength !== undefined;
  if (filter.verdict !== undefined && !aboutReading) parts.push(`o.mark in ${MARKS[filter.verdict]}`);
  if (filter.criterion !== undefined) {
    parts.push(
      `exists (select 1 from outcome_criteria c where c.attempt_id = o.attempt_id
                and c.criterion_id = ? and c.mark in ${FAIL_MARKS})`,
    );
    bindings.push(filter.criterion);
  }
  if (filter.wavelength !== undefined) {
    const on = ['l.attempt_id = o.attempt_id', 'l.wavelength_nm = ?'];
    bindings.push(filter.wavelength);
    if (filter.direction !== undefined) {
      on.push('l.direction = ?');
      bindings.push(filter.direction);
    }
    if (filter.lossFrom !== undefined) {
      on.push('l.loss_db >= ?');
      bindings.push(filter.lossFrom - 1e-9);
    }
    if (filter.lossTo !== undefined) {
      on.push('l.loss_db < ?');
      bindings.push(filter.lossTo - 1e-9);
    }
    if (filter.verdict !== undefined) on.push(`l.mark in ${MARKS[filter.verdict]}`);
    parts.push(`exists (select 1 from outcome_losses l where ${on.join(' and ')})`);
  }
  if (filter.firstOnly === 'yes') {
    parts.push(
      `not exists (select 1 from outcome_skills e where e.class_id = o.class_id
                    and e.trainee_id = o.trainee_id and e.skill = o.skill and e.mark in ${JUDGED_MARKS}
                    and (e.started_at, e.attempt_id) < (o.started_at, o.attempt_id))`,
    );
  }
  if (filter.nth !== undefined) {
    const before = base.sql.replace(/\bo\./g, 'e.');
    parts.push(
      `o.mark in ${JUDGED_MARKS} and
       (select count(*) from outcome_skills e where ${before} and e.trainee_id = o.trainee_id and e.skill = o.skill
           and e.mark in ${JUDGED_MARKS} and (e.started_at, e.attempt_id) <= (o.started_at, o.attempt_id)) = ?`,
    );
    bindings.push(...(base.bindings as string[]), filter.nth);
  }
  return { sql: parts.join(' and '), bindings };
}

const COLUMNS = `a.id as "attemptId", a.trainee_id as "traineeId", p.name as "traineeName",
  i.label as "pieceLabel", a.started_at as "startedAt", a.state, r.reason,
  ${dayOf('a.started_at', 'k.time_zone')} as day,
  (select json_object_agg(s.skill, s.mark) from outcome_skills s where s.attempt_id = a.id) as marks,
  coalesce((select json_agg(json_build_object('wavelengthNm', w.nm, 'lossDb', w.db) order by w.nm)
              from (select wavelength_nm as nm, max(loss_db) as db from outcome_losses l
                     where l.attempt_id = a.id group by wavelength_nm) w), '[]') as losses`;

const JOINS = `join people p on p.id = a.trainee_id
  join pieces i on i.id = a.piece_id
  join classes k on k.id = a.class_id
  left join lateral (select reason from signed_revisions where attempt_id = a.id
                      order by revision desc limit 1) r on true`;

interface RawRow extends Omit<AttemptRow, 'verdict' | 'skills'> {
  readonly marks: Readonly<Record<string, string>> | null;
}

export function toAttemptRow({ marks, ...row }: RawRow): AttemptRow {
  const skills: Partial<Record<Skill, Verdict>> = {};
  for (const skill of SKILLS) {
    const mark = marks?.[skill];
    if (mark !== undefined) skills[skill] = verdictOfMark(mark);
  }
  return { ...row, verdict: verdictOfMark(marks?.['whole'] ?? 'I'), skills };
}

export const attemptListService = (db: Database) => ({
  list: async (classId: string, filter: AttemptListFilter, me: Person): Promise<AttemptList> => {
    const summary = await classForInstructor(db, classId, me);
    const where = listCondition({ classId, timeZone: summary.timeZone }, filter);
    const limit = Math.min(filter.last ?? MOST_ROWS, MOST_ROWS);
    const { rows } = await db.raw(
      `with hit as (
         select o.attempt_id, o.started_at from outcome_skills o where ${where.sql}
       ), total as (select count(*)::int as n from hit)
       select total.n as total, ${COLUMNS}
         from total, (select * from hit order by started_at desc, attempt_id desc limit ? offset ?) h
         join attempts a on a.id = h.attempt_id ${JOINS}
        order by a.started_at desc, a.id desc`,
      [...where.bindings, limit, filter.skip ?? 0] as never,
    );
    const total = rows.length === 0 ? 0 : Math.min(rows[0].total, filter.last ?? Infinity);
    return { total, rows: rows.map(({ total: _, ...row }: { total: number } & RawRow) => toAttemptRow(row)) };
  },

  /** A trainee's own record, newest first. */
  own: async (me: Person): Promise<AttemptList> => {
    const { rows } = await db.raw(
      `select ${COLUMNS} from attempts a ${JOINS} where a.trainee_id = ? and a.state <> 'withdrawn'
        order by a.started_at desc, a.id desc limit ?`,
      [me.id, MOST_ROWS],
    );
    return { total: rows.length, rows: rows.map(toAttemptRow) };
  },
});
