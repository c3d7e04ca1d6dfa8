import { Z95 } from '../stats/index.ts';
import type { Kappa } from './cohen-kappa.ts';
import { squareTable } from './square-table.ts';

/**
 * Gwet's AC1 of two raters (Gwet 2008): chance agreement from how evenly the categories are used, so that a table in which
 * nearly all pass does not hide that two people agree. Standard error for two raters and many subjects (his equation 21,
 * no correction for a finite population), interval not clipped. Error: `agreement.bad_table`. Relative error under 1e-12.
 * Example: 118 5 / 2 0 of 125 is 0.94, where kappa is -0.02.
 */
export function gwetAc1(table: readonly (readonly number[])[]): Kappa {
  const shares = squareTable(table);
  if (!shares) return { kind: 'none', n: 0 };
  const { n, p, rows, columns } = shares;
  const k = rows.length;
  const both = rows.map((r, i) => (r + columns[i]!) / 2);
  const observed = p.reduce((sum, row, i) => sum + row[i]!, 0);
  const chance = both.reduce((sum, q) => sum + q * (1 - q), 0) / (k - 1);
  const kappa = (observed - chance) / (1 - chance);
  const on = p.reduce((sum, row, i) => sum + row[i]! * (1 - both[i]!), 0) / (k - 1);
  let all = 0;
  for (let i = 0; i < k; i++) {
    for (let j = 0; j < k; j++) all += p[i]![j]! * (1 - (both[i]! + both[j]!) / 2) ** 2;
  }
  const spread =
    observed * (1 - observed) -
    4 * (1 - kappa) * (on - observed * chance) +
    4 * (1 - kappa) ** 2 * (all / (k - 1) ** 2 - chance * chance);
  const error = Math.sqrt(Math.max(0, spread / n)) / (1 - chance);
  return { kind: 'kappa', n, kappa, error, low: kappa - Z95 * error, high: kappa + Z95 * error };
}

/**
 * Prevalence-adjusted bias-adjusted kappa: (k observed - 1) / (k - 1), 2 observed - 1 for two categories (Byrt, Bishop &
 * Carlin 1993), with the standard error of the observed share. Error: `agreement.bad_table`. Example: 118 5 / 2 0 is 0.888.
 */
export function pabak(table: readonly (readonly number[])[]): Kappa {
  const shares = squareTable(table);
  if (!shares) return { kind: 'none', n: 0 };
  const { n, p } = shares;
  const k = p.length;
  const observed = p.reduce((sum, row, i) => sum + row[i]!, 0);
  const kappa = (k * observed - 1) / (k - 1);
  const error = (k / (k - 1)) * Math.sqrt((observed * (1 - observed)) / n);
  return { kind: 'kappa', n, kappa, error, low: kappa - Z95 * error, high: kappa + Z95 * error };
}
