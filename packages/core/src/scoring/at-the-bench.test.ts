import { describe, expect, it } from 'vitest';
import { atTheBench } from './at-the-bench.ts';
import { checkValue } from './entry-value.ts';
import { check, entry, passed, retract, sheetOf, step } from './entries-for-tests.ts';
import { score } from './score.ts';
import type { Entry } from './types.ts';

const timed = check('t', { kind: 'timed', band: {} } as never);
const hand = (id: string, more: Partial<Entry> = {}): Entry =>
  entry(id, { kind: 'hand' }, { kind: 'hand', part: 'hand', capacity: 'trainee', ...more });
const timer = (id: string, startedAt: string, more: Partial<Entry> = {}): Entry =>
  entry(id, { kind: 'timer', startedAt }, { kind: 'timer', part: 'timer', at: startedAt, ...more });
const T = (minute: number): string => `2026-03-02T10:${String(minute).padStart(2, '0')}:00.000Z`;

describe('what stands at a bench', () => {
  it('nothing, where nothing was raised or started', () => {
    expect(atTheBench([passed('a'), entry('a', null, { kind: 'note', note: 'x' })])).toEqual({
      hand: null,
      timers: [],
    });
  });
  it('the hand that came first, until it is taken back, by the trainee or the instructor', () => {
    const first = hand('a', { at: T(1) });
    const second = hand('b', { at: T(2) });
    expect(atTheBench([second, first]).hand).toBe(first);
    expect(atTheBench([first, second, retract(first, { capacity: 'instructor' })]).hand).toBe(second);
    expect(atTheBench([first, retract(first, { capacity: 'trainee' })]).hand).toBeNull();
  });
  it('a trainee cannot take an instructor’s timer away', () => {
    const started = timer('t', T(1));
    expect(atTheBench([started, retract(started, { capacity: 'trainee' })]).timers).toEqual([started]);
    expect(atTheBench([started, retract(started)]).timers).toEqual([]);
  });
  it('timers in the order of their start; the same one started twice counts once, from the earlier', () => {
    const late = timer('t', T(5));
    const early = timer('t', T(3));
    const other = timer('u', T(4));
    expect(atTheBench([late, other, early]).timers).toEqual([early, other]);
  });
  it('changes no score', () => {
    const sheet = sheetOf(step('s', 'strip', [check('a'), timed]));
    const done = passed('a');
    const before = score(sheet, [done]);
    expect(score(sheet, [done, hand('a'), timer('t', T(1))])).toEqual(before);
  });
  it('stands in a part of its own, a timer on a timed criterion only', () => {
    const code = (part: string, value: Entry['value'], on = timed) => {
      try {
        checkValue(on, part, value!);
        return null;
      } catch (error) {
        return (error as { code: string }).code;
      }
    };
    expect(code('timer', { kind: 'timer', startedAt: T(1) })).toBeNull();
    expect(code('', { kind: 'timer', startedAt: T(1) })).toBe('value.unknown_part');
    expect(code('timer', { kind: 'timer', startedAt: T(1) }, check('a'))).toBe('value.wrong_kind');
    expect(code('hand', { kind: 'hand' }, check('a'))).toBeNull();
    expect(code('', { kind: 'hand' }, check('a'))).toBe('value.unknown_part');
  });
});
