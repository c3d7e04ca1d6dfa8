import {
  comparedWithOthers,
  cohenKappa,
  gwetAc1,
  type Kappa,
  differsFromRest,
  wilsonRate,
} from '@clear-mark/core';
import type { InstructorsView, Person, ResultFilter } from '@clear-mark/contract';
import { classForInstructor } from '../../classes/index.ts';
import type { Database } from '../../database/database.ts';
import { filterCondition } from '../filter.ts';
import { type Labels, readLabels } from '../labels.ts';
import { type InstructorCell, instructorsStore, type JudgedTwice } from './instructors.store.ts';

/** Fewer scored pieces say nothing about a criterion that never fails. */
const LEAST_SCORED = 20;

/** How alike the instructors of a class judge, for the lead. */
export async function instructorsView(
  db: Database,
  classId: string,
  filter: ResultFilter,
  me: Person,
): Promise<InstructorsView> {
  const { timeZone } = await classForInstructor(db, classId, me);
  const where = filterCondition({ classId, timeZone }, filter);
  const store = instructorsStore(db);
  const [strata, criteria, pieces, series, labels] = await Promise.all([
    store.strata(where),
    store.criteria(where),
    store.samePieces(classId),
    store.sameSeries(classId),
    readLabels(db),
  ]);
  return {
    pairs: [...pairsOf(pieces, 'pieces'), ...pairsOf(series, 'series')],
    leniency: leniencyOf(strata),
    items: itemsOf(criteria, labels),
  };
}

function pairsOf(rows: readonly JudgedTwice[], what: 'pieces' | 'series'): InstructorsView['pairs'] {
  const tables = new Map<string, { first: string; second: string; table: number[][] }>();
  for (const { first, second, firstPassed, secondPassed } of rows) {
    const key = `${first} ${second}`;
    const there = tables.get(key) ?? {
      first,
      second,
      table: [
        [0, 0],
        [0, 0],
      ],
    };
    there.table[firstPassed ? 0 : 1]![secondPassed ? 0 : 1]! += 1;
    tables.set(key, there);
  }
  const shape = (kappa: Kappa): InstructorsView['pairs'][number]['kappa'] =>
    kappa.kind === 'kappa'
      ? { kind: 'kappa', kappa: kappa.kappa, low: kappa.low, high: kappa.high }
      : { kind: 'none', reason: kappa.n === 0 ? 'nothing_shared' : 'one_kind' };
  return [...tables.values()].map((t) => ({
    ...t,
    what,
    kappa: shape(cohenKappa(t.table)),
    ac1: shape(gwetAc1(t.table)),
  }));
}

/** Cells of instructor and stratum (trainee, skill, week): each against the other instructors on the same. */
export function leniencyOf(cells: readonly InstructorCell[]): InstructorsView['leniency'] {
  const names = new Map(cells.map((c) => [c.id, c.name]));
  return comparedWithOthers(cells.map((c) => ({ ...c, group: '' })))
    .map(({ id, k, n, expected, difference, low, high, p, differs }) => ({
      id,
      name: names.get(id)!,
      rate: wilsonRate(k, n),
      expected,
      difference,
      low,
      high,
      p,
      differs,
    }))
    .sort((a, b) => b.difference - a.difference);
}

function itemsOf(
  rows: readonly { criterionId: string; id: string; name: string; failed: number; n: number }[],
  labels: Labels,
): InstructorsView['items'] {
  const signals = differsFromRest(rows.map((r) => ({ group: r.criterionId, k: r.n - r.failed, n: r.n })));
  const byId = new Map<string, number[]>();
  rows.forEach((r, i) => byId.set(r.criterionId, [...(byId.get(r.criterionId) ?? []), i]));
  return [...byId]
    .map(([criterionId, indexes]) => {
      const label = labels.criteria.get(criterionId);
      const own = indexes.map((i) => rows[i]!);
      const n = own.reduce((sum, r) => sum + r.n, 0);
      const failed = own.reduce((sum, r) => sum + r.failed, 0);
      const rate = wilsonRate(failed, n);
      const split = indexes.map((i) => signals[i]!).filter((s) => s.signal !== null);
      return {
        criterionId,
        label: label?.label ?? criterionId,
        stepTitle: label?.stepTitle ?? '',
        kind: label?.kind ?? null,
        n,
        failed,
        upper: rate.kind === 'rate' ? rate.high : 1,
        splits:
          split.length === 0
            ? null
            : {
                p: Math.min(...split.map((s) => s.p)),
                shares: own.map((r) => ({ name: r.name, failed: r.failed, n: r.n })),
              },
      };
    })
    .filter((item) => item.splits !== null || (item.failed === 0 && item.n >= LEAST_SCORED))
    .sort(
      (a, b) =>
        Number(b.splits !== null) - Number(a.splits !== null) || b.n - a.n || (a.label < b.label ? -1 : 1),
    );
}
