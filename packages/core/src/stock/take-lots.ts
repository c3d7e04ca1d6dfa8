/** A lot of something: what is left of it, and until when it is good (ms; null for ever). */
export interface Lot {
  readonly id: string;
  readonly item: string;
  readonly left: number;
  readonly goodUntilMs: number | null;
  readonly isOpened: boolean;
}
/** What a piece needs of each item. */
export interface Need {
  readonly item: string;
  readonly uses: number;
}
export interface TakenLots {
  readonly taken: readonly { readonly lotId: string; readonly uses: number }[];
  /** Items of which no lot has enough that is still good. */
  readonly short: readonly string[];
}

/**
 * Which lots a piece takes at an instant: of each item an opened one before a closed one, what expires first before the rest, never
 * what is past its date or has not enough left. Items of which the school keeps no lot at all are not counted. `lots` is not changed.
 */
export function takeLots(lots: readonly Lot[], needs: readonly Need[], atMs: number): TakenLots {
  const taken: { lotId: string; uses: number }[] = [];
  const short: string[] = [];
  for (const { item, uses } of needs) {
    const ofItem = lots.filter((l) => l.item === item);
    if (ofItem.length === 0) continue;
    const good = ofItem.filter((l) => l.left >= uses && (l.goodUntilMs === null || l.goodUntilMs > atMs));
    const lot = [...good].sort(byTurn)[0];
    if (lot) taken.push({ lotId: lot.id, uses });
    else short.push(item);
  }
  return { taken, short };
}

/** The order in which lots are used up. */
function byTurn(a: Lot, b: Lot): number {
  if (a.isOpened !== b.isOpened) return a.isOpened ? -1 : 1;
  const ends = (l: Lot): number => l.goodUntilMs ?? Infinity;
  return ends(a) === ends(b) ? (a.id < b.id ? -1 : 1) : ends(a) - ends(b);
}

/** The pieces, in their order, for which the stock does not reach, with what is short; each takes its lots from what those before left. */
export function shortOfStock<P extends { readonly needs: readonly Need[] }>(
  lots: readonly Lot[],
  pieces: readonly P[],
  atMs: number,
): { readonly piece: P; readonly short: readonly string[] }[] {
  const left = new Map(lots.map((l) => [l.id, l.left]));
  const found: { piece: P; short: readonly string[] }[] = [];
  for (const piece of pieces) {
    const now = lots.map((l) => ({ ...l, left: left.get(l.id)! }));
    const { taken, short } = takeLots(now, piece.needs, atMs);
    if (short.length > 0) {
      found.push({ piece, short });
      continue;
    }
    for (const { lotId, uses } of taken) left.set(lotId, left.get(lotId)! - uses);
  }
  return found;
}
