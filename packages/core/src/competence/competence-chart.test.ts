import { describe, expect, it } from 'vitest';
import { chartLimits, competenceChart, DEFAULT_POLICY, monthsOn, type Policy, standingOf } from './index.ts';

const stand = (marks: string, signOffs: number[] = [], policy: Policy = DEFAULT_POLICY) =>
  standingOf({ marks, lastPassMs: 1, signOffs }, policy, 2);

describe('the sequential chart of a trainee', () => {
  it('has the limits that the policy asks for', () => {
    expect(chartLimits(DEFAULT_POLICY).deterioration).toBeCloseTo(2 * Math.log(3), 5);
    expect(() => chartLimits({ ...DEFAULT_POLICY, pGood: 0.3 })).toThrow('sequential.bad_rates');
  });
  it('learns, then watches for what gets worse, and begins anew after passes in a row', () => {
    const chart = competenceChart('FPPPFPPPF', DEFAULT_POLICY, 3);
    expect(chart.map((p) => p.form[0]).join('')).toBe('lllldddd' + 'd');
    expect(chart.map((p) => p.restarts)).toEqual([...Array<boolean>(7).fill(false), true, false]);
    const fail = Math.log(3);
    const pass = Math.log(0.7 / 0.9);
    expect(chart[4]!.sum).toBeCloseTo(fail, 12);
    expect(chart[5]!.sum).toBeCloseTo(fail + pass, 12);
    expect(chart[8]!.sum).toBeCloseTo(fail, 12);
  });
  it('leaves out what has no verdict', () => {
    expect(competenceChart('VPIF', DEFAULT_POLICY, null)).toHaveLength(2);
    expect(() => competenceChart('X', DEFAULT_POLICY, null)).toThrow('competence.unknown_mark');
  });
});

describe('standing by the chart and by sign-offs', () => {
  it('asks for retraining when failures come too often, though never two in a row', () => {
    expect(stand('PPPFPFPF').evidence).toEqual({
      code: 'standing.chart_signals',
      params: { fails: 3, of: 5 },
    });
    expect(stand('PPPFPFPF', [], { ...DEFAULT_POLICY, chartRetrains: false }).standing).toBe('watch');
    // It stays until passes in a row begin the chart anew.
    expect(stand('PPPFPFPFPP').standing).toBe('retrain');
    expect(stand('PPPFPFPFPPP').standing).toBe('competent');
  });
  it('a sign-off clears a stop breach and begins the chart anew', () => {
    expect(stand('PPPS').standing).toBe('retrain');
    expect(stand('PPPSP', [4]).standing).toBe('learning');
    expect(stand('PPPSP', [3]).evidence.code).toBe('standing.stop_breach');
    expect(stand('PPPFPFPF', [8]).standing).toBe('watch');
    expect(stand('PPPS', [], { ...DEFAULT_POLICY, stopRetrains: false }).standing).toBe('watch');
  });
  it('by a share of the last, and by the chart of learning', () => {
    const share: Policy = { ...DEFAULT_POLICY, competentBy: 'share', sharePasses: 4, shareOf: 5 };
    expect(stand('PFPPP', [], share).evidence).toMatchObject({ code: 'standing.competent_share' });
    expect(stand('PPPP', [], share).evidence).toMatchObject({
      code: 'standing.learning_share',
      params: { passes: 4, of: 4, wanted: 4, window: 5 },
    });
    const chart: Policy = { ...DEFAULT_POLICY, competentBy: 'chart' };
    expect(stand('PPPPPP', [], chart).standing).toBe('learning');
    const found = stand('P'.repeat(40), [], chart);
    expect(found.evidence.code).toBe('standing.competent_chart');
    // Each pass adds ln(0.9 / 0.7): the limit is reached at the piece that this number says.
    const wanted = Math.ceil(chartLimits(chart).learning / Math.log(0.9 / 0.7) - 1e-9);
    expect(found.evidence.params).toEqual({ piece: wanted });
    expect(found.competentFrom).toBe(wanted - 1);
  });
  it('says when competence lapses', () => {
    const pass = Date.parse('2024-02-29T12:00:00Z');
    const history = { marks: 'PPP', lastPassMs: pass };
    expect(standingOf(history, DEFAULT_POLICY, pass).lapsesMs).toBe(Date.parse('2025-02-28T12:00:00Z'));
    expect(standingOf({ marks: 'P', lastPassMs: pass }, DEFAULT_POLICY, pass).lapsesMs).toBeNull();
    expect(monthsOn(Date.parse('2026-08-31T00:00:00Z'), 6)).toBe(Date.parse('2027-02-28T00:00:00Z'));
  });
});
