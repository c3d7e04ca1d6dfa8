import { describe, expect, it } from 'vitest';
import { wilsonRate } from '../stats/index.ts';
import { DEFAULT_POLICY, plannedPieces, piecesAhead } from './index.ts';

describe('pieces ahead', () => {
  it('at the window’s rate, and at both ends of its interval', () => {
    const found = piecesAhead('FPFPP', 3);
    if (found.kind === 'none') throw new Error(found.reason);
    const rate = wilsonRate(3, 5);
    if (rate.kind === 'none') throw new Error();
    // One more pass at 0.6: (0.6^-3 - 0.6^-2) / 0.4.
    expect(found.pieces).toBeCloseTo((0.6 ** -3 - 0.6 ** -2) / 0.4, 10);
    expect(found.low).toBeCloseTo((rate.high ** -3 - rate.high ** -2) / (1 - rate.high), 8);
    expect(found.high).toBeCloseTo((rate.low ** -3 - rate.low ** -2) / (1 - rate.low), 8);
  });
  it('fewer the longer the streak, none left when it is there', () => {
    const of = (marks: string): number => {
      const found = piecesAhead(marks, 3);
      return found.kind === 'pieces' ? found.pieces : NaN;
    };
    expect(of('PPFPF')).toBeGreaterThan(of('PFPFP'));
    expect(of('PFFPP')).toBeLessThan(of('PFPFP'));
    expect(of('FFPPP')).toBe(0);
    // Void and incomplete are no outcomes.
    expect(of('FPVPI')).toBe(of('FPP'));
  });
  it('nothing foretold of nothing', () => {
    expect(piecesAhead('', 3)).toEqual({ kind: 'none', reason: 'no_outcomes' });
    expect(piecesAhead('VI', 3)).toEqual({ kind: 'none', reason: 'no_outcomes' });
    expect(piecesAhead('FFS', 3)).toEqual({ kind: 'none', reason: 'no_pass_yet' });
    expect(piecesAhead('P', 3)).toMatchObject({ kind: 'pieces', pieces: 2, low: 2 });
    expect(() => piecesAhead('P', 0)).toThrow('stats.bad_count');
  });
});

describe('pieces to plan', () => {
  it('as expected, the passes again where it lapsed, or a first round', () => {
    expect(plannedPieces('retrain', 'FPFPP', DEFAULT_POLICY)).toEqual({ pieces: 5, firstRound: false });
    expect(plannedPieces('watch', 'PPPP', DEFAULT_POLICY)).toEqual({ pieces: 1, firstRound: false });
    expect(plannedPieces('lapsed', 'PPPP', DEFAULT_POLICY)).toEqual({ pieces: 3, firstRound: false });
    expect(plannedPieces('retrain', 'FFF', DEFAULT_POLICY)).toEqual({ pieces: 10, firstRound: true });
    expect(plannedPieces('retrain', 'FFPFFFFFFF', DEFAULT_POLICY)).toEqual({ pieces: 10, firstRound: true });
  });
});
