import type { Circle } from '../pixels/enclosing-circle.ts';
import { middleSize } from '../pixels/quantile.ts';
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
    spread = 1.4826 * middleSize(residuals);
    const cut = 4.685 * Math.max(spread, 0.05);
    // Normal equations of the step in x, y and r: the residual falls by the direction cosines u and v and by one.
    let uu = 0;
    let uv = 0;
    let u1 = 0;
    let vv = 0;
    let v1 = 0;
    let n = 0;
    let ue = 0;
    let ve = 0;
    let e1 = 0;
    for (let i = 0; i < xs.length; i++) {
      const e = residuals[i]!;
      if (Math.abs(e) >= cut) continue;
      const near = 1 - (e / cut) ** 2;
      const weight = near * near;
      const d = e + r || 1;
      const u = (xs[i]! - x) / d;
      const v = (ys[i]! - y) / d;
      uu += weight * u * u;
      uv += weight * u * v;
      u1 += weight * u;
      vv += weight * v * v;
      v1 += weight * v;
      n += weight;
      ue += weight * u * e;
      ve += weight * v * e;
      e1 += weight * e;
    }
    const a = [
      [uu, uv, u1],
      [uv, vv, v1],
      [u1, v1, n],
    ];
    const b = [ue, ve, e1];
    const step = solve(a, b);
    if (!step) return null;
    x += step[0]!;
    y += step[1]!;
    r += step[2]!;
    if (step.every((s) => Math.abs(s) < 1e-7)) break;
  }
  return { circle: { x, y, r }, spread };
}
