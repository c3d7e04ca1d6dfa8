import { CALLS, type CriterionOutcome, type EntryValue, partKey, partsOf } from '@clear-mark/core';
import type { SheetAct } from './keys.ts';
import { nextOpen, openChecks, openSampled, type SheetCriterion } from './sheet.model.ts';

export type DialogName = 'note' | 'sign' | 'reference' | 'reread' | 'keys' | 'stop';
export type CursorSource = 'typed' | 'timer' | 'instrument';

/** Where the instructor is on the sheet, and whether a key or a hand brought us there. */
export interface CursorState {
  readonly current: SheetCriterion | null;
  readonly byKey: boolean;
}
export const AT_START: CursorState = { current: null, byKey: false };

/** What the cursor looks at of the sheet. */
export interface CursorView {
  readonly criteria: readonly SheetCriterion[];
  readonly outcomes: ReadonlyMap<string, CriterionOutcome>;
  /** Nothing can be entered: signed, or somebody else's. */
  readonly locked: boolean;
  readonly teaches: boolean;
  /** Something was entered here before. */
  readonly begun: boolean;
  /** A field has the focus. */
  readonly typing: boolean;
}

export type CursorEvent =
  | { readonly on: 'hand' | 'begin' }
  | { readonly on: 'select' | 'leave'; readonly item: SheetCriterion }
  | { readonly on: 'go'; readonly item: SheetCriterion | null | undefined }
  | {
      readonly on: 'enter';
      readonly item: SheetCriterion;
      readonly part: string;
      readonly value: EntryValue;
      readonly source: CursorSource;
      readonly note: string | null;
    }
  | {
      readonly on: 'enter_parts';
      readonly item: SheetCriterion;
      readonly values: readonly { readonly part: string; readonly value: EntryValue }[];
    }
  | { readonly on: 'fault'; readonly code: string }
  | { readonly on: 'digit'; readonly key: string }
  | { readonly on: 'act'; readonly act: SheetAct }
  | { readonly on: 'undone'; readonly criterionId: string | null };

/** An entry that the cursor asks for. */
export interface CursorEntry {
  readonly kind: 'value' | 'not_seen';
  readonly criterionId: string;
  readonly part: string;
  readonly value?: EntryValue;
  readonly source?: CursorSource;
  readonly note?: string | null;
}

export type CursorEffect =
  | { readonly do: 'add'; readonly entry: CursorEntry }
  | { readonly do: 'undo' | 'again' }
  /** Into view; `focus`: its number field is ready to be typed into, or nothing has the focus. */
  | {
      readonly do: 'show';
      readonly item: SheetCriterion;
      readonly focus: boolean;
      readonly block: 'nearest' | 'center';
    }
  | { readonly do: 'part'; readonly item: SheetCriterion; readonly part: string }
  | { readonly do: 'type' | 'timer'; readonly item: SheetCriterion }
  | { readonly do: 'level'; readonly item: SheetCriterion; readonly number: number }
  | { readonly do: 'open'; readonly dialog: DialogName }
  | { readonly do: 'step'; readonly by: 1 | -1 }
  /** Once what was entered counts: where the work goes on depends on it. */
  | { readonly do: 'then'; readonly event: CursorEvent };

export interface CursorStep {
  readonly state: CursorState;
  readonly effects: readonly CursorEffect[];
}

/** What an event makes of the cursor, and what is to be done about it. */
export function cursorStep(state: CursorState, event: CursorEvent, view: CursorView): CursorStep {
  const stay = (...effects: CursorEffect[]): CursorStep => ({ state, effects });
  const at = (item: SheetCriterion, ...effects: CursorEffect[]): CursorStep => ({
    state: { ...state, current: item },
    effects,
  });
  switch (event.on) {
    case 'hand':
      return { state: { ...state, byKey: false }, effects: [] };
    case 'begin':
      return begin(state, view);
    case 'select':
      return at(event.item);
    case 'go':
      return event.item
        ? at(event.item, { do: 'show', item: event.item, focus: true, block: 'nearest' })
        : stay();
    case 'leave': {
      const next = nextOpen(view.criteria, view.outcomes, event.item.index + 1) ?? event.item;
      // With the keyboard when that is what brought us here.
      return state.byKey || view.typing
        ? at(next, { do: 'show', item: next, focus: true, block: 'nearest' })
        : at(next);
    }
    case 'enter':
      return view.locked ? stay() : enter(state, event);
    case 'enter_parts': {
      if (view.locked) return stay();
      const source = event.item.criterion.kind === 'loss' ? 'instrument' : 'typed';
      const entries = event.values.map(({ part, value }) => added(event.item, part, value, source));
      return at(event.item, ...entries);
    }
    case 'fault': {
      const item = state.current;
      if (!item) return stay();
      const faults = new Set(view.outcomes.get(item.criterion.id)?.faults);
      if (!faults.delete(event.code)) faults.add(event.code);
      return stay(added(item, '', { kind: 'check', passed: false, faults: [...faults] }));
    }
    case 'digit':
      return state.current ? { state, effects: digit(state.current, event.key, view) } : stay();
    case 'act':
      return act(state, event.act, view);
    case 'undone': {
      const item = view.criteria.find((c) => c.criterion.id === event.criterionId);
      return item ? at(item, { do: 'again' }, { do: 'show', item, focus: false, block: 'nearest' }) : stay();
    }
    default:
      return event satisfies never;
  }
}

const added = (
  item: SheetCriterion,
  part: string,
  value: EntryValue,
  source?: CursorSource,
  note?: string | null,
): CursorEffect => ({
  do: 'add',
  entry: {
    kind: 'value',
    criterionId: item.criterion.id,
    part,
    value,
    ...(source === undefined ? {} : { source }),
    ...(note === undefined ? {} : { note }),
  },
});
const notSeen = (item: SheetCriterion): CursorEffect[] =>
  partsOf(item.criterion)
    .map(partKey)
    .map((part) => ({ do: 'add', entry: { kind: 'not_seen', criterionId: item.criterion.id, part } }));

/** Where the work goes on; who is there already stays there, and nothing moves under the hand. */
function begin(state: CursorState, { criteria, outcomes, begun }: CursorView): CursorStep {
  const first = nextOpen(criteria, outcomes, 0) ?? criteria[0] ?? null;
  if (first === state.current) return { state, effects: [] };
  return {
    state: { ...state, current: first },
    effects: first && begun ? [{ do: 'show', item: first, focus: false, block: 'center' }] : [],
  };
}

/** Adds a value and moves on; a failed check keeps the cursor, so that its fault can be named. */
function enter(state: CursorState, event: CursorEvent & { on: 'enter' }): CursorStep {
  const { item, part, value, source, note } = event;
  const entry = added(item, part, value, source, note);
  const { criterion } = item;
  const here = { ...state, current: item };
  if (value.kind === 'check' && !value.passed) return { state: here, effects: [entry] };
  // A walk and a grid have their own next place, and say when they are done.
  if (criterion.kind === 'map' || criterion.kind === 'readings') return { state: here, effects: [entry] };
  if (criterion.kind === 'loss') {
    const parts = partsOf(criterion).map(partKey);
    const next = parts[parts.indexOf(part) + 1];
    if (next !== undefined) return { state, effects: [entry, { do: 'part', item, part: next }] };
  }
  return { state, effects: [entry, { do: 'then', event: { on: 'leave', item } }] };
}

/** A level of a scale, a call, or the first figure of a number. */
function digit(item: SheetCriterion, key: string, view: CursorView): CursorEffect[] {
  const { criterion } = item;
  // As a tap on the level: where a picture was graded, another level asks for its reason.
  if (criterion.kind === 'grade') return [{ do: 'level', item, number: Number(key) }];
  if (criterion.kind !== 'call') return [{ do: 'type', item }];
  // 1 for good, 2 for bad; where the sheet has no reference, what it is has to be tapped as well.
  const said = CALLS[Number(key) - 1];
  if (criterion.of === undefined || !said || view.locked) return [];
  const value: EntryValue = { kind: 'call', said };
  return [{ do: 'then', event: { on: 'enter', item, part: '', value, source: 'typed', note: null } }];
}

function act(state: CursorState, wanted: SheetAct, view: CursorView): CursorStep {
  const { current: item } = state;
  const { criteria, locked } = view;
  const nothing: CursorStep = { state, effects: [] };
  const does = (...effects: CursorEffect[]): CursorStep => ({ state, effects });
  const check = (at: SheetCriterion, passed: boolean): CursorStep =>
    does({
      do: 'then',
      event: {
        on: 'enter',
        item: at,
        part: '',
        value: { kind: 'check', passed },
        source: 'typed',
        note: null,
      },
    });
  switch (wanted) {
    case 'next':
      return cursorStep(state, { on: 'go', item: criteria[(item?.index ?? -1) + 1] }, view);
    case 'previous':
      return cursorStep(state, { on: 'go', item: criteria[(item?.index ?? 1) - 1] }, view);
    case 'next_trainee':
      return does({ do: 'step', by: 1 });
    case 'previous_trainee':
      return does({ do: 'step', by: -1 });
    case 'help':
      return does({ do: 'open', dialog: 'keys' });
    case 'stop':
      return locked || !view.teaches ? nothing : does({ do: 'open', dialog: 'stop' });
    case 'note':
    case 'sign':
      return locked ? nothing : does({ do: 'open', dialog: wanted });
    case 'undo':
      return locked ? nothing : does({ do: 'undo' });
    case 'timer':
      return item ? does({ do: 'timer', item }) : nothing;
    case 'fail':
      return item?.criterion.kind === 'check' ? check(item, false) : nothing;
    case 'not_seen':
      return item && !locked ? does(...notSeen(item), { do: 'then', event: { on: 'leave', item } }) : nothing;
    case 'pass_step': {
      if (!item || locked) return nothing;
      // The open checks of the step at hand pass, and the next open criterion is at hand.
      const items = criteria.filter((c) => c.step.id === item.step.id);
      const passes = openChecks(items, view.outcomes).map((c) =>
        added(c, '', { kind: 'check', passed: true }),
      );
      return does(...passes, { do: 'then', event: { on: 'leave', item: items[items.length - 1] ?? item } });
    }
    case 'rest_not_seen':
      // What nobody has to see and nobody saw is said to be not seen, on the whole sheet.
      return locked ? nothing : does(...openSampled(criteria, view.outcomes).flatMap(notSeen));
    case 'accept': {
      if (!item || locked) return nothing;
      const is = view.outcomes.get(item.criterion.id)?.state;
      if (item.criterion.kind === 'check' && (is === 'open' || is === 'not_seen')) return check(item, true);
      // Takes what is typed, goes on from what is scored already.
      const next = is === 'scored' ? (nextOpen(criteria, view.outcomes, item.index + 1) ?? item) : item;
      return cursorStep(state, { on: 'go', item: next }, view);
    }
    default:
      return wanted satisfies never;
  }
}
