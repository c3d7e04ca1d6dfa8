import type { FaceSettings } from '../settings.ts';
import type { FlatFace } from './flat-face.ts';
import { phi } from '../pixels/line-profile.ts';
import { middleOf, middleSize } from '../pixels/quantile.ts';
import { solve } from '../pixels/solve.ts';

/**
 * A core as it lies on the glass: a disc with a soft edge, brighter or darker than the glass, flat or falling off to its
 * edge. Pixels from the fiber's centre; levels.
 */
export interface CoreFit {
  readonly x: number;
  readonly y: number;
  /** Where its edge is half as high. */
  readonly r: number;
  /** Softness of the edge, standard deviation. */
  readonly soft: number;
  /** Height in the middle, and what it changes by to the edge. */
  readonly height: number;
  readonly fall: number;
}

interface Samples {
  readonly x: Float32Array;
  readonly y: Float32Array;
  readonly level: Float32Array;
}
/** What a core may be: radii and offsets in um, and whether its light may fall off to the edge. */
interface Kind {
  readonly fromUm: number;
  readonly toUm: number;
  readonly startsUm: readonly number[];
  readonly softest: number;
  readonly offUm: number;
  readonly falls: boolean;
  /** How far out the glass is looked at, um. */
  readonly lookUm: number;
  /** A share of what else is asked for; less where one is to be expected. */
  readonly surely: number;
}
const MULTIMODE: Kind = {
  fromUm: 21,
  toUm: 35,
  startsUm: [25, 31.25],
  softest: 4,
  offUm: 3,
  falls: true,
  lookUm: 46,
  surely: 1,
};
const SINGLE_MODE: Kind = {
  fromUm: 2.6,
  toUm: 7,
  startsUm: [4.2, 5.4],
  softest: 2.8,
  offUm: 2,
  falls: false,
  lookUm: 15,
  surely: 1,
};

/** The dip, or the hump, that many a graded-index core has in its very middle. */
const MIDDLE: Kind = {
  fromUm: 0.6,
  toUm: 3,
  startsUm: [1.4, 2.4],
  softest: 2,
  offUm: 0.8,
  falls: false,
  lookUm: 9,
  surely: 0.4,
};

/** So many times what is asked for on all sides, where one of them is hidden. */
const BY_FAR = 3;

const MOST_SAMPLES = 2000;
const ROUNDS = 12;

/** The share of its height that a core shows at a distance from its middle. */
const shareAt = (d: number, r: number, soft: number): number => phi((r - d) / soft);

/** Levels that a core adds so far from its middle, pixels. */
export const coreAt = ({ r, soft, height, fall }: CoreFit, d: number): number =>
  shareAt(d, r, soft) * (height + (fall * d * d) / (r * r));

/** What the middle of a multimode core adds, once that core is taken out; null where it shows nothing of its own. */
export function fitMiddle(
  face: FlatFace,
  fx: number,
  fy: number,
  umPerPx: number,
  settings: FaceSettings,
): CoreFit | null {
  return fitKind(face, fx, fy, umPerPx, MIDDLE, settings);
}

/**
 * Measures the core on a face whose light was taken out: centre, radius, softness and height by least squares, what does not
 * fit (dirt, scratches) weighed down by Tukey's biweight. A multimode core and a single-mode one are tried, and the one that
 * stands out more is taken. A core is one only when it stands out on all four sides of its middle; null where none does, as
 * where no light goes through. `fx` and `fy` are the fiber's centre in the square.
 */
export function fitCore(
  face: FlatFace,
  fx: number,
  fy: number,
  umPerPx: number,
  settings: FaceSettings,
): CoreFit | null {
  const wide = fitKind(face, fx, fy, umPerPx, MULTIMODE, settings);
  const narrow = fitKind(face, fx, fy, umPerPx, SINGLE_MODE, settings);
  if (!wide || !narrow) return wide ?? narrow;
  // In the middle of a multimode core there is a dip or a hump less high than it; light that is uneven round a single-mode
  // core looks like a wide one that hardly shows.
  return heightOf(narrow) > heightOf(wide) ? narrow : wide;
}

const heightOf = ({ height, fall }: CoreFit): number => Math.max(Math.abs(height), Math.abs(height + fall));

function fitKind(
  face: FlatFace,
  fx: number,
  fy: number,
  umPerPx: number,
  kind: Kind,
  settings: FaceSettings,
): CoreFit | null {
  const samples = sampled(face, fx, fy, kind.lookUm / umPerPx);
  if (samples.level.length < 80) return null;
  const fits = kind.startsUm.map((r) => descend(samples, kind, r / umPerPx, umPerPx));
  const best = fits.reduce((a, b) => (b && (!a || b.misfit < a.misfit) ? b : a));
  return best && isAllRound(samples, best.core, best.spread, kind.surely * settings.core.chance)
    ? best.core
    : null;
}

function sampled({ level, inside, side }: FlatFace, fx: number, fy: number, reach: number): Samples {
  const step = Math.max(1, Math.floor(Math.sqrt((Math.PI * reach * reach) / MOST_SAMPLES)));
  const [xs, ys, levels]: [number[], number[], number[]] = [[], [], []];
  for (let y = Math.ceil(fy - reach); y <= fy + reach; y += step) {
    for (let x = Math.ceil(fx - reach); x <= fx + reach; x += step) {
      const i = y * side + x;
      if (inside[i] !== 1 || (x - fx) ** 2 + (y - fy) ** 2 > reach * reach) continue;
      xs.push(x - fx);
      ys.push(y - fy);
      levels.push(level[i]!);
    }
  }
  return { x: Float32Array.from(xs), y: Float32Array.from(ys), level: Float32Array.from(levels) };
}

type Shape = readonly [x: number, y: number, r: number, soft: number];

interface Fitted {
  readonly core: CoreFit;
  readonly misfit: number;
  readonly spread: number;
}

/** Gauss and Newton's rounds in the shape, the levels by linear least squares in each; Tukey's weights on what is left. */
function descend(samples: Samples, kind: Kind, startPx: number, umPerPx: number): Fitted | null {
  const px = 1 / umPerPx;
  let shape: Shape = [0, 0, startPx, Math.max(1, 0.8 * px)];
  const weights = new Float64Array(samples.level.length).fill(1);
  let shares = sharesOf(samples, shape, kind.falls);
  let best = levelsOf(samples, shares, weights);
  if (!best) return null;
  for (let round = 0; round < ROUNDS; round++) {
    weigh(best, weights);
    const now = levelsOf(samples, shares, weights);
    if (!now) return null;
    const step = stepOf(samples, shape, now, weights);
    if (!step) break;
    let moved = false;
    for (const share of [1, 0.5, 0.2]) {
      const next = held(
        shape.map((v, k) => v + share * step[k]!),
        kind,
        px,
      );
      const there = sharesOf(samples, next, kind.falls);
      const tried = levelsOf(samples, there, weights);
      if (!tried || !(tried.misfit < now.misfit)) continue;
      moved = now.misfit - tried.misfit > 1e-5 * now.misfit;
      shape = next;
      shares = there;
      best = tried;
      break;
    }
    if (!moved) break;
  }
  const [x, y, r, soft] = shape;
  const { height, fall } = best;
  return { core: { x, y, r, soft, height, fall }, misfit: best.misfit, spread: spreadOf(best.off) };
}

/** A shape within what its kind may be. */
function held(shape: readonly number[], kind: Kind, px: number): Shape {
  const [x, y, r, soft] = shape as unknown as Shape;
  const off = Math.hypot(x, y);
  const most = kind.offUm * px;
  const back = off > most ? most / off : 1;
  return [
    x * back,
    y * back,
    Math.min(kind.toUm * px, Math.max(kind.fromUm * px, r)),
    Math.min(kind.softest * px, Math.max(0.35, soft)),
  ];
}

const spreadOf = (off: Float64Array): number => Math.max(0.05, 1.4826 * middleSize(off));

/** Where the edge still lies wrong it is off by a share of the height, which no noise is: that is kept in the fit. */
function weigh({ off, height }: Levels, weights: Float64Array): void {
  const cut = 4.685 * Math.max(spreadOf(off), 0.06 * Math.abs(height));
  for (let i = 0; i < off.length; i++) {
    const u = off[i]! / cut;
    weights[i] = Math.abs(u) < 1 ? (1 - u * u) ** 2 : 0;
  }
}

interface Levels {
  readonly height: number;
  readonly fall: number;
  readonly off: Float64Array;
  readonly misfit: number;
}

/** What a core of a shape shows of its height at each place, and of its fall where it has one. */
interface Shares {
  readonly height: Float64Array;
  readonly fall: Float64Array | null;
}
function sharesOf({ x, y }: Samples, [cx, cy, r, soft]: Shape, falls: boolean): Shares {
  const height = new Float64Array(x.length);
  const fall = falls ? new Float64Array(x.length) : null;
  for (let i = 0; i < height.length; i++) {
    const dx = x[i]! - cx;
    const dy = y[i]! - cy;
    const square = dx * dx + dy * dy;
    const share = phi((r - Math.sqrt(square)) / soft);
    height[i] = share;
    if (fall) fall[i] = (share * square) / (r * r);
  }
  return { height, fall };
}

/** Ground, height and fall that fit best to a shape. */
function levelsOf({ level }: Samples, { height, fall }: Shares, weights: Float64Array): Levels | null {
  let n = 0;
  let h = 0;
  let hh = 0;
  let f = 0;
  let hf = 0;
  let ff = 0;
  let l = 0;
  let hl = 0;
  let fl = 0;
  for (let i = 0; i < level.length; i++) {
    const w = weights[i]!;
    if (w === 0) continue;
    const wh = w * height[i]!;
    const wl = w * level[i]!;
    n += w;
    h += wh;
    hh += wh * height[i]!;
    l += wl;
    hl += wl * height[i]!;
    if (!fall) continue;
    f += w * fall[i]!;
    hf += wh * fall[i]!;
    ff += w * fall[i]! * fall[i]!;
    fl += wl * fall[i]!;
  }
  const solved = fall
    ? solve(
        [
          [n, h, f],
          [h, hh, hf],
          [f, hf, ff],
        ],
        [l, hl, fl],
      )
    : solve(
        [
          [n, h],
          [h, hh],
        ],
        [l, hl],
      );
  if (!solved) return null;
  const ground = solved[0]!;
  const byHeight = solved[1]!;
  const byFall = fall ? solved[2]! : 0;
  const off = new Float64Array(level.length);
  let misfit = 0;
  for (let i = 0; i < off.length; i++) {
    const rest = level[i]! - ground - byHeight * height[i]! - (fall ? byFall * fall[i]! : 0);
    off[i] = rest;
    misfit += weights[i]! * rest * rest;
  }
  return { height: byHeight, fall: byFall, off, misfit };
}

/** Step of the shape by its derivatives, the levels held. */
function stepOf(
  { x, y }: Samples,
  [cx, cy, r, soft]: Shape,
  { height, fall, off }: Levels,
  weights: Float64Array,
): readonly number[] | null {
  const a = Array.from({ length: 4 }, () => new Float64Array(4));
  const b = new Float64Array(4);
  const row = new Float64Array(4);
  for (let i = 0; i < off.length; i++) {
    const w = weights[i]!;
    if (w === 0) continue;
    const dx = x[i]! - cx;
    const dy = y[i]! - cy;
    const d = Math.sqrt(dx * dx + dy * dy) || 1e-9;
    const z = (r - d) / soft;
    // Far from the edge nothing changes but by the fall.
    if (z > 6 && fall === 0) continue;
    if (z < -6) continue;
    const bell = Math.exp(-0.5 * z * z) / Math.sqrt(2 * Math.PI) / soft;
    const share = fall === 0 ? 0 : phi(z);
    const level = height + fall * (d / r) ** 2;
    const byDistance = -bell * level + (share * 2 * fall * d) / (r * r);
    row[0] = (-dx / d) * byDistance;
    row[1] = (-dy / d) * byDistance;
    row[2] = bell * level - (share * 2 * fall * d * d) / (r * r * r);
    row[3] = -z * bell * level;
    for (let k = 0; k < 4; k++) {
      const v = w * row[k]!;
      const line = a[k]!;
      b[k]! += v * off[i]!;
      for (let l = 0; l <= k; l++) line[l]! += v * row[l]!;
    }
  }
  for (let k = 0; k < 4; k++) {
    for (let l = k + 1; l < 4; l++) a[k]![l] = a[l]![k]!;
    a[k]![k]! *= 1.01;
  }
  return solve(a, b);
}

/**
 * On each of its four sides the middle level within differs from that outside, the same way, by enough; where something lies on
 * one of them, on the other three by far.
 */
function isAllRound({ x, y, level }: Samples, core: CoreFit, spread: number, chances: number): boolean {
  const within: number[][] = [[], [], [], []];
  const beyond: number[][] = [[], [], [], []];
  for (let i = 0; i < level.length; i++) {
    const dx = x[i]! - core.x;
    const dy = y[i]! - core.y;
    const d = Math.sqrt(dx * dx + dy * dy);
    const side = (dx > 0 ? 1 : 0) + (dy > 0 ? 2 : 0);
    if (d < Math.max(core.r - 0.5 * core.soft, 0.8 * core.r)) within[side]!.push(level[i]!);
    else if (d > core.r + 2 * core.soft) beyond[side]!.push(level[i]!);
  }
  const sign = Math.sign(core.height + 0.5 * core.fall);
  const sides = within.map((values, side): number => {
    const outside = beyond[side]!;
    if (values.length < 3 || outside.length < 4) return 0;
    const step = sign * (middleOf(Float32Array.from(values)) - middleOf(Float32Array.from(outside)));
    const chance = spread * Math.sqrt(1.57 / values.length + 1.57 / outside.length);
    return step / chance;
  });
  const over = (times: number): number => sides.filter((s) => s > times * chances).length;
  return over(1) === 4 || over(BY_FAR) === 3;
}
