import { fisherExact, holm } from '../stats/index.ts';

export interface FailedPair {
  readonly first: string;
  readonly second: string;
  readonly together: number;
  readonly firstFailed: number;
  readonly secondFailed: number;
  /** Pieces on which both were scored. */
  readonly of: number;
}
export interface TogetherPair extends FailedPair {
  /** Pieces on which both would fail if they had nothing to do with each other. */
  readonly expected: number;
  /** Fisher's exact test, Holm over all pairs. */
  readonly p: number;
}

const LEVEL = 0.05;

/**
 * Criteria that fail together more often than chance explains: Fisher's exact test of each pair, Holm over all of them, those
 * kept that fail together more than expected at the 5 % level, the least likely first. Input: counts of pieces. Error:
 * `stats.bad_count`. Example: 8 together of 10 and 12 failed among 100 pieces, 1.2 expected.
 */
export function failingTogether(pairs: readonly FailedPair[]): TogetherPair[] {
  const p = holm(
    pairs.map(({ together, firstFailed, secondFailed, of }) =>
      fisherExact(
        together,
        firstFailed - together,
        secondFailed - together,
        of - firstFailed - secondFailed + together,
      ),
    ),
  );
  return pairs
    .map((pair, i) => ({ ...pair, expected: (pair.firstFailed * pair.secondFailed) / pair.of, p: p[i]! }))
    .filter((pair) => pair.p <= LEVEL && pair.together > pair.expected)
    .sort((a, b) => a.p - b.p || b.together - a.together || (a.first < b.first ? -1 : 1));
}
