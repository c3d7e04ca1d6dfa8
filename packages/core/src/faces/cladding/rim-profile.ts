import { phi } from '../pixels/line-profile.ts';
import { solve } from '../pixels/solve.ts';

/** The rim of a cladding seen along a radius: cladding, perhaps a dark ring, then the ferrule; pixels and levels. */
export interface RimProfile {
  readonly radius: number;
  readonly blur: number;
  readonly inside: number;
  readonly outside: number;
  readonly ring: { readonly width: number; readonly level: number } | null;
  /** Root of the mean squared misfit, levels. */
  readonly off: number;
}

interface Sampled {
  readonly at: readonly number[];
  readonly level: readonly number[];
}

/** Parameters: radius, blur, level inside, level outside, ring's width, ring's level. */
type Parameters = readonly [number, number, number, number, number, number];
function modelOf(
  [r, s, inside, outside, width, ring]: Parameters,
  at: Float64Array,
  out: Float64Array,
): Float64Array {
  for (let i = 0; i < at.length; i++) {
    const first = phi((at[i]! - r) / s);
    const second = width > 0 ? phi((at[i]! - r - width) / s) : first;
    out[i] = inside * (1 - first) + ring * (first - second) + outside * second;
  }
  return out;
}

/** What a ring beside glass and ferrule mostly is, against the darker of them or the brighter, give or take. */
interface Usual {
  readonly of: (a: number, b: number) => number;
  readonly level: number;
  readonly spread: number;
}
/**
 * A line of adhesive is about so dark, a rim that throws light back about so bright; house, and it only decides where the blur is
 * wider than the line, so that width and level cannot be told apart.
 */
const ADHESIVE: Usual = { of: Math.min, level: 0.4, spread: 0.15 };
const BRIGHT_RIM: Usual = { of: Math.max, level: 1.4, spread: 0.12 };

/** A ring has at most this share of the level of the darker of glass and ferrule: less of a difference is the ferrule's. */
const MOST_OF_DARKER = 0.85;

/** A bright ring has at least so many times the level of the brighter: blur leaves little of a thin one. */
const LEAST_OF_BRIGHTER = 1.06;

/** Levels that a rim differs by at least, so that it is one. */
const LEAST_CONTRAST = 4;

/**
 * Fits a blurred step, and a blurred step with a ring before it, darker or brighter than glass and ferrule, to a profile; the
 * ring is kept where it explains a tenth of what the step leaves. The radius is the inner side of the ring: where the cladding
 * ends. Null where the profile shows no edge. Levenberg-Marquardt with numeric derivatives; at most 30 rounds.
 */
export function fitRimProfile(profile: Sampled, guess: number): RimProfile | null {
  if (profile.at.length < 20) return null;
  const inside = levelOf(profile, 0.86 * guess, 0.94 * guess);
  const outside = levelOf(profile, 1.08 * guess, 1.15 * guess);
  const near = profile.level.filter((_, i) => Math.abs(profile.at[i]! - guess) < 0.06 * guess);
  const dip = Math.min(inside, outside) - Math.min(...near);
  const bump = Math.max(...near) - Math.max(inside, outside);
  // A ring that the blur hides altogether is a dark one.
  const isDark = dip >= bump || bump < LEAST_CONTRAST;
  const step = descend(profile, [guess, 1.3, inside, outside, 0, 0], STEP_ONLY, 0);
  const level = isDark ? ADHESIVE.level * Math.min(inside, outside) : Math.max(...near) + 0.2 * bump;
  const rings = [1, 2.5, 5].map((width) =>
    withRing(profile, [guess - width / 2, 1.3, inside, outside, width, level], isDark),
  );
  const fits = [step, ...rings];
  // What stands out lies beyond either side of it.
  const standsOut = ([, , a, b, , ring]: Parameters): boolean =>
    isDark ? ring < MOST_OF_DARKER * Math.min(a, b) : ring > LEAST_OF_BRIGHTER * Math.max(a, b);
  const best = fits
    .filter((f) => f === step || standsOut(f.parameters))
    .reduce((a, b) => (b.misfit < (a === step ? 0.9 : 1) * a.misfit ? b : a));
  const [radius, blurs, levelIn, levelOut, width, ring] = best.parameters;
  const contrast = Math.max(
    Math.abs(levelIn - levelOut),
    best === step ? 0 : Math.abs(levelIn - ring) * Math.min(1, width / blurs),
  );
  if (!(contrast > LEAST_CONTRAST) || Math.abs(radius - guess) > 0.1 * guess || !(blurs > 0)) return null;
  return {
    radius,
    blur: blurs,
    inside: levelIn,
    outside: levelOut,
    ring: best === step ? null : { width, level: ring },
    off: Math.sqrt(best.misfit / profile.at.length),
  };
}

/**
 * A part of a rim, fitted to what the whole of it is, from a profile of the surroundings of the edge alone: where its glass
 * ends, and its blur. Null where it has gone far from the whole.
 */
export function fitPart(profile: Sampled, whole: RimProfile): { radius: number; blur: number } | null {
  if (profile.at.length < 12) return null;
  const { radius, blur, inside, outside, ring } = whole;
  const start: Parameters = [radius, blur, inside, outside, ring?.width ?? 0, ring?.level ?? 0];
  const fit = ring
    ? withRing(profile, start, ring.level < Math.min(inside, outside))
    : descend(profile, start, STEP_ONLY, 0);
  const [r, s] = fit.parameters;
  return Math.abs(r - radius) > 0.05 * radius || !(s > 0) ? null : { radius: r, blur: s };
}

/** With a ring, held to what such rings are as far as the profile leaves that open. */
function withRing(profile: Sampled, start: Parameters, isDark: boolean): ReturnType<typeof descend> {
  const free = descend(profile, start, ALL, 0);
  // What a deviation of one spread of the usual level costs: as much as the misfit of a few places.
  const doubt = Math.max(0.25, free.misfit / profile.at.length);
  return descend(profile, free.parameters, ALL, doubt, isDark ? ADHESIVE : BRIGHT_RIM);
}

const STEP_ONLY = [true, true, true, true, false, false];
const ALL = [true, true, true, true, true, true];

function levelOf(profile: Sampled, from: number, to: number): number {
  const values = profile.level.filter((_, i) => profile.at[i]! >= from && profile.at[i]! <= to);
  values.sort((a, b) => a - b);
  return values[Math.floor(values.length / 2)] ?? 0;
}

const LEAST_BLUR = 0.3;
const ROUNDS = 30;
/** A ring is no wider than this share of the radius: three micrometres. */
export const WIDEST = 0.05;
/** A spread of the usual level off costs as much as the misfit of so many places. */
const COST = 6;

function descend(
  profile: Sampled,
  start: Parameters,
  free: readonly boolean[],
  doubt: number,
  usual = ADHESIVE,
): { parameters: Parameters; misfit: number } {
  const at = new Float64Array(profile.at);
  const level = new Float64Array(profile.level);
  const model = new Float64Array(at.length);
  const off = new Float64Array(at.length);
  const misfitOf = (p: Parameters): number => {
    modelOf(p, at, off);
    for (let i = 0; i < off.length; i++) off[i]! -= level[i]!;
    return dot(off, off) + COST * doubt * unlikely(p) ** 2;
  };
  /** How many spreads the ring's level is off the usual. */
  const unlikely = ([, , inside, outside, , ring]: Parameters): number =>
    (ring / Math.max(10, usual.of(inside, outside)) - usual.level) / usual.spread;
  const steps = [0.01, 0.01, 0.1, 0.1, 0.01, 0.1];
  const widest = WIDEST * start[0];
  let parameters = start;
  let misfit = misfitOf(start);
  let damping = 1e-2;
  const which = free.flatMap((f, i) => (f ? [i] : []));
  const gradient = which.map(() => new Float64Array(at.length));
  for (let round = 0; round < ROUNDS; round++) {
    modelOf(parameters, at, model);
    which.forEach((k, j) => {
      const moved = parameters.map((v, i) => (i === k ? v + steps[i]! : v)) as unknown as Parameters;
      const column = modelOf(moved, at, gradient[j]!);
      for (let i = 0; i < column.length; i++) column[i] = (column[i]! - model[i]!) / steps[k]!;
    });
    for (let i = 0; i < off.length; i++) off[i] = level[i]! - model[i]!;
    const a = which.map((_, i) => which.map((__, j) => dot(gradient[i]!, gradient[j]!)));
    const b = which.map((_, i) => dot(gradient[i]!, off));
    const ringAt = which.indexOf(5);
    if (doubt > 0 && ringAt >= 0) {
      const each = 1 / (Math.max(10, usual.of(parameters[2], parameters[3])) * usual.spread);
      a[ringAt]![ringAt]! += COST * doubt * each * each;
      b[ringAt]! -= COST * doubt * each * unlikely(parameters);
    }
    a.forEach((row, i) => (row[i]! *= 1 + damping));
    const delta = solve(a, b);
    if (!delta) break;
    const next = parameters.map((v, i) => {
      const at = which.indexOf(i);
      const moved = at < 0 ? v : v + delta[at]!;
      return i === 1 ? Math.max(LEAST_BLUR, moved) : i === 4 ? Math.max(0, Math.min(widest, moved)) : moved;
    }) as unknown as Parameters;
    const better = misfitOf(next);
    if (better < misfit) {
      const done = misfit - better < 1e-7 * misfit;
      [parameters, misfit, damping] = [next, better, damping / 4];
      if (done) break;
    } else damping *= 5;
    if (damping > 1e8) break;
  }
  return { parameters, misfit };
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}
