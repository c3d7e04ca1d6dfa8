import { JUDGED_MARKS, type Skill } from '@clear-mark/core';
import type { SignOff } from '@clear-mark/contract';
import type { Database } from '../../database/database.ts';
import { rowsOf, sql } from '../../database/sql.ts';

export interface SignOffRow {
  readonly id: string;
  readonly class_id: string;
  readonly trainee_id: string;
  readonly skill: string;
  readonly rule: string;
  readonly evidence: string;
  readonly attempt_ids: readonly string[];
  readonly note: string;
  readonly lapses_on: string;
  readonly by: string;
  readonly at: string;
}

export const signOffsStore = (db: Database) => ({
  /** For each sign-off how many outcomes with a verdict came before it, oldest first. */
  positions: (classId: string): Promise<{ traineeId: string; skill: Skill; after: number }[]> =>
    rowsOf(
      db,
      sql`select s.trainee_id as "traineeId", s.skill,
                 (select count(*)::int from outcome_skills o
                   where o.class_id = s.class_id and o.trainee_id = s.trainee_id and o.skill = s.skill
                     and o.mark = any(${JUDGED_MARKS}) and o.started_at <= s.at) as after
            from sign_offs s where s.class_id = ${classId} order by s.at`,
    ),

  of: async (classId: string, traineeId: string, skill: Skill): Promise<SignOff[]> =>
    db('sign_offs as s')
      .join('people as p', 'p.id', 's.by')
      .select(['s.id', 's.at', 'p.name as by', 's.rule', 's.evidence', 's.note'])
      .select(db.raw(`to_char(s.lapses_on, 'YYYY-MM-DD') as "lapsesOn"`))
      .where({ 's.class_id': classId, 's.trainee_id': traineeId, 's.skill': skill })
      .orderBy('s.at', 'desc'),

  insert: async (row: SignOffRow): Promise<void> => {
    await db('sign_offs').insert(row).onConflict('id').ignore();
  },
});
