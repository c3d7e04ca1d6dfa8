import { fisherExact } from './fisher.ts';
import { holm } from './holm.ts';

export interface SplitCell {
  /** Cells are compared with the others of their family's group, such as one skill. */
  readonly group: string;
  readonly k: number;
  readonly n: number;
}

export interface CellSignal {
  readonly signal: 'worse' | 'better' | null;
  /** Two-sided Fisher p against the rest of the group, adjusted by Holm over all cells; 1 when untestable. */
  readonly p: number;
}

/** Chance of any false signal in a whole table of cells. */
export const FAMILY_LEVEL = 0.05;

/**
 * Which cells of a split table stand apart from the rest of their group. Each round tests every cell against the
 * others of its group taken together (Fisher 1935, exact), adjusts by Holm (1979) over the whole table, marks the clearest
 * one and leaves it out of the next round, so that one bad tool does not make the good ones look better. With
 * nothing but chance at work the chance of any mark is at most `FAMILY_LEVEL`, that of the first round.
 * Input: k passes of n outcomes a cell; output in the same order. A signal keeps the p of its round.
 * Example: 10 of 40 beside three cells of about 35 of 40 is worse; the three are not better.
 */
export function differsFromRest(cells: readonly SplitCell[]): CellSignal[] {
  const found: CellSignal[] = cells.map(() => ({ signal: null, p: 1 }));
  const left = new Set(cells.keys());
  while (left.size > 1) {
    const round = testRound(cells, [...left]);
    for (const { index, p } of round) found[index] = { signal: null, p };
    const clearest = round.reduce((a, b) => (b.p < a.p ? b : a));
    if (clearest.p > FAMILY_LEVEL) break;
    found[clearest.index] = { signal: clearest.below ? 'worse' : 'better', p: clearest.p };
    left.delete(clearest.index);
  }
  return found;
}

interface Tested {
  readonly index: number;
  readonly p: number;
  readonly below: boolean;
}

function testRound(cells: readonly SplitCell[], left: readonly number[]): Tested[] {
  const totals = new Map<string, { k: number; n: number }>();
  for (const index of left) {
    const { group, k, n } = cells[index]!;
    const total = totals.get(group) ?? { k: 0, n: 0 };
    totals.set(group, { k: total.k + k, n: total.n + n });
  }
  const tests = left.map((index) => {
    const { group, k, n } = cells[index]!;
    const total = totals.get(group)!;
    const rest = { k: total.k - k, n: total.n - n };
    return {
      index,
      p: fisherExact(k, n - k, rest.k, rest.n - rest.k),
      below: k * rest.n < rest.k * n,
    };
  });
  const adjusted = holm(tests.map((t) => t.p));
  return tests.map((t, i) => ({ ...t, p: adjusted[i]! }));
}
