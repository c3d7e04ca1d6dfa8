export interface LostPoints {
  readonly criterionId: string;
  readonly lost: number;
}

export interface CostlyCriterion {
  readonly criterionId: string;
  readonly lost: number;
  readonly times: number;
}

/**
 * Criteria by the points they cost, most first; ties by how often, then by id. Unit: points.
 * Example: A lost 5 once and B lost 2 twice: A, then B.
 */
export function costliest(losses: readonly LostPoints[]): readonly CostlyCriterion[] {
  const sums = new Map<string, { lost: number; times: number }>();
  for (const { criterionId, lost } of losses) {
    const sum = sums.get(criterionId) ?? { lost: 0, times: 0 };
    sum.lost += lost;
    sum.times += 1;
    sums.set(criterionId, sum);
  }
  return [...sums]
    .map(([criterionId, sum]) => ({ criterionId, ...sum }))
    .sort((a, b) => b.lost - a.lost || b.times - a.times || (a.criterionId < b.criterionId ? -1 : 1));
}
