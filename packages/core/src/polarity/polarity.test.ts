import { describe, expect, it } from 'vitest';
import { TRUNK_TYPES } from '../sheet/index.ts';
import { composeMaps, crossings, fiberColour, trunkMap } from './index.ts';

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

describe('crossings', () => {
  const of = (seen: readonly number[], expected = A) => crossings(seen, expected);
  it('a crossed pair, two of them, and fibers of different pairs', () => {
    expect(of(A)).toEqual([]);
    expect(of(swap(A, 1, 2))).toEqual([{ kind: 'crossed_pair', ports: [1, 2] }]);
    expect(of(swap(swap(B, 3, 4), 9, 10), B)).toEqual([
      { kind: 'crossed_pair', ports: [3, 4] },
      { kind: 'crossed_pair', ports: [9, 10] },
    ]);
    expect(of(swap(A, 2, 3))).toEqual([{ kind: 'crossed_fibers', ports: [2, 3] }]);
    const ring = A.map((far) => (far === 1 ? 5 : far === 5 ? 9 : far === 9 ? 1 : far));
    expect(of(ring)).toEqual([{ kind: 'crossed_fibers', ports: [1, 5, 9] }]);
  });
  it('a chain that ends at a dark fiber takes it in', () => {
    expect(of(dark(A, 7))).toEqual([]);
    expect(of(dark(swap(A, 7, 8), 8))).toEqual([{ kind: 'crossed_pair', ports: [7, 8] }]);
  });
  it('random crossings are named in full, and undone they leave the map right', () => {
    let seed = 11;
    const random = (n: number): number => (seed = (seed * 16807) % 2147483647) % n;
    for (let round = 0; round < 200; round++) {
      const expected = trunkMap(TRUNK_TYPES[round % 3]!, 12);
      let map: readonly number[] = expected;
      for (let i = 0; i < 3; i++) map = swap(map, 1 + random(12), 1 + random(12));
      const named = crossings(map, expected).flatMap((c) => c.ports);
      const wrong = map.flatMap((far, i) => (far !== expected[i] ? [i + 1] : []));
      expect([...named].sort((a, b) => a - b)).toEqual(wrong);
    }
  });
});

// TIA-598 order, from memory; the same as the mnemonic that crews use (common practice).
describe('fiber colours', () => {
  it('twelve in order, then again', () => {
    expect([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12].map(fiberColour)).toEqual([
      'blue',
      'orange',
      'green',
      'brown',
      'slate',
      'white',
      'red',
      'black',
      'yellow',
      'violet',
      'rose',
      'aqua',
    ]);
    expect([fiberColour(13), fiberColour(144)]).toEqual(['blue', 'aqua']);
    expect(() => fiberColour(0)).toThrow('map.bad_ports');
  });
});
