import { type ItemStock, priorOf, shoppingList, type ShoppingLine } from '@clear-mark/core';
import type { Stock } from '@clear-mark/contract';
import { STOCK_ITEMS, stockItem, takesOf } from '@clear-mark/methods';
import { unparse } from 'papaparse';

/** Pieces wanted by method id. */
export type Wanted = Readonly<Record<string, number>>;

/** What is left and good of each item over all its lots, with the pack it comes in. */
export function itemStock({ things }: Stock): ItemStock[] {
  return STOCK_ITEMS.map(({ id, pack }) => {
    const lots = things.filter(
      (t) => t.settings.item === id && !t.retired && !t.warnings.includes('expired'),
    );
    return { item: id, pack, left: lots.reduce((sum, t) => sum + (t.left ?? 0), 0) };
  });
}

/** The list to buy for what is wanted: lines in the order of the stock. */
export function linesFor(wanted: Wanted, stock: Stock): ShoppingLine[] {
  const all = stock.methods.reduce(
    (sum, m) => ({ passed: sum.passed + m.passed, failed: sum.failed + m.failed }),
    { passed: 0, failed: 0 },
  );
  const prior = priorOf(all);
  const methods = stock.methods
    .filter((m) => (wanted[m.methodId] ?? 0) > 0)
    .map((m) => ({
      wanted: wanted[m.methodId]!,
      passed: m.passed,
      failed: m.failed,
      prior,
      needs: Object.entries(takesOf(m.methodId).items).map(([item, uses]) => ({ item, uses })),
    }));
  const order = STOCK_ITEMS.map((i) => i.id);
  return [...shoppingList(methods, itemStock(stock))].sort(
    (a, b) => order.indexOf(a.item) - order.indexOf(b.item),
  );
}

/** The list as CSV (RFC 4180). */
export const shoppingCsv = (lines: readonly ShoppingLine[]): string =>
  unparse(
    lines.map((l) => ({
      item: stockItem(l.item)?.label ?? l.item,
      unit: stockItem(l.item)?.unit ?? '',
      left: l.left,
      needed_middle: l.usual,
      needed_80: l.at80,
      needed_95: l.at95,
      pack_of: l.pack,
      packs_80: l.packs80,
      packs_95: l.packs95,
    })),
    { newline: '\r\n' },
  );
