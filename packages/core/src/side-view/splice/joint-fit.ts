import { middleOf } from '../../faces/pixels/quantile.ts';
import { noiseOf } from '../line-fit.ts';
import { CORRELATED, robustFit } from '../robust.ts';
import { type Bin, type JointHint, placeOf, widthTerms } from './joint-place.ts';
import type { EdgePair } from './through-fiber.ts';

/** How two fibers meet, by their outer edges. Lengths in µm, angles in degrees; rows of a picture count downwards. */
export interface JointFit {
  /** Column of the joint. */
  readonly at: number;
  /** Step of the axis from the left fiber to the right one at the joint. */
  readonly offsetUm: number;
  readonly offsetSd: number;
  /** Turn of the axis there. */
  readonly angleDeg: number;
  readonly angleSd: number;
  /** By how much the diameter at the joint differs from that of the fibers. */
  readonly changeUm: number;
  readonly changeSd: number;
  /** Standard deviation along the axis of the bell that this change makes. */
  readonly changeReachUm: number;
  /** Both axes at the column of the joint, in pixels. */
  readonly left: AxisInPicture;
  readonly right: AxisInPicture;
  /** Where the axis lies at a column. */
  readonly middle: (x: number) => number;
  /** Half the distance of the edges in a column. */
  readonly half: (x: number) => number;
}

/** An axis as it runs from the column of the joint: row there, rows a column, and its curvature. */
export interface AxisInPicture {
  readonly middle: number;
  readonly slope: number;
  readonly bend: number;
}

/** Columns are taken together over so many µm. */
const BIN_UM = 2.5;
/** Axes are followed so far from the joint. */
const REACH_UM = 450;
/** Near the joint an axis is not straight; nearer than so far nothing is fitted, in µm and in reaches of the bell. */
const LEFT_OUT = { um: 22, bells: 2.4 };
/** A fiber is called curled where its bend it is so many times its uncertainty. */
const SIGNIFICANT = 4;
/** Smallest standard deviations that are believed, µm and degrees: lens and pixels. */
const LEAST = { noise: 0.025, offset: 0.03, angle: 0.014, change: 0.25 };
/** What a curled fiber leaves open beyond its fit, and what the place of a bend does; house, by practice pictures. */
const CURLED = { offset: 0.09, angle: 0.045, bell: 0.1 };
const BEND = { fromDeg: 0.8, atUm: 6 };
const DEGREE = 180 / Math.PI;

/** Fits both axes and the joint between them to the edges of a fiber that goes through. Null where too little is seen. */
export function fitJoint(
  pairs: readonly EdgePair[],
  umPerPx: number,
  hint: JointHint | null,
): JointFit | null {
  const bins = binsOf(pairs, umPerPx);
  if (bins.length < 30) return null;
  const noise = {
    middle: Math.max(LEAST.noise, noiseOf(bins.map((b) => b.middle))),
    width: Math.max(LEAST.noise, noiseOf(bins.map((b) => b.width))),
  };
  const { at, sd } = placeOf(bins, noise, umPerPx, hint);
  const change = changeAt(bins, at, noise.width);
  const { bell } = change;
  const isBell = Math.abs(change.value) > 3;
  const near = Math.max(LEFT_OUT.um, isBell ? LEFT_OUT.bells * bell : 0);
  const axes = axesAt(bins, at, near, noise.middle);
  if (!axes) return null;
  const isCurled = axes.left.isCurled || axes.right.isCurled;
  const slant = Math.cos((Math.atan(axes.left.slope) + Math.atan(axes.right.slope)) / 2);
  const angle = (Math.atan(axes.right.slope) - Math.atan(axes.left.slope)) * DEGREE;
  const angleSd = Math.hypot(axes.left.slopeSd, axes.right.slopeSd) * DEGREE;
  const on = (a: Axis, d: number): number => a.height + a.slope * d + a.bend * d * d;
  return {
    at: at / umPerPx,
    offsetUm: (axes.right.height - axes.left.height) * slant,
    offsetSd: Math.hypot(
      axes.left.heightSd,
      axes.right.heightSd,
      Math.tan(angle / DEGREE) * (Math.abs(angle) > BEND.fromDeg ? Math.hypot(sd, BEND.atUm) : sd),
      isCurled ? CURLED.offset : LEAST.offset,
      isCurled && isBell ? CURLED.bell : 0,
    ),
    angleDeg: angle,
    angleSd: Math.hypot(angleSd, isCurled ? CURLED.angle : LEAST.angle),
    changeUm: change.value,
    changeSd: Math.hypot(change.sd, LEAST.change),
    changeReachUm: bell,
    left: inPicture(axes.left, umPerPx),
    right: inPicture(axes.right, umPerPx),
    middle: (x) => {
      const d = x * umPerPx - at;
      return on(d < 0 ? axes.left : axes.right, d) / umPerPx;
    },
    half: (x) => {
      const d = x * umPerPx - at;
      return (change.base + change.value * Math.exp((-d * d) / (2 * bell * bell))) / 2 / umPerPx;
    },
  };
}

const inPicture = (a: Axis, umPerPx: number): AxisInPicture => ({
  middle: a.height / umPerPx,
  slope: a.slope,
  bend: a.bend * umPerPx,
});

function binsOf(pairs: readonly EdgePair[], umPerPx: number): Bin[] {
  const each = Math.max(3, Math.round(BIN_UM / umPerPx));
  const bins: Bin[] = [];
  for (let i = 0; i + each <= pairs.length; i += each) {
    const some = pairs.slice(i, i + each);
    const middle = (of: (p: EdgePair) => number): number => middleOf(Float32Array.from(some, of));
    const x = some.reduce((sum, p) => sum + p.x, 0) / each;
    bins.push({
      u: x * umPerPx,
      middle: middle((p) => (p.top + p.bottom) / 2) * umPerPx,
      width: middle((p) => p.bottom - p.top) * umPerPx,
    });
  }
  return bins;
}

interface Change {
  readonly value: number;
  readonly sd: number;
  readonly base: number;
  readonly bell: number;
}
/** The change of the width at the joint, by the bell that leaves least. */
function changeAt(bins: readonly Bin[], at: number, noise: number): Change {
  const near = bins.filter((b) => Math.abs(b.u - at) < REACH_UM);
  const widths = near.map((b) => b.width);
  const usual = middleOf(Float32Array.from(widths));
  const most = near.reduce(
    (m, b) => (Math.abs(b.u - at) < 30 ? Math.max(m, Math.abs(b.width - usual)) : m),
    0,
  );
  // A large change is no bell exactly, and is no dirt either.
  const least = Math.max(noise, BELL_ERR * most);
  let best: (Change & { readonly cost: number }) | null = null;
  for (const bell of FINE_BELLS_UM) {
    const terms = near.map((b) => widthTerms(b.u - at, bell));
    const fit = robustFit(terms, widths, { least, most: 8 * least });
    if (!fit) continue;
    const cost = fit.left.reduce((sum, r) => sum + Math.min(100, (r / least) ** 2), 0);
    if (best && best.cost <= cost) continue;
    const c = fit.coefficients;
    const sd = CORRELATED * fit.spread * Math.sqrt(fit.inverse[2]![2]!) + BELL_ERR * Math.abs(c[2]!);
    best = { value: c[2]!, sd, base: (c[0]! + c[1]!) / 2, bell, cost };
  }
  return (
    best ?? {
      value: 0,
      sd: 1,
      base: middleOf(Float32Array.from(bins, (b) => b.width)),
      bell: FINE_BELLS_UM[0]!,
    }
  );
}
const FINE_BELLS_UM = [10, 12, 14.5, 17, 20, 23, 26.5, 31, 37];
/** The change of the glass is no bell exactly. */
const BELL_ERR = 0.03;

interface Axis {
  readonly height: number;
  readonly heightSd: number;
  readonly slope: number;
  readonly slopeSd: number;
  readonly bend: number;
  readonly isCurled: boolean;
}
function axesAt(
  bins: readonly Bin[],
  at: number,
  near: number,
  noise: number,
): { readonly left: Axis; readonly right: Axis } | null {
  const side = (sign: 1 | -1): Axis | null => {
    const some = bins.filter((b) => (b.u - at) * sign > near && (b.u - at) * sign < REACH_UM);
    return axisOf(some, at, noise);
  };
  const left = side(-1);
  const right = side(1);
  return left && right ? { left, right } : null;
}

/**
 * The axis of one fiber, seen from the joint. Its curl is held to what bare fiber has: a straight one is told from a curled one by the picture
 * alone, and what it leaves open is in the uncertainties.
 */
function axisOf(bins: readonly Bin[], at: number, noise: number): Axis | null {
  const fit = robustFit(
    bins.map((b) => [1, (b.u - at) / UNIT_UM, ((b.u - at) / UNIT_UM) ** 2]),
    bins.map((b) => b.middle),
    { least: noise, most: 4 * noise, ridge: [0, 0, (noise / CURL_UM) ** 2] },
  );
  if (!fit) return null;
  const sd = (k: number): number => CORRELATED * fit.spread * Math.sqrt(fit.inverse[k]![k]!);
  const c = fit.coefficients;
  return {
    height: c[0]!,
    heightSd: sd(0),
    slope: c[1]! / UNIT_UM,
    slopeSd: sd(1) / UNIT_UM,
    bend: c[2]! / UNIT_UM ** 2,
    isCurled: Math.abs(c[2]!) > SIGNIFICANT * sd(2),
  };
}
/** Axes are fitted in this unit; curl leaves a tangent by this much over it (standard deviation: a radius of some 170 mm). */
const UNIT_UM = 100;
const CURL_UM = 0.03;
