import { isSkill, type Skill, type Verdict, verdictOfMark } from '@clear-mark/core';
import type { AttemptList, AttemptListFilter, AttemptRow, Person } from '@clear-mark/contract';
import { classForInstructor } from '../../classes/index.ts';
import type { Database } from '../../database/database.ts';
import { type AttemptListRow, attemptListStore } from './attempt-list.store.ts';
import { listCondition } from './list-condition.ts';

/** The longest list that is shown at once; the total stands above it. */
const MOST_ROWS = 100;

function toAttemptRow({ marks, ...row }: AttemptListRow): AttemptRow {
  const skills: Partial<Record<Skill, Verdict>> = {};
  for (const skill of Object.keys(marks ?? {}).filter(isSkill)) skills[skill] = verdictOfMark(marks![skill]!);
  return { ...row, verdict: verdictOfMark(marks?.['whole'] ?? 'I'), skills };
}

export const attemptListService = (db: Database) => ({
  list: async (classId: string, filter: AttemptListFilter, me: Person): Promise<AttemptList> => {
    const { timeZone } = await classForInstructor(db, classId, me);
    const where = listCondition({ classId, timeZone }, filter);
    const order = { sort: filter.sort ?? 'started', up: filter.up === 'yes' };
    const limit = Math.min(filter.last ?? MOST_ROWS, MOST_ROWS);
    const { total, rows } = await attemptListStore(db).page(where, order, limit, filter.skip ?? 0);
    return { total: Math.min(total, filter.last ?? Infinity), rows: rows.map(toAttemptRow) };
  },

  /** A trainee's own record, newest first. */
  own: async (me: Person): Promise<AttemptList> => {
    const rows = await attemptListStore(db).ofTrainee(me.id, MOST_ROWS);
    return { total: rows.length, rows: rows.map(toAttemptRow) };
  },
});
