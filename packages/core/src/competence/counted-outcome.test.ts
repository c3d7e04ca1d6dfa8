import { describe, expect, it } from 'vitest';
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
} from '../scoring/entries-for-tests.ts';
import { DEFAULT_SCORING, score } from '../scoring/index.ts';
import { countedOutcome, workMinutes } from './counted-outcome.ts';

const SHEET = sheetOf(
  step('prepare', 'strip', [check('clean'), check('wiped')]),
  step('measure', 'test', [loss('loss')]),
);
const REFERENCES = [reference(1310), reference(1550)];
const counted = (entries: Parameters<typeof score>[1], references = REFERENCES) =>
  countedOutcome(SHEET, score(SHEET, entries, { ...DEFAULT_SCORING, references }));
const READ = [reading(1310, '-5.30'), reading(1550, '-5.40')];

describe('an outcome laid out for counting', () => {
  it('of a piece that was stopped is a stop breach of the skill at hand and of the whole', () => {
    const stop = entry('loss', { kind: 'stop', hazard: 'light' }, { kind: 'stop', part: 'stop' });
    const { whole, skills } = counted([passed('clean'), passed('wiped'), ...READ, stop]);
    expect(whole).toBe('S');
    expect(skills).toContainEqual({ skill: 'test', mark: 'S' });
    expect(skills).toContainEqual({ skill: 'strip', mark: 'P' });
  });

  it('has a mark for the whole and for each skill, points lost, and the losses in dB', () => {
    const { whole, skills, criteria, losses } = counted([passed('clean'), failed('wiped'), ...READ]);
    expect(whole).toBe('F');
    expect(skills).toContainEqual({ skill: 'strip', mark: 'F' });
    expect(skills).toContainEqual({ skill: 'test', mark: 'P' });
    expect(criteria.map((c) => [c.criterionId, c.mark, c.lost])).toEqual([
      ['clean', 'P', 0],
      ['wiped', 'F', 10],
      ['loss', 'P', 0],
    ]);
    expect(losses.map((l) => [l.wavelengthNm, l.lossDb?.toFixed(2), l.mark, l.direction, l.fiber])).toEqual([
      [1310, '0.30', 'P', null, null],
      [1550, '0.40', 'P', null, null],
    ]);
  });

  it('a void reading is a row without a loss, and loses no points', () => {
    const voided = [reference(1310, { voidReason: 'setup_broken' }), reference(1550)];
    const { criteria, losses } = counted([passed('clean'), passed('wiped'), ...READ], voided);
    expect(losses.find((l) => l.wavelengthNm === 1310)).toMatchObject({ lossDb: null, mark: 'V' });
    expect(losses.find((l) => l.wavelengthNm === 1550)!.lossDb).toBeCloseTo(0.4, 12);
    expect(criteria.find((c) => c.criterionId === 'loss')).toMatchObject({ mark: 'V', lost: 0 });
  });

  it('what was not scored is no row, and of a void attempt only its marks count', () => {
    const open = counted([passed('clean')]);
    expect(open.criteria.map((c) => c.criterionId)).toEqual(['clean']);
    expect(open.losses).toEqual([]);
    const all = score(SHEET, [passed('clean'), passed('wiped'), ...READ], {
      ...DEFAULT_SCORING,
      references: REFERENCES,
    });
    const none = countedOutcome(SHEET, { ...all, verdict: 'void' });
    expect([none.whole, none.criteria, none.losses]).toEqual(['V', [], []]);
  });

  it('a stop breach has its own mark', () => {
    const sheet = sheetOf(step('bench', 'strip', [check('glasses', { stop: true })]));
    const outcome = score(sheet, [failed('glasses')], { ...DEFAULT_SCORING, references: [] });
    expect(countedOutcome(sheet, outcome)).toMatchObject({
      whole: 'S',
      skills: [{ skill: 'strip', mark: 'S' }],
      criteria: [{ criterionId: 'glasses', mark: 'S' }],
    });
  });
});

describe('minutes of work', () => {
  const at = (minute: number): number => minute * 60_000;
  it.each([
    [[5, 12], 12],
    [[12, 5], 12],
    [[240], 240],
    [[241], null],
    [[-1], null],
    [[], null],
  ] as const)('entries after %o minutes give %s', (minutes, wanted) => {
    expect(
      workMinutes(
        at(1000),
        minutes.map((m) => at(1000 + m)),
      ),
    ).toBe(wanted);
  });
});
