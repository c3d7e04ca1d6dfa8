import { describe, expect, it } from 'vitest';
import { lossTrend, svgAddress, type TrendPiece } from './loss-trend.ts';

const piece = (
  day: string,
  ...losses: readonly (readonly [nm: number, db: number | null])[]
): TrendPiece => ({
  pieceLabel: day,
  dayWords: day,
  losses: losses.map(([wavelengthNm, lossDb]) => ({ wavelengthNm, lossDb })),
});
const dotsOf = (svg: string): { x: number; y: number; filled: boolean }[] =>
  [...svg.matchAll(/<circle cx="([\d.]+)" cy="([\d.]+)" r="4" fill="(#\w+)"/g)].map(([, x, y, fill]) => ({
    x: Number(x),
    y: Number(y),
    filled: fill !== '#ffffff',
  }));
const lineAt = (svg: string): number | null => {
  const found = /y1="([\d.]+)"[^>]*stroke-dasharray/.exec(svg);
  return found ? Number(found[1]) : null;
};

describe('the trend of losses', () => {
  const three = [
    piece('2 Mar', [1310, 0.6], [1550, 0.4]),
    piece('9 Mar', [1310, 0.3], [1550, null]),
    piece('16 Mar', [1310, 0.15], [1550, 0.1]),
  ];
  it('has a dot a reading from left to right, a larger loss the higher, and two in its key', () => {
    const dots = dotsOf(lossTrend(three, [0.75, 0.75])!);
    const filled = dots.filter((d) => d.filled).slice(0, 3);
    expect(dots).toHaveLength(3 + 2 + 2);
    expect(filled.map((d) => d.x)).toEqual([...filled.map((d) => d.x)].sort((a, b) => a - b));
    expect(filled.map((d) => d.y)).toEqual([...filled.map((d) => d.y)].sort((a, b) => a - b));
    // A loss that is half as large stands half as high over nothing.
    const zero = 190 - 26;
    expect((zero - filled[1]!.y) / (zero - filled[0]!.y)).toBeCloseTo(0.5, 2);
    expect((zero - filled[2]!.y) / (zero - filled[1]!.y)).toBeCloseTo(0.5, 2);
  });
  it('draws the limit where there is one for all, at its height among the readings', () => {
    const svg = lossTrend(three, [0.75, 0.75])!;
    const zero = 190 - 26;
    const first = dotsOf(svg)[0]!;
    expect((zero - lineAt(svg)!) / (zero - first.y)).toBeCloseTo(0.75 / 0.6, 2);
    expect(svg).toContain('limit 0.75');
    expect(lineAt(lossTrend(three, [0.75, 0.5])!)).toBeNull();
    expect(lineAt(lossTrend(three, [])!)).toBeNull();
  });
  it('has a shape of its own for each of four wavelengths', () => {
    const all = [850, 1300, 1310, 1550];
    const svg = lossTrend(
      ['2 Mar', '3 Mar'].map((day) => piece(day, ...all.map((nm) => [nm, 0.3] as const))),
      [],
    )!;
    const shapes = [...svg.matchAll(/<(circle|rect) [^>]*fill="(#\w+)"/g)].map(
      ([, kind, fill]) => `${kind} ${fill}`,
    );
    expect(new Set(shapes).size).toBe(4);
    expect(shapes).toHaveLength(4 * 3);
    for (const nm of all) expect(svg).toContain(`${nm} nm`);
  });
  it('is none of fewer than two pieces with a loss', () => {
    expect(lossTrend([piece('2 Mar', [1310, 0.6])], [])).toBeNull();
    expect(lossTrend([piece('2 Mar', [1310, 0.6]), piece('3 Mar', [1310, null])], [])).toBeNull();
    expect(lossTrend([], [])).toBeNull();
  });
  it('says first and last day, with signs that would end its text written out', () => {
    const svg = lossTrend([piece('2 <Mar>', [1310, 0.6]), piece('3 & 4', [1310, 0.2])], [])!;
    expect(svg).toContain('2 &lt;Mar&gt;');
    expect(svg).toContain('3 &amp; 4');
    expect(decodeURIComponent(svgAddress(svg).split(',')[1]!)).toBe(svg);
  });
});
