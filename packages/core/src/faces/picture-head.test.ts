import { describe, expect, it } from 'vitest';
import { pictureHead, pictureIsWhole } from './picture-head.ts';

const word = (n: number): number[] => [(n >> 8) & 255, n & 255];
const long = (n: number): number[] => [...word(n >>> 16), ...word(n & 0xffff)];
const chunk = (type: string, data: number[]): number[] => [
  ...long(data.length),
  ...[...type].map((c) => c.charCodeAt(0)),
  ...data,
  ...long(0),
];
const png = (width: number, height: number, ...more: number[]): Uint8Array =>
  Uint8Array.from([
    0x89,
    0x50,
    0x4e,
    0x47,
    0x0d,
    0x0a,
    0x1a,
    0x0a,
    ...chunk('IHDR', [...long(width), ...long(height), 8, 0, 0, 0, 0]),
    ...more,
  ]);
const jpeg = (...segments: number[]): Uint8Array => Uint8Array.from([0xff, 0xd8, ...segments]);
const segment = (marker: number, data: number[]): number[] => [
  0xff,
  marker,
  ...word(data.length + 2),
  ...data,
];

describe('the head of a picture', () => {
  it('gives kind and size of a PNG, whatever stands before its picture', () => {
    const plain = png(1280, 960, ...chunk('IDAT', [1]));
    expect(pictureHead(plain)).toEqual({ kind: 'png', width: 1280, height: 960 });
    const told = png(20_000, 20_000, ...chunk('tEXt', [65, 66]), ...chunk('IDAT', [1]));
    expect(pictureHead(told)).toEqual({ kind: 'png', width: 20_000, height: 20_000 });
  });
  it('of a JPEG, baseline or progressive, past tables and application data', () => {
    const frame = [8, ...word(480), ...word(640), 1, 1, 0x11, 0];
    for (const marker of [0xc0, 0xc2]) {
      const bytes = jpeg(
        ...segment(0xe0, [1, 2, 3]),
        ...segment(0xc4, [0, 0, 9, 9]),
        ...segment(marker, frame),
        ...segment(0xda, [0, 0, 0, 0, 0, 0]),
      );
      expect(pictureHead(bytes)).toEqual({ kind: 'jpeg', width: 640, height: 480 });
    }
  });
  it('refuses what is neither, what is cut short and what moves', () => {
    expect(pictureHead(Uint8Array.from([...'<svg/>'].map((c) => c.charCodeAt(0))))).toEqual({
      kind: 'refused',
      why: 'format',
    });
    expect(pictureHead(new Uint8Array(0))).toEqual({ kind: 'refused', why: 'format' });
    expect(pictureHead(png(10, 10).subarray(0, 20))).toEqual({ kind: 'refused', why: 'cut' });
    expect(pictureHead(png(0, 10, ...chunk('IDAT', [1])))).toEqual({ kind: 'refused', why: 'cut' });
    expect(pictureHead(jpeg(0xff, 0xe0, 0, 9))).toEqual({ kind: 'refused', why: 'cut' });
    const moving = png(10, 10, ...chunk('acTL', [...long(2), ...long(0)]), ...chunk('IDAT', [1]));
    expect(pictureHead(moving)).toEqual({ kind: 'refused', why: 'animated' });
  });
});

describe('the end of a picture', () => {
  it('is there or was cut off', () => {
    const whole = png(4, 4, ...chunk('IDAT', [1, 2, 3]), ...chunk('IEND', []));
    expect(pictureIsWhole(whole)).toBe(true);
    expect(pictureIsWhole(whole.subarray(0, whole.length - 12))).toBe(false);
    const photo = jpeg(...segment(0xc0, [8, 0, 4, 0, 4]), 1, 2, 0xff, 0xd9);
    expect(pictureIsWhole(photo)).toBe(true);
    expect(pictureIsWhole(photo.subarray(0, photo.length - 1))).toBe(false);
  });
});
