/** A bar seen across: its width and height with the blur taken out, where its middle lies, and what lies on either side. */
export interface BarFit {
  readonly width: number;
  readonly height: number;
  readonly offset: number;
  readonly base: number;
  /** Root of the mean squared misfit. */
  readonly misfit: number;
}

/** Normal distribution function by the logistic-like rational of Abramowitz and Stegun 7.1.26, error under 1.5e-7. */
export function phi(z: number): number {
  // Beyond six deviations a thousand millionth is left.
  if (z > 6) return 1;
  if (z < -6) return 0;
  const x = Math.abs(z) / Math.SQRT2;
  const t = 1 / (1 + 0.3275911 * x);
  const poly =
    t * (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429))));
  const erf = 1 - poly * Math.exp(-x * x);
  return z >= 0 ? 0.5 * (1 + erf) : 0.5 * (1 - erf);
}

/** Share of a bar's height that is seen at a distance from its middle, for a Gaussian blur. */
export const barAt = (n: number, width: number, blur: number): number =>
  phi((n + width / 2) / blur) - phi((n - width / 2) / blur);

const LEAST_WIDTH = 0.3;

/**
 * Fits a blurred bar on a level ground to a profile: for each width and offset height and ground follow by least squares;
 * the width by a golden search, the offset by two rounds of it. Distances in pixels, `blur` the standard deviation.
 * Accuracy: a profile of the model itself gives width and height back to 1 %.
 */
export function fitBar(at: readonly number[], level: readonly number[], blur: number, most: number): BarFit {
  let offset = 0;
  let width = 2;
  const misfitAt = (w: number, o: number): number => linear(at, level, w, o, blur).misfit;
  for (let round = 0; round < 2; round++) {
    width = golden((w) => misfitAt(w, offset), LEAST_WIDTH, most);
    offset = golden((o) => misfitAt(width, o), -2.5, 2.5);
  }
  width = golden((w) => misfitAt(w, offset), LEAST_WIDTH, most);
  const { base, height, misfit } = linear(at, level, width, offset, blur);
  return { width, height, offset, base, misfit: Math.sqrt(misfit / at.length) };
}

function linear(
  at: readonly number[],
  level: readonly number[],
  width: number,
  offset: number,
  blur: number,
): { base: number; height: number; misfit: number } {
  let n = 0;
  let s = 0;
  let ss = 0;
  let l = 0;
  let sl = 0;
  let ll = 0;
  for (let i = 0; i < at.length; i++) {
    const share = barAt(at[i]! - offset, width, blur);
    n += 1;
    s += share;
    ss += share * share;
    l += level[i]!;
    sl += share * level[i]!;
    ll += level[i]! * level[i]!;
  }
  const det = n * ss - s * s;
  if (!(det > 1e-12)) return { base: l / n, height: 0, misfit: ll - (l * l) / n };
  const height = (n * sl - s * l) / det;
  const base = (l - height * s) / n;
  return { base, height, misfit: Math.max(0, ll - base * l - height * sl) };
}

function golden(f: (x: number) => number, from: number, to: number): number {
  const g = (Math.sqrt(5) - 1) / 2;
  let a = from;
  let b = to;
  let c = b - g * (b - a);
  let d = a + g * (b - a);
  let fc = f(c);
  let fd = f(d);
  for (let k = 0; k < 15; k++) {
    if (fc < fd) {
      [b, d, fd] = [d, c, fc];
      c = b - g * (b - a);
      fc = f(c);
    } else {
      [a, c, fc] = [c, d, fd];
      d = a + g * (b - a);
      fd = f(d);
    }
  }
  return (a + b) / 2;
}
