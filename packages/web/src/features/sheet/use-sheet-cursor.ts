import type { EntryValue } from '@clear-mark/core';
import { useEventListener } from '@vueuse/core';
import { computed, shallowRef, triggerRef } from 'vue';
import {
  AT_START,
  type CursorEffect,
  type CursorEvent,
  type CursorSource,
  cursorStep,
  type CursorView,
  type DialogName,
} from './cursor.model.ts';
import { actOfKey, focusKind, isDigitKey, type KeyPress, type SheetAct } from './keys.ts';
import { itemsByStep, lastToUndo, type SheetCriterion, standingEntry } from './sheet.model.ts';
import { sheetRows } from './sheet-rows.ts';
import type { SheetState } from './use-sheet.ts';
import { useSession } from '../../session/session.ts';

interface Surroundings {
  readonly open: (name: DialogName) => void;
  readonly isOpen: () => boolean;
  /** To the next or previous trainee of the rail. */
  readonly step: (by: 1 | -1) => void;
}

/** Where the instructor is on the sheet, and what taps and keys do there: the page around `cursorStep`, which decides. */
export function useSheetCursor(sheet: SheetState, around: Surroundings) {
  const session = useSession();
  const current = shallowRef<SheetCriterion | null>(null);
  let byKey = AT_START.byKey;
  const rows = sheetRows();

  const byStep = computed(() => itemsByStep(sheet.criteria.value));
  const lossItem = computed(() => {
    const found = sheet.criteria.value.find((c) => c.criterion.kind === 'loss')?.criterion;
    return found?.kind === 'loss' ? found : null;
  });
  const notes = computed(() =>
    sheet.entries.value
      .filter((e) => e.kind === 'note' && e.criterionId === current.value?.criterion.id)
      .map((e) => e.note ?? ''),
  );
  const undoLabel = computed(() => {
    const target = lastToUndo(sheet.entries.value, session.me?.id ?? '');
    if (!target) return null;
    const item = sheet.criteria.value.find((c) => c.criterion.id === target.criterionId);
    return item ? `Take back: ${item.criterion.label}` : 'Take back the last entry';
  });

  const view = (): CursorView => ({
    criteria: sheet.criteria.value,
    outcomes: sheet.outcomes.value,
    locked: sheet.signed.value || !sheet.mine.value,
    teaches: session.teaches,
    begun: sheet.entries.value.length > 0,
    typing: document.activeElement instanceof HTMLInputElement,
  });
  function send(event: CursorEvent): readonly CursorEffect[] {
    const { state, effects } = cursorStep({ current: current.value, byKey }, event, view());
    byKey = state.byKey;
    if (current.value !== state.current) current.value = state.current;
    for (const effect of effects) run(effect);
    return effects;
  }

  function run(effect: CursorEffect): unknown {
    switch (effect.do) {
      case 'add':
        return sheet.add(effect.entry);
      case 'then':
        return send(effect.event);
      case 'show':
      case 'part':
      case 'type':
      case 'timer':
      case 'level':
        return rows.run(effect);
      case 'undo':
        return send({ on: 'undone', criterionId: sheet.undo()?.criterionId ?? null });
      case 'again':
        return triggerRef(current);
      case 'open':
        return around.open(effect.dialog);
      case 'step':
        return around.step(effect.by);
      default:
        return effect satisfies never;
    }
  }

  useEventListener(window, 'pointerdown', () => send({ on: 'hand' }), { capture: true });
  function onKey(event: KeyboardEvent): void {
    if (around.isOpen() || sheet.document.value === null) return;
    byKey = true;
    const modified = event.ctrlKey || event.metaKey || event.altKey;
    const press: KeyPress = { key: event.key, modified, focus: focusKind(event.target as HTMLElement) };
    if (current.value && isDigitKey(press)) {
      // The figure itself goes into the field that has the focus then.
      if (send({ on: 'digit', key: event.key }).some((e) => e.do !== 'type')) event.preventDefault();
      return;
    }
    const act = actOfKey(press);
    if (!act || (act === 'accept' && press.focus === 'number')) return;
    event.preventDefault();
    send({ on: 'act', act });
  }

  const does = (act: SheetAct) => () => void send({ on: 'act', act });
  return {
    current,
    byStep,
    lossItem,
    notes,
    undoLabel,
    entryOf: (item: SheetCriterion) => standingEntry(sheet.entries.value, item.criterion.id, ''),
    register: rows.register,
    select: (item: SheetCriterion): void => void send({ on: 'select', item }),
    go: (id: string): void =>
      void send({ on: 'go', item: sheet.criteria.value.find((c) => c.criterion.id === id) }),
    enter: (
      item: SheetCriterion,
      part: string,
      value: EntryValue,
      source: CursorSource,
      note: string | null = null,
    ): void => void send({ on: 'enter', item, part, value, source, note }),
    enterParts: (item: SheetCriterion, values: readonly { part: string; value: EntryValue }[]): void =>
      void send({ on: 'enter_parts', item, values }),
    leave: (item: SheetCriterion): void => void send({ on: 'leave', item }),
    toFirstOpen: (): void => void send({ on: 'begin' }),
    toggleFault: (code: string): void => void send({ on: 'fault', code }),
    notSeen: does('not_seen'),
    passStep: does('pass_step'),
    restNotSeen: does('rest_not_seen'),
    undo: does('undo'),
    onKey,
  };
}

export type SheetCursor = ReturnType<typeof useSheetCursor>;
