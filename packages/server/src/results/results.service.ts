import {
  type CountedSample,
  describeLossCounts,
  histogram,
  SKILLS,
  standsApart,
  summarizeSkill,
  wilsonRate,
} from '@clear-mark/core';
import type {
  CriterionFailure,
  LossSample,
  Person,
  ResultFilter,
  Results,
  Split,
} from '@clear-mark/contract';
import { classesStore, classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { filterCondition } from './filter.ts';
import { type Labels, readLabels } from './labels.ts';
import { type HistoryRow, type LossRow, resultsStore } from './results.store.ts';
import { standingRows } from './standings.ts';

/** Width of a bar of the loss histogram. */
export const LOSS_BIN_DB = 0.05;

export const resultsService = (db: Database) => ({
  results: async (classId: string, filter: ResultFilter, me: Person, now: Date): Promise<Results> => {
    const summary = await classForInstructor(db, classId, me);
    const scope = { classId, timeZone: summary.timeZone };
    const where = filterCondition(scope, filter);
    const store = resultsStore(db);
    // Where a trainee stands rests on the whole history; the filter narrows rates and samples only.
    const wholeClass = filterCondition(scope, {});
    const histories = store.histories(where);
    const [rows, allRows, losses, failures, faults, labels, trainees] = await Promise.all([
      histories,
      where.sql === wholeClass.sql ? histories : store.histories(wholeClass),
      store.losses(where),
      store.failures(where),
      store.faults(where),
      readLabels(db),
      classesStore(db).members(classId, 'trainee'),
    ]);
    const skillsOf = (list: readonly HistoryRow[], skill: string): string[] =>
      list.filter((r) => r.skill === skill).map((r) => r.marks);
    const shown = SKILLS.filter((skill) => rows.some((r) => r.skill === skill));
    const standings = await standingRows(db, { classId, policy: summary.policy, rows: allRows, now, labels });
    return {
      skills: shown.map((skill) => ({ skill, summary: mutable(summarizeSkill(skillsOf(rows, skill))) })),
      whole: mutable(summarizeSkill(skillsOf(rows, 'whole'))),
      losses: losses.flatMap((row) => lossSample(row, labels)),
      failures: failures.map((f): CriterionFailure => {
        const label = labels.criteria.get(f.criterionId);
        return {
          ...f,
          label: label?.label ?? f.criterionId,
          stepTitle: label?.stepTitle ?? '',
          skill: label?.skill ?? 'test',
          critical: label?.critical ?? false,
          faults: faults
            .filter((x) => x.criterionId === f.criterionId)
            .slice(0, 4)
            .map(({ code, times }) => ({ code, times })),
        };
      }),
      standings: trainees
        .filter((t) => filter.trainee === undefined || t.id === filter.trainee)
        .map((t) => ({
          traineeId: t.id,
          traineeName: t.name,
          cells: standings(t.id),
        })),
      signed: skillsOf(rows, 'whole').reduce((sum, marks) => sum + marks.length, 0),
    };
  },

  split: async (classId: string, filter: ResultFilter & { by: string }, me: Person): Promise<Split> => {
    const summary = await classForInstructor(db, classId, me);
    const where = filterCondition({ classId, timeZone: summary.timeZone }, filter);
    const store = resultsStore(db);
    const rows =
      filter.by === 'day'
        ? await store.splitByDay(where, summary.timeZone)
        : await store.splitByThing(where, filter.by);
    const signals = standsApart(rows.map(({ skill, k, n }) => ({ group: skill, k, n })));
    const byKey = new Map<string, Split['rows'][number]>();
    rows.forEach((row, i) => {
      const there = byKey.get(row.key) ?? { key: row.key, label: row.label, skills: [] };
      const { signal, p } = signals[i]!;
      there.skills.push({ skill: row.skill, rate: wilsonRate(row.k, row.n), void: row.void, signal, p });
      byKey.set(row.key, there);
    });
    return { by: filter.by, rows: [...byKey.values()] };
  },
});

/** The same values under the contract's types, which do not say readonly. */
const mutable = (s: ReturnType<typeof summarizeSkill>) => ({ ...s, firstPassAt: [...s.firstPassAt] });

const VALUE_BYTES = 12;

/** The losses of a row: its values from the lowest on, and how often each was read. */
export function lossesOf({ losses }: LossRow): CountedSample {
  const n = (losses?.length ?? 0) / VALUE_BYTES;
  return {
    values: Float64Array.from({ length: n }, (_, i) => losses!.readDoubleBE(i * VALUE_BYTES)),
    counts: Int32Array.from({ length: n }, (_, i) => losses!.readInt32BE(i * VALUE_BYTES + 8)),
  };
}

function lossSample(row: LossRow, labels: Labels): LossSample[] {
  const losses = lossesOf(row);
  const summary = describeLossCounts(losses, row.limitDb);
  const bars = histogram(losses.values, LOSS_BIN_DB, losses.counts);
  if (!summary || !bars) return [];
  return [
    {
      methodId: row.methodId,
      methodTitle: labels.methods.get(row.methodId) ?? row.methodId,
      referenceMethod: row.referenceMethod,
      fiberClass: row.fiberClass,
      wavelengthNm: row.wavelengthNm,
      direction: row.direction,
      limitDb: row.limitDb,
      expectedDb: row.expectedDb,
      summary,
      histogram: { ...bars, counts: [...bars.counts] },
      voidReadings: row.voids,
    },
  ];
}
