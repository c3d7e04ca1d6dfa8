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
      /** Score statistic on one degree of freedom, without continuity correction. */
      readonly statistic: number;
      /** Two-sided: exact up to 5000 outcomes, from the score statistic beyond. */
      readonly p: number;
      readonly exact: boolean;
    };

/** Up to so many outcomes the distribution is summed exactly; beyond, the normal one is as good. */
const MOST_EXACT = 5000;
/** Binary dust in probabilities that are equal on paper. */
const TIE = 1e-7;

/**
 * Whether one judge passes more than the others on comparable work: within each stratum (one trainee, skill and week, say)
 * the expected passes are the stratum's own share, and the variance is the hypergeometric one (Mantel & Haenszel 1959).
 * Input: whole counts, k at most n. None where no stratum holds outcomes of both. Error: `stats.bad_count`. Relative error
 * under 1e-12. Example: the admissions to Berkeley by department (Bickel and others 1975): statistic 1.5246, p 0.2169.
 */
export function stratifiedDifference(strata: readonly Stratum[]): StratifiedDifference {
  let n = 0;
  let k = 0;
  let expected = 0;
  let variance = 0;
  const shared: Stratum[] = [];
  for (const s of strata) {
    for (const value of [s.k, s.n, s.othersK, s.othersN]) {
      if (!Number.isInteger(value) || value < 0) throw new DomainError('stats.bad_count', { value });
    }
    if (s.k > s.n || s.othersK > s.othersN) throw new DomainError('stats.bad_count', { k: s.k, n: s.n });
    if (s.n === 0 || s.othersN === 0) continue;
    shared.push(s);
    const all = s.n + s.othersN;
    const passed = s.k + s.othersK;
    n += s.n;
    k += s.k;
    expected += (s.n * passed) / all;
    variance += (s.n * s.othersN * passed * (all - passed)) / (all * all * (all - 1));
  }
  if (n === 0) return { kind: 'none', reason: 'no_shared_stratum' };
  const z = variance > 0 ? (k - expected) / Math.sqrt(variance) : 0;
  const exact = n <= MOST_EXACT;
  return {
    kind: 'difference',
    n,
    share: k / n,
    expected: expected / n,
    difference: (k - expected) / n,
    error: Math.sqrt(variance) / n,
    statistic: z * z,
    p: exact ? exactP(shared, k) : Math.min(1, 2 * normalShare(Math.abs(z)).above),
    exact,
  };
}

/** The chance of passes no more likely than those seen, by summing the strata one after the other. */
function exactP(strata: readonly Stratum[], seen: number): number {
  let low = 0;
  let chances = Float64Array.of(1);
  for (const s of strata) {
    const own = hypergeometric(s.n + s.othersN, s.k + s.othersK, s.n);
    const next = new Float64Array(chances.length + own.chances.length - 1);
    for (let i = 0; i < chances.length; i++) {
      if (chances[i] === 0) continue;
      for (let j = 0; j < own.chances.length; j++) next[i + j]! += chances[i]! * own.chances[j]!;
    }
    low += own.low;
    chances = next;
  }
  const most = chances[seen - low]! * (1 + TIE);
  let sum = 0;
  for (const chance of chances) if (chance <= most) sum += chance;
  return Math.min(1, sum);
}

/** Chances of 0, 1, ... passes among `drawn` of `all` outcomes of which `passed` passed, from the least possible on. */
function hypergeometric(all: number, passed: number, drawn: number) {
  const low = Math.max(0, drawn + passed - all);
  const high = Math.min(drawn, passed);
  const chances = new Float64Array(high - low + 1);
  // From the middle outwards, so that nothing overflows and what vanishes does so at the ends.
  const middle = Math.min(high, Math.max(low, Math.floor(((drawn + 1) * (passed + 1)) / (all + 2))));
  chances[middle - low] = 1;
  const up = (x: number): number => ((passed - x) * (drawn - x)) / ((x + 1) * (all - passed - drawn + x + 1));
  for (let x = middle; x < high; x++) chances[x + 1 - low] = chances[x - low]! * up(x);
  for (let x = middle; x > low; x--) chances[x - 1 - low] = chances[x - low]! / up(x - 1);
  let sum = 0;
  for (const chance of chances) sum += chance;
  for (let i = 0; i < chances.length; i++) chances[i]! /= sum;
  return { low, chances };
}
