import { type ItemStock, priorOf, shoppingList, type ShoppingLine } from '@clear-mark/core';
import type { CourseMethod, Stock, StockItemShape } from '@clear-mark/contract';
import { unparse } from 'papaparse';
import { itemOf, itemWords } from '../stock/stock.model.ts';

/**
 * Good pieces by a method that are still to be made: for the trainees of the class what each has left of the course, for another number of
 * trainees the whole course each.
 */
export function piecesLeft(
  { pieces, made }: Pick<CourseMethod, 'pieces' | 'made'>,
  trainees: readonly string[],
  forHowMany: number,
): number {
  const each = pieces ?? 0;
  if (forHowMany !== trainees.length) return each * forHowMany;
  return trainees.reduce((sum, id) => sum + Math.max(0, each - (made[id] ?? 0)), 0);
}

/** What is left and good of each item over all its lots, with the pack it comes in. */
export function itemStock({ things, items }: Stock): ItemStock[] {
  return items.map(({ id, pack }) => {
    const lots = things.filter(
      (t) => t.settings.item === id && !t.retired && !t.warnings.includes('expired'),
    );
    return { item: id, pack, left: lots.reduce((sum, t) => sum + (t.left ?? 0), 0) };
  });
}

/** The list to buy for the good pieces that are wanted of each method: lines in the order of the stock. */
export function linesFor(
  course: readonly CourseMethod[],
  wantedOf: (method: CourseMethod) => number,
  stock: Stock,
): ShoppingLine[] {
  const all = course.reduce((sum, m) => ({ passed: sum.passed + m.passed, failed: sum.failed + m.failed }), {
    passed: 0,
    failed: 0,
  });
  const prior = priorOf(all);
  const methods = course.flatMap((m) => {
    const wanted = wantedOf(m);
    const needs = Object.entries(m.work.items).map(([item, uses]) => ({ item, uses }));
    return wanted > 0 ? [{ wanted, passed: m.passed, failed: m.failed, prior, needs }] : [];
  });
  const order = stock.items.map((i) => i.id);
  return [...shoppingList(methods, itemStock(stock))].sort(
    (a, b) => order.indexOf(a.item) - order.indexOf(b.item),
  );
}

/** The list as CSV (RFC 4180). */
export const shoppingCsv = (lines: readonly ShoppingLine[], items: readonly StockItemShape[]): string =>
  unparse(
    lines.map((l) => ({
      item: itemWords(items, l.item),
      unit: itemOf(items, l.item)?.unit ?? '',
      left: l.left,
      needed_middle: l.usual,
      needed_80: l.at80,
      needed_95: l.at95,
      pack_of: l.pack,
      packs_80: l.packs80,
      packs_95: l.packs95,
    })),
    { newline: '\r\n', escapeFormulae: true },
  );
