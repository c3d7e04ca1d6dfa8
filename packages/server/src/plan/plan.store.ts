import type { Skill } from '@clear-mark/core';
import type { PlanSession } from '@clear-mark/contract';
import type { Database } from '../database/database.ts';
import { JUDGED_MARKS } from '@clear-mark/core';
import { rowsOf, sql } from '../database/sql.ts';

export interface PlanRow {
  readonly id: string;
  readonly traineeId: string;
  readonly skill: Skill;
  readonly openedAt: string;
  readonly closedAt: string | null;
  readonly reopened: number;
  readonly pieces: number | null;
  readonly minutes: number | null;
  readonly drill: string | null;
  readonly sessionId: string | null;
}
export type PlanEdit = Pick<PlanRow, 'pieces' | 'minutes' | 'drill' | 'sessionId'>;

const ITEM = [
  'id',
  'trainee_id as traineeId',
  'skill',
  'opened_at as openedAt',
  'closed_at as closedAt',
  'reopened',
  'pieces',
  'minutes',
  'drill',
  'session_id as sessionId',
];

export const planStore = (db: Database) => ({
  items: (classId: string): Promise<PlanRow[]> =>
    db('plan_items').select(ITEM).where({ class_id: classId }).orderBy('opened_at').orderBy('id'),

  open: async (classId: string, item: { id: string; traineeId: string; skill: Skill }, at: Date) => {
    await db('plan_items')
      .insert({
        id: item.id,
        class_id: classId,
        trainee_id: item.traineeId,
        skill: item.skill,
        opened_at: at,
      })
      .onConflict(['class_id', 'trainee_id', 'skill'])
      .ignore();
  },
  close: async (id: string, at: Date): Promise<void> => {
    await db('plan_items').where({ id }).whereNull('closed_at').update({ closed_at: at });
  },
  /** What it was planned with before belongs to the time before. */
  reopen: async (id: string, at: Date): Promise<void> => {
    await db('plan_items')
      .where({ id })
      .whereNotNull('closed_at')
      .update({
        closed_at: null,
        opened_at: at,
        pieces: null,
        minutes: null,
        drill: null,
        session_id: null,
        reopened: db.raw('reopened + 1'),
      });
  },
  edit: async (classId: string, id: string, edit: PlanEdit): Promise<boolean> =>
    (await db('plan_items').where({ class_id: classId, id }).update({
      pieces: edit.pieces,
      minutes: edit.minutes,
      drill: edit.drill,
      session_id: edit.sessionId,
    })) === 1,

  sessions: (classId: string): Promise<PlanSession[]> =>
    db('plan_sessions')
      .select(['id', 'starts_at as startsAt', 'minutes', 'place'])
      .where({ class_id: classId })
      .orderBy('starts_at')
      .orderBy('id'),

  /** Whether there is such a session; it is not dropped before the transaction has ended. */
  lockSession: async (classId: string, id: string): Promise<boolean> =>
    (await db('plan_sessions').where({ class_id: classId, id }).forShare().first()) !== undefined,

  /** New or changed, in one statement; false where the id is a session of another class. */
  saveSession: async (classId: string, session: PlanSession): Promise<boolean> => {
    const row = { starts_at: session.startsAt, minutes: session.minutes, place: session.place };
    const saved = await db('plan_sessions')
      .insert({ id: session.id, class_id: classId, ...row })
      .onConflict('id')
      .merge(row)
      .where('plan_sessions.class_id', classId)
      .returning('id');
    return saved.length === 1;
  },
  /** Its items stay in the plan, without a session. */
  dropSession: async (classId: string, id: string): Promise<boolean> => {
    await db('plan_sessions').where({ class_id: classId, id }).forUpdate().first();
    await db('plan_items').where({ class_id: classId, session_id: id }).update({ session_id: null });
    return (await db('plan_sessions').where({ class_id: classId, id }).del()) === 1;
  },

  /** The middle time of a piece by skill, from the class's own timed outcomes. */
  minutes: async (classId: string): Promise<Map<string, { median: number; n: number }>> => {
    const rows = await rowsOf<{ skill: string; n: number; median: number }>(
      db,
      sql`select skill, count(minutes)::int as n, percentile_cont(0.5) within group (order by minutes) as median
            from outcome_skills
           where class_id = ${classId} and mark = any(${JUDGED_MARKS}) and minutes is not null
           group by skill`,
    );
    return new Map(rows.map((r) => [r.skill, { median: r.median, n: r.n }]));
  },
});
