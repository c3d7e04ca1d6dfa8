import { DomainError } from '../domain-error.ts';
import { normalShare } from '../special/index.ts';

/** One stratum: passes and outcomes of the one looked at, and of the others. */
export interface Stratum {
  readonly k: number;
  readonly n: number;
  readonly othersK: number;
  readonly othersN: number;
}
export type StratifiedDifference =
  | { readonly kind: 'none'; readonly reason: 'no_shared_stratum' }
  | {
      readonly kind: 'difference';
      /** Outcomes in strata in which others have some too. */
      readonly n: number;
      /** Share passed, and the share that the strata taken together would give. */
      readonly share: number;
      readonly expected: number;
      readonly difference: number;
      /** Standard error of the difference when nothing but chance is at work. */
      readonly error: number;
      /** Score statistic on one degree of freedom, without continuity correction, and its two-sided p. */
      readonly statistic: number;
      readonly p: number;
    };

/**
 * Whether one judge passes more than the others on comparable work: within each stratum (one trainee, skill and week, say)
 * the expected passes are the stratum's own share, and the variance is the hypergeometric one (Mantel & Haenszel 1959).
 * Input: whole counts, k at most n. None where no stratum holds outcomes of both. Error: `stats.bad_count`. Relative error
 * under 1e-12. Example: the admissions to Berkeley by department (Bickel and others 1975): statistic 1.5246, p 0.2169.
 */
export function stratifiedDifference(strata: readonly Stratum[]): StratifiedDifference {
  let [n, k, expected, variance] = [0, 0, 0, 0];
  for (const s of strata) {
    for (const value of [s.k, s.n, s.othersK, s.othersN]) {
      if (!Number.isInteger(value) || value < 0) throw new DomainError('stats.bad_count', { value });
    }
    if (s.k > s.n || s.othersK > s.othersN) throw new DomainError('stats.bad_count', { k: s.k, n: s.n });
    if (s.n === 0 || s.othersN === 0) continue;
    const all = s.n + s.othersN;
    const passed = s.k + s.othersK;
    n += s.n;
    k += s.k;
    expected += (s.n * passed) / all;
    variance += (s.n * s.othersN * passed * (all - passed)) / (all * all * (all - 1));
  }
  if (n === 0) return { kind: 'none', reason: 'no_shared_stratum' };
  const z = variance > 0 ? (k - expected) / Math.sqrt(variance) : 0;
  return {
    ...{ kind: 'difference', n, share: k / n, expected: expected / n, difference: (k - expected) / n },
    error: Math.sqrt(variance) / n,
    statistic: z * z,
    p: variance > 0 ? Math.min(1, 2 * normalShare(Math.abs(z)).above) : 1,
  };
}
