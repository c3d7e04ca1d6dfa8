import {
  type CriterionOutcome,
  type Entry,
  type EntryValue,
  parsePart,
  placePaste,
  type Unit,
} from '@clear-mark/core';
import type { ClassReference } from '@clear-mark/contract';
import { computed, reactive, ref, watch } from 'vue';
import {
  cellText,
  gridOf,
  type GridCriterion,
  type HowTaken,
  readCell,
  takenOf,
} from './readings-grid.model.ts';

interface GridProps {
  readonly criterion: GridCriterion;
  readonly outcome: CriterionOutcome;
  readonly entryById: (id: string) => Entry | null;
  readonly referenceFor: (wavelengthNm: number, fiber?: number | null) => ClassReference | null;
  readonly locked: boolean;
}
interface GridActs {
  readonly values: (values: readonly { part: string; value: EntryValue }[]) => void;
  /** Enter in the last cell. */
  readonly done: () => void;
}

/** The cells of a grid of readings: what is typed, what is marked, what is handed on to be stored. */
export function useGridCells(props: GridProps, acts: GridActs) {
  const grid = computed(() => gridOf(props.criterion));
  const isLoss = computed(() => props.criterion.kind === 'loss');
  const unit = ref<Unit>(props.criterion.kind === 'loss' ? 'dB' : props.criterion.unit);
  const parts = computed(() => new Map(props.outcome.parts.map((p) => [p.part, p] as const)));
  const texts = reactive<Record<string, string>>({});
  const problems = reactive<Record<string, string>>({});
  const asking = reactive(new Set<string>());
  const beyond = ref<string[]>([]);
  const at = ref<string | null>(null);
  const inputs = new Map<string, HTMLInputElement>();

  const standing = (part: string): EntryValue | null =>
    props.entryById(parts.value.get(part)?.entryId ?? '')?.value ?? null;
  let shown: Record<string, string> = {};
  /** Cells follow what stands, but for those that are being typed in or are marked. */
  function follow(): void {
    const next: Record<string, string> = {};
    for (const [row] of grid.value.fibers.entries()) {
      for (const [column] of grid.value.columns.entries()) {
        const part = grid.value.partAt(row, column)!;
        next[part] = cellText(standing(part), unit.value);
        if (!(part in texts) || (texts[part] === shown[part] && !(part in problems)))
          texts[part] = next[part]!;
      }
    }
    shown = next;
  }
  watch([() => props.outcome, unit], follow, { immediate: true });

  const referenceOf = (part: string): ClassReference | null => {
    const column = grid.value.columns[grid.value.placeOf(part).column];
    return column === undefined || column.wavelengthNm === null || !isLoss.value
      ? null
      : props.referenceFor(column.wavelengthNm, parsePart(part).fiber);
  };

  /**
   * Takes a cell's text: the value to store, or null with its problem marked. Typed digits are asked about when they
   * look like a slip; pasted ones were not typed.
   */
  function takeText(part: string, text: string, how: HowTaken): EntryValue | null {
    delete problems[part];
    const read = readCell(props.criterion, part, text, unit.value, referenceOf(part));
    const { value, problem, asks } = takenOf(read, text, how);
    if (problem !== null) problems[part] = problem;
    if (asks) asking.add(part);
    else if (problem === null) asking.delete(part);
    return value;
  }

  function take(part: string, byEnter: boolean): boolean {
    const text = texts[part] ?? '';
    if (text === shown[part]) return !(part in problems);
    const value = takeText(part, text, byEnter && asking.has(part) ? 'confirmed' : 'typed');
    if (!value) return false;
    shown[part] = text;
    acts.values([{ part, value }]);
    return true;
  }

  function onEnter(part: string): void {
    if (take(part, true)) toNext(part);
  }
  function toNext(part: string): void {
    const { row, column } = grid.value.placeOf(part);
    const next = grid.value.partAt(row + 1, column) ?? grid.value.partAt(0, column + 1);
    if (next === null) acts.done();
    else focusOn(next);
  }
  /** What an instrument shows, into a cell; then on to the next one. */
  function takeShown(part: string, value: EntryValue): void {
    delete problems[part];
    texts[part] = shown[part] = cellText(value, unit.value);
    acts.values([{ part, value }]);
    toNext(part);
  }
  function focusOn(part: string | null): void {
    const input = part === null ? undefined : inputs.get(part);
    input?.focus();
    input?.select();
  }
  function onArrow(event: KeyboardEvent, part: string): void {
    const by = stepOf(event);
    if (!by) return;
    const { row, column } = grid.value.placeOf(part);
    const next = grid.value.partAt(row + by[0], column + by[1]);
    if (next === null) return;
    event.preventDefault();
    event.stopPropagation();
    focusOn(next);
  }

  /** Several cells at once: good ones are stored, bad ones marked where they fell, those beyond the edge named. */
  function onPaste(event: ClipboardEvent, part: string): void {
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (!/[\t\n;]/.test(text.trim()) || props.locked) return;
    event.preventDefault();
    beyond.value = [];
    const shape = { rows: grid.value.fibers.length, columns: grid.value.columns.length };
    const good: { part: string; value: EntryValue }[] = [];
    for (const cell of placePaste(text, shape, grid.value.placeOf(part), unit.value)) {
      const target = grid.value.partAt(cell.row, cell.column);
      if (target === null) {
        beyond.value.push(cell.written);
        continue;
      }
      texts[target] = cell.written;
      const value = takeText(target, cell.written, 'pasted');
      if (!value) continue;
      texts[target] = shown[target] = cellText(value, unit.value);
      good.push({ part: target, value });
    }
    if (good.length > 0) acts.values(good);
  }

  return {
    grid,
    isLoss,
    unit,
    parts,
    texts,
    problems,
    beyond,
    at,
    inputs,
    standing,
    take,
    onEnter,
    onArrow,
    onPaste,
    takeShown,
  };
}

const STEPS: Readonly<Record<string, readonly [rows: number, columns: number]>> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowRight: [0, 1],
  ArrowLeft: [0, -1],
};
/** Where an arrow key leads from a cell; null while it still moves inside the cell's text. */
function stepOf(event: KeyboardEvent): readonly [rows: number, columns: number] | null {
  const by = STEPS[event.key];
  const input = event.target as HTMLInputElement;
  const inside =
    event.key === 'ArrowLeft' ? input.selectionStart !== 0 : input.selectionEnd !== input.value.length;
  return !by || (by[0] === 0 && inside) ? null : by;
}

export type GridCells = ReturnType<typeof useGridCells>;
