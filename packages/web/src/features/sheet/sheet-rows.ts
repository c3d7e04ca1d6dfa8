import { nextTick } from 'vue';
import type { CursorEffect } from './cursor.model.ts';
import type { SheetCriterion } from './sheet.model.ts';

/** The cursor's effects that are done to a row of the page. */
export type RowEffect = Extract<CursorEffect, { readonly do: 'show' | 'part' | 'type' | 'timer' | 'level' }>;

/** The rows of a sheet as they stand on the page: brought into view, focused, tapped. */
export function sheetRows() {
  const rows = new Map<string, { $el: HTMLElement }>();
  const rowOf = (item: SheetCriterion): HTMLElement | null => rows.get(item.criterion.id)?.$el ?? null;
  const find = <E extends HTMLElement>(item: SheetCriterion, selector: string): E | null =>
    rowOf(item)?.querySelector<E>(selector) ?? null;
  const inputOf = (item: SheetCriterion): HTMLInputElement | null =>
    find(item, 'input[data-number]:not([readonly])');

  async function show({ item, focus, block }: RowEffect & { do: 'show' }): Promise<void> {
    await nextTick();
    rowOf(item)?.scrollIntoView({ block });
    if (!focus) return;
    const input = inputOf(item);
    if (input) input.focus({ preventScroll: true });
    else (document.activeElement as HTMLElement | null)?.blur();
  }

  function run(effect: RowEffect): unknown {
    const { item } = effect;
    switch (effect.do) {
      case 'show':
        return show(effect);
      case 'part':
        return nextTick(() => find(item, `[data-part="${effect.part}"] input`)?.focus());
      case 'type':
        return inputOf(item)?.focus();
      case 'timer':
        return find(item, '.timed button')?.click();
      case 'level':
        return rowOf(item)?.querySelectorAll<HTMLElement>('.level')[effect.number - 1]?.click();
      default:
        return effect satisfies never;
    }
  }
  const register = (id: string, row: unknown): void =>
    void (row ? rows.set(id, row as { $el: HTMLElement }) : rows.delete(id));
  return { register, run };
}
