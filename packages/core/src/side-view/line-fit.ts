import { middleSize } from '../faces/pixels/quantile.ts';
import { middleLine, robustFit, type RobustFit } from './robust.ts';

/** Deviations of so many standard deviations cost no more than larger ones (Torr and Zisserman 2000). */
const CUT = 3;
/** Parts of the face from which lines are tried: a chip or a lip takes away one corner or both. */
const WINDOWS: readonly (readonly [number, number])[] = [-1, -0.7, -0.4, -0.1, 0.2].flatMap((from) =>
  [-0.2, 0.1, 0.4, 0.7, 1].flatMap((to): [number, number][] => (to - from >= 0.59 ? [[from, to]] : [])),
);
/** A bulge is part of the line where it saves so much of the cost, and so much a row. */
const SAVES = { share: 0.02, aRow: 0.02 };

/**
 * Of a term that the rows say nothing of, so many rows say that it is 0. A face may be tilted by a few degrees, which is many times what a row
 * is read to; rows in the bright middle are moved by little more than that.
 */
const RIDGE = { bright: 0.1, bulge: 0.015 };
/** Scatter less than this share of what is believed of a row is chance. */
const SEEN_AT_LEAST = 0.4;

export interface LineOfRows extends Pick<RobustFit, 'spread'> {
  readonly at: number;
  readonly slope: number;
  /** By so much rows in the bright middle of a fiber are read further out. */
  readonly step: number;
  readonly bulge: number;
  readonly slopeSd: number;
  readonly weights: Float64Array;
}

/** How bright a fiber is at a place across it, 0 to 1: where it is bright its end is seen as a thin line and not as a step. */
export type Bright = (v: number) => number;
/** Half an ellipse across a fiber of unit half width, its mean taken off. */
export const bulgeAt = (v: number): number => Math.sqrt(Math.max(0, 1 - v * v)) - Math.PI / 4;

/**
 * The line on which most rows lie, by how much they differ from each other as noise makes them: the cheapest of lines through parts of the
 * face, then a biweight round what it found. `vs` from -1
 * to 1 across the fiber, `us` in any unit, `least` the smallest standard deviation that is
 * believed, `bright` how bright the fiber is there, `shares` what each row counts, 0 to 1. Null where there are too few rows.
 */
export function lineOfRows(
  vs: readonly number[],
  us: readonly number[],
  least: number,
  bright: Bright,
  shares: readonly number[] = us.map(() => 1),
): LineOfRows | null {
  const sd = Math.max(least, noiseOf(us));
  const flatTerms = vs.map((v) => [1, v, bright(v)]);
  const curvedTerms = vs.map((v) => [1, v, bright(v), bulgeAt(v)]);
  const flat = cheapest(flatTerms, vs, us, sd, shares);
  const curved = cheapest(curvedTerms, vs, us, sd, shares);
  if (!flat) return null;
  const isCurved =
    curved !== null &&
    flat.cost - curved.cost > Math.max(SAVES.share * flat.cost, SAVES.aRow * us.length) &&
    curved.coefficients[3]! > 0;
  const terms = isCurved ? curvedTerms : flatTerms;
  const start = (isCurved ? curved : flat).coefficients;
  const fit = robustFit(
    scaled(terms, shares),
    us.map((u, i) => u * shares[i]!),
    {
      start,
      least: sd,
      most: 1.5 * sd,
      ridge: [0, 0, RIDGE.bright, RIDGE.bulge].slice(0, terms[0]!.length),
    },
  );
  if (!fit) return null;
  const c = fit.coefficients;
  return {
    at: c[0]!,
    slope: c[1]!,
    step: c[2]!,
    bulge: isCurved ? c[3]! : 0,
    slopeSd: Math.max(seenSpread(fit), SEEN_AT_LEAST * least) * Math.sqrt(fit.inverse[1]![1]!),
    spread: fit.spread,
    weights: fit.weights,
  };
}

/** Root mean square of what rows lie off a line, by their weights. */
function seenSpread({ weights, left }: RobustFit): number {
  let sum = 0;
  let all = 0;
  for (let i = 0; i < left.length; i++) {
    sum += weights[i]! * left[i]! ** 2;
    all += weights[i]!;
  }
  return all > 0 ? Math.sqrt(sum / all) : 0;
}

/** Of lines through parts of the face the one that costs least over all of it. */
function cheapest(
  terms: readonly (readonly number[])[],
  vs: readonly number[],
  us: readonly number[],
  sd: number,
  shares: readonly number[],
): { readonly coefficients: readonly number[]; readonly cost: number } | null {
  const n = terms[0]!.length;
  let best: { coefficients: readonly number[]; cost: number } | null = null;
  for (const [from, to] of WINDOWS) {
    // A bulge is seen over most of the face only.
    if (n > 3 && to - from < 1.3) continue;
    const at = vs.map((_, i) => i).filter((i) => vs[i]! >= from && vs[i]! <= to);
    if (at.length < 2 * n + 2) continue;
    const line = middleLine(
      at.map((i) => vs[i]!),
      at.map((i) => us[i]!),
    );
    const start = [line[0], line[1], ...Array<number>(n - 2).fill(0)];
    const fit = robustFit(
      at.map((i) => terms[i]!.map((t) => t * shares[i]!)),
      at.map((i) => us[i]! * shares[i]!),
      {
        ...(n > 3 ? {} : { start }),
        least: sd,
        rounds: n > 3 ? 6 : 3,
        ridge: [0, 0, RIDGE.bright, RIDGE.bulge].slice(0, n),
      },
    );
    if (!fit) continue;
    const cost = costOf(terms, us, fit.coefficients, sd, shares);
    if (!best || cost < best.cost) best = { coefficients: fit.coefficients, cost };
  }
  return best;
}

const costOf = (
  terms: readonly (readonly number[])[],
  us: readonly number[],
  c: readonly number[],
  sd: number,
  shares: readonly number[],
): number =>
  us.reduce((sum, u, i) => {
    const off = ((u - terms[i]!.reduce((s, t, k) => s + t * c[k]!, 0)) / sd) * shares[i]!;
    return sum + Math.min(CUT * CUT, off * off);
  }, 0);

/** Standard deviation of the differences of neighbouring rows, as free noise would make them: what is rough is rougher. */
export const noiseOf = (us: readonly number[]): number => noiseOfSteps(us.slice(1).map((u, i) => u - us[i]!));

const noiseOfSteps = (steps: readonly number[]): number =>
  steps.length === 0 ? 0 : (1.4826 * middleSize(steps)) / Math.SQRT2;

const scaled = (terms: readonly (readonly number[])[], shares: readonly number[]): number[][] =>
  terms.map((t, i) => t.map((x) => x * shares[i]!));

/** Roughness is looked for so far from a row, in half widths; up to so many times the noise a row counts whole. */
const ROUGHNESS = { near: 0.12, least: 3, whole: 1.5 };

/** What each row counts, up to 1, by how rough the face is near it. `least` as in `lineOfRows`. */
export function shareOfRows(vs: readonly number[], us: readonly number[], least: number): readonly number[] {
  const sd = Math.max(least, noiseOf(us));
  const between = vs.slice(1).map((v, i) => (v + vs[i]!) / 2);
  return vs.map((v) => {
    const steps: number[] = [];
    between.forEach((at, i) => {
      if (Math.abs(at - v) <= ROUGHNESS.near) steps.push(us[i + 1]! - us[i]!);
    });
    if (steps.length < ROUGHNESS.least) return 1;
    return Math.min(1, (ROUGHNESS.whole * sd) / noiseOfSteps(steps));
  });
}
