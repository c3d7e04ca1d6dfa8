import { describe, expect, it } from 'vitest';
import { check, entry, failed, passed, retract, sheetOf, step } from './entries-for-tests.ts';
import { checkValue } from './entry-value.ts';
import { score } from './score.ts';
import type { Entry, Hazard } from './types.ts';

const sheet = sheetOf(
  step('s1', 'strip', [check('a'), check('b')]),
  step('s2', 'cleave', [check('c')]),
  step('s3', 'terminate', [check('d')]),
);
const stop = (criterion: string, hazard: Hazard, more: Partial<Entry> = {}): Entry =>
  entry(criterion, { kind: 'stop', hazard }, { kind: 'stop', part: 'stop', ...more });

describe('a stop', () => {
  it('fails the skill that was at hand, its step and the whole; the other skills keep their own', () => {
    const found = score(sheet, [
      passed('a'),
      passed('b'),
      stop('c', 'eyes', { note: 'glasses on the bench' }),
    ]);
    expect(found).toMatchObject({ verdict: 'fail', stopped: true });
    expect(found.reasons[0]).toEqual({ code: 'group.stopped', params: { hazard: 'eyes', criterion: 'c' } });
    expect(found.skills.cleave).toMatchObject({ verdict: 'fail', reasons: [{ code: 'group.stopped' }] });
    expect(found.skills.strip?.verdict).toBe('pass');
    expect(found.skills.terminate?.verdict).toBe('incomplete');
    expect(found.steps.map((s) => s.verdict)).toEqual(['pass', 'fail', 'incomplete']);
    expect(found.stops).toMatchObject([
      { hazard: 'eyes', criterionId: 'c', stepId: 's2', skill: 'cleave', note: 'glasses on the bench' },
    ]);
  });
  it('stands though everything else passed, and goes when it is taken back', () => {
    const all = ['a', 'b', 'c', 'd'].map((id) => passed(id));
    const stopped = stop('d', 'chemistry');
    expect(score(sheet, [...all, stopped]).verdict).toBe('fail');
    expect(score(sheet, [...all, stopped, retract(stopped)])).toMatchObject({
      verdict: 'pass',
      stopped: false,
      stops: [],
    });
  });
  it('of a trainee is none: only who answers for the bench ends a piece', () => {
    const found = score(sheet, [stop('a', 'light', { capacity: 'trainee' })]);
    expect(found).toMatchObject({ verdict: 'incomplete', stopped: false });
  });
  it('keeps the reasons of what failed beside it', () => {
    const critical = sheetOf(step('s1', 'strip', [check('a', { critical: true })]));
    const codes = score(critical, [failed('a'), stop('a', 'shards')]).reasons.map((r) => r.code);
    expect(codes.slice(0, 2)).toEqual(['group.stopped', 'group.critical_failed']);
  });
  it('stands in a part of its own', () => {
    const criterion = sheet.steps[0]!.criteria[0]!;
    expect(() => checkValue(criterion, 'stop', { kind: 'stop', hazard: 'food' })).not.toThrow();
    expect(() => checkValue(criterion, '', { kind: 'stop', hazard: 'food' })).toThrow('value.unknown_part');
  });
});
