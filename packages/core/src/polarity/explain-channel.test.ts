import { describe, expect, it } from 'vitest';
import type { ChannelPart } from '../sheet/index.ts';
import { type Channel, channelMap, explainChannel } from './index.ts';

const cassette: ChannelPart = { kind: 'cassette', turned: false };
const trunkOf = (type: 'A' | 'B' | 'C'): ChannelPart => ({ kind: 'trunk', type });
const walked: Channel = { ports: 12, parts: [cassette, trunkOf('A'), cassette] };
const swap = (map: readonly number[], a: number, b: number): number[] =>
  map.map((far, i) => (i === a - 1 ? map[b - 1]! : i === b - 1 ? map[a - 1]! : far));
const put = <T>(list: readonly T[], at: number, what: T): T[] => list.map((x, i) => (i === at ? what : x));
const dark = (map: readonly number[], ...ports: number[]): number[] =>
  map.map((far, i) => (ports.includes(i + 1) ? 0 : far));

describe('a channel of parts', () => {
  it('composes: far cassette (trunk (near cassette (port)))', () => {
    // By hand: reversed in the trunk and reversed back in the turned cassette.
    const back = channelMap({
      ports: 12,
      parts: [cassette, trunkOf('B'), { kind: 'cassette', turned: true }],
    });
    expect(back).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12]);
    // TIA-568 method A, from memory: straight trunk, straight cassettes, a crossing cord at one end only.
    const methodA = channelMap({
      ports: 12,
      parts: [
        { kind: 'cords', crossed: true },
        cassette,
        trunkOf('A'),
        cassette,
        { kind: 'cords', crossed: false },
      ],
    });
    expect(methodA.slice(0, 4)).toEqual([2, 1, 4, 3]);
    expect(channelMap({ ports: 4, parts: [] })).toEqual([1, 2, 3, 4]);
  });
});

describe('the smallest explanation of a channel', () => {
  it('a right map needs none', () => {
    expect(explainChannel(walked, channelMap(walked))).toEqual({
      cost: 0,
      structure: [],
      rows: [],
      crossed: [],
      broken: [],
      darkRows: [],
    });
  });

  it('a reversed row is a type B trunk or one of two turned cassettes, and nobody can tell', () => {
    const found = explainChannel(walked, channelMap({ ports: 12, parts: [trunkOf('B')] }));
    expect(found.cost).toBe(1);
    expect(found.structure).toEqual([
      {
        row: null,
        options: [
          [{ kind: 'cassette_turned', part: 0 }],
          [{ kind: 'trunk_type', part: 1, type: 'B' }],
          [{ kind: 'cassette_turned', part: 2 }],
        ],
      },
    ]);
  });

  it('pairs crossed throughout are a type C trunk, with a broken fiber beside it', () => {
    const seen = dark(channelMap({ ports: 12, parts: [trunkOf('C')] }), 5);
    const found = explainChannel(walked, seen);
    expect(found).toMatchObject({ cost: 2, broken: [5], crossed: [] });
    expect(found.structure[0]!.options).toEqual([[{ kind: 'trunk_type', part: 1, type: 'C' }]]);
  });

  it('a broken fiber within a crossing', () => {
    const found = explainChannel(walked, dark(swap(channelMap(walked), 7, 8), 8));
    expect(found).toMatchObject({
      cost: 2,
      structure: [],
      crossed: [{ kind: 'crossed_pair', ports: [7, 8] }],
      broken: [8],
    });
  });

  it('a dark row is one fault, and bad maps are refused', () => {
    expect(explainChannel(walked, Array<number>(12).fill(0))).toMatchObject({
      cost: 1,
      darkRows: [1],
      broken: [],
    });
    expect(() => explainChannel(walked, [1, 2])).toThrow('map.lengths_differ');
    expect(() => explainChannel(walked, put(channelMap(walked), 5, 3))).toThrow('map.port_twice');
    expect(() => explainChannel(walked, put(channelMap(walked), 5, 13))).toThrow('map.bad_ports');
  });

  it('a duplex cord the wrong way', () => {
    const duplex: Channel = { ports: 2, parts: [{ kind: 'cords', crossed: true }] };
    expect(explainChannel(duplex, [1, 2]).structure[0]!.options).toEqual([
      [{ kind: 'cords_other', part: 0 }],
    ]);
  });
});

// Every one and every two faults, laid into the channel and then undone, against a table of all of them.
describe('against brute force', () => {
  type Fault = (parts: readonly ChannelPart[]) => {
    parts: readonly ChannelPart[];
    after: (map: number[]) => number[];
  };
  const same = (map: number[]): number[] => map;
  const part =
    (at: number, other: ChannelPart): Fault =>
    (parts) => ({ parts: put(parts, at, other), after: same });
  const fiber =
    (after: (map: number[]) => number[]): Fault =>
    (parts) => ({ parts, after });
  const everyFault = (ports: number): Fault[] => {
    const all: Fault[] = [
      part(0, { kind: 'cassette', turned: true }),
      part(2, { kind: 'cassette', turned: true }),
      part(1, trunkOf('B')),
      part(1, trunkOf('C')),
    ];
    for (let a = 1; a <= ports; a++) {
      all.push(fiber((map) => dark(map, a)));
      for (let b = a + 1; b <= ports; b++) all.push(fiber((map) => swap(map, a, b)));
    }
    return all;
  };

  it.each([12, 8, 4])('%i ports', (ports) => {
    const faults = everyFault(ports);
    const least = new Map<string, number>();
    const lay = (...laid: Fault[]): number[] => {
      let parts = walked.parts;
      const after: ((map: number[]) => number[])[] = [];
      for (const fault of laid) {
        const done = fault(parts);
        parts = done.parts;
        after.push(done.after);
      }
      return after.reduce((map, f) => f(map), [...channelMap({ ports, parts })]);
    };
    const note = (map: number[], cost: number): void => {
      const key = map.join();
      if ((least.get(key) ?? 9) > cost) least.set(key, cost);
    };
    note(lay(), 0);
    faults.forEach((a, i) => {
      note(lay(a), 1);
      faults.forEach((b, j) => i !== j && note(lay(a, b), 2));
    });
    expect(least.size).toBeGreaterThan(50);
    let wrong = 0;
    for (const [key, cost] of least) {
      const found = explainChannel({ ...walked, ports }, key.split(',').map(Number));
      if (found.cost !== cost) wrong += 1;
    }
    expect(wrong).toBe(0);
  });
});

describe('many rows', () => {
  const big: Channel = { ports: 144, parts: walked.parts };
  const straight = channelMap(big);
  const rowOf = (map: readonly number[], row: number, change: (row: number[]) => number[]): number[] => {
    const from = (row - 1) * 12;
    const inner = map.slice(from, from + 12).map((far) => far - from);
    return map.map((far, i) => (i >= from && i < from + 12 ? change(inner)[i - from]! + from : far));
  };

  it('one cassette of twelve turned', () => {
    const seen = rowOf(straight, 5, (row) => [...row].reverse());
    const found = explainChannel(big, seen);
    expect(found).toMatchObject({ cost: 1, crossed: [], rows: [] });
    expect(found.structure).toMatchObject([{ row: 5 }]);
    expect(found.structure[0]!.options).toHaveLength(3);
  });
  it('the whole trunk of another type is one fault, not twelve', () => {
    const found = explainChannel(big, channelMap({ ports: 144, parts: [trunkOf('C')] }));
    expect(found).toMatchObject({ cost: 1, structure: [{ row: null }] });
  });
  it('two connectors exchanged, and two fibers crossed between rows', () => {
    const exchanged = straight.map((_, i) => (i < 12 ? i + 13 : i < 24 ? i - 11 : i + 1));
    expect(explainChannel(big, exchanged)).toMatchObject({
      cost: 1,
      rows: [
        [1, 2],
        [2, 1],
      ],
      crossed: [],
    });
    expect(explainChannel(big, swap(straight, 3, 100))).toMatchObject({
      cost: 1,
      crossed: [{ kind: 'crossed_fibers', ports: [3, 100] }],
    });
  });
  it('two faults at once in different rows', () => {
    const seen = dark(
      rowOf(straight, 2, (row) => [...row].reverse()),
      140,
    );
    expect(explainChannel(big, seen)).toMatchObject({ cost: 2, structure: [{ row: 2 }], broken: [140] });
  });
});
