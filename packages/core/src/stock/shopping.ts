import { attemptsNeeded, type PassCount, type PassPrior } from './attempts-needed.ts';

/** Pieces of one method that a course is to end with. */
export interface WantedPieces extends PassCount {
  readonly wanted: number;
  readonly prior?: PassPrior;
  /** What each attempt uses, passed or not. */
  readonly needs: readonly { readonly item: string; readonly uses: number }[];
}
export interface ItemStock {
  readonly item: string;
  /** Uses that are left and good. */
  readonly left: number;
  /** Uses in a pack; at least 1. */
  readonly pack: number;
}
/** One line of a list to buy: uses, then packs, at each share. */
export interface ShoppingLine {
  readonly item: string;
  readonly left: number;
  readonly pack: number;
  /** Uses needed so that the course is served with this probability. */
  readonly usual: number;
  readonly at80: number;
  readonly at95: number;
  /** Packs to buy for it, what is left counted. */
  readonly packs80: number;
  readonly packs95: number;
}

/**
 * What a course needs of each item. Attempts by method are those of `attemptsNeeded` at one half, 80 and 95 %: each method by itself, so that a sum
 * over several is on the safe side. Items in their order of first need; packs are rounded up.
 */
export function shoppingList(wanted: readonly WantedPieces[], stock: readonly ItemStock[]): ShoppingLine[] {
  const needed = new Map<string, [usual: number, at80: number, at95: number]>();
  for (const method of wanted) {
    const attempts = [0.5, 0.8, 0.95].map((share) =>
      attemptsNeeded(method.wanted, method, share, method.prior),
    );
    for (const { item, uses } of method.needs) {
      const sum = needed.get(item) ?? [0, 0, 0];
      needed.set(item, [
        sum[0] + uses * attempts[0]!,
        sum[1] + uses * attempts[1]!,
        sum[2] + uses * attempts[2]!,
      ]);
    }
  }
  return [...needed].map(([item, [usual, at80, at95]]) => {
    const { left = 0, pack = 1 } = stock.find((s) => s.item === item) ?? {};
    const packs = (uses: number): number => Math.max(0, Math.ceil((uses - left) / pack - 1e-9));
    return { item, left, pack, usual, at80, at95, packs80: packs(at80), packs95: packs(at95) };
  });
}
