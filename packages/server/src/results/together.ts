import { failingTogether } from '@clear-mark/core';
import type { FailingTogether, Person, ResultFilter } from '@clear-mark/contract';
import { classForInstructor } from '../classes/index.ts';
import type { Database } from '../database/database.ts';
import { filterCondition } from './filter.ts';
import { readLabels } from './labels.ts';
import { FAIL_MARKS, JUDGED_MARKS } from './results.store.ts';

/** The strongest pairs are shown; more would be a table to search again. */
const MOST_PAIRS = 8;
/** Fewer together say nothing, whatever the test makes of them. */
const LEAST_TOGETHER = 3;

/** What fails together beyond chance, and how many failed pieces each criterion was part of, or the only fault of. */
export async function failingTogetherOf(
  db: Database,
  classId: string,
  filter: ResultFilter,
  me: Person,
): Promise<FailingTogether> {
  const { timeZone } = await classForInstructor(db, classId, me);
  const where = filterCondition({ classId, timeZone }, filter);
  const failing = `select o.attempt_id, o.criterion_id, o.method_id from outcome_criteria o
                    where ${where.sql} and o.mark in ${FAIL_MARKS}`;
  const [pieces, pairs, labels] = await Promise.all([
    db.raw(
      `select f.criterion_id as "criterionId", count(*)::int as "failedPieces",
              (count(*) filter (where f.all_failed = 1))::int as "aloneIn"
         from (select x.*, count(*) over (partition by x.attempt_id) as all_failed from (${failing}) x) f
         join outcome_skills w on w.attempt_id = f.attempt_id and w.skill = 'whole' and w.mark in ${FAIL_MARKS}
        group by f.criterion_id order by 2 desc, 1`,
      where.bindings as never,
    ),
    // Both scored: the pieces of the method with a verdict, since a method scores all of its criteria.
    db.raw(
      `with f as materialized (${failing}),
            counts as (select criterion_id, count(*)::int as failed from f group by criterion_id),
            methods as (select o.method_id, count(*)::int as n from outcome_skills o
                         where ${where.sql} and o.skill = 'whole' and o.mark in ${JUDGED_MARKS} group by o.method_id)
       select a.criterion_id as first, b.criterion_id as second, count(*)::int as together,
              max(ca.failed) as "firstFailed", max(cb.failed) as "secondFailed", sum(distinct m.n)::int as of
         from f a
         join f b on b.attempt_id = a.attempt_id and b.criterion_id > a.criterion_id
         join counts ca on ca.criterion_id = a.criterion_id
         join counts cb on cb.criterion_id = b.criterion_id
         join methods m on m.method_id = a.method_id
        group by a.criterion_id, b.criterion_id
       having count(*) >= ${LEAST_TOGETHER}`,
      [...where.bindings, ...where.bindings] as never,
    ),
    readLabels(db),
  ]);
  const labelOf = (id: string): string => labels.criteria.get(id)?.label ?? id;
  const usable = (pairs.rows as Parameters<typeof failingTogether>[0]).filter(
    (p) => p.of >= p.firstFailed + p.secondFailed - p.together,
  );
  return {
    pieces: pieces.rows as FailingTogether['pieces'],
    pairs: failingTogether(usable)
      .slice(0, MOST_PAIRS)
      .map((p) => ({ ...p, firstLabel: labelOf(p.first), secondLabel: labelOf(p.second) })),
  };
}
