import { type Kappa, withInterval } from './cohen-kappa.ts';
import { squareTable } from './square-table.ts';

export const KAPPA_WEIGHTS = ['linear', 'quadratic'] as const;
export type KappaWeights = (typeof KAPPA_WEIGHTS)[number];

/**
 * Weighted kappa of two raters over ordered grades: weights of agreement 1 - |i - j| / (k - 1) or 1 - ((i - j) / (k - 1))^2
 * (Cohen 1968), with the full large-sample standard error of Fleiss, Cohen and Everitt (1969). The interval is not clipped.
 * Rows rater A, columns rater B. `none` where chance alone would agree always. Error: `agreement.bad_table`. Relative error
 * under 1e-12. Example: 11 2 1 / 1 10 3 / 0 2 10 is 0.716 linear.
 */
export function weightedKappa(table: readonly (readonly number[])[], weights: KappaWeights): Kappa {
  const shares = squareTable(table);
  if (!shares) return { kind: 'none', n: 0 };
  const { n, p, rows, columns } = shares;
  const k = rows.length;
  const weight = (i: number, j: number): number => {
    const off = Math.abs(i - j) / (k - 1);
    return 1 - (weights === 'linear' ? off : off * off);
  };
  const over = (f: (i: number, j: number) => number): number => {
    let sum = 0;
    for (let i = 0; i < k; i++) for (let j = 0; j < k; j++) sum += f(i, j);
    return sum;
  };
  const observed = over((i, j) => weight(i, j) * p[i]![j]!);
  const chance = over((i, j) => weight(i, j) * rows[i]! * columns[j]!);
  if (!(1 - chance > 1e-12)) return { kind: 'none', n };
  const kappa = (observed - chance) / (1 - chance);
  const rowWeight = rows.map((_, i) => columns.reduce((sum, c, j) => sum + c * weight(i, j), 0));
  const columnWeight = columns.map((_, j) => rows.reduce((sum, r, i) => sum + r * weight(i, j), 0));
  const spread = over(
    (i, j) => p[i]![j]! * (weight(i, j) - (rowWeight[i]! + columnWeight[j]!) * (1 - kappa)) ** 2,
  );
  const variance = (spread - (kappa - chance * (1 - kappa)) ** 2) / (n * (1 - chance) ** 2);
  const error = Math.sqrt(Math.max(0, variance));
  // Their equation 9: the same spread where rows and columns are independent.
  const byChance = over(
    (i, j) => rows[i]! * columns[j]! * (weight(i, j) - (rowWeight[i]! + columnWeight[j]!)) ** 2,
  );
  const errorAtZero = Math.sqrt(Math.max(0, byChance - chance ** 2) / n) / (1 - chance);
  return withInterval({ n, kappa, error, errorAtZero });
}
