import { DomainError, requireFinite } from '../domain-error.ts';

export type PowerLaw =
  | { readonly kind: 'none'; readonly reason: 'too_few' | 'one_attempt_number' | 'not_positive' }
  | {
      readonly kind: 'curve';
      readonly n: number;
      /** Value at the first attempt, in the unit of the values. */
      readonly first: number;
      /** Exponent: a value at twice the attempts is 2^exponent times as large. */
      readonly exponent: number;
      /** Standard error of the exponent; null for two points, which any curve fits. */
      readonly exponentError: number | null;
      /** Value at twice the attempts over the value before. */
      readonly onDoubling: number;
      /** Coefficient of determination of the logarithms. */
      readonly r2: number | null;
    };

/**
 * Power-law learning curve y = first x attempt^exponent by least squares of the logarithms (Wright 1936; no correction for
 * the way back from logarithms, so the curve is that of the median). Input: attempt numbers of 1 and more, values above 0
 * such as minutes. No answer for fewer than two points, one attempt number or a value that is not above 0. Errors:
 * `stats.not_paired`, `stats.not_finite`. Relative error under 1e-12. Example: 16, 8 and 4 minutes at attempts 1, 2 and 4
 * are 16 at first, exponent -1.
 */
export function powerLaw(attempts: ArrayLike<number>, values: ArrayLike<number>): PowerLaw {
  if (attempts.length !== values.length) {
    throw new DomainError('stats.not_paired', { first: attempts.length, second: values.length });
  }
  requireFinite(attempts);
  requireFinite(values);
  const n = values.length;
  if (n < 2) return { kind: 'none', reason: 'too_few' };
  for (let i = 0; i < n; i++) {
    if (!(values[i]! > 0) || !(attempts[i]! >= 1)) return { kind: 'none', reason: 'not_positive' };
  }
  const x = Float64Array.from(attempts, Math.log);
  const y = Float64Array.from(values, Math.log);
  const [mx, my] = [x, y].map((v) => v.reduce((a, b) => a + b, 0) / n) as [number, number];
  let xx = 0;
  let xy = 0;
  let yy = 0;
  for (let i = 0; i < n; i++) {
    const dx = x[i]! - mx;
    const dy = y[i]! - my;
    xx += dx * dx;
    xy += dx * dy;
    yy += dy * dy;
  }
  if (!(xx > 0)) return { kind: 'none', reason: 'one_attempt_number' };
  const exponent = xy / xx;
  const left = Math.max(0, yy - (xy * xy) / xx);
  const exponentError = n > 2 ? Math.sqrt(left / (n - 2) / xx) : null;
  return {
    kind: 'curve',
    n,
    exponent,
    exponentError,
    first: Math.exp(my - exponent * mx),
    onDoubling: 2 ** exponent,
    r2: yy > 0 ? (xy * xy) / (xx * yy) : null,
  };
}
