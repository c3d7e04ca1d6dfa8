import { DEFAULT_SCORING, type Entry, score, standingIds } from '@clear-mark/core';
import { LC_WEDGE_LOCATOR } from '@clear-mark/methods';
import { describe, expect, it } from 'vitest';
import { actOfKey, isDigitKey, KEYS } from './keys.ts';
import {
  lastToUndo,
  listCriteria,
  nextOpen,
  openChecks,
  openSampled,
  proposalsOf,
  reuseUnchanged,
  standingEntry,
  standingDismissals,
  valueText,
} from './sheet.model.ts';

const criteria = listCriteria(LC_WEDGE_LOCATOR);
let serial = 0;
const pass = (index: number, more: Partial<Entry> = {}): Entry => ({
  id: `e${(serial += 1)}`,
  kind: 'value',
  criterionId: criteria[index]!.criterion.id,
  part: '',
  value: { kind: 'check', passed: true },
  voidReason: null,
  note: null,
  authorId: 'me',
  capacity: 'instructor',
  deviceId: 'd',
  source: 'typed',
  at: '2026-03-02T10:00:00Z',
  supersedes: [],
  targetId: null,
  ...more,
});
const retract = (target: Entry): Entry =>
  pass(0, { kind: 'retract', value: null, targetId: target.id, criterionId: target.criterionId });
const outcomesOf = (entries: Entry[]) =>
  reuseUnchanged(new Map(), score(LC_WEDGE_LOCATOR, entries, DEFAULT_SCORING));

describe('which rows are drawn again', () => {
  it('only those whose outcome changed', () => {
    const one = pass(0);
    const first = outcomesOf([one]);
    const second = reuseUnchanged(first, score(LC_WEDGE_LOCATOR, [one, pass(1)], DEFAULT_SCORING));
    const changed = criteria.filter(({ criterion }) => first.get(criterion.id) !== second.get(criterion.id));
    expect(changed.map((c) => c.index)).toEqual([1]);
  });
});

describe('the next open criterion', () => {
  it('comes after, then from the start, then not at all', () => {
    // What nobody has to see is passed over: the second criterion that every piece needs is the boot.
    const required = criteria.filter((c) => c.criterion.required);
    const boot = required[1]!.index;
    expect(nextOpen(criteria, outcomesOf([pass(0)]), 1)?.index).toBe(boot);
    expect(nextOpen(criteria, outcomesOf([pass(0)]), criteria.length)?.index).toBe(boot);
    const all = new Map(criteria.map((c) => [c.criterion.id, { state: 'scored' }]));
    expect(nextOpen(criteria, all as never, 3)).toBeNull();
  });
});

describe('what one tap takes', () => {
  const step = (id: string) => criteria.filter((c) => c.step.id === id);
  const ids = (items: readonly { criterion: { id: string } }[]): string[] =>
    items.map((c) => c.criterion.id.split('/')[2]!);
  it('is the checks of a step that nobody scored; measurements, scales and the trainee’s own are left', () => {
    expect(ids(openChecks(step('inspect'), outcomesOf([])))).toEqual(['dark-fiber', 'inspect-order']);
    expect(ids(openChecks(step('buffer'), outcomesOf([])))).toEqual(['coating-gone', 'no-nick']);
    expect(ids(openChecks(step('kit'), outcomesOf([])))).toEqual([]);
    expect(ids(openChecks(step('bench-ready'), outcomesOf([pass(0)])))).toEqual(['shards-ready']);
  });
  it('or what is only scored when it is seen, on the whole sheet', () => {
    const open = openSampled(criteria, outcomesOf([]));
    expect(open.length).toBeGreaterThan(8);
    expect(open.every((c) => !c.criterion.required && !c.criterion.acceptsTrainee)).toBe(true);
    expect(openSampled(criteria, outcomesOf([pass(1)])).length).toBe(open.length - 1);
  });
});

describe('what a new entry supersedes', () => {
  it('is what stands for the criterion on this device', () => {
    const first = pass(0);
    expect(standingIds([], first.criterionId!, '')).toEqual([]);
    expect(standingIds([first], first.criterionId!, '')).toEqual([first.id]);
    const second = pass(0, { supersedes: [first.id] });
    expect(standingIds([first, second], first.criterionId!, '')).toEqual([second.id]);
    expect(standingIds([first, second, retract(second)], first.criterionId!, '')).toEqual([first.id]);
    expect(standingEntry([first, second], first.criterionId!, '')?.id).toBe(second.id);
    expect(standingEntry([first], 'elsewhere', '')).toBeNull();
  });
});

describe('undo', () => {
  it('takes back the own last entry that stands, never a note or another’s', () => {
    const one = pass(0);
    const two = pass(1);
    const others = pass(2, { authorId: 'colleague' });
    const note = pass(1, { kind: 'note', value: null, note: 'x' });
    expect(lastToUndo([one, two, others, note], 'me')).toBe(two);
    expect(lastToUndo([one, two, retract(two)], 'me')).toBe(one);
    expect(lastToUndo([others], 'me')).toBeNull();
  });
});

describe('keys', () => {
  const press = (key: string, focus: 'page' | 'number' | 'control' | 'text' = 'page', modified = false) =>
    actOfKey({ key, focus, modified });
  it('mean one thing each, and nothing while text is written', () => {
    expect(press('Enter')).toBe('accept');
    expect(press('X')).toBe('fail');
    expect(press('x', 'number')).toBe('fail');
    expect(press('x', 'text')).toBeNull();
    expect(press('z', 'page', true)).toBeNull();
    expect(press('Enter', 'control')).toBeNull();
    expect(press('q')).toBeNull();
  });
  it('nothing destructive hangs on a single key: signing only opens its dialog', () => {
    expect(press('g')).toBe('sign');
    expect(KEYS.map((k) => k.key)).toContain('?');
  });
  it('digits go to the measurement', () => {
    const press = (key: string, focus: 'page' | 'number' | 'control' | 'text' = 'page', modified = false) =>
      isDigitKey({ key, focus, modified });
    expect(['0', '9', ',', '.', '-'].every((key) => press(key))).toBe(true);
    expect([press('a'), press('1', 'number'), press('1', 'text'), press('1', 'page', true)]).toEqual(
      Array(4).fill(false),
    );
  });
});

describe('texts', () => {
  it('values and clocks', () => {
    expect(valueText(null)).toBe('');
    expect(valueText({ kind: 'measure', text: '10,50', unit: 'mm' })).toBe('10,50');
    expect(valueText({ kind: 'count', count: 3 })).toBe('3');
    expect(valueText({ kind: 'loss', unit: 'dBm', noLight: true, referenceId: 'r' })).toBe('');
  });
});

describe('what stands beside the results of a sheet', () => {
  const entry = (id: string, more: Partial<Entry>): Entry =>
    ({
      id,
      kind: 'value',
      criterionId: 'c',
      part: '',
      value: { kind: 'check', passed: true },
      capacity: 'instructor',
      at: '2026-03-02T10:00:00Z',
      supersedes: [],
      targetId: null,
      note: null,
      ...more,
    }) as Entry;
  const dismissal = entry('d', {
    kind: 'dismiss',
    part: 'no high_loss dirty_face',
    value: { kind: 'dismiss', symptom: 'high_loss', cause: 'dirty_face' },
  });
  it('suggestions that were put away, until that is taken back', () => {
    expect([...standingDismissals([entry('a', {}), dismissal])]).toEqual(['c no high_loss dirty_face']);
    const back = entry('r', { kind: 'retract', targetId: 'd', part: dismissal.part, value: null });
    expect([...standingDismissals([dismissal, back])]).toEqual([]);
    expect(standingDismissals([])).toBe(standingDismissals([entry('a', {})]));
  });
  it('the trainee’s own results that nobody has seen', () => {
    const own = entry('t', { capacity: 'trainee' });
    const hand = entry('h', { kind: 'hand', part: 'hand', capacity: 'trainee', value: { kind: 'hand' } });
    expect(proposalsOf([own, hand], 'c')).toEqual([own]);
    expect(proposalsOf([own], 'other')).toEqual([]);
    expect(proposalsOf([own, entry('i', {})], 'c')).toEqual([]);
  });
});
