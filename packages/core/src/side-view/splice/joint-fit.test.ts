import { describe, expect, it } from 'vitest';
import { fitJoint } from './joint-fit.ts';
import type { EdgePair } from './through-fiber.ts';

interface Told {
  readonly step?: number;
  readonly turnDeg?: number;
  readonly change?: number;
  /** Columns in which the upper edge reads so much too high, as dirt on it makes it. */
  readonly dirt?: readonly (readonly [from: number, to: number, high: number])[];
  /** How far both edges wander to and fro, as pixels make them, and over how many columns. */
  readonly waves?: readonly [high: number, long: number];
  readonly bend?: number;
}
const JOINT = 466;
/** Edges of a fiber of 125 µm in a picture of 1 µm a pixel, 800 wide, with a joint in it: closed form. */
function edges({ step = 0, turnDeg = 0, change = 0, dirt = [], waves = [0, 1], bend = 0 }: Told): EdgePair[] {
  return Array.from({ length: 800 }, (_, x) => {
    const d = x - JOINT;
    const s = 1 / (1 + Math.exp(-d / 3));
    const middle = 200 + step * s + Math.tan((turnDeg * Math.PI) / 180) * Math.max(0, d);
    const wave = waves[0] * Math.sin((2 * Math.PI * x) / waves[1]) + bend * d * d;
    const half = 62.5 + (change / 2) * Math.exp((-d * d) / (2 * 18 * 18));
    const ripple = (waves[0] > 0 ? 0.01 : 0.05) * Math.sin(x * 1.7);
    const high = dirt.find(([from, to]) => x >= from && x < to)?.[2] ?? 0;
    return { x, top: middle - half + ripple + wave - high, bottom: middle + half + ripple + wave };
  });
}

describe('the joint in the edges of a fiber', () => {
  it('is where its neck is, with what the neck is', () => {
    const found = fitJoint(edges({ change: -30 }), 1, null)!;
    expect(Math.abs(found.at - JOINT)).toBeLessThan(2);
    expect(Math.abs(found.changeUm + 30)).toBeLessThan(2 * found.changeSd);
  });
  it('is where its neck is, though dirt on one edge is larger and the neck no bell', () => {
    const told = edges({ change: -30, dirt: [[640, 675, 40]] });
    const found = fitJoint(
      told.map((p) => ({
        ...p,
        top: p.top + 8 / Math.cosh((p.x - JOINT) / 40),
        bottom: p.bottom - 8 / Math.cosh((p.x - JOINT) / 40),
      })),
      1,
      null,
    )!;
    expect(Math.abs(found.at - JOINT)).toBeLessThan(3);
  });
  it('is not at dirt of two specks side by side', () => {
    const specks: Told['dirt'] = [
      [290, 297, 15],
      [301, 308, 15],
    ];
    const found = fitJoint(edges({ turnDeg: -2.8, dirt: specks }), 1, null)!;
    expect(Math.abs(found.at - JOINT)).toBeLessThan(6);
    expect(found.angleDeg).toBeCloseTo(-2.8, 1);
    expect(Math.abs(found.offsetUm)).toBeLessThan(2 * found.offsetSd);
  });
  it('is not at the border of the picture, whatever lies there', () => {
    const found = fitJoint(edges({ step: 5, dirt: [[770, 800, 20]] }), 1, null)!;
    expect(Math.abs(found.at - JOINT)).toBeLessThan(6);
    expect(found.offsetUm).toBeCloseTo(5, 0);
  });
  it('is where its step is, though the edges wander by far more than one column differs from the next', () => {
    for (const long of [31, 47, 66]) {
      const found = fitJoint(edges({ step: 5, waves: [0.35, long], bend: 4e-5 }), 1, null)!;
      expect(Math.abs(found.at - JOINT)).toBeLessThan(6);
      expect(Math.abs(found.offsetUm - 5)).toBeLessThan(0.5);
    }
  });
});
