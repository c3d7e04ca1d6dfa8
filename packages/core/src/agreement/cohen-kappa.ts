import { Z95 } from '../stats/index.ts';
import { squareTable } from './square-table.ts';

/** Agreement beyond chance with its 95 % interval; `none` where chance alone would agree always. */
export type Kappa =
  | { readonly kind: 'none'; readonly n: number }
  | {
      readonly kind: 'kappa';
      readonly n: number;
      readonly kappa: number;
      /** Standard error by the full formula, from the observed table. */
      readonly error: number;
      /** Standard error where chance alone agrees, to test against; null where the statistic has none given. */
      readonly errorAtZero: number | null;
      readonly low: number;
      readonly high: number;
    };

/**
 * Cohen's kappa of two raters over a square table of counts, row the first rater's category, column the second's
 * (Cohen 1960), with both standard errors of Fleiss, Cohen and Everitt 1969: that for an interval, and that for kappa 0 to
 * test by (their equation 14). The interval is not clipped. Errors: `agreement.bad_table` for counts that are not whole or a table that is not square.
 * Example: 44, 5, 20, 31 of 100 gives 0.503.
 */
export function cohenKappa(table: readonly (readonly number[])[]): Kappa {
  const shares = squareTable(table);
  if (!shares) return { kind: 'none', n: 0 };
  const { n, p, rows, columns } = shares;
  const k = rows.length;
  const observed = p.reduce((sum, row, i) => sum + row[i]!, 0);
  const chance = rows.reduce((sum, r, i) => sum + r * columns[i]!, 0);
  if (!(1 - chance > 1e-12)) return { kind: 'none', n };
  const kappa = (observed - chance) / (1 - chance);
  let on = 0;
  let off = 0;
  for (let i = 0; i < k; i++) {
    on += p[i]![i]! * (1 - chance - (rows[i]! + columns[i]!) * (1 - observed)) ** 2;
    for (let j = 0; j < k; j++) if (i !== j) off += p[i]![j]! * (columns[i]! + rows[j]!) ** 2;
  }
  const last = (observed * chance - 2 * chance + observed) ** 2;
  const variance = (on + (1 - observed) ** 2 * off - last) / (n * (1 - chance) ** 4);
  const error = Math.sqrt(Math.max(0, variance));
  const marginal = rows.reduce((sum, r, i) => sum + r * columns[i]! * (r + columns[i]!), 0);
  const errorAtZero = Math.sqrt(Math.max(0, chance + chance ** 2 - marginal)) / ((1 - chance) * Math.sqrt(n));
  return withInterval({ n, kappa, error, errorAtZero });
}

/**
 * An agreement with its 95 % interval, kappa -+ 1.96 standard errors, not clipped (Fleiss, Cohen and Everitt 1969). Example:
 * 0.5 with the error 0.1 lies between 0.304 and 0.696.
 */
export function withInterval(found: Pick<Found, 'n' | 'kappa' | 'error' | 'errorAtZero'>): Kappa {
  const half = Z95 * found.error;
  return { kind: 'kappa', ...found, low: found.kappa - half, high: found.kappa + half };
}
type Found = Extract<Kappa, { kind: 'kappa' }>;
