import { holm } from './holm.ts';
import { stratifiedDifference, type Stratum } from './mantel-haenszel.ts';
import { FAMILY_LEVEL } from './differs-from-rest.ts';

/** Passes and outcomes of one in one stratum; only those of one group are compared. */
export interface ComparedCell {
  readonly group: string;
  readonly id: string;
  readonly stratum: string;
  readonly k: number;
  readonly n: number;
}
export interface AgainstOthers {
  readonly group: string;
  readonly id: string;
  readonly k: number;
  readonly n: number;
  /** Share that the strata taken together would give, and how much more it is, with its 95 % interval. */
  readonly expected: number;
  readonly difference: number;
  readonly low: number;
  readonly high: number;
  /** Adjusted by Holm over all that were compared. */
  readonly p: number;
  readonly differs: boolean;
}

const Z95 = 1.959963984540054;

/**
 * Each one against the others of its group on comparable work, stratum by stratum (see `stratifiedDifference`), adjusted by
 * Holm over all of them: with nothing but chance at work the chance of any that stands apart is at most 5 %. Those who share
 * no stratum with others are left out. Input: whole counts. Error: `stats.bad_count`. Example: a cleaver against the other
 * cleavers, the strata being trainees and weeks.
 */
export function comparedWithOthers(cells: readonly ComparedCell[]): AgainstOthers[] {
  const totals = new Map<string, { k: number; n: number }>();
  const own = new Map<string, ComparedCell[]>();
  for (const cell of cells) {
    const at = `${cell.group}\n${cell.stratum}`;
    const total = totals.get(at) ?? { k: 0, n: 0 };
    totals.set(at, { k: total.k + cell.k, n: total.n + cell.n });
    const who = `${cell.group}\n${cell.id}`;
    const list = own.get(who);
    if (list) list.push(cell);
    else own.set(who, [cell]);
  }
  const found = [...own.values()].flatMap((list) => {
    const strata = list.map(({ group, stratum, k, n }): Stratum => {
      const all = totals.get(`${group}\n${stratum}`)!;
      return { k, n, othersK: all.k - k, othersN: all.n - n };
    });
    const difference = stratifiedDifference(strata);
    return difference.kind === 'none' ? [] : [{ list, difference }];
  });
  const adjusted = holm(found.map((f) => f.difference.p));
  return found.map(({ list, difference: d }, i) => ({
    group: list[0]!.group,
    id: list[0]!.id,
    k: list.reduce((sum, c) => sum + c.k, 0),
    n: list.reduce((sum, c) => sum + c.n, 0),
    expected: d.expected,
    difference: d.difference,
    low: d.difference - Z95 * d.error,
    high: d.difference + Z95 * d.error,
    p: adjusted[i]!,
    differs: adjusted[i]! <= FAMILY_LEVEL,
  }));
}
