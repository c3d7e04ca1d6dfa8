import { CALLS, type EntryValue, partKey, partsOf } from '@clear-mark/core';
import { useEventListener } from '@vueuse/core';
import { computed, nextTick, shallowRef, triggerRef } from 'vue';
import { actOfKey, isDigitKey, type KeyPress } from './keys.ts';
import {
  lastToUndo,
  nextOpen,
  openChecks,
  openSampled,
  type SheetCriterion,
  standingEntry,
} from './sheet.model.ts';
import type { SheetState } from './use-sheet.ts';
import { useSession } from '../../session/session.ts';

export type DialogName = 'note' | 'sign' | 'reference' | 'reread' | 'keys' | 'stop';

interface Surroundings {
  readonly open: (name: DialogName) => void;
  readonly isOpen: () => boolean;
  /** To the next or previous trainee of the rail. */
  readonly step: (by: 1 | -1) => void;
}

interface Field {
  readonly take?: () => boolean;
  readonly toggle?: () => void;
}

/** Where the instructor is on the sheet, and what taps and keys do there. */
export function useSheetCursor(sheet: SheetState, around: Surroundings) {
  const session = useSession();
  const current = shallowRef<SheetCriterion | null>(null);
  const rows = new Map<string, { $el: HTMLElement }>();
  const fields = new Map<string, Field>();

  const byCriterion = computed(() => {
    const map = new Map<string, SheetCriterion[]>();
    for (const item of sheet.criteria.value) {
      const list = map.get(item.step.id);
      if (list) list.push(item);
      else map.set(item.step.id, [item]);
    }
    return map;
  });
  const locked = computed(() => sheet.signed.value || !sheet.mine.value);
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

  function register(id: string, el: unknown): void {
    if (el) rows.set(id, el as { $el: HTMLElement });
    else rows.delete(id);
  }
  function registerField(id: string, el: unknown): void {
    if (el) fields.set(id, el as Field);
    else fields.delete(id);
  }
  const entryOf = (item: SheetCriterion) => standingEntry(sheet.entries.value, item.criterion.id, '');
  const rowElement = (item: SheetCriterion): HTMLElement | null => rows.get(item.criterion.id)?.$el ?? null;
  const inputOf = (item: SheetCriterion): HTMLInputElement | null =>
    rowElement(item)?.querySelector<HTMLInputElement>('input[data-number]:not([readonly])') ?? null;

  function select(item: SheetCriterion): void {
    if (current.value !== item) current.value = item;
  }

  /** To a criterion by key: into view, and its number field ready to type into. */
  async function goTo(item: SheetCriterion | null | undefined): Promise<void> {
    if (!item) return;
    select(item);
    await nextTick();
    rowElement(item)?.scrollIntoView({ block: 'nearest' });
    const input = inputOf(item);
    if (input) input.focus({ preventScroll: true });
    else (document.activeElement as HTMLElement | null)?.blur();
  }
  const go = (id: string): void => void goTo(sheet.criteria.value.find((c) => c.criterion.id === id));

  /** Where the work goes on; who is there already stays there, and nothing moves under the hand. */
  function toFirstOpen(): void {
    const first = nextOpen(sheet.criteria.value, sheet.outcomes.value, 0) ?? sheet.criteria.value[0] ?? null;
    if (first === current.value) return;
    current.value = first;
    if (sheet.entries.value.length > 0 && current.value) {
      void nextTick(() => rowElement(current.value!)?.scrollIntoView({ block: 'center' }));
    }
  }

  /** Adds a value and moves on; a failed check keeps the cursor, so that its fault can be named. */
  function enter(
    item: SheetCriterion,
    part: string,
    value: EntryValue,
    source: 'typed' | 'timer' | 'instrument',
    note: string | null = null,
  ): void {
    if (locked.value) return;
    sheet.add({ kind: 'value', criterionId: item.criterion.id, part, value, source, note });
    if (value.kind === 'check' && !value.passed) return select(item);
    advance(item, part);
  }

  function advance(item: SheetCriterion, part: string): void {
    // A walk and a grid have their own next place, and say when they are done.
    if (item.criterion.kind === 'map' || item.criterion.kind === 'readings') return select(item);
    if (item.criterion.kind === 'loss') {
      const parts = partsOf(item.criterion).map(partKey);
      const next = parts[parts.indexOf(part) + 1];
      if (next !== undefined) {
        void nextTick(() =>
          rowElement(item)?.querySelector<HTMLInputElement>(`[data-part="${next}"] input`)?.focus(),
        );
        return;
      }
    }
    leave(item);
  }

  /** On to the next open criterion, with the keyboard when that is what brought us here. */
  function leave(item: SheetCriterion): void {
    const next = nextOpen(sheet.criteria.value, sheet.outcomes.value, item.index + 1);
    const byKey = document.activeElement instanceof HTMLInputElement || lastByKey;
    if (byKey) void goTo(next ?? item);
    else select(next ?? item);
  }

  /** Readings of a grid, one or a paste of many; the grid itself knows where the next one goes. */
  function enterParts(item: SheetCriterion, values: readonly { part: string; value: EntryValue }[]): void {
    if (locked.value) return;
    const source = item.criterion.kind === 'loss' ? 'instrument' : 'typed';
    for (const { part, value } of values) {
      sheet.add({ kind: 'value', criterionId: item.criterion.id, part, value, source });
    }
    select(item);
  }

  function toggleFault(code: string): void {
    const item = current.value;
    if (!item) return;
    const faults = new Set(sheet.outcomes.value.get(item.criterion.id)?.faults);
    if (!faults.delete(code)) faults.add(code);
    const value: EntryValue = { kind: 'check', passed: false, faults: [...faults] };
    sheet.add({ kind: 'value', criterionId: item.criterion.id, value });
  }

  function notSeen(): void {
    const item = current.value;
    if (!item || locked.value) return;
    const parts = partsOf(item.criterion).map(partKey);
    for (const part of parts) sheet.add({ kind: 'not_seen', criterionId: item.criterion.id, part });
    leave(item);
  }

  /** The open checks of the step at hand pass, and the next open criterion is at hand. */
  function passStep(): void {
    const item = current.value;
    if (!item || locked.value) return;
    const items = byCriterion.value.get(item.step.id) ?? [];
    for (const { criterion } of openChecks(items, sheet.outcomes.value)) {
      const value: EntryValue = { kind: 'check', passed: true };
      sheet.add({ kind: 'value', criterionId: criterion.id, value });
    }
    leave(items[items.length - 1] ?? item);
  }

  /** What nobody has to see and nobody saw is said to be not seen, on the whole sheet. */
  function restNotSeen(): void {
    if (locked.value) return;
    for (const { criterion } of openSampled(sheet.criteria.value, sheet.outcomes.value)) {
      for (const part of partsOf(criterion).map(partKey)) {
        sheet.add({ kind: 'not_seen', criterionId: criterion.id, part });
      }
    }
  }

  function undo(): void {
    if (locked.value) return;
    const target = sheet.undo();
    const item = sheet.criteria.value.find((c) => c.criterion.id === target?.criterionId);
    if (item) {
      select(item);
      triggerRef(current);
      rowElement(item)?.scrollIntoView({ block: 'nearest' });
    }
  }

  /** Enter: passes an open check, takes what is typed, goes on from what is scored already. */
  function accept(item: SheetCriterion): void {
    const state = sheet.outcomes.value.get(item.criterion.id)?.state;
    if (item.criterion.kind === 'check' && (state === 'open' || state === 'not_seen')) {
      return enter(item, '', { kind: 'check', passed: true }, 'typed');
    }
    const next = nextOpen(sheet.criteria.value, sheet.outcomes.value, item.index + 1);
    if (state === 'scored') void goTo(next ?? item);
    else void goTo(item);
  }

  let lastByKey = false;
  const byHand = (): void => void (lastByKey = false);
  useEventListener(window, 'pointerdown', byHand, { capture: true });

  function onKey(event: KeyboardEvent): void {
    if (around.isOpen() || sheet.document.value === null) return;
    lastByKey = true;
    const press: KeyPress = {
      key: event.key,
      modified: event.ctrlKey || event.metaKey || event.altKey,
      focus: focusKind(event.target as HTMLElement),
    };
    const item = current.value;
    if (
      item &&
      !press.modified &&
      isDigitKey(event.key) &&
      press.focus !== 'text' &&
      press.focus !== 'number'
    ) {
      if (item.criterion.kind === 'grade') return chooseLevel(item, Number(event.key), event);
      if (item.criterion.kind === 'call') return chooseCall(item, Number(event.key), event);
      inputOf(item)?.focus();
      return;
    }
    const act = actOfKey(press);
    if (!act) return;
    if (act === 'accept' && press.focus === 'number') return;
    event.preventDefault();
    perform(act, item);
  }

  /** As a tap on the level: where a picture was graded, another level asks for its reason. */
  function chooseLevel(item: SheetCriterion, number: number, event: KeyboardEvent): void {
    const level = rowElement(item)?.querySelectorAll<HTMLButtonElement>('.level')[number - 1];
    if (!level) return;
    event.preventDefault();
    level.click();
  }

  /** 1 for good, 2 for bad; where the sheet has no reference, what it is has to be tapped as well. */
  function chooseCall(item: SheetCriterion, number: number, event: KeyboardEvent): void {
    const said = CALLS[number - 1];
    if (item.criterion.kind !== 'call' || item.criterion.of === undefined || !said) return;
    event.preventDefault();
    enter(item, '', { kind: 'call', said }, 'typed');
  }

  function perform(act: NonNullable<ReturnType<typeof actOfKey>>, item: SheetCriterion | null): void {
    const list = sheet.criteria.value;
    switch (act) {
      case 'next':
        return void goTo(list[(item?.index ?? -1) + 1]);
      case 'previous':
        return void goTo(list[(item?.index ?? 1) - 1]);
      case 'next_trainee':
        return around.step(1);
      case 'previous_trainee':
        return around.step(-1);
      case 'help':
        return around.open('keys');
      case 'undo':
        return undo();
      case 'not_seen':
        return notSeen();
      case 'pass_step':
        return passStep();
      case 'rest_not_seen':
        return restNotSeen();
      case 'stop':
        return locked.value || !session.teaches ? undefined : around.open('stop');
      case 'note':
        return locked.value ? undefined : around.open('note');
      case 'sign':
        return locked.value ? undefined : around.open('sign');
      case 'timer':
        return item
          ? rowElement(item)?.querySelector<HTMLButtonElement>('.timed button')?.click()
          : undefined;
      case 'fail':
        if (item?.criterion.kind === 'check') enter(item, '', { kind: 'check', passed: false }, 'typed');
        return;
      case 'accept':
        return item && !locked.value ? accept(item) : undefined;
      default: {
        const never: never = act;
        return never;
      }
    }
  }

  return {
    current,
    byCriterion,
    lossItem,
    notes,
    undoLabel,
    entryOf,
    register,
    registerField,
    select,
    go,
    enter,
    enterParts,
    leave,
    toFirstOpen,
    toggleFault,
    notSeen,
    passStep,
    restNotSeen,
    undo,
    onKey,
  };
}

export type SheetCursor = ReturnType<typeof useSheetCursor>;

function focusKind(target: HTMLElement): KeyPress['focus'] {
  if (target instanceof HTMLInputElement && target.dataset['number'] !== undefined) return 'number';
  if (target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement) return 'text';
  if (target instanceof HTMLButtonElement || target instanceof HTMLSelectElement) return 'control';
  if (target instanceof HTMLAnchorElement || target.tagName === 'SUMMARY') return 'control';
  return 'page';
}
