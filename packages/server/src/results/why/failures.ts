import type { CriterionFailure } from '@clear-mark/contract';
import type { Database } from '../../database/database.ts';
import type { Sql } from '../../database/sql.ts';
import type { Labels } from '../labels.ts';
import { whyStore } from './why.store.ts';

/** The faults named beside a criterion. */
const MOST_FAULTS = 4;

/** The criteria that failed, the costliest first, each with its commonest faults. */
export async function failuresOf(db: Database, where: Sql, labels: Labels): Promise<CriterionFailure[]> {
  const store = whyStore(db);
  const [failures, faults] = await Promise.all([store.failures(where), store.faults(where)]);
  return failures.map((f) => {
    const label = labels.criteria.get(f.criterionId);
    return {
      ...f,
      label: label?.label ?? f.criterionId,
      stepTitle: label?.stepTitle ?? '',
      skill: label?.skill ?? 'test',
      critical: label?.critical ?? false,
      faults: faults
        .filter((x) => x.criterionId === f.criterionId)
        .slice(0, MOST_FAULTS)
        .map(({ code, times }) => ({ code, times })),
    };
  });
}
