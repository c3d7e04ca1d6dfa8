import { requireFinite } from '../domain-error.ts';
import { normalCdf } from '../special/index.ts';

export type MannWhitney =
  | { readonly kind: 'none'; readonly reason: 'empty' | 'all_equal' }
  | {
      readonly kind: 'test';
      /** Pairs in which the first sample's value is the larger, ties counted half. */
      readonly u: number;
      /** u over the number of pairs: how often one of the first is the larger. */
      readonly share: number;
      readonly p: number;
      readonly exact: boolean;
    };

/** Exact distributions are counted up to this many pairs; beyond, or with ties, the normal one is close. */
const MOST_PAIRS = 40_000;
/** With ties every group has its own step, which costs more. */
const MOST_TIED_PAIRS = 2500;

/**
 * Mann-Whitney test of two samples, two-sided: exact by counting every order where no values are tied, else by the normal
 * distribution with tie and continuity correction (Mann & Whitney 1947; Lehmann 1975), or, when `ties` says so and there are
 * at most 2500 pairs, exact over all ways to share out the mean ranks: the chance of a rank sum as far from its middle as
 * the observed or further (Lehmann 1975, 1.4). Input: finite values, unit free. No answer where a sample is empty or all values are equal. Error: `stats.not_finite`. Relative error of the exact p under
 * 1e-12. Example: 1, 2, 3 against 4, 5, 6 is u = 0, p = 0.1.
 */
export function mannWhitney(
  first: ArrayLike<number>,
  second: ArrayLike<number>,
  ties: 'normal' | 'exact' = 'normal',
): MannWhitney {
  requireFinite(first);
  requireFinite(second);
  const m = first.length;
  const n = second.length;
  if (m === 0 || n === 0) return { kind: 'none', reason: 'empty' };
  const { rankSum, groups } = rankSumOf(first, second);
  const tied = groups.filter((size) => size > 1);
  const u = rankSum - (m * (m + 1)) / 2;
  const pairs = m * n;
  if (tied.length === 0 && pairs <= MOST_PAIRS) {
    const smaller = Math.min(u, pairs - u);
    return { kind: 'test', u, share: u / pairs, p: Math.min(1, 2 * atMost(m, n, smaller)), exact: true };
  }
  const all = m + n;
  const lost = tied.reduce((sum, t) => sum + (t ** 3 - t), 0) / (all * (all - 1));
  const spread = Math.sqrt((pairs / 12) * (all + 1 - lost));
  if (!(spread > 0)) return { kind: 'none', reason: 'all_equal' };
  if (ties === 'exact' && pairs <= MOST_TIED_PAIRS) {
    return { kind: 'test', u, share: u / pairs, p: asFarOff(m, groups, rankSum), exact: true };
  }
  const off = Math.abs(u - pairs / 2);
  const p = Math.min(1, 2 * normalCdf(-Math.max(0, off - 0.5) / spread));
  return { kind: 'test', u, share: u / pairs, p, exact: false };
}

/** Sum of the first sample's ranks among all, mean ranks where values are tied, and how many share each value, in order. */
function rankSumOf(
  first: ArrayLike<number>,
  second: ArrayLike<number>,
): { rankSum: number; groups: number[] } {
  const all = [
    ...Array.from(first, (value) => ({ value, first: 1 })),
    ...Array.from(second, (value) => ({ value, first: 0 })),
  ].sort((a, b) => a.value - b.value);
  let rankSum = 0;
  const groups: number[] = [];
  for (let from = 0; from < all.length;) {
    let to = from;
    let own = 0;
    while (to < all.length && all[to]!.value === all[from]!.value) own += all[to++]!.first;
    rankSum += own * ((from + 1 + to) / 2);
    groups.push(to - from);
    from = to;
  }
  return { rankSum, groups };
}

/** Probability that U is at most u, by the numbers of orders: those with the largest in the one sample or in the other. */
function atMost(m: number, n: number, u: number): number {
  // Probabilities rather than counts, which outgrow a double: q[j][v] for i of the first sample and j of the second.
  const whole = Math.floor(u);
  let row: Float64Array[] = Array.from({ length: n + 1 }, () => Float64Array.of(1));
  for (let i = 1; i <= m; i++) {
    const next: Float64Array[] = [Float64Array.of(1)];
    for (let j = 1; j <= n; j++) {
      const size = Math.min(whole, i * j) + 1;
      const chances = new Float64Array(size);
      const fromFirst = row[j]!;
      const fromSecond = next[j - 1]!;
      const p = i / (i + j);
      const q = j / (i + j);
      for (let v = 0; v < size; v++) {
        chances[v] = p * (v >= j ? (fromFirst[v - j] ?? 0) : 0) + q * (fromSecond[v] ?? 0);
      }
      next.push(chances);
    }
    row = next;
  }
  return row[n]!.reduce((sum, v) => sum + v, 0);
}

/**
 * Chance that m of all values, taken at random, have a rank sum as far from its middle as the given one or further: the
 * numbers of ways, group by group of tied values. Twice the mean rank is whole, and so is twice each sum.
 */
function asFarOff(m: number, groups: readonly number[], rankSum: number): number {
  const all = groups.reduce((sum, size) => sum + size, 0);
  const most = m * (all + all - m + 1);
  let ways: Float64Array[] = Array.from({ length: m + 1 }, () => new Float64Array(most + 1));
  ways[0]![0] = 1;
  let before = 0;
  for (const size of groups) {
    const twiceRank = 2 * before + size + 1;
    const next: Float64Array[] = Array.from({ length: m + 1 }, () => new Float64Array(most + 1));
    let choose = 1;
    for (let taken = 0; taken <= Math.min(size, m); taken++) {
      for (let count = 0; count + taken <= m; count++) {
        const from = ways[count]!;
        const to = next[count + taken]!;
        const shift = taken * twiceRank;
        for (let sum = 0; sum + shift <= most; sum++) to[sum + shift]! += choose * from[sum]!;
      }
      choose = (choose * (size - taken)) / (taken + 1);
    }
    ways = next;
    before += size;
  }
  const middle = m * (all + 1);
  const off = Math.abs(2 * rankSum - middle);
  let far = 0;
  let total = 0;
  ways[m]!.forEach((count, sum) => {
    total += count;
    if (Math.abs(sum - middle) >= off - 0.5) far += count;
  });
  return Math.min(1, far / total);
}
