import { describe, expect, it } from 'vitest';
import { check, entry, loss, passed, reading, reference, sheetOf, step } from './entries-for-tests.ts';
import { DEFAULT_SCORING, score } from './score.ts';
import { type Entry, partValue } from './types.ts';

describe('loss', () => {
  const sheet = sheetOf(
    step('t', 'test', [loss('loss', { skill: 'terminate', critical: true }), check('set')]),
    step('m', 'terminate', [check('made')]),
  );
  const references = [reference(1310), reference(1550)];
  const context = { ...DEFAULT_SCORING, references };
  const others = [passed('set'), passed('made')];
  const lossOf = (entries: Entry[], refs = references) =>
    score(sheet, [...others, ...entries], { ...context, references: refs }).criteria[0]!;

  it('reference minus reading: -5.00 and -5.20 dBm is 0.20 dB', () => {
    const found = lossOf([reading(1310, '-5.20'), reading(1550, '-5.18')]);
    expect(found.verdict).toBe('pass');
    expect(found.parts.map((p) => Math.round(partValue(p)! * 100) / 100)).toEqual([0.2, 0.18]);
  });

  it('a loss equal to the limit passes, marginally, with an uncertainty', () => {
    expect(lossOf([reading(1310, '-5.75'), reading(1550, '-5.20')]).verdict).toBe('marginal_pass');
    expect(lossOf([reading(1310, '-5.65'), reading(1550, '-5.20')]).verdict).toBe('pass');
    expect(lossOf([reading(1310, '-5.85'), reading(1550, '-5.20')]).verdict).toBe('marginal_fail');
    expect(lossOf([reading(1310, '-5.86'), reading(1550, '-5.20')]).verdict).toBe('fail');
  });

  it('typed dB is a loss; an instrument that shows it negative says so', () => {
    const db = (text: string) => [reading(1310, text, { unit: 'dB' }), reading(1550, text, { unit: 'dB' })];
    expect(partValue(lossOf(db('0.3')).parts[0]!)).toBe(0.3);
    const negative = references.map((r) => ({ ...r, showsNegative: true }));
    expect(partValue(lossOf(db('-0.3'), negative).parts[0]!)).toBe(0.3);
  });

  it('power in microwatts', () => {
    // 251.19 uW is -6.00 dBm.
    const found = lossOf([reading(1310, '251.19', { unit: 'uW' }), reading(1550, '-5.1')]);
    expect(partValue(found.parts[0]!)).toBeCloseTo(1, 3);
    expect(lossOf([reading(1310, '0', { unit: 'nW' }), reading(1550, '-5.1')]).reasons[0]!.code).toBe(
      'loss.no_light',
    );
  });

  it('no light fails, a missing wavelength is incomplete', () => {
    const dark = entry(
      'loss',
      { kind: 'loss', noLight: true, unit: 'dBm', referenceId: 'ref1310' },
      { part: '1310' },
    );
    expect(lossOf([dark, reading(1550, '-5.1')]).verdict).toBe('fail');
    expect(lossOf([reading(1550, '-5.1')])).toMatchObject({ verdict: 'incomplete', state: 'open' });
    expect(lossOf([dark]).verdict).toBe('fail');
  });

  it('a level at or under the floor of the meter is no light, just over it a number', () => {
    const of = (text: string) => lossOf([reading(1310, text), reading(1550, '-5.1')]).parts[0]!;
    expect(of('-70')).toMatchObject({ verdict: 'fail', lossDb: null, reason: { code: 'loss.no_light' } });
    expect(of('-88.2')).toMatchObject({ lossDb: null, reason: { code: 'loss.no_light' } });
    expect(partValue(of('-69.99'))).toBeCloseTo(64.99, 9);
    // 0.1 nW is -70 dBm.
    const power = lossOf([reading(1310, '0.1', { unit: 'nW' }), reading(1550, '-5.1')]).parts[0]!;
    expect(power.reason?.code).toBe('loss.no_light');
  });

  it.each([
    ['below -0.1 dB', [reading(1310, '-4.89')], references, 'void.negative_loss'],
    [
      'over four hours',
      [reading(1310, '-5.2')],
      [reference(1310, { setAt: '2026-03-02T05:59:59Z' })],
      'void.reference_old',
    ],
    [
      'drift over 0.2',
      [reading(1310, '-5.2')],
      [reference(1310, { rereadDbm: '-5.21' })],
      'void.reference_drift',
    ],
    [
      'cord taken off',
      [reading(1310, '-5.2')],
      [reference(1310, { voidReason: 'launch_cord_taken_off' })],
      'void.reading',
    ],
    [
      'drift of a re-read with a comma',
      [reading(1310, '-5.2')],
      [reference(1310, { rereadDbm: '-5,90' })],
      'void.reference_drift',
    ],
    [
      're-read that is no number',
      [reading(1310, '-5.2')],
      [reference(1310, { rereadDbm: '-5.9o' })],
      'void.reference_unreadable',
    ],
    [
      'reference of nothing',
      [reading(1310, '-5.2')],
      [reference(1310, { valueDbm: '' })],
      'void.reference_unreadable',
    ],
    ['wrong wavelength', [reading(1310, '-5.2')], [{ ...reference(1550), id: 'ref1310' }], 'void.reading'],
    ['other method', [reading(1310, '-5.2')], [reference(1310, { method: 'two_cord' })], 'void.reading'],
  ] as const)('void: %s', (_, entries, refs, code) => {
    const part = lossOf([...entries], [...refs]).parts[0]!;
    expect(part).toMatchObject({ verdict: 'void', lossDb: null });
    expect(part.reason?.code).toBe(code);
  });

  it('-0.1 dB itself stands, flagged; a drift of exactly 0.2 dB is allowed', () => {
    const found = lossOf([reading(1310, '-4.90'), reading(1550, '-5.1')]);
    expect(found.verdict).toBe('pass');
    expect(found.flags).toContain('gain_within_uncertainty');
    const drifted = [reference(1310, { rereadDbm: '-5.20' }), reference(1550)];
    expect(lossOf([reading(1310, '-5.2'), reading(1550, '-5.1')], drifted).verdict).toBe('pass');
  });

  it('a void reading at signing: its skill stays unharmed, the test skill and the whole fail', () => {
    const entries = [...others, reading(1310, '-4.5'), reading(1550, '-5.1')];
    expect(score(sheet, entries, context).verdict).toBe('incomplete');
    const outcome = score(sheet, entries, { ...context, final: true });
    expect(outcome.skills.terminate?.verdict).toBe('pass');
    expect(outcome.skills.test).toMatchObject({ verdict: 'fail', reasons: [{ code: 'group.test_void' }] });
    expect(outcome.verdict).toBe('fail');
    expect(outcome.missing).toEqual([]);
  });

  it('a valid reading may follow a void one in the same attempt', () => {
    const bad = reading(1310, '-4.5');
    const again = { ...reading(1310, '-5.2'), supersedes: [bad.id] };
    expect(lossOf([bad, again, reading(1550, '-5.1')]).verdict).toBe('pass');
  });

  it('finds a bend: 1550 at least 0.5 dB over 1310', () => {
    expect(lossOf([reading(1310, '-5.10'), reading(1550, '-5.60')]).flags).toContain('bend_suspected');
    expect(lossOf([reading(1310, '-5.10'), reading(1550, '-5.59')]).flags).not.toContain('bend_suspected');
  });

  it('passes but poor for good work, beyond the uncertainty', () => {
    expect(lossOf([reading(1310, '-5.60'), reading(1550, '-5.2')]).flags).toContain('poor_for_good_work');
    expect(lossOf([reading(1310, '-5.35'), reading(1550, '-5.2')]).flags).toEqual([]);
  });
});
