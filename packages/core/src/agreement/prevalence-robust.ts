import { DomainError } from '../domain-error.ts';
import { type Kappa, withInterval } from './cohen-kappa.ts';
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
  return withInterval({ n, kappa, error, errorAtZero: null });
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
  return withInterval({ n, kappa, error, errorAtZero: null });
}

/**
 * Gwet's AC1 of several raters, who need not all have looked at every subject (Gwet 2008, equations 16 to 18; without the
 * correction for a finite population): input for each subject how many raters chose each category, two or more raters each.
 * The interval is not clipped. `none` without subjects, or with one, which has no spread. Error: `agreement.bad_table`.
 * Relative error under 1e-12. Example: 5 0 0 / 4 1 0 / 2 2 1 / 0 5 0 / 1 0 4 / 3 1 1 is 0.444.
 */
export function gwetAc1OfMany(counts: readonly (readonly number[])[]): Kappa {
  const n = counts.length;
  const categories = counts[0]?.length ?? 0;
  const raters = counts.map((row) => row.reduce((a, b) => a + b, 0));
  const bad = counts.some(
    (row, i) => row.length !== categories || raters[i]! < 2 || row.some((c) => !Number.isInteger(c) || c < 0),
  );
  if (bad || (n > 0 && categories < 2)) throw new DomainError('agreement.bad_table', { rows: n });
  if (n < 2) return { kind: 'none', n };
  const used = counts[0]!.map((_, q) => counts.reduce((sum, row, i) => sum + row[q]! / raters[i]!, 0) / n);
  const agreed = counts.map(
    (row, i) => row.reduce((sum, c) => sum + c * (c - 1), 0) / (raters[i]! * (raters[i]! - 1)),
  );
  const observed = agreed.reduce((a, b) => a + b, 0) / n;
  const chance = used.reduce((sum, p) => sum + p * (1 - p), 0) / (categories - 1);
  const kappa = (observed - chance) / (1 - chance);
  // What each subject moves: its own agreement, and its part in how evenly the categories are used.
  const spread = counts.reduce((sum, row, i) => {
    const own = row.reduce((s, c, q) => s + (c / raters[i]!) * (1 - used[q]!), 0) / (categories - 1);
    const moved = (agreed[i]! - chance - 2 * (1 - kappa) * (own - chance)) / (1 - chance);
    return sum + (moved - kappa) ** 2;
  }, 0);
  const error = Math.sqrt(spread / (n * (n - 1)));
  return withInterval({ n, kappa, error, errorAtZero: null });
}
