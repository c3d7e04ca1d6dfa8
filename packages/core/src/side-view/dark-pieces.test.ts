import { describe, expect, it } from 'vitest';
import { isElectrode, piecesOf } from './dark-pieces.ts';
import type { Strip } from './find-strips.ts';

const WIDTH = 200;
const HEIGHT = 150;
const FIBER: Strip = { middle: 75, slope: 0, height: 30, from: 0, to: 199 };

function mask(isDark: (x: number, y: number) => boolean): Uint8Array {
  const out = new Uint8Array(WIDTH * HEIGHT);
  for (let y = 0; y < HEIGHT; y++) for (let x = 0; x < WIDTH; x++) out[y * WIDTH + x] = isDark(x, y) ? 1 : 0;
  return out;
}
const only = (isDark: (x: number, y: number) => boolean) => {
  const pieces = piecesOf(mask(isDark), WIDTH, HEIGHT);
  expect(pieces).toHaveLength(1);
  return pieces[0]!;
};

describe('dark places that hang together', () => {
  it('are told apart, each with its rows, its widths and its size', () => {
    const pieces = piecesOf(
      mask((x, y) => (y === 10 && x < 6) || (x >= 50 && x < 53 && y >= 20 && y < 24)),
      WIDTH,
      HEIGHT,
    );
    expect(pieces.map((p) => p.size)).toEqual([6, 12]);
    expect(pieces[1]!.rows).toEqual({ from: 20, to: 23 });
    expect(pieces[1]!.spans).toEqual(Array.from({ length: 4 }, () => ({ from: 50, to: 52 })));
  });
  it('are not told of where they are specks, nor joined by corners alone', () => {
    expect(
      piecesOf(
        mask((x, y) => x === 3 && y < 3),
        WIDTH,
        HEIGHT,
      ),
    ).toEqual([]);
    expect(
      piecesOf(
        mask((x, y) => x === y && x < 30),
        WIDTH,
        HEIGHT,
      ),
    ).toEqual([]);
  });
});

describe('the point of an electrode', () => {
  const fromAbove = (tip: number) => (x: number, y: number) => y < tip && Math.abs(x - 100) < (tip - y) * 0.4;
  const fromBelow = (tip: number) => (x: number, y: number) => y > tip && Math.abs(x - 100) < (y - tip) * 0.4;

  it('comes from above or from below and ends before the fiber', () => {
    expect(isElectrode(only(fromAbove(40)), [FIBER])).toBe(true);
    expect(isElectrode(only(fromBelow(110)), [FIBER])).toBe(true);
  });
  it('does not reach the fiber: what does may go through under it', () => {
    expect(isElectrode(only(fromAbove(58)), [FIBER])).toBe(false);
  });
  it('narrows: a second fiber is as wide all along', () => {
    expect(
      isElectrode(
        only((x, y) => y < 40 && Math.abs(x - 100) < 12),
        [FIBER],
      ),
    ).toBe(false);
    expect(
      isElectrode(
        only((x, y) => y > 110 && y < 140 && x > 20 && x < 180),
        [FIBER],
      ),
    ).toBe(false);
  });
  it('narrows towards the fiber, not away from it', () => {
    expect(
      isElectrode(
        only((x, y) => y < 40 && Math.abs(x - 100) < 2 + y * 0.5),
        [FIBER],
      ),
    ).toBe(false);
  });
});
