import type { Circle } from './enclosing-circle.ts';

/**
 * Circle through points that are partly wrong: weighted geometric least squares, weights by Tukey's biweight on the
 * residuals (4.685 robust spreads), fifteen rounds. Input: points in pixels, a first guess. Null under eight points.
 * The spread is 1.4826 times the median absolute residual.
 */
export function fitCircle(
  xs: ArrayLike<number>,
  ys: ArrayLike<number>,
  guess: Circle,
): { circle: Circle; spread: number } | null {
  if (xs.length < 8) return null;
  let { x, y, r } = guess;
  let spread = Infinity;
  for (let round = 0; round < 15; round++) {
    const residuals = Array.from(xs, (px, i) => Math.hypot(px - x, ys[i]! - y) - r);
    const sizes = residuals.map(Math.abs).sort((a, b) => a - b);
    spread = 1.4826 * sizes[Math.floor(sizes.length / 2)]!;
    const cut = 4.685 * Math.max(spread, 0.05);
    // Normal equations of the step in x, y and r: the residual falls by the direction cosines and by one.
    const [a, b] = [new Float64Array(9), new Float64Array(3)];
    for (let i = 0; i < xs.length; i++) {
      const e = residuals[i]!;
      if (Math.abs(e) >= cut) continue;
      const weight = (1 - (e / cut) ** 2) ** 2;
      const d = Math.hypot(xs[i]! - x, ys[i]! - y) || 1;
      const row = [(x - xs[i]!) / d, (y - ys[i]!) / d, -1];
      for (let k = 0; k < 3; k++) {
        b[k]! -= weight * row[k]! * e;
        for (let l = 0; l < 3; l++) a[3 * k + l]! += weight * row[k]! * row[l]!;
      }
    }
    const step = solve3(a, b);
    if (!step) return null;
    x += step[0];
    y += step[1];
    r += step[2];
    if (Math.abs(step[0]) + Math.abs(step[1]) + Math.abs(step[2]) < 1e-6) break;
  }
  return { circle: { x, y, r }, spread };
}

function solve3(a: Float64Array, b: Float64Array): [number, number, number] | null {
  const det = (m: ArrayLike<number>): number =>
    m[0]! * (m[4]! * m[8]! - m[5]! * m[7]!) -
    m[1]! * (m[3]! * m[8]! - m[5]! * m[6]!) +
    m[2]! * (m[3]! * m[7]! - m[4]! * m[6]!);
  const d = det(a);
  if (Math.abs(d) < 1e-12) return null;
  const solved = [0, 1, 2].map((k) => {
    const m = Float64Array.from(a);
    for (let row = 0; row < 3; row++) m[3 * row + k] = b[row]!;
    return det(m) / d;
  });
  return solved as [number, number, number];
}
