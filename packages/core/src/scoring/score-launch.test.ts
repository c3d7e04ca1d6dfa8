import { describe, expect, it } from 'vitest';
import { calibrationOverdue } from './judge-loss.ts';
import { DEFAULT_SCORING, score } from './score.ts';
import {
  check,
  entry,
  failed,
  loss,
  passed,
  reading,
  reference,
  sheetOf,
  step,
} from './entries-for-tests.ts';
import { type Entry, type InstrumentStamp, partValue } from './types.ts';

const references = [reference(1310), reference(1550)];
const context = { ...DEFAULT_SCORING, references };
const sheet = sheetOf(
  step('t', 'test', [check('mandrel'), loss('loss', { conditionedBy: 'mandrel', critical: true })]),
);
const judge = (entries: Entry[], final = false) => score(sheet, entries, { ...context, final });

describe('a launch that was not conditioned', () => {
  const readings = [reading(1310, '-5.20'), reading(1550, '-5.30')];
  it('takes the verdict from a passing reading and leaves its number', () => {
    const found = judge([failed('mandrel'), ...readings]);
    expect(found.criteria[1]).toMatchObject({ verdict: 'void', state: 'void', flags: ['not_conformant'] });
    const [first] = found.criteria[1]!.parts;
    expect(first).toMatchObject({ verdict: 'void', reason: { code: 'void.not_conformant_pass' } });
    expect(partValue(first!)).toBeCloseTo(0.2, 12);
  });
  it('asks for a failing one again, and leaves no light as it is', () => {
    expect(judge([failed('mandrel'), reading(1310, '-9')]).criteria[1]!.parts[0]!.reason?.code).toBe(
      'void.not_conformant_fail',
    );
    const dark = reading(1310, '', { text: undefined, noLight: true });
    expect(judge([failed('mandrel'), dark]).criteria[1]!.parts[0]).toMatchObject({ verdict: 'fail' });
  });
  it('is a fault of the test when it is signed', () => {
    const found = judge([failed('mandrel'), ...readings], true);
    expect(found.skills.test).toMatchObject({ verdict: 'fail', reasons: [{ code: 'group.test_void' }, {}] });
  });
  it('changes nothing where it was conditioned, or not recorded yet', () => {
    expect(judge([passed('mandrel'), ...readings]).criteria[1]!.verdict).toBe('pass');
    expect(judge(readings).criteria[1]).toMatchObject({ verdict: 'pass', flags: [] });
  });
  it('a check that is listed after the reading counts as well', () => {
    const after = sheetOf(step('t', 'test', [loss('loss', { conditionedBy: 'mandrel' }), check('mandrel')]));
    expect(score(after, [...readings, failed('mandrel')], context).criteria[0]!.verdict).toBe('void');
  });
});

describe('a reading that an instrument gave', () => {
  const stamp = (more: Partial<InstrumentStamp> = {}): InstrumentStamp => ({
    thingId: 't',
    identity: 'maker, meter',
    wavelengthNm: 1310,
    calibratedOn: '2025-02-01',
    seq: 4,
    calibrationDueOn: '2027-02-01',
    at: '2026-03-02T10:00:00.000Z',
    ...more,
  });
  const flagsOf = (instrument: InstrumentStamp) =>
    judge([passed('mandrel'), reading(1310, '-5.20', { instrument }), reading(1550, '-5.30')]).criteria[1]!;
  it('is void at another wavelength than the one it is for', () => {
    expect(flagsOf(stamp({ wavelengthNm: 850 })).parts[0]).toMatchObject({
      verdict: 'void',
      reason: { code: 'void.reading', params: { why: 'wrong_wavelength' } },
    });
    expect(flagsOf(stamp()).parts[0]!.verdict).toBe('pass');
    expect(flagsOf(stamp({ wavelengthNm: null })).parts[0]!.verdict).toBe('pass');
  });
  it('carries a flag when its calibration had run out', () => {
    expect(flagsOf(stamp({ calibrationDueOn: '2026-03-01' })).flags).toEqual(['calibration_overdue']);
    expect(flagsOf(stamp({ calibrationDueOn: '2026-03-02' })).flags).toEqual([]);
    expect(flagsOf(stamp({ calibrationDueOn: null })).flags).toEqual([]);
  });
  it('is asked of the day in the class’s zone', () => {
    const late = stamp({ calibrationDueOn: '2026-03-01' });
    const overdue = (timeZone: string, at: string): boolean => calibrationOverdue(late, at, timeZone);
    expect(overdue('UTC', '2026-03-02T01:00:00.000Z')).toBe(true);
    expect(overdue('America/Denver', '2026-03-02T01:00:00.000Z')).toBe(false);
    expect(overdue('UTC', '2026-03-01T23:00:00.000Z')).toBe(false);
    expect(overdue('Europe/Berlin', '2026-03-01T23:00:00.000Z')).toBe(true);
  });
  it('a measurement carries it too', () => {
    const band = { upper: { value: '0.1', source: { kind: 'house', fromMemory: false, words: '' } } };
    const angle = { ...check('angle'), kind: 'measure', unit: 'deg', band } as never;
    const value = {
      kind: 'measure',
      text: '0.05',
      unit: 'deg',
      instrument: stamp({ calibrationDueOn: '2020-01-01' }),
    };
    const found = score(sheetOf(step('s', 'splice', [angle])), [entry('angle', value as never)], context);
    expect(found.criteria[0]).toMatchObject({ verdict: 'pass', flags: ['calibration_overdue'] });
  });
});

describe('a device whose clock is off', () => {
  it('is an hour ahead: its reading is as old as it is on the server’s clock', () => {
    const ahead = { at: '2026-03-02T13:30:00.000Z' };
    const late = [reference(1310, { setAt: '2026-03-02T09:00:00.000Z' })];
    const judgeAt = (more: object) =>
      score(sheet, [passed('mandrel'), { ...reading(1310, '-5.2'), ...ahead, ...more }], {
        ...context,
        references: late,
      }).criteria[1]!.parts[0]!;
    expect(judgeAt({}).reason?.code).toBe('void.reference_old');
    expect(judgeAt({ clockOffsetMs: -3_600_000 }).verdict).toBe('pass');
  });
});
