import type { StandingName } from '@clear-mark/core';
import type { Person, Plan, PlanItem, PlanSession } from '@clear-mark/contract';
import { drillFor } from '@clear-mark/methods';
import { v7 } from 'uuid';
import { classesStore, classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { lockThing } from '../database/locks.ts';
import { AppError } from '../errors/app-error.ts';
import { classStandings } from '../results/index.ts';
import { schoolDrills } from '../tables/index.ts';
import { type PlanEdit, planStore } from './plan.store.ts';

/** Standings that ask for something, the most urgent first. */
const ASKS: readonly StandingName[] = ['retrain', 'lapsed', 'watch'];
/** Fewer timed pieces do not stand for the class. */
const LEAST_TIMED = 5;

export const planService = (db: Database) => ({
  /**
   * The plan as the evidence has it now: a need that is new opens an item, competence closes it, a need that comes back opens
   * it again. The rows follow the standings under a lock, so that two instructors who look at once make one item.
   */
  plan: async (classId: string, me: Person, now: Date): Promise<Plan> => {
    const found = await classForInstructor(db, classId, me);
    return db.transaction(async (trx) => {
      await lockThing(trx, 'plan', classId);
      const cellsOf = await classStandings(trx, found, now);
      const trainees = await classesStore(trx).trainees(classId);
      const store = planStore(trx);
      const rows = await store.items(classId);
      const cells = trainees.flatMap((t) =>
        cellsOf(t.id).map((cell) => ({ traineeId: t.id, traineeName: t.name, cell })),
      );
      for (const { traineeId, cell } of cells) {
        const row = rows.find((r) => r.traineeId === traineeId && r.skill === cell.skill);
        const asks = ASKS.includes(cell.standing);
        if (!row && asks) await store.open(classId, { id: v7(), traineeId, skill: cell.skill }, now);
        else if (row && row.closedAt === null && cell.standing === 'competent')
          await store.close(row.id, now);
        else if (row && row.closedAt !== null && asks) await store.reopen(row.id, now);
      }
      const items = await store.items(classId);
      const sessions = await store.sessions(classId);
      const minutes = await store.minutes(classId);
      const drills = await schoolDrills(trx);
      const shown = items.flatMap((row): PlanItem[] => {
        const at = cells.find((c) => c.traineeId === row.traineeId && c.cell.skill === row.skill);
        if (!at) return [];
        const timed = minutes.get(row.skill);
        const own = timed !== undefined && timed.n >= LEAST_TIMED;
        const drill = drillFor(row.skill, at.cell.behind?.criterionId ?? null, drills);
        // The class's minutes are those of whole pieces: a drill of one step takes no longer.
        const minutesEach = own ? Math.min(timed.median, drill.minutesEach) : drill.minutesEach;
        return [
          {
            ...row,
            traineeName: at.traineeName,
            standing: at.cell.standing,
            evidence: at.cell.evidence,
            behind: at.cell.behind,
            window: at.cell.window,
            minutesEach,
            minutesFrom: own && timed.median < drill.minutesEach ? 'class' : 'drill',
          },
        ];
      });
      return { items: shown.sort(byUrgency), sessions, drills };
    });
  },

  change: (classId: string, id: string, edit: PlanEdit, me: Person): Promise<void> =>
    db.transaction(async (trx) => {
      await classForInstructor(trx, classId, me);
      const store = planStore(trx);
      const known = edit.sessionId === null || (await store.lockSession(classId, edit.sessionId));
      if (!known || !(await store.edit(classId, id, edit))) throw new AppError('not_found.plan_item');
    }),

  saveSession: async (classId: string, session: PlanSession, me: Person): Promise<void> => {
    await classForInstructor(db, classId, me);
    if (!(await planStore(db).saveSession(classId, session))) throw new AppError('not_found.plan_item');
  },

  dropSession: (classId: string, id: string, me: Person): Promise<void> =>
    db.transaction(async (trx) => {
      await classForInstructor(trx, classId, me);
      if (!(await planStore(trx).dropSession(classId, id))) throw new AppError('not_found.plan_item');
    }),
});

function byUrgency(a: PlanItem, b: PlanItem): number {
  const rank = (item: PlanItem): number => {
    if (item.closedAt !== null) return 99;
    const at = ASKS.indexOf(item.standing);
    return at < 0 ? ASKS.length : at;
  };
  const failed = (item: PlanItem): number => [...item.window].filter((m) => 'FfS'.includes(m)).length;
  return (
    rank(a) - rank(b) ||
    failed(b) / Math.max(1, b.window.length) - failed(a) / Math.max(1, a.window.length) ||
    a.traineeName.localeCompare(b.traineeName) ||
    (a.skill < b.skill ? -1 : 1)
  );
}
