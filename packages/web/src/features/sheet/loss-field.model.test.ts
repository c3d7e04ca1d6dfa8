import {
  type CriterionOutcome,
  type Entry,
  type LossCriterion,
  type LossPartOutcome,
  type LossReference,
} from '@clear-mark/core';
import { lossRulesFor } from '@clear-mark/methods/loss';
import { describe, expect, it } from 'vitest';
import { besideTrainee, conclusionsOf, lossOf, newestCheck } from './loss-field.model.ts';

const rules = lossRulesFor('OS2', 'single_cord');
const criterion = {
  id: 'loss',
  label: 'Insertion loss measured',
  kind: 'loss',
  points: 1,
  critical: true,
  required: true,
  source: rules.connectionDb.source,
  wavelengthsNm: [1310, 1550],
  link: { fiberClass: 'OS2', lengthM: 2, matedPairs: 1, splices: 0, referenceMethod: 'single_cord' },
  rules,
} as LossCriterion;
const reference: LossReference = {
  id: 'r',
  method: 'single_cord',
  wavelengthNm: 1310,
  valueDbm: '-5.00',
  setAt: '2026-03-02T09:00:00.000Z',
  showsNegative: false,
  rereadDbm: null,
  voidReason: null,
};
const part = (lossDb: number | null, more: Partial<LossPartOutcome> = {}): LossPartOutcome => ({
  part: '1310',
  verdict: 'pass',
  reason: null,
  entryId: 'instructor',
  lossDb,
  limitDb: 0.752,
  expectedDb: 0.25,
  uncertaintyDb: 0.1,
  referenceId: 'r',
  ...more,
});
const read = (text: string | undefined, id = 'trainee') =>
  ({
    id,
    value: {
      kind: 'loss',
      unit: 'dB',
      referenceId: 'r',
      ...(text === undefined ? { noLight: true } : { text }),
    },
  }) as unknown as Entry;

describe('a typed loss', () => {
  const value = (text: string, unit: 'dB' | 'dBm' = 'dBm') =>
    ({ kind: 'loss', text, unit, referenceId: 'r' }) as const;
  it('is worked out against its reference, and is none while it is no number', () => {
    expect(lossOf(value('-5.32'), reference, criterion)).toBeCloseTo(0.32, 12);
    expect(lossOf(value('-'), reference, criterion)).toBeNull();
    expect(lossOf(value('-5.32'), { ...reference, valueDbm: '' }, criterion)).toBeNull();
    expect(lossOf(value('-70'), reference, criterion)).toBeNull();
  });
});

describe('the trainee’s reading beside the instructor’s', () => {
  // They agree within sqrt(0.1^2 + 0.1^2) = 0.14 dB.
  it.each([
    ['0.30', 'Trainee read 0.30 dB: agrees (0.06 dB apart, at most 0.14).'],
    [
      '0.55',
      'Trainee read 0.55 dB: does not agree, the technique of one is wrong (0.31 dB apart, at most 0.14).',
    ],
    [undefined, 'Trainee read no light.'],
  ])('%j', (text, words) => expect(besideTrainee(read(text), part(0.24), reference, criterion)).toBe(words));
  it('says nothing where one of the two is missing, or both are the same entry', () => {
    expect(besideTrainee(read('0.3'), part(null), reference, criterion)).toBeNull();
    expect(besideTrainee(read('0.3', 'instructor'), part(0.24), reference, criterion)).toBeNull();
  });
});

describe('what the readings say together', () => {
  const outcome = (parts: readonly LossPartOutcome[]) => ({ parts }) as unknown as CriterionOutcome;
  it('nothing while none is read', () => {
    expect(conclusionsOf(criterion, outcome([part(null, { verdict: 'incomplete' })]), null)).toEqual([]);
  });
  it('a bend where 1550 nm is far above 1310 nm', () => {
    const parts = [part(0.2), part(0.9, { part: '1550', verdict: 'fail' })];
    expect(conclusionsOf(criterion, outcome(parts), null)[0]!.code).toBe('bend');
  });
});

describe('the newest check of a cord', () => {
  const at = (text: string) => ({ at: text });
  it('is the later of what the piece and the class know, in whatever form the time is written', () => {
    const older = at('2026-03-02T09:00:00.000Z');
    const newer = at('2026-03-02T10:30:00+01:00');
    expect(newestCheck(older, newer)).toBe(newer);
    expect(newestCheck(newer, older)).toBe(newer);
  });
  it('is the one there is, or none', () => {
    const only = at('2026-03-02T09:00:00Z');
    expect(newestCheck(only, undefined)).toBe(only);
    expect(newestCheck(undefined, only)).toBe(only);
    expect(newestCheck(undefined, undefined)).toBeUndefined();
  });
});
