import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { costliest } from './costliest.ts';
import { OUTCOME_MARKS, outcomeMark, verdictOfMark, withVerdict } from './outcome-marks.ts';
import { checkPolicy, DEFAULT_POLICY } from './policy.ts';
import { summarizeSkill } from './rates.ts';
import { standingOf } from './standing.ts';

const NOW = Date.parse('2026-06-01T12:00:00Z');
const stand = (marks: string, lastPass = '2026-05-30T12:00:00Z') =>
  standingOf({ marks, lastPassMs: Date.parse(lastPass) }, DEFAULT_POLICY, NOW);

describe('standing, the first rule that holds', () => {
  it.each([
    ['', 'not_tried'],
    ['VVI', 'not_tried'],
    ['P', 'learning'],
    ['PP', 'learning'],
    ['FF', 'learning'],
    ['PFF', 'retrain'],
    ['FFF', 'retrain'],
    ['PPP', 'competent'],
    ['PpP', 'competent'],
    ['FPPP', 'competent'],
    ['PPPF', 'watch'],
    ['PPPFP', 'learning'],
    ['PPPFPPP', 'competent'],
    ['ppp', 'watch'],
    ['PPPFF', 'retrain'],
    ['S', 'retrain'],
    ['SPP', 'retrain'],
    ['SPPP', 'competent'],
    ['PPPSPP', 'retrain'],
    ['PFVF', 'retrain'],
    ['Pff', 'retrain'],
  ])('%j is %s', (marks, wanted) => {
    expect(stand(marks).standing).toBe(wanted);
  });

  it('lapses after the currency, in calendar months', () => {
    expect(stand('PPP', '2025-06-01T12:00:00Z').standing).toBe('competent');
    expect(stand('PPP', '2025-06-01T11:59:59Z').standing).toBe('lapsed');
    expect(stand('PP', '2020-01-01T00:00:00Z').standing).toBe('learning');
  });

  // A month that has no such day ends the currency on its last day: 29 February to 28 February.
  it('counts twelve months from a leap day', () => {
    const history = { marks: 'PPP', lastPassMs: Date.parse('2024-02-29T12:00:00Z') };
    expect(standingOf(history, DEFAULT_POLICY, Date.parse('2025-02-28T12:00:00Z')).standing).toBe(
      'competent',
    );
    expect(standingOf(history, DEFAULT_POLICY, Date.parse('2025-02-28T12:00:01Z')).standing).toBe('lapsed');
  });

  it('carries the evidence and the window', () => {
    const found = stand(`${'P'.repeat(9)}FF`);
    expect(found.evidence).toEqual({ code: 'standing.fails_in_a_row', params: { fails: 2, n: 11 } });
    expect(found.window).toBe('PPPPPPPPFF');
    expect(found.wasCompetent).toBe(true);
  });

  it('never gets worse by one more pass', () => {
    const order = ['retrain', 'watch', 'learning', 'competent'];
    const marks = fc.string({ unit: fc.constantFrom('P', 'F'), maxLength: 20, minLength: 1 });
    fc.assert(
      fc.property(marks, (history) => {
        const before = stand(history).standing;
        const after = stand(`${history}P`).standing;
        expect(order.indexOf(after)).toBeGreaterThanOrEqual(Math.min(order.indexOf(before), 2));
      }),
    );
  });
});

describe('summary of a skill', () => {
  it('keeps void and incomplete beside n, and the censored beside the passed', () => {
    const found = summarizeSkill(['FPV', 'FI', 'Pp', '', 'V']);
    expect(found.rate).toMatchObject({ k: 3, n: 5 });
    expect(found.firstAttempt).toMatchObject({ k: 1, n: 3 });
    expect(found).toMatchObject({ void: 2, incomplete: 1, marginal: 1, notYetPassed: 1 });
    expect(found.firstPassAt).toEqual([1, 1]);
  });

  it('counts a first pass by outcomes with a verdict', () => {
    expect(summarizeSkill(['VFVP']).firstPassAt).toEqual([0, 1]);
    expect(summarizeSkill([]).rate).toEqual({ kind: 'none' });
  });

  it('refuses a mark that it does not know', () => {
    expect(() => withVerdict('PX')).toThrow('competence.unknown_mark');
  });
});

describe('marks', () => {
  it('turn into verdicts and back', () => {
    for (const mark of OUTCOME_MARKS) {
      expect(outcomeMark(verdictOfMark(mark), mark === 'S')).toBe(mark);
    }
    expect(() => verdictOfMark('Q')).toThrow('competence.unknown_mark');
  });
});

describe('costliest criteria', () => {
  it('sorts by points, then times, then id', () => {
    const lost = [
      { criterionId: 'b', lost: 2 },
      { criterionId: 'a', lost: 5 },
      { criterionId: 'b', lost: 3 },
      { criterionId: 'c', lost: 5 },
    ];
    expect(costliest(lost).map((c) => c.criterionId)).toEqual(['b', 'a', 'c']);
    expect(costliest([])).toEqual([]);
  });
});

describe('policy', () => {
  it('refuses what contradicts itself', () => {
    expect(checkPolicy(DEFAULT_POLICY)).toBe(DEFAULT_POLICY);
    expect(() => checkPolicy({ ...DEFAULT_POLICY, window: 2 })).toThrow('policy.window_too_short');
    expect(() => checkPolicy({ ...DEFAULT_POLICY, passesInARow: 0 })).toThrow('policy.out_of_range');
    expect(() => checkPolicy({ ...DEFAULT_POLICY, currencyMonths: 1.5 })).toThrow('policy.out_of_range');
  });
});
