import { DomainError } from '../domain-error.ts';

export type FleissKappa =
  | { readonly kind: 'none'; readonly reason: 'empty' | 'one_answer' }
  | {
      readonly kind: 'kappa';
      readonly subjects: number;
      readonly raters: number;
      readonly kappa: number;
      /** Standard error for a true kappa of 0, to test by; not for an interval. */
      readonly errorAtZero: number;
      /** Agreement on each category against all others, in the order of the columns; null where none or all chose it. */
      readonly categories: readonly (number | null)[];
      /** Standard error of each of these for a true kappa of 0. */
      readonly categoryErrorAtZero: number;
    };

/**
 * Fleiss' kappa of more than two raters and that of each category (Fleiss 1971), the standard errors under no agreement by
 * Fleiss, Nee and Landis (1979). Input: for each subject how many raters chose each category, the same number of raters everywhere. `none` where
 * only one answer is ever given. Error: `agreement.bad_table`. Relative error under 1e-12. Example: the 30 subjects and 6
 * raters of Fleiss 1971 have 0.430.
 */
export function fleissKappa(counts: readonly (readonly number[])[]): FleissKappa {
  if (counts.length === 0) return { kind: 'none', reason: 'empty' };
  const categories = counts[0]!.length;
  const raters = counts[0]!.reduce((a, b) => a + b, 0);
  for (const row of counts) {
    const whole = row.every((c) => Number.isInteger(c) && c >= 0) && row.length === categories;
    if (!whole || categories < 2 || raters < 2 || row.reduce((a, b) => a + b, 0) !== raters) {
      throw new DomainError('agreement.bad_table', { rows: counts.length });
    }
  }
  const subjects = counts.length;
  const shares = counts[0]!.map(
    (_, j) => counts.reduce((sum, row) => sum + row[j]!, 0) / (subjects * raters),
  );
  const observed =
    counts.reduce((sum, row) => sum + row.reduce((s, c) => s + c * (c - 1), 0), 0) /
    (subjects * raters * (raters - 1));
  const chance = shares.reduce((sum, p) => sum + p * p, 0);
  if (!(1 - chance > 1e-12)) return { kind: 'none', reason: 'one_answer' };
  const pq = shares.reduce((sum, p) => sum + p * (1 - p), 0);
  const skew = shares.reduce((sum, p) => sum + p * (1 - p) * (1 - 2 * p), 0);
  const errorAtZero =
    (Math.SQRT2 * Math.sqrt(pq * pq - skew)) / (pq * Math.sqrt(subjects * raters * (raters - 1)));
  const pairs = subjects * raters * (raters - 1);
  const categoryKappas = shares.map((p, j) => {
    const apart = counts.reduce((sum, row) => sum + row[j]! * (raters - row[j]!), 0);
    return p > 0 && p < 1 ? 1 - apart / (pairs * p * (1 - p)) : null;
  });
  return {
    kind: 'kappa',
    subjects,
    raters,
    kappa: (observed - chance) / (1 - chance),
    errorAtZero,
    categories: categoryKappas,
    categoryErrorAtZero: Math.sqrt(2 / pairs),
  };
}
