import { describe, expect, it } from 'vitest';
import { fitJoint } from './joint-fit.ts';
import type { EdgePair } from './through-fiber.ts';

interface Told {
  readonly step?: number;
  readonly turnDeg?: number;
  readonly change?: number;
  /** Columns in which the upper edge reads so much too high, as dirt on it makes it. */
  readonly dirt?: readonly (readonly [from: number, to: number, high: number])[];
}
const JOINT = 466;
/** Edges of a fiber of 125 µm in a picture of 1 µm a pixel, 800 wide, with a joint in it: closed form. */
function edges({ step = 0, turnDeg = 0, change = 0, dirt = [] }: Told): EdgePair[] {
  return Array.from({ length: 800 }, (_, x) => {
    const d = x - JOINT;
    const s = 1 / (1 + Math.exp(-d / 3));
    const middle = 200 + step * s + Math.tan((turnDeg * Math.PI) / 180) * Math.max(0, d);
    const half = 62.5 + (change / 2) * Math.exp((-d * d) / (2 * 18 * 18));
    const ripple = 0.05 * Math.sin(x * 1.7);
    const high = dirt.find(([from, to]) => x >= from && x < to)?.[2] ?? 0;
    return { x, top: middle - half + ripple - high, bottom: middle + half + ripple };
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
});
