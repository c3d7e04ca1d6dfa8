import { DomainError, requireFinite } from '../domain-error.ts';
import { normalQuantile } from '../special/index.ts';

export type LogisticCurve =
  | { readonly kind: 'none'; readonly reason: LogisticNone }
  | {
      readonly kind: 'curve';
      readonly n: number;
      readonly intercept: number;
      /** Change of the log odds an attempt. */
      readonly slope: number;
      readonly interceptError: number;
      readonly slopeError: number;
      /** Interval of the slope by its standard error (Wald). */
      readonly slopeLow: number;
      readonly slopeHigh: number;
      readonly deviance: number;
    };
/** `separated`: at some attempt number all outcomes before are of one kind and all after of the other. */
export type LogisticNone = 'too_few' | 'all_pass' | 'all_fail' | 'one_attempt_number' | 'separated';

/**
 * Logistic regression of pass (1) or fail (0) on the attempt number, by maximum likelihood (Newton's method with halved
 * steps). Input: finite numbers, outcomes of 0 and 1. No finite estimate where all are alike or where an attempt number
 * parts passes from failures, quite or but for one shared number (Albert & Anderson 1984); not identified where all attempts
 * have one number. Errors: `stats.not_paired`, `stats.not_finite`, `stats.bad_outcome`. Relative error under 1e-9. Example:
 * fail, fail, pass, fail, pass, pass at 1 to 6 has slope 1.21.
 */
export function logisticCurve(
  attempts: ArrayLike<number>,
  passed: ArrayLike<number>,
  confidence = 0.95,
): LogisticCurve {
  const n = attempts.length;
  if (passed.length !== n) throw new DomainError('stats.not_paired', { first: n, second: passed.length });
  requireFinite(attempts);
  for (let i = 0; i < n; i++) {
    if (passed[i] !== 0 && passed[i] !== 1) throw new DomainError('stats.bad_outcome', { index: i });
  }
  const reason = whyNone(attempts, passed);
  if (reason) return { kind: 'none', reason };
  // About the middle, so that the two parameters hardly depend on each other.
  const centre = Array.from(attempts).reduce((a, b) => a + b, 0) / n;
  const x = Float64Array.from(attempts, (v) => v - centre);
  let a = 0;
  let b = 0;
  let fit = likelihoodAt(x, passed, a, b);
  for (let round = 0; round < 100; round++) {
    const det = fit.aa * fit.bb - fit.ab * fit.ab;
    const da = (fit.bb * fit.ga - fit.ab * fit.gb) / det;
    const db = (fit.aa * fit.gb - fit.ab * fit.ga) / det;
    let share = 1;
    let next = likelihoodAt(x, passed, a + da, b + db);
    while (next.deviance > fit.deviance + 1e-12 && share > 1e-6) {
      share /= 2;
      next = likelihoodAt(x, passed, a + share * da, b + share * db);
    }
    [a, b, fit] = [a + share * da, b + share * db, next];
    if (Math.abs(da) + Math.abs(db) < 1e-12 * (1 + Math.abs(a) + Math.abs(b))) break;
  }
  const det = fit.aa * fit.bb - fit.ab * fit.ab;
  const slopeError = Math.sqrt(fit.aa / det);
  const z = normalQuantile((1 + confidence) / 2);
  return {
    kind: 'curve',
    n,
    slope: b,
    intercept: a - b * centre,
    slopeError,
    deviance: fit.deviance,
    interceptError: Math.sqrt((fit.bb + centre * centre * fit.aa + 2 * centre * fit.ab) / det),
    slopeLow: b - z * slopeError,
    slopeHigh: b + z * slopeError,
  };
}

function whyNone(attempts: ArrayLike<number>, passed: ArrayLike<number>): LogisticNone | null {
  const [pass, fail] = [1, 0].map((v) => Array.from(attempts).filter((_, i) => passed[i] === v)) as [
    number[],
    number[],
  ];
  if (attempts.length < 2) return 'too_few';
  if (fail.length === 0) return 'all_pass';
  if (pass.length === 0) return 'all_fail';
  const ends = (v: number[]): [number, number] => [Math.min(...v), Math.max(...v)];
  const [p0, p1] = ends(pass);
  const [f0, f1] = ends(fail);
  if (Math.min(p0, f0) === Math.max(p1, f1)) return 'one_attempt_number';
  return f1 <= p0 || p1 <= f0 ? 'separated' : null;
}

/** Deviance, its gradient and the information at a place. */
function likelihoodAt(x: Float64Array, passed: ArrayLike<number>, a: number, b: number) {
  let deviance = 0;
  let ga = 0;
  let gb = 0;
  let aa = 0;
  let ab = 0;
  let bb = 0;
  for (let i = 0; i < x.length; i++) {
    const eta = a + b * x[i]!;
    const p = 1 / (1 + Math.exp(-eta));
    const y = passed[i]!;
    deviance += 2 * Math.log1p(Math.exp(y === 1 ? -eta : eta));
    const off = y - p;
    const w = p * (1 - p);
    ga += off;
    gb += off * x[i]!;
    aa += w;
    ab += w * x[i]!;
    bb += w * x[i]! * x[i]!;
  }
  return { deviance, ga, gb, aa, ab, bb };
}
