import { FAIL_MARKS, JUDGED_MARKS, marksOf, type OutcomeMark, PASS_MARKS } from '@clear-mark/core';
import type { AttemptListFilter } from '@clear-mark/contract';
import { joined, type Sql, sql } from '../../database/sql.ts';
import { filterCondition, type Scope } from '../filter.ts';

/** Half a step of the finest meter; a bound of a bar is a sum of steps and may miss its decimal by a rounding. */
const EDGE_DB = 1e-9;

function marksOfFilter(verdict: NonNullable<AttemptListFilter['verdict']>): readonly OutcomeMark[] {
  if (verdict === 'passed') return PASS_MARKS;
  if (verdict === 'failed') return FAIL_MARKS;
  if (verdict === 'judged') return JUDGED_MARKS;
  return marksOf(verdict);
}

/** The attempts behind a number: the filter's condition on the outcome (`o`) of one skill, or of the whole. */
export function listCondition(scope: Scope, filter: AttemptListFilter): Sql {
  const parts = [filterCondition(scope, filter), sql`o.skill = ${filter.skill ?? 'whole'}`];
  if (filter.verdict !== undefined && filter.wavelength === undefined) {
    parts.push(sql`o.mark = any(${marksOfFilter(filter.verdict)})`);
  }
  if (filter.criterion !== undefined) {
    parts.push(
      sql`exists (select 1 from outcome_criteria c where c.attempt_id = o.attempt_id
                   and c.criterion_id = ${filter.criterion} and c.mark = any(${FAIL_MARKS}))`,
    );
  }
  if (filter.wavelength !== undefined) {
    parts.push(sql`exists (select 1 from outcome_losses l where ${aboutReading(filter.wavelength, filter)})`);
  }
  if (filter.search !== undefined) parts.push(named(filter.search));
  if (filter.instructor !== undefined) {
    parts.push(
      sql`(select signed_by from signed_revisions g where g.attempt_id = o.attempt_id
            order by revision desc limit 1) = ${filter.instructor}`,
    );
  }
  if (filter.firstOnly === 'yes') {
    parts.push(
      sql`not exists (select 1 from outcome_skills e where e.class_id = o.class_id
                       and e.trainee_id = o.trainee_id and e.skill = o.skill and e.mark = any(${JUDGED_MARKS})
                       and (e.started_at, e.attempt_id) < (o.started_at, o.attempt_id))`,
    );
  }
  if (filter.nth !== undefined) parts.push(isNth(filter.nth, filterCondition(scope, filter, 'e')));
  return joined(parts, ' and ');
}

/** Trainee or piece that is called so in part; what a pattern would make of a sign is taken literally. */
function named(text: string): Sql {
  const pattern = `%${text.replace(/[\\%_]/g, '\\$&')}%`;
  return sql`exists (select 1 from attempts n join people np on np.id = n.trainee_id join pieces ni on ni.id = n.piece_id
                      where n.id = o.attempt_id and (np.name ilike ${pattern} or ni.label ilike ${pattern}))`;
}

function aboutReading(wavelengthNm: number, filter: AttemptListFilter): Sql {
  const on = [sql`l.attempt_id = o.attempt_id`, sql`l.wavelength_nm = ${wavelengthNm}`];
  if (filter.direction !== undefined) on.push(sql`l.direction = ${filter.direction}`);
  if (filter.lossFrom !== undefined) on.push(sql`l.loss_db >= ${filter.lossFrom - EDGE_DB}`);
  if (filter.lossTo !== undefined) on.push(sql`l.loss_db < ${filter.lossTo - EDGE_DB}`);
  if (filter.verdict !== undefined) on.push(sql`l.mark = any(${marksOfFilter(filter.verdict)})`);
  return joined(on, ' and ');
}

/** The n-th judged attempt of its trainee in the skill, counted among those that the filter lets through. */
const isNth = (nth: number, among: Sql): Sql =>
  sql`o.mark = any(${JUDGED_MARKS}) and
      (select count(*) from outcome_skills e where ${among} and e.trainee_id = o.trainee_id and e.skill = o.skill
          and e.mark = any(${JUDGED_MARKS})
          and (e.started_at, e.attempt_id) <= (o.started_at, o.attempt_id)) = ${nth}`;
