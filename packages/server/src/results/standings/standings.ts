import {
  costliest,
  isPassMark,
  type Policy,
  type Skill,
  type Standing,
  standingOf,
  wilsonRate,
  withVerdict,
} from '@clear-mark/core';
import type { StandingCell } from '@clear-mark/contract';
import type { Database } from '../../database/database.ts';
import { filterCondition } from '../filter.ts';
import { type Labels, readLabels } from '../labels.ts';
import { type HistoryRow, ratesStore, skillsInRows } from '../rates/rates.store.ts';
import { signOffsStore } from './sign-offs.store.ts';
import { standingsStore, type WindowLoss } from './standings.store.ts';

interface Wanted {
  readonly classId: string;
  readonly policy: Policy;
  /** Histories of the whole class, never a part of them. */
  readonly rows: readonly HistoryRow[];
  readonly now: Date;
  readonly labels: Labels;
}

/** Where each trainee stands in each skill that the class has tried, with the evidence. */
export async function standingRows(
  db: Database,
  { classId, policy, rows, now, labels }: Wanted,
): Promise<(traineeId: string) => StandingCell[]> {
  const skills = skillsInRows(rows);
  const keyOf = (r: { traineeId: string; skill: string }): string => `${r.traineeId} ${r.skill}`;
  const history = new Map(rows.map((r) => [keyOf(r), r]));
  const pairs = rows.filter((r) => r.skill !== 'whole');
  // One after the other: within a transaction there is one connection.
  const losses =
    pairs.length === 0 ? [] : await standingsStore(db).windowLosses(classId, pairs, policy.window);
  const signed = await signOffsStore(db).positions(classId);
  const lossesOf = new Map<string, WindowLoss[]>();
  for (const loss of losses) {
    const key = keyOf(loss);
    const list = lossesOf.get(key);
    if (list) list.push(loss);
    else lossesOf.set(key, [loss]);
  }
  return (traineeId) =>
    skills.map((skill: Skill): StandingCell => {
      const key = keyOf({ traineeId, skill });
      const row = history.get(key) ?? { marks: '', lastPassMs: null };
      const signOffs = signed.filter((s) => keyOf(s) === key).map((s) => s.after);
      const standing = standingOf({ ...row, signOffs }, policy, now.getTime());
      return cellOf(skill, row.marks, standing, lossesOf.get(key) ?? [], labels);
    });
}

export function cellOf(
  skill: Skill,
  history: string,
  standing: Standing,
  losses: readonly WindowLoss[],
  labels: Labels,
): StandingCell {
  const marks = withVerdict(history);
  const passed = [...marks].filter(isPassMark).length;
  const worst = costliest(losses)[0];
  const label = worst && labels.criteria.get(worst.criterionId);
  return {
    skill,
    standing: standing.standing,
    evidence: { code: standing.evidence.code, params: { ...standing.evidence.params } },
    window: standing.window,
    rate: wilsonRate(passed, marks.length),
    behind:
      worst && label
        ? {
            criterionId: worst.criterionId,
            label: label.label,
            stepTitle: label.stepTitle,
            times: worst.times,
          }
        : null,
  };
}

/** The standings of a whole class, for those who work with them elsewhere. */
export async function classStandings(
  db: Database,
  { id: classId, timeZone, policy }: { id: string; timeZone: string; policy: Policy },
  now: Date,
): Promise<(traineeId: string) => StandingCell[]> {
  const rows = await ratesStore(db).histories(filterCondition({ classId, timeZone }, {}));
  const labels = await readLabels(db);
  return standingRows(db, { classId, policy, rows, now, labels });
}
