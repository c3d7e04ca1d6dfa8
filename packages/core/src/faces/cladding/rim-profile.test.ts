import { describe, expect, it } from 'vitest';
import { phi } from '../pixels/line-profile.ts';
import { fitRimProfile } from './rim-profile.ts';

const R = 150;
const BLUR = 1.3;

/** What a blur shows of an edge so far beyond it, 0 to 1. */
type Spread = (d: number) => number;
const gaussian: Spread = (d) => phi(d / BLUR);
/** A lens out of focus spreads a point over a disc: the share of it on one side of a chord. */
const defocused: Spread = (d) => {
  const x = Math.max(-1, Math.min(1, d / (2 * BLUR)));
  return 0.5 + (x * Math.sqrt(1 - x * x) + Math.asin(x)) / Math.PI;
};

/** What a blur makes of glass, a ring and the ferrule: every half pixel of a radius. */
function profileOf(inside: number, ring: number, width: number, outside: number, spread = gaussian) {
  const at: number[] = [];
  const level: number[] = [];
  for (let d = 0.85 * R; d <= 1.15 * R; d += 0.5) {
    const first = spread(d - R);
    const second = spread(d - R - width);
    at.push(d);
    level.push(inside * (1 - first) + ring * (first - second) + outside * second);
  }
  return { at, level };
}

describe('the rim of a cladding along a radius', () => {
  it.each([
    ['a step up', 120, 0, 0, 160],
    ['a step down', 150, 0, 0, 95],
    ['a line of adhesive', 140, 55, 3, 120],
    ['a bright rim', 148, 224, 3, 160],
    ['a bright rim with the same on both sides', 152, 213, 2.5, 148],
    ['a thin bright rim', 110, 186, 2, 133],
  ])('%s: the glass ends where it does, to a quarter of a percent', (_, inside, ring, width, outside) => {
    const rim = fitRimProfile(profileOf(inside, ring, width, outside), R + 1)!;
    expect(Math.abs(rim.radius / R - 1)).toBeLessThan(0.0025);
    expect(rim.ring === null).toBe(width === 0);
  });
  it.each([
    [152, 213, 2.5, 148],
    [148, 224, 3, 160],
    [110, 186, 2, 133],
  ])(
    'a bright rim out of focus, %i, %i, %f, %i: to six tenths of a percent',
    (inside, ring, width, outside) => {
      const rim = fitRimProfile(profileOf(inside, ring, width, outside, defocused), R + 1)!;
      expect(Math.abs(rim.radius / R - 1)).toBeLessThan(0.006);
      expect(rim.ring).not.toBeNull();
    },
  );
  it('a little more light beside a step is none of a rim', () => {
    const { at, level } = profileOf(120, 0, 0, 160);
    // A lens passes fine detail a little stronger: beside the edge the light rises over itself.
    const rim = fitRimProfile(
      { at, level: level.map((v, i) => v + 3 * Math.exp(-(((at[i]! - R - 3) / 1.5) ** 2))) },
      R + 1,
    )!;
    expect(rim.ring).toBeNull();
    expect(Math.abs(rim.radius / R - 1)).toBeLessThan(0.0025);
  });
  it('without an edge there is none', () => {
    expect(fitRimProfile(profileOf(130, 0, 0, 131), R)).toBeNull();
  });
});
