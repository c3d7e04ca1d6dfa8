import { describe, expect, it } from 'vitest';
import { TRUNK_TYPES } from '../sheet/index.ts';
import { composeMaps, explainMap, fiberColour, trunkMap } from './index.ts';

const A = trunkMap('A', 12);
const B = trunkMap('B', 12);
const C = trunkMap('C', 12);
const swap = (map: readonly number[], a: number, b: number): number[] =>
  map.map((far, i) => (i === a - 1 ? map[b - 1]! : i === b - 1 ? map[a - 1]! : far));
const dark = (map: readonly number[], ...ports: number[]): number[] =>
  map.map((far, i) => (ports.includes(i + 1) ? 0 : far));

// TIA-568 polarity, from memory: A straight, B reversed, C pairs crossed.
describe('trunk types', () => {
  it('as the standard draws them', () => {
    expect(A).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12]);
    expect(B).toEqual([12, 11, 10, 9, 8, 7, 6, 5, 4, 3, 2, 1]);
    expect(C).toEqual([2, 1, 4, 3, 6, 5, 8, 7, 10, 9, 12, 11]);
  });
  it('24 fibers are two rows, each on its own', () => {
    expect(trunkMap('B', 24).slice(10, 14)).toEqual([2, 1, 24, 23]);
    expect(trunkMap('B', 8)).toEqual([8, 7, 6, 5, 4, 3, 2, 1]);
  });
  it.each([0, 3, -2, 1.5])('%d ports are refused', (ports) => {
    expect(() => trunkMap('A', ports)).toThrow('map.bad_ports');
  });
  it('each type undoes itself', () => {
    for (const type of TRUNK_TYPES) expect(composeMaps(trunkMap(type, 12), trunkMap(type, 12))).toEqual(A);
  });
  it('a dark fiber stays dark through what follows', () => {
    expect(composeMaps(dark(A, 3), B)[2]).toBe(0);
    expect(composeMaps()).toEqual([]);
    expect(() => composeMaps(A, trunkMap('A', 8))).toThrow('map.lengths_differ');
  });
});

describe('the smallest explanation', () => {
  it('nothing to say of a right map', () => {
    for (const type of TRUNK_TYPES) expect(explainMap(trunkMap(type, 12), type)).toEqual([]);
  });
  it('another trunk type is one finding, dark fibers beside it', () => {
    expect(explainMap(B, 'A')).toEqual([{ kind: 'wrong_type', types: ['B'] }]);
    expect(explainMap(dark(C, 5), 'A')).toEqual([
      { kind: 'wrong_type', types: ['C'] },
      { kind: 'no_light', ports: [5] },
    ]);
  });
  it('a crossed pair, two of them, and fibers of different pairs', () => {
    expect(explainMap(swap(A, 1, 2), 'A')).toEqual([{ kind: 'crossed_pair', ports: [1, 2] }]);
    expect(explainMap(swap(swap(B, 3, 4), 9, 10), 'B')).toEqual([
      { kind: 'crossed_pair', ports: [3, 4] },
      { kind: 'crossed_pair', ports: [9, 10] },
    ]);
    expect(explainMap(swap(A, 2, 3), 'A')).toEqual([{ kind: 'crossed_fibers', ports: [2, 3] }]);
    const ring = A.map((far) => (far === 1 ? 5 : far === 5 ? 9 : far === 9 ? 1 : far));
    expect(explainMap(ring, 'A')).toEqual([{ kind: 'crossed_fibers', ports: [1, 5, 9] }]);
  });
  it('a broken fiber, alone or in a crossing', () => {
    expect(explainMap(dark(A, 7), 'A')).toEqual([{ kind: 'no_light', ports: [7] }]);
    expect(explainMap(dark(swap(A, 7, 8), 8), 'A')).toEqual([
      { kind: 'crossed_fibers', ports: [7] },
      { kind: 'no_light', ports: [8] },
    ]);
    expect(
      explainMap(
        A.map(() => 0),
        'A',
      ),
    ).toEqual([{ kind: 'no_light', ports: A }]);
  });
  it('lit ports that fit two types name both', () => {
    const lit = dark(B, 1, 2, 3, 4, 5, 8, 9, 10, 11, 12);
    expect(lit.filter((far) => far > 0)).toEqual([7, 6]);
    expect(explainMap(lit, 'A')).toEqual([
      { kind: 'wrong_type', types: ['B'] },
      { kind: 'no_light', ports: [1, 2, 3, 4, 5, 8, 9, 10, 11, 12] },
    ]);
    const two = trunkMap('B', 2);
    expect(explainMap(two, 'A')).toEqual([{ kind: 'wrong_type', types: ['B', 'C'] }]);
  });
  it('random crossings are named in full: mended, the map is right', () => {
    let seed = 11;
    const random = (n: number): number => (seed = (seed * 16807) % 2147483647) % n;
    for (let round = 0; round < 200; round++) {
      let map: readonly number[] = trunkMap(TRUNK_TYPES[round % 3]!, 12);
      const wanted = TRUNK_TYPES[round % 3]!;
      for (let i = 0; i < 3; i++) map = swap(map, 1 + random(12), 1 + random(12));
      const named = new Set(explainMap(map, wanted).flatMap((f) => ('ports' in f ? f.ports : [])));
      const wrong = map.flatMap((far, i) => (far !== trunkMap(wanted, 12)[i] ? [i + 1] : []));
      const typed = explainMap(map, wanted).some((f) => f.kind === 'wrong_type');
      if (!typed) expect([...named].sort((a, b) => a - b)).toEqual(wrong);
    }
  });
});

// TIA-598 order, from memory; the same as the mnemonic that crews use (common practice).
describe('fiber colours', () => {
  it('twelve in order, then again', () => {
    expect([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12].map(fiberColour)).toEqual([
      ...['blue', 'orange', 'green', 'brown', 'slate', 'white'],
      ...['red', 'black', 'yellow', 'violet', 'rose', 'aqua'],
    ]);
    expect([fiberColour(13), fiberColour(144)]).toEqual(['blue', 'aqua']);
    expect(() => fiberColour(0)).toThrow('map.bad_ports');
  });
});
