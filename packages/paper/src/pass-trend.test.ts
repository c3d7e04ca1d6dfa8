import { describe, expect, it } from 'vitest';
import { passTrend, type RatedPiece } from './pass-trend.ts';

/** Pieces with the outcomes of one skill in their order: P passed, F failed, V void. */
const piecesOf = (marks: string, skill: 'cleave' | 'strip' = 'cleave'): RatedPiece[] =>
  [...marks].map((mark, i) => ({
    dayWords: `${i + 1} Mar`,
    skills: { [skill]: mark === 'P' ? 'pass' : mark === 'F' ? 'fail' : 'void' } as RatedPiece['skills'],
  }));
const lineOf = (svg: string): [x: number, y: number][] =>
  /points="([^"]+)"/
    .exec(svg)![1]!
    .split(' ')
    .map((p) => p.split(',').map(Number) as [number, number]);
const shares = (svg: string): number[] => {
  const none = 10 + 30;
  const all = 10 + 6;
  return lineOf(svg).map(([, y]) => (y - none) / (all - none));
};

describe('the trend of what passed', () => {
  it('is the share of the last five at each outcome, from the fifth on', () => {
    // By hand: 2 of 5, then 3, 4, 4 and 5 of 5.
    const svg = passTrend(piecesOf('FFPFPPPPP'))!;
    expect(shares(svg).map((s) => Math.round(5 * s))).toEqual([2, 3, 4, 4, 5]);
    const xs = lineOf(svg).map(([x]) => x);
    expect(xs).toEqual([...xs].sort((a, b) => a - b));
    expect(svg).toContain('5 of 5');
    expect(svg).toContain('1 Mar');
    expect(svg).toContain('9 Mar');
  });
  it('marks each outcome, the failed ones crossed through; void ones do not count', () => {
    const svg = passTrend(piecesOf('PVFPPVP'))!;
    expect(svg.match(/r="3.6" fill="#0b6460"/g)).toHaveLength(4);
    expect(svg.match(/r="3.6" fill="#ffffff"/g)).toHaveLength(1);
    expect(shares(svg)).toHaveLength(1);
    expect(svg).toContain('4 of 5');
  });
  it('has a row for each skill with five outcomes, in the order of the work, and none without', () => {
    expect(passTrend(piecesOf('PPPP'))).toBeNull();
    expect(passTrend([])).toBeNull();
    const both = piecesOf('PPPPP').map((piece, i) => ({
      ...piece,
      skills: {
        ...piece.skills,
        strip: 'marginal_pass' as const,
        ...(i < 2 ? { splice: 'pass' as const } : {}),
      },
    }));
    const svg = passTrend(both)!;
    expect(svg.match(/<polyline/g)).toHaveLength(2);
    expect(svg.indexOf('Stripping')).toBeLessThan(svg.indexOf('Cleaving'));
    expect(svg).not.toContain('Splicing');
  });
  it('a marginal fail is a fail', () => {
    const pieces = piecesOf('PPPPP').map((p, i) =>
      i === 4 ? { ...p, skills: { cleave: 'marginal_fail' as const } } : p,
    );
    expect(passTrend(pieces)).toContain('4 of 5');
  });
});
