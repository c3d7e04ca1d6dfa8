import { describe, expect, it } from 'vitest';
import { scaleOfBand, shareOn } from './band-scale.model.ts';

const source = { kind: 'house', fromMemory: false, words: '' } as const;
const limit = (value: string) => ({ value, source });

describe('a band to scale', () => {
  it('has its own width on either side', () => {
    const scale = scaleOfBand({ lower: limit('10'), upper: limit('11'), target: '10.5' }, Number);
    expect(scale).toEqual({ from: 9, to: 12, lower: 10, upper: 11, target: 10.5 });
    expect(shareOn(scale, 10.5)).toEqual({ share: 0.5, outside: 0 });
  });
  it('goes from zero to twice a single limit, never below zero', () => {
    expect(scaleOfBand({ upper: limit('1.0') }, Number)).toMatchObject({ from: 0, to: 2, lower: null });
    expect(scaleOfBand({ lower: limit('1'), upper: limit('4') }, Number).from).toBe(0);
    expect(scaleOfBand({ lower: limit('0') }, Number).to).toBe(1);
  });
  it('holds a far value at its edge and says so', () => {
    const scale = scaleOfBand({ upper: limit('1.0') }, Number);
    expect(shareOn(scale, 40)).toEqual({ share: 1, outside: 1 });
    expect(shareOn(scale, -1)).toEqual({ share: 0, outside: -1 });
  });
});
