import { describe, expect, it } from 'vitest';
import { DEFAULT_POLICY } from '../competence/index.ts';
import { DEFAULT_SCORING, score } from '../scoring/index.ts';
import { check, entry, limit, loss, measure, sheetOf, step } from '../scoring/entries-for-tests.ts';
import type { MethodSheet } from '../sheet/index.ts';
import { canMove, movedSheet, packEntries, unpackEntries, whatIfTally } from './index.ts';

const SHEET = sheetOf(
  step('strip', 'strip', [check('clean'), measure('length', { upper: limit('8.5') }, { critical: true })]),
  step('test', 'test', [loss('loss', { wavelengthsNm: [1310] })]),
);
const NONE = { passMark: null, limit: null };
const REFERENCE = {
  id: 'r',
  method: 'single_cord' as const,
  wavelengthNm: 1310,
  valueDbm: '-10',
  setAt: '2026-03-02T09:00:00.000Z',
  showsNegative: false,
  rereadDbm: null,
  voidReason: null,
};
const outcome = (sheet: MethodSheet, mm: string, db: string, clean = true) =>
  score(
    sheet,
    [
      entry('clean', { kind: 'check', passed: clean }),
      entry('length', { kind: 'measure', text: mm, unit: 'mm' }),
      entry('loss', { kind: 'loss', text: db, unit: 'dB', referenceId: 'r' }, { part: '1310' }),
    ],
    { ...DEFAULT_SCORING, references: [REFERENCE], final: true },
  );

describe('a sheet with a limit moved', () => {
  it('is the same sheet where nothing of it moves', () => {
    expect(movedSheet(SHEET, NONE)).toBe(SHEET);
    expect(movedSheet(SHEET, { passMark: 80, limit: { criterionId: 'other', min: null, max: 1 } })).toBe(
      SHEET,
    );
  });
  it('judges by the moved loss limit, band and pass mark, and leaves the sheet as it was', () => {
    const tight = movedSheet(SHEET, { ...NONE, limit: { criterionId: 'loss', min: null, max: 0.5 } });
    expect(outcome(SHEET, '8', '0.6').verdict).toBe('pass');
    expect(outcome(tight, '8', '0.7').skills.test?.verdict).toBe('fail');
    expect(outcome(tight, '8', '0.6').skills.test?.verdict).toBe('marginal_fail');
    expect(outcome(tight, '8', '0.4').criteria[2]!.parts[0]).toMatchObject({ limitDb: 0.5 });
    const short = movedSheet(SHEET, { ...NONE, limit: { criterionId: 'length', min: 7.5, max: 8.1 } });
    expect(outcome(short, '8.2', '0.3').verdict).toBe('fail');
    expect(outcome(short, '7', '0.3').verdict).toBe('fail');
    expect(outcome(short, '8.1', '0.3').verdict).toBe('pass');
    expect(outcome(SHEET, '8', '0.3', false).verdict).toBe('fail');
    expect(outcome(movedSheet(SHEET, { ...NONE, passMark: 60 }), '8', '0.3', false).verdict).toBe('pass');
  });
  it('refuses what cannot be a limit', () => {
    const move = (limitTo: { min: number | null; max: number | null }, of = 'length') =>
      movedSheet(SHEET, { ...NONE, limit: { criterionId: of, ...limitTo } });
    expect(() => movedSheet(SHEET, { ...NONE, passMark: 101 })).toThrow('what_if.bad_pass_mark');
    expect(() => move({ min: 9, max: null })).toThrow('what_if.bad_limit');
    expect(() => move({ min: null, max: NaN })).toThrow('what_if.bad_limit');
    expect(() => move({ min: null, max: -1 }, 'loss')).toThrow('what_if.bad_limit');
    expect([SHEET.steps[0]!.criteria[0]!, SHEET.steps[1]!.criteria[0]!].map(canMove)).toEqual([false, true]);
  });
});

describe('who comes out otherwise', () => {
  it('counts rates, verdicts and standings before and after', () => {
    const tight = movedSheet(SHEET, { ...NONE, limit: { criterionId: 'loss', min: null, max: 0.5 } });
    const tally = whatIfTally(DEFAULT_POLICY, DEFAULT_POLICY);
    ['0.3', '0.3', '0.3', '0.6', '0.6'].forEach((db, i) => {
      const attempt = { id: `a${i}`, traineeId: 't', startedMs: i + 1 };
      tally.add(attempt, outcome(SHEET, '8', db), outcome(tight, '8', db));
    });
    const found = tally.result(10);
    expect(found).toMatchObject({ attempts: 5, changed: 2, newlyFailed: 2, newlyPassed: 0 });
    expect(found.skills.find((s) => s.skill === 'test')).toMatchObject({ before: { k: 5 }, after: { k: 3 } });
    expect(found.standings).toEqual([
      { traineeId: 't', skill: 'test', before: 'competent', after: 'retrain' },
    ]);
    expect(found.changes.map((c) => c.attemptId)).toEqual(['a3', 'a4']);
  });
  it('a policy alone moves standings and no verdict', () => {
    const tally = whatIfTally(DEFAULT_POLICY, { ...DEFAULT_POLICY, passesInARow: 2 });
    for (const i of [1, 2]) {
      const same = outcome(SHEET, '8', '0.3');
      tally.add({ id: `a${i}`, traineeId: 't', startedMs: i }, same, same);
    }
    const found = tally.result(10);
    expect(found.changed).toBe(0);
    expect(found.standings.every((s) => s.before === 'learning' && s.after === 'competent')).toBe(true);
    expect(found.standings).toHaveLength(2);
  });
  it('of nothing', () => {
    expect(whatIfTally(DEFAULT_POLICY, DEFAULT_POLICY).result(1)).toMatchObject({ attempts: 0, skills: [] });
  });
});

describe('entries made small', () => {
  it('score as they did: corrections, retractions and what no score looks at', () => {
    const wrong = entry('length', { kind: 'measure', text: '9', unit: 'mm' });
    const right = entry('length', { kind: 'measure', text: '8', unit: 'mm' }, { supersedes: [wrong.id] });
    const slip = entry('clean', { kind: 'check', passed: false });
    const entries = [
      wrong,
      right,
      slip,
      entry('clean', null, { kind: 'retract', criterionId: null, targetId: slip.id }),
      entry('clean', { kind: 'check', passed: true }),
      entry('clean', null, { kind: 'note', note: 'hands shake' }),
      entry(
        'loss',
        { kind: 'loss', text: '0.6', unit: 'dB', referenceId: 'r' },
        { part: '1310', clockOffsetMs: 5 },
      ),
    ];
    const packed = JSON.parse(JSON.stringify(packEntries(entries))) as ReturnType<typeof packEntries>;
    expect(JSON.stringify(packed)).not.toContain('hands shake');
    const context = { ...DEFAULT_SCORING, references: [REFERENCE], final: true };
    const was = score(SHEET, entries, context);
    const is = score(SHEET, unpackEntries(packed), context);
    const bare = (o: typeof was) => ({
      ...o,
      criteria: o.criteria.map(({ entryIds: _, parts: __, ...c }) => c),
    });
    expect(bare(is)).toEqual(bare(was));
    expect(was.verdict).toBe('pass');
  });
});
