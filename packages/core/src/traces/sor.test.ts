import { describe, expect, it } from 'vitest';
import { DomainError } from '../domain-error.ts';
import { crc16 } from './crc16.ts';
import { readSor } from './read-sor.ts';
import { contentOf } from './sor-for-tests.ts';
import { listedEvents, metresOf, ticksOf, tracesIn } from './trace.ts';
import { sorOf, writeSor } from './write-sor.ts';

const ascii = (text: string): number[] => [...text].map((c) => c.charCodeAt(0));
const i16 = (n: number): number[] => [n & 0xff, (n >> 8) & 0xff];
const i32 = (n: number): number[] => [...i16(n), ...i16(n >> 16)];
const sealed = (bytes: number[]): Uint8Array => {
  const all = Uint8Array.from([...bytes, 0, 0]);
  const check = crc16(all, all.length - 2);
  all.set(i16(check), all.length - 2);
  return all;
};
const why = (bytes: Uint8Array): string => {
  try {
    readSor(bytes);
    return 'read';
  } catch (error) {
    if (!(error instanceof DomainError)) throw error;
    const { block, why: fault } = error.params;
    return block === undefined ? error.code : `${block} ${fault}`;
  }
};

/** A file written out by hand, byte by byte, as the layout says. */
function byHand(
  changes: { index?: number; points?: number; told?: number; mapBytes?: number } = {},
): Uint8Array {
  const { index = 146_800, points = 3, told = points } = changes;
  const blocks: [string, number[]][] = [
    [
      'GenParams',
      [
        ...ascii('EN'),
        ...ascii('cable\0'),
        ...ascii('7\0'),
        ...i16(652),
        ...i16(1310),
        ...ascii('A\0B\0\0'),
        ...ascii('BC'),
        ...i32(0),
        ...i32(0),
        ...ascii('me\0'),
        ...ascii('\0'),
      ],
    ],
    [
      'FxdParams',
      [
        ...i32(1_700_000_000),
        ...ascii('mt'),
        ...i16(13_105),
        ...i32(0),
        ...i32(0),
        ...i16(1),
        ...i16(30),
        ...i32(245_000),
        ...i32(told),
        ...i32(index),
        ...i16(795),
        ...i32(100),
        ...i16(131),
        ...i32(0),
        ...i32(0),
        ...i32(0),
        ...i16(39_762),
        ...i16(1000),
        ...i16(0),
        ...i16(20),
        ...i16(-536),
        ...i16(3000),
        ...ascii('ST'),
        ...i32(0),
        ...i32(0),
        ...i32(0),
        ...i32(0),
      ],
    ],
    ['Unknown', [9, 8, 7, 0, 255]],
    [
      'KeyEvents',
      [
        ...i16(1),
        ...i16(1),
        ...i32(24_479),
        ...i16(340),
        ...i16(-250),
        ...i32(-48_000),
        ...ascii('2E9999LS'),
        ...i32(0),
        ...i32(1),
        ...i32(2),
        ...i32(3),
        ...i32(4),
        ...ascii('far end\0'),
        ...i32(1434),
        ...i32(5),
        ...i32(6),
        ...i16(40_000),
        ...i32(7),
        ...i32(8),
      ],
    ],
    [
      'DataPts',
      [...i32(points), ...i16(1), ...i32(points), ...i16(1000), ...i16(0), ...i16(1500), ...i16(-1)],
    ],
  ];
  const wholes = blocks.map(([name, content]) => [...ascii(`${name}\0`), ...content]);
  const cksum = ascii('Cksum\0');
  const list = [
    ...blocks.map(([name], i) => ({ name, bytes: wholes[i]!.length })),
    { name: 'Cksum', bytes: 8 },
  ];
  const entries = list.flatMap(({ name, bytes }) => [...ascii(`${name}\0`), ...i16(200), ...i32(bytes)]);
  const head = [...ascii('Map\0'), ...i16(200)];
  const mapBytes = changes.mapBytes ?? head.length + 6 + entries.length;
  return sealed([...head, ...i32(mapBytes), ...i16(list.length + 1), ...entries, ...wholes.flat(), ...cksum]);
}

describe('the checksum', () => {
  it('is that of the catalogue over the digits 1 to 9', () => {
    // CRC-16/IBM-3740 in the catalogue of parametrised CRC algorithms: check 29B1h.
    expect(crc16(Uint8Array.from(ascii('123456789')))).toBe(0x29b1);
  });
});

describe('a trace file that was written by hand', () => {
  const file = readSor(byHand());
  it('says what was written', () => {
    expect(file.general).toMatchObject({
      cableId: 'cable',
      fiberId: '7',
      fiberType: 652,
      from: 'A',
      to: 'B',
    });
    expect(file.fixed).toMatchObject({
      seconds: 1_700_000_000,
      pulsesNs: [30],
      points: [3],
      averagingTenths: 131,
    });
    expect(file.fixed.reflectanceThreshold).toBe(65_000);
    expect(file.events).toHaveLength(1);
    expect(file.endToEnd).toMatchObject({ loss: 1434, returnLoss: 40_000, returnLossTo: 8 });
  });
  it('in the units of the trade', () => {
    const [trace] = tracesIn(file);
    expect(trace).toMatchObject({
      wavelengthNm: 1310.5,
      pulseNs: 30,
      groupIndex: 1.468,
      backscatterDb: -79.5,
    });
    expect([...trace!.levelsDb]).toEqual([-0, -1.5, -65.535]);
    // c t / n by hand: 24.5 times 100 ps at 1.468 are 0.50033 m.
    expect(trace!.spacingM).toBeCloseTo((24.5e-10 * 299_792_458) / 1.468, 12);
    expect(listedEvents(file)[0]).toMatchObject({
      kind: 'end',
      lossDb: -0.25,
      reflectanceDb: -48,
      saturated: true,
      comment: 'far end',
    });
    expect(metresOf(24_479, 1.4677)).toBeCloseTo(500.01, 2);
    expect(ticksOf(metresOf(24_479, 1.4677), 1.4677)).toBeCloseTo(24_479, 6);
  });
  it('comes out as it was, with the block that nobody knows', () => {
    expect(writeSor(file)).toEqual(byHand());
    expect(file.blocks.find((b) => b.name === 'Unknown')!.content).toEqual(
      Uint8Array.from([9, 8, 7, 0, 255]),
    );
  });
});

describe('what is written', () => {
  it.each([1, 2, 3, 4, 5, 6, 7, 8])('is read again as it was, content %i', (seed) => {
    const content = contentOf(seed, 20 + seed, 1 + (seed % 4));
    const bytes = writeSor(sorOf(content));
    const { revision: _, mapRevision: __, blocks: ___, ...found } = readSor(bytes);
    expect(found).toEqual(content);
    expect(writeSor(readSor(bytes))).toEqual(bytes);
  });
  it('takes no number that its field cannot hold', () => {
    const content = contentOf(1);
    expect(() => sorOf({ ...content, fixed: { ...content.fixed, groupIndex: 2 ** 31 } })).toThrow(
      'trace.bad_value',
    );
    expect(() => sorOf({ ...content, fixed: { ...content.fixed, lossThreshold: -1 } })).toThrow(
      'trace.bad_value',
    );
    expect(() => sorOf({ ...content, fixed: { ...content.fixed, averages: 0.5 } })).toThrow(
      'trace.bad_value',
    );
  });
});

describe('a file that is not as it should be', () => {
  const whole = writeSor(sorOf(contentOf(4, 12, 2)));

  it('cut off anywhere is refused', () => {
    for (let n = 0; n < whole.length; n++) expect(why(whole.subarray(0, n))).not.toBe('read');
  });
  it('with any byte changed is refused', () => {
    for (let i = 0; i < whole.length; i++) {
      const changed = whole.slice();
      changed[i]! ^= 0x55;
      expect(why(changed)).not.toBe('read');
    }
  });
  it('sealed again after a change is read or refused, and nothing else happens', () => {
    for (let i = 0; i < whole.length - 2; i++) {
      for (const value of [0, 0x7f, 0x80, 0xff]) {
        const changed = [...whole.subarray(0, -2)];
        changed[i] = value;
        why(sealed(changed));
      }
    }
  });
  it('with bytes behind its end is refused', () => {
    expect(why(Uint8Array.from([...whole, 0]))).toBe('Map length');
  });
  it.each([
    ['text', Uint8Array.from(ascii('distance,level\n0,1\n')), 'trace.no_trace_file'],
    ['nothing', new Uint8Array(0), 'trace.no_trace_file'],
    ['an index of zero', byHand({ index: 0 }), 'FxdParams index'],
    ['counts of 2^31', byHand({ told: -(2 ** 31) }), 'DataPts points'],
    ['points that disagree', byHand({ told: 4 }), 'DataPts points'],
    ['more points than there are', byHand({ points: 2 ** 30 }), 'DataPts points'],
    ['a map of another length', byHand({ mapBytes: 40 }), 'Map length'],
  ])('%s is refused', (_, bytes, code) => {
    expect(why(bytes)).toBe(code);
  });
  it('of 200 MB is refused before it is looked at', () => {
    const large = { length: 200 * 1024 ** 2 } as Uint8Array;
    expect(why(large)).toBe('trace.too_large');
  });
  it('a missing block, one that is there twice, and no checksum are named', () => {
    const { blocks } = readSor(whole);
    const without = (name: string) => ({ ...readSor(whole), blocks: blocks.filter((b) => b.name !== name) });
    expect(why(writeSor(without('DataPts')))).toBe('DataPts missing');
    expect(why(writeSor(without('FxdParams')))).toBe('FxdParams missing');
    const twice = { ...readSor(whole), blocks: [blocks[0]!, ...blocks] };
    expect(why(writeSor(twice))).toBe('GenParams twice');
    expect(why(writeSor(without('KeyEvents')))).toBe('read');
  });
});

describe('a file of the first revision', () => {
  it('has no names in front of its blocks, and fewer fields', () => {
    const general = [
      ...ascii('EN'),
      ...ascii('c\0f\0'),
      ...i16(1550),
      ...ascii('A\0B\0\0CC'),
      ...i32(0),
      ...ascii('o\0\0'),
    ];
    const fixed = [
      ...i32(1),
      ...ascii('mt'),
      ...i16(15_500),
      ...i32(0),
      ...i16(1),
      ...i16(100),
      ...i32(5000),
      ...i32(2),
      ...i32(146_820),
      ...i16(810),
      ...i32(9),
      ...i32(0),
      ...i32(0),
      ...i16(0),
      ...i16(1000),
      ...i16(0),
      ...i16(50),
      ...i16(0),
      ...i16(3000),
    ];
    const events = [
      ...i16(1),
      ...i16(1),
      ...i32(10),
      ...i16(200),
      ...i16(90),
      ...i32(0),
      ...ascii('0F9999LSs\0'),
    ];
    const points = [...i32(2), ...i16(1), ...i32(2), ...i16(1000), ...i16(10), ...i16(20)];
    const blocks = { GenParams: general, FxdParams: fixed, KeyEvents: events, DataPts: points };
    const list = [...Object.entries(blocks).map(([n, b]) => [n, b.length] as const), ['Cksum', 2] as const];
    const entries = list.flatMap(([name, bytes]) => [...ascii(`${name}\0`), ...i16(100), ...i32(bytes)]);
    const head = [...i16(100), ...i32(8 + entries.length), ...i16(list.length + 1), ...entries];
    const bytes = sealed([...head, ...Object.values(blocks).flat()]);
    const file = readSor(bytes);
    expect(file).toMatchObject({ revision: 1, general: { wavelengthNm: 1550, fiberType: 0, operator: 'o' } });
    expect(tracesIn(file)[0]).toMatchObject({ wavelengthNm: 1550, pulseNs: 100, groupIndex: 1.4682 });
    expect(listedEvents(file)[0]).toMatchObject({ kind: 'non_reflective', lossDb: 0.09, comment: 's' });
    expect(writeSor(file)).toEqual(bytes);
  });
});
