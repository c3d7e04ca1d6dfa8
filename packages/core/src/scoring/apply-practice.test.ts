import { describe, expect, it } from 'vitest';
import { check, limit, loss, measure, passed, sheetOf, step } from './entries-for-tests.ts';
import { score } from './index.ts';
import { applyPractice, chosenOption } from '../sheet/apply-practice.ts';
import { checkSheet } from '../sheet/check-sheet.ts';
import type { MethodSheet, PracticeOption, PracticeChange } from '../sheet/types.ts';

const practice = (id: string, ...changes: PracticeChange[]): PracticeOption => ({
  id,
  question: `${id}?`,
  default: 'usual',
  reason: 'because',
  options: [
    { id: 'usual', label: 'Usual', changes: [] },
    { id: 'other', label: 'Other', changes },
  ],
});
const plain = sheetOf(
  step('s', 'strip', [check('wiped'), measure('len', { upper: limit('10') })]),
  step('t', 'test', [loss('loss')]),
  step('u', 'test', [check('alone')]),
);
const withPractice = (...schools: PracticeOption[]): MethodSheet => ({ ...plain, schools });

describe('choices of practice', () => {
  it('the defaults change nothing, and the sheet is the same object', () => {
    const sheet = withPractice(practice('wipe', { change: 'leave_out', criterion: 'wiped' }));
    expect(applyPractice(sheet, {})).toBe(sheet);
    expect(applyPractice(sheet, { wipe: 'usual', unknown: 'x' })).toBe(sheet);
    expect(chosenOption(sheet.schools![0]!, {})).toBe('usual');
  });
  it('the same choices give the same object, so that limits are worked out once', () => {
    const sheet = withPractice(practice('wipe', { change: 'leave_out', criterion: 'wiped' }));
    expect(applyPractice(sheet, { wipe: 'other' })).toBe(applyPractice(sheet, { wipe: 'other' }));
  });
  it('leaves a criterion out, and the step with it when it was its last', () => {
    const sheet = withPractice(
      practice('wipe', { change: 'leave_out', criterion: 'wiped' }),
      practice('alone', { change: 'leave_out', criterion: 'alone' }),
    );
    const made = applyPractice(sheet, { wipe: 'other', alone: 'other' });
    expect(made.steps.map((s) => s.criteria.map((c) => c.id))).toEqual([['len'], ['loss']]);
    expect(made.chosen).toEqual({ wipe: 'other', alone: 'other' });
    expect(sheet.steps).toHaveLength(3);
  });
  it('changes a band, what is required, wavelengths, rules and words', () => {
    const made = applyPractice(
      withPractice(
        practice(
          'all',
          { change: 'band', criterion: 'len', band: { upper: limit('12') } },
          { change: 'require', criterion: 'wiped', required: false },
          { change: 'wavelengths', criterion: 'loss', wavelengthsNm: [1550] },
          { change: 'rules', criterion: 'loss', rules: { counts: 'connectors' } },
          { change: 'how', step: 's', how: 'Otherwise.' },
        ),
      ),
      { all: 'other' },
    );
    expect(made.steps[0]).toMatchObject({ how: 'Otherwise.' });
    expect(made.steps[0]!.criteria[0]!.required).toBe(false);
    expect(made.steps[1]!.criteria[0]).toMatchObject({
      wavelengthsNm: [1550],
      rules: { counts: 'connectors' },
    });
    const outcome = score(made, [passed('wiped')]);
    expect(outcome.criteria.map((c) => c.points)).toEqual([10, 10, 10, 10]);
    expect(outcome.missing).not.toContain('wiped');
  });
  it('an option that the practice does not have is refused', () => {
    const sheet = withPractice(practice('wipe', { change: 'leave_out', criterion: 'wiped' }));
    expect(() => applyPractice(sheet, { wipe: 'third' })).toThrow('practice.unknown');
  });
  it('a change that does not fit its criterion, or a default that is no option, is a fault of the sheet', () => {
    expect(() =>
      checkSheet(withPractice(practice('x', { change: 'trunk', criterion: 'len', trunk: 'A' }))),
    ).toThrow('practice.misfit');
    expect(() => checkSheet(withPractice({ ...practice('x'), default: 'none' }))).toThrow('sheet.practice');
    expect(() =>
      checkSheet(withPractice(practice('x', { change: 'leave_out', criterion: 'nowhere' }))),
    ).toThrow('sheet.practice');
    const call = check('said', { kind: 'call', of: 'wiped' } as never);
    const sheet = { ...plain, steps: [...plain.steps, step('v', 'test', [call])] };
    const out = practice('x', { change: 'leave_out', criterion: 'wiped' });
    expect(() => checkSheet({ ...sheet, schools: [out] })).toThrow('sheet.call_target');
  });
});
