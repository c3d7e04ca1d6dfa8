import { phi } from '../pixels/line-profile.ts';
import { solve } from '../pixels/solve.ts';

/** The rim of a cladding seen along a radius: cladding, perhaps a dark ring, then the ferrule; pixels and levels. */
export interface RimProfile {
  readonly radius: number;
  readonly blur: number;
  readonly inside: number;
  readonly outside: number;
  readonly ring: { readonly width: number; readonly level: number } | null;
}

interface Sampled {
  readonly at: readonly number[];
  readonly level: readonly number[];
}

/** Parameters: radius, blur, level inside, level outside, ring's width, ring's level. */
type Parameters = readonly [number, number, number, number, number, number];
function modelOf([r, s, inside, outside, width, ring]: Parameters, at: Float64Array): Float64Array {
  const out = new Float64Array(at.length);
  for (let i = 0; i < at.length; i++) {
    const first = phi((at[i]! - r) / s);
    const second = width > 0 ? phi((at[i]! - r - width) / s) : first;
    out[i] = inside * (1 - first) + ring * (first - second) + outside * second;
  }
  return out;
}

/**
 * Fits a blurred step, and a blurred step with a dark ring before it, to a profile and keeps the ring only where it halves
 * the misfit. The radius is the inner side of the ring: where the cladding ends. Null where the profile shows no edge.
 * Levenberg-Marquardt with numeric derivatives; at most 30 rounds.
 */
export function fitRimProfile(profile: Sampled, guess: number): RimProfile | null {
  if (profile.at.length < 20) return null;
  const level = (from: number, to: number): number => {
    const values = profile.level.filter(
      (_, i) => profile.at[i]! >= from * guess && profile.at[i]! <= to * guess,
    );
    values.sort((a, b) => a - b);
    return values[Math.floor(values.length / 2)] ?? 0;
  };
  const inside = level(0.86, 0.94);
  const outside = level(1.08, 1.15);
  const lowest = Math.min(...profile.level.filter((_, i) => Math.abs(profile.at[i]! - guess) < 0.06 * guess));
  const step = descend(profile, [guess, 1.5, inside, outside, 0, 0], [true, true, true, true, false, false]);
  const depth = Math.min(inside, outside) - lowest;
  const fits = [step];
  if (depth > 4) {
    for (const width of [1.5, 4, 7]) {
      const start: Parameters = [guess - width / 2, 1.2, inside, outside, width, lowest - 0.2 * depth];
      fits.push(descend(profile, start, [true, true, true, true, true, true]));
    }
  }
  const best = fits.reduce((a, b) => (b.misfit < (a === step ? 0.5 : 1) * a.misfit ? b : a));
  const [radius, blur, levelIn, levelOut, width, ring] = best.parameters;
  const contrast = Math.max(Math.abs(levelIn - levelOut), best === step ? 0 : levelIn - ring);
  if (!(contrast > 4) || Math.abs(radius - guess) > 0.1 * guess || !(blur > 0)) return null;
  return {
    radius,
    blur,
    inside: levelIn,
    outside: levelOut,
    ring: best === step ? null : { width, level: ring },
  };
}

const LEAST_BLUR = 0.3;
const ROUNDS = 30;

function descend(
  profile: Sampled,
  start: Parameters,
  free: readonly boolean[],
): { parameters: Parameters; misfit: number } {
  const at = Float64Array.from(profile.at);
  const misfitOf = (p: Parameters): number => {
    const off = modelOf(p, at);
    for (let i = 0; i < off.length; i++) off[i]! -= profile.level[i]!;
    return dot(off, off);
  };
  const steps = [0.01, 0.01, 0.1, 0.1, 0.01, 0.1];
  let parameters = start;
  let misfit = misfitOf(start);
  let damping = 1e-2;
  const which = free.flatMap((f, i) => (f ? [i] : []));
  for (let round = 0; round < ROUNDS; round++) {
    const model = modelOf(parameters, at);
    const gradient = which.map((k) => {
      const moved = parameters.map((v, i) => (i === k ? v + steps[i]! : v)) as unknown as Parameters;
      const column = modelOf(moved, at);
      for (let i = 0; i < column.length; i++) column[i] = (column[i]! - model[i]!) / steps[k]!;
      return column;
    });
    const residual = model.map((v, i) => profile.level[i]! - v);
    const a = which.map((_, i) => which.map((__, j) => dot(gradient[i]!, gradient[j]!)));
    const b = which.map((_, i) => dot(gradient[i]!, residual));
    a.forEach((row, i) => (row[i]! *= 1 + damping));
    const delta = solve(a, b);
    if (!delta) break;
    const next = parameters.map((v, i) => {
      const at = which.indexOf(i);
      const moved = at < 0 ? v : v + delta[at]!;
      return i === 1 ? Math.max(LEAST_BLUR, moved) : i === 4 ? Math.max(0, moved) : moved;
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
