import {
  coverageOf,
  DEFAULT_SCORING,
  type Entry,
  type EntryValue,
  type MethodSheet,
  score,
  standingIds,
} from '@clear-mark/core';
import { LC_WEDGE_LOCATOR, SHIPPED_METHODS } from '@clear-mark/methods';
import { describe, expect, it } from 'vitest';
import {
  AT_START,
  type CursorEffect,
  type CursorEvent,
  cursorStep,
  type CursorView,
} from './cursor.model.ts';
import { lastToUndo, listCriteria, reuseUnchanged } from './sheet.model.ts';

/** A sheet that is played without a page: effects that change entries are done, the rest is written down. */
function played(sheet: MethodSheet, around: Partial<CursorView> = {}) {
  const criteria = listCriteria(sheet);
  const entries: Entry[] = [];
  const done: CursorEffect[] = [];
  let state = AT_START;
  const add = (more: Partial<Entry>): void => {
    const { criterionId = null, part = '' } = more;
    const supersedes =
      criterionId === null || more.kind === 'retract' ? [] : standingIds(entries, criterionId, part);
    entries.push({
      id: `e${entries.length}`,
      kind: 'value',
      criterionId,
      part,
      value: null,
      voidReason: null,
      note: null,
      authorId: 'me',
      capacity: 'instructor',
      deviceId: 'd',
      source: 'typed',
      at: '2026-03-02T10:00:00Z',
      supersedes,
      targetId: null,
      ...more,
    });
  };
  const view = (): CursorView => ({
    criteria,
    outcomes: reuseUnchanged(new Map(), score(sheet, entries, DEFAULT_SCORING)),
    locked: false,
    teaches: true,
    begun: entries.length > 0,
    typing: false,
    ...around,
  });
  function send(event: CursorEvent): void {
    const step = cursorStep(state, event, view());
    state = step.state;
    for (const effect of step.effects) {
      if (effect.do === 'add') add(effect.entry);
      else if (effect.do === 'then') send(effect.event);
      else if (effect.do === 'undo') {
        const target = lastToUndo(entries, 'me');
        if (target) add({ kind: 'retract', targetId: target.id, criterionId: target.criterionId });
        send({ on: 'undone', criterionId: target?.criterionId ?? null });
      } else done.push(effect);
    }
  }
  return {
    criteria,
    entries,
    done,
    send,
    key: (
      key: 'accept' | 'fail' | 'undo' | 'pass_step' | 'not_seen' | 'rest_not_seen' | 'next' | 'previous',
    ) => send({ on: 'act', act: key }),
    at: () => state.current,
    byKey: (on: boolean) => (state = { ...state, byKey: on }),
    open: () => [...view().outcomes.values()].filter((o) => o.state === 'open').length,
  };
}
const value = (item: ReturnType<typeof listCriteria>[number], of: EntryValue, part = ''): CursorEvent => ({
  on: 'enter',
  item,
  part,
  value: of,
  source: 'typed',
  note: null,
});

describe('where the work begins', () => {
  it('is the first that needs a result, without moving the page of a new sheet', () => {
    const sheet = played(LC_WEDGE_LOCATOR);
    sheet.send({ on: 'begin' });
    expect(sheet.at()?.criterion.required).toBe(true);
    expect(sheet.done).toEqual([]);
  });
  it('is brought to the middle where something was scored before, and stays where somebody is already', () => {
    const sheet = played(LC_WEDGE_LOCATOR);
    sheet.send({ on: 'begin' });
    sheet.key('accept');
    sheet.send({ on: 'select', item: sheet.criteria[0]! });
    sheet.done.length = 0;
    sheet.send({ on: 'begin' });
    expect(sheet.done).toEqual([{ do: 'show', item: sheet.at(), focus: false, block: 'center' }]);
    sheet.send({ on: 'begin' });
    expect(sheet.done).toHaveLength(1);
  });
});

describe('what is entered moves on', () => {
  it('a pass goes to the next that needs a result, a fail stays so that its fault can be named', () => {
    const sheet = played(LC_WEDGE_LOCATOR);
    sheet.send({ on: 'begin' });
    const first = sheet.at()!;
    sheet.key('accept');
    expect(sheet.at()!.index).toBeGreaterThan(first.index);
    const second = sheet.at()!;
    sheet.key('fail');
    expect(sheet.at()).toBe(second);
    const fault = second.criterion.kind === 'check' ? (second.criterion.faults?.[0] ?? 'other') : 'other';
    sheet.send({ on: 'fault', code: fault });
    expect(sheet.entries.at(-1)!.value).toMatchObject({ kind: 'check', passed: false, faults: [fault] });
    sheet.send({ on: 'fault', code: fault });
    expect(sheet.entries.at(-1)!.value).toMatchObject({ passed: false, faults: [] });
  });
  it('with the keyboard the next field is ready to type into; by hand nothing takes the focus', () => {
    const sheet = played(LC_WEDGE_LOCATOR);
    sheet.send({ on: 'begin' });
    sheet.send(value(sheet.at()!, { kind: 'check', passed: true }));
    expect(sheet.done).toEqual([]);
    sheet.byKey(true);
    sheet.key('accept');
    expect(sheet.done.at(-1)).toMatchObject({ do: 'show', focus: true });
    sheet.send({ on: 'hand' });
    sheet.done.length = 0;
    sheet.send(value(sheet.at()!, { kind: 'check', passed: true }));
    expect(sheet.done).toEqual([]);
  });
  it('a loss goes through its places before it is left', () => {
    const sheet = played(LC_WEDGE_LOCATOR);
    const loss = sheet.criteria.find((c) => c.criterion.kind === 'loss')!;
    sheet.send({ on: 'select', item: loss });
    const reading: EntryValue = { kind: 'loss', unit: 'dB', text: '0.2', referenceId: 'r' };
    sheet.send(value(loss, reading, '1310'));
    const walk = sheet.done.filter((e) => e.do === 'part');
    expect(sheet.at()).toBe(loss);
    expect(walk.length).toBeLessThanOrEqual(1);
    expect(sheet.entries.at(-1)!.part).toBe('1310');
  });
  it('every shipped method is walked to its end by Enter and figures, and no step goes round', () => {
    for (const method of SHIPPED_METHODS) {
      const sheet = played(method);
      sheet.send({ on: 'begin' });
      const needed = sheet.criteria.filter(
        (c) => c.criterion.kind === 'check' && c.criterion.required,
      ).length;
      for (let n = 0; n < needed; n += 1) {
        const before = sheet.entries.length;
        const item = sheet.criteria.find(
          (c) =>
            c.criterion.kind === 'check' &&
            c.criterion.required &&
            !sheet.entries.some((e) => e.criterionId === c.criterion.id),
        );
        if (!item) break;
        sheet.send({ on: 'go', item });
        sheet.key('accept');
        expect(sheet.entries.length, method.id).toBe(before + 1);
        expect(sheet.at(), method.id).not.toBeNull();
      }
    }
  });
});

describe('keys that act on several', () => {
  it('the open checks of a step pass at once, those with a result are left alone', () => {
    const sheet = played(LC_WEDGE_LOCATOR);
    const step = LC_WEDGE_LOCATOR.steps.find((s) => s.criteria.filter((c) => c.kind === 'check').length > 1)!;
    const items = sheet.criteria.filter((c) => c.step.id === step.id && c.criterion.kind === 'check');
    sheet.send({ on: 'go', item: items[0]! });
    sheet.key('fail');
    const before = sheet.entries.length;
    sheet.key('pass_step');
    const added = sheet.entries.slice(before);
    expect(added.map((e) => e.criterionId)).toEqual(
      items
        .slice(1)
        .filter((c) => coverageOf(c.criterion) !== 'trainee')
        .map((c) => c.criterion.id),
    );
    expect(added.every((e) => e.value?.kind === 'check' && e.value.passed)).toBe(true);
  });
  it('what is only scored when seen is said to be not seen, on the whole sheet', () => {
    const sheet = played(LC_WEDGE_LOCATOR);
    const before = sheet.open();
    sheet.key('rest_not_seen');
    expect(sheet.entries.every((e) => e.kind === 'not_seen')).toBe(true);
    expect(sheet.open()).toBeLessThan(before);
  });
  it('not seen covers every place of a criterion, and the work goes on', () => {
    const sheet = played(LC_WEDGE_LOCATOR);
    const loss = sheet.criteria.find((c) => c.criterion.kind === 'loss')!;
    sheet.send({ on: 'select', item: loss });
    sheet.key('not_seen');
    expect(sheet.entries.length).toBeGreaterThanOrEqual(1);
    expect(sheet.entries.every((e) => e.kind === 'not_seen' && e.criterionId === loss.criterion.id)).toBe(
      true,
    );
    expect(sheet.at()).not.toBe(loss);
  });
  it('undo goes back to what it takes back; with nothing to take back nothing moves', () => {
    const sheet = played(LC_WEDGE_LOCATOR);
    sheet.send({ on: 'begin' });
    const first = sheet.at()!;
    sheet.key('accept');
    sheet.key('undo');
    expect(sheet.at()).toBe(first);
    expect(sheet.entries.at(-1)).toMatchObject({ kind: 'retract', targetId: 'e0' });
    sheet.key('undo');
    expect(sheet.entries).toHaveLength(2);
  });
  it('arrows stop at both ends', () => {
    const sheet = played(LC_WEDGE_LOCATOR);
    sheet.send({ on: 'select', item: sheet.criteria[0]! });
    sheet.key('previous');
    expect(sheet.at()!.index).toBe(0);
    sheet.send({ on: 'select', item: sheet.criteria.at(-1)! });
    sheet.key('next');
    expect(sheet.at()!.index).toBe(sheet.criteria.length - 1);
  });
});

describe('a figure', () => {
  const effectsOf = (kind: string, key: string): readonly CursorEffect[] => {
    for (const method of SHIPPED_METHODS) {
      const sheet = played(method);
      const item = sheet.criteria.find((c) => c.criterion.kind === kind);
      if (!item) continue;
      sheet.send({ on: 'select', item });
      sheet.send({ on: 'digit', key });
      return [
        ...sheet.done,
        ...sheet.entries.map((e) => ({ do: 'add', entry: e }) as unknown as CursorEffect),
      ];
    }
    return [];
  };
  it('chooses a level of a scale', () =>
    expect(effectsOf('grade', '2')).toMatchObject([{ do: 'level', number: 2 }]));
  it('begins a number', () => expect(effectsOf('measure', '5')).toMatchObject([{ do: 'type' }]));
  it('makes a call where the sheet has its reference: 1 good, 2 bad, 3 nothing', () => {
    expect(effectsOf('call', '2').some((e) => e.do === 'add')).toBe(true);
    expect(effectsOf('call', '3')).toEqual([]);
  });
});

describe('a sheet that is signed, or somebody else’s', () => {
  it('takes nothing and opens nothing that writes; help and the next trainee are there', () => {
    const sheet = played(LC_WEDGE_LOCATOR, { locked: true });
    sheet.send({ on: 'select', item: sheet.criteria[0]! });
    for (const act of [
      'accept',
      'fail',
      'not_seen',
      'pass_step',
      'rest_not_seen',
      'undo',
      'stop',
      'note',
      'sign',
    ] as const) {
      sheet.send({ on: 'act', act });
    }
    sheet.send({
      on: 'enter_parts',
      item: sheet.criteria[0]!,
      values: [{ part: '', value: { kind: 'check', passed: true } }],
    });
    expect([sheet.entries, sheet.done]).toEqual([[], []]);
    sheet.send({ on: 'act', act: 'help' });
    sheet.send({ on: 'act', act: 'next_trainee' });
    sheet.send({ on: 'act', act: 'previous_trainee' });
    expect(sheet.done).toEqual([
      { do: 'open', dialog: 'keys' },
      { do: 'step', by: 1 },
      { do: 'step', by: -1 },
    ]);
  });
  it('a trainee cannot stop a piece', () => {
    const sheet = played(LC_WEDGE_LOCATOR, { teaches: false });
    sheet.send({ on: 'act', act: 'stop' });
    sheet.send({ on: 'act', act: 'note' });
    expect(sheet.done).toEqual([{ do: 'open', dialog: 'note' }]);
  });
});
