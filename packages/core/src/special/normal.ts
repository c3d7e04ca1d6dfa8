import { DomainError } from '../domain-error.ts';
import type { Shares } from './incomplete-beta.ts';

const A = [
  2.2352520354606837, 161.02823106855587, 1067.6894854603709, 18154.98125334356, 0.06568233791820745,
];
const B = [47.202581904688245, 976.0985517377767, 10260.932208618979, 45507.78933502673];
const C = [
  0.39894151208813466, 8.883149794388377, 93.50665613217785, 597.2702763948002, 2494.5375852903726,
  6848.190450536283, 11602.65143764735, 9842.714838383978, 1.0765576773720192e-8,
];
const D = [
  22.266688044328117, 235.387901782625, 1519.3775994075547, 6485.558298266761, 18615.571640885097,
  34900.95272114598, 38912.00328609327, 19685.429676859992,
];
const P = [
  0.215898534057957, 0.12740116116024736, 0.022235277870649807, 0.0014216191932278934, 2.9112874951168793e-5,
  0.023073441764940174,
];
const Q = [
  1.284260096144911, 0.4682382124808651, 0.06598813786892856, 0.0037823963320275824, 7.297515550839662e-5,
];
const SQRT_32 = 5.656854249492381;
const ONE_OVER_SQRT_2PI = 0.3989422804014327;

/**
 * The standard normal distribution function and what is left to 1, each to its own last digit, by the rational
 * approximations of Cody (1969). Relative error of either under 1e-14 (held to values of R). Error: `stats.not_finite`. Example: Phi(1.96) =
 * 0.9750021049.
 */
export function normalShare(z: number): Shares {
  const y = Math.abs(z);
  if (Number.isNaN(z)) throw new DomainError('stats.not_finite', { index: 0 });
  if (y <= 0.67448975) {
    const square = y > 1.11e-16 ? z * z : 0;
    let top = A[4]! * square;
    let bottom = square;
    for (let i = 0; i < 3; i++) {
      top = (top + A[i]!) * square;
      bottom = (bottom + B[i]!) * square;
    }
    const half = (z * (top + A[3]!)) / (bottom + B[3]!);
    return { below: 0.5 + half, above: 0.5 - half };
  }
  const small = y <= SQRT_32 ? middle(y) : y < 40 ? far(y) : 0;
  return z < 0 ? { below: small, above: 1 - small } : { below: 1 - small, above: small };
}

/** The standard normal distribution function at z; `normalShare` keeps the digits of the upper tail. Example: Phi(0) = 0.5. */
export const normalCdf = (z: number): number => normalShare(z).below;

/** exp(-y^2 / 2) without the rounding of y^2. */
function bell(y: number): number {
  const whole = Math.trunc(y * 16) / 16;
  const rest = (y - whole) * (y + whole);
  return Math.exp(-0.5 * whole * whole) * Math.exp(-0.5 * rest);
}

function middle(y: number): number {
  let top = C[8]! * y;
  let bottom = y;
  for (let i = 0; i < 7; i++) {
    top = (top + C[i]!) * y;
    bottom = (bottom + D[i]!) * y;
  }
  return (bell(y) * (top + C[7]!)) / (bottom + D[7]!);
}

function far(y: number): number {
  const square = 1 / (y * y);
  let top = P[5]! * square;
  let bottom = square;
  for (let i = 0; i < 4; i++) {
    top = (top + P[i]!) * square;
    bottom = (bottom + Q[i]!) * square;
  }
  const share = (square * (top + P[4]!)) / (bottom + Q[4]!);
  return (bell(y) * (ONE_OVER_SQRT_2PI - share)) / y;
}

/** Density of the standard normal at z (DLMF 7.20.1). Relative error under 1e-15. Example: at 0 it is 0.3989. */
export const normalDensity = (z: number): number => ONE_OVER_SQRT_2PI * bell(Math.abs(z));

/**
 * The z at which the standard normal distribution function is p: a start of low accuracy brought to the last digit by
 * Halley's steps on `normalShare`. Input: p above 0 and under 1. Error: `stats.bad_probability`. Relative error under
 * 1e-14. Example: 0.975 gives 1.959963984540054.
 */
export function normalQuantile(p: number): number {
  if (!(p > 0 && p < 1)) throw new DomainError('stats.bad_probability', { p });
  if (p === 0.5) return 0;
  const small = Math.min(p, 1 - p);
  // Abramowitz and Stegun 26.2.23, to 4.5e-4.
  const t = Math.sqrt(-2 * Math.log(small));
  let z =
    t - (2.515517 + t * (0.802853 + t * 0.010328)) / (1 + t * (1.432788 + t * (0.189269 + t * 0.001308)));
  for (let round = 0; round < 4; round++) {
    const off = (normalShare(-z).below - small) / normalDensity(z);
    const next = z + off / (1 - (z * off) / 2);
    if (next === z) break;
    z = next;
  }
  return p < 0.5 ? -z : z;
}
