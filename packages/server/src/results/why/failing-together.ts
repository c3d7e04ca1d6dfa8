import { failingTogether } from '@clear-mark/core';
import type { FailingTogether, Person, ResultFilter } from '@clear-mark/contract';
import { classForInstructor } from '../../classes/index.ts';
import type { Database } from '../../database/database.ts';
import { filterCondition } from '../filter.ts';
import { readLabels } from '../labels.ts';
import { whyStore } from './why.store.ts';

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
  const store = whyStore(db);
  const [pieces, pairs, labels] = await Promise.all([
    store.failedPieces(where),
    store.failedPairs(where, LEAST_TOGETHER),
    readLabels(db),
  ]);
  const labelOf = (id: string): string => labels.criteria.get(id)?.label ?? id;
  const usable = pairs.filter((p) => p.of >= p.firstFailed + p.secondFailed - p.together);
  return {
    pieces,
    pairs: failingTogether(usable)
      .slice(0, MOST_PAIRS)
      .map((p) => ({ ...p, firstLabel: labelOf(p.first), secondLabel: labelOf(p.second) })),
  };
}
