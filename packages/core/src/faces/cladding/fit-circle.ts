import type { Circle } from '../pixels/enclosing-circle.ts';
import { middleOf } from '../pixels/quantile.ts';
import { solve } from '../pixels/solve.ts';

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
  const residuals = new Float64Array(xs.length);
  for (let round = 0; round < 15; round++) {
    for (let i = 0; i < residuals.length; i++) {
      const dx = xs[i]! - x;
      const dy = ys[i]! - y;
      residuals[i] = Math.sqrt(dx * dx + dy * dy) - r;
    }
    spread = 1.4826 * middleOf(Float32Array.from(residuals, Math.abs));
    const cut = 4.685 * Math.max(spread, 0.05);
    // Normal equations of the step in x, y and r: the residual falls by the direction cosines and by one.
    const a = [new Float64Array(3), new Float64Array(3), new Float64Array(3)];
    const b = new Float64Array(3);
    for (let i = 0; i < xs.length; i++) {
      const e = residuals[i]!;
      if (Math.abs(e) >= cut) continue;
      const weight = (1 - (e / cut) ** 2) ** 2;
      const d = Math.hypot(xs[i]! - x, ys[i]! - y) || 1;
      const row = [(x - xs[i]!) / d, (y - ys[i]!) / d, -1];
      for (let k = 0; k < 3; k++) {
        b[k]! -= weight * row[k]! * e;
        for (let l = 0; l < 3; l++) a[k]![l]! += weight * row[k]! * row[l]!;
      }
    }
    const step = solve(a, b);
    if (!step) return null;
    x += step[0]!;
    y += step[1]!;
    r += step[2]!;
    if (step.every((s) => Math.abs(s) < 1e-7)) break;
  }
  return { circle: { x, y, r }, spread };
}
