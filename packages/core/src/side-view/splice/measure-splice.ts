import { checkImage, type GreyImage } from '../../faces/pixels/image.ts';
import { jointLoss } from '../../physics/joint-loss.ts';
import { GLASS_INDEX } from '../../physics/reflection.ts';
import { crossProfile, isCoated } from '../cross-profile.ts';
import { edgeSpread } from '../edge-shift.ts';
import type { FiberEdges } from '../fiber-edges.ts';
import { DIAMETER, type PicturePlace } from '../picture-scale.ts';
import { type CoreShift, coreShift } from './core-shift.ts';
import { fitJoint, type JointFit } from './joint-fit.ts';
import type { JointHint } from './joint-place.ts';
import { findBubble, findLine, type JointBubble, type JointLine } from './joint-marks.ts';
import { followThrough, type JointRefusal, longestGap, type ThroughFiber } from './through-fiber.ts';
import { type UnrolledFiber, unrolled } from './unrolled.ts';
import { type JointView, viewsOf } from './views.ts';

export const SPLICE_CLASSES = ['good', 'offset', 'angle', 'neck', 'bulge', 'bubble', 'line'] as const;
export type SpliceClass = (typeof SPLICE_CLASSES)[number];

/** A measured value with its standard uncertainty, in the unit of its name. */
export interface WithSd {
  readonly value: number;
  readonly sd: number;
}
/** One view of a joint as it is drawn over the picture: places in pixels from its upper left corner. */
export interface SplicedView {
  readonly joint: PicturePlace;
  /** Both axes up to the joint. */
  readonly axes: readonly (readonly [PicturePlace, PicturePlace])[];
  /** Both edges past the joint, as rows of places. */
  readonly edges: readonly (readonly PicturePlace[])[];
}
/** A joint after the arc. Lengths in µm, angles in degrees, loss in dB. */
export interface MeasuredSplice {
  readonly ok: true;
  readonly umPerPx: number;
  readonly umPerPxSd: number;
  readonly class: SpliceClass;
  /** Of the claddings, at the joint; with two views by both. */
  readonly offsetUm: WithSd;
  /** Of the cores, in the glass; null where they are not seen. */
  readonly coreOffsetUm: WithSd | null;
  readonly angleDeg: WithSd;
  /** Positive for a bulge. */
  readonly diameterChangeUm: WithSd;
  /** Null where no bubble is seen. */
  readonly bubbleUm: WithSd | null;
  /** At 1310 nm. */
  readonly lossDb: WithSd;
  readonly views: readonly SplicedView[];
}
export type SpliceReading = MeasuredSplice | { readonly ok: false; readonly reason: JointRefusal };

export interface SpliceOptions {
  /** Views one above the other; found out where it is not said. */
  readonly views?: 1 | 2;
  /** Mode field diameter at 1310 nm, µm. */
  readonly modeFieldUm?: number;
  /** The column of the joint where somebody sees it, pixels; found by the engine where it is not said. */
  readonly jointAt?: number;
}

/** Mode field diameter at 1310 nm where none is given, µm (ITU-T G.652 allows 8.6 to 9.2 nominal, from memory). */
const MODE_FIELD_UM = 9.2;
const LOSS = { index: GLASS_INDEX, wavelengthNm: 1310 };
/** From these on a joint is called by its fault; house. */
const FAULTY = { changeUm: 3, offsetUm: 2.5, angleDeg: 0.8 };
/** A core lies off the middle of its cladding; standard deviation of the difference of two, µm (IEC 60793-2-50 allows 0.6 each, from memory). */
const CORE_SD = 0.35;
const MOST_BLUR = 0.15;
const LEAST_CONTRAST = 0.08;
/** Columns without edges over this share of the width are a gap. */
const GAP = 0.03;
/** Ends that melted apart are thinner before the gap than this share of the width. */
const BALLED = 0.9;

interface WorkedView {
  readonly from: number;
  readonly image: GreyImage;
  readonly joint: JointFit;
  readonly umPerPx: number;
  readonly umPerPxSd: number;
  readonly core: CoreShift | null;
  readonly line: JointLine | null;
  readonly bubble: JointBubble | null;
}

/**
 * Measures a joint after the arc in an 8-bit grey back-lit picture of it from the side, one view or two one above the other: step and turn of the axes,
 * shift of the cores, change of the diameter, bubble and line, what the joint is called by, and the loss by the Gaussian modes of
 * `jointLoss`. Says why where it cannot. Error: `face.bad_image`.
 */
export function measureSplice(
  image: GreyImage,
  { views, modeFieldUm = MODE_FIELD_UM, jointAt }: SpliceOptions = {},
): SpliceReading {
  checkImage(image);
  const worked: WorkedView[] = [];
  for (const view of viewsOf(image, views)) {
    const one = workedView(view, jointAt);
    if (typeof one === 'string') return { ok: false, reason: one };
    worked.push(one);
  }
  const offsetUm = together(worked.map((w) => ({ value: w.joint.offsetUm, sd: w.joint.offsetSd })));
  const angleDeg = together(worked.map((w) => ({ value: w.joint.angleDeg, sd: w.joint.angleSd })));
  const cores = worked.map(({ joint, core }) => ({
    value: joint.offsetUm + (core?.shiftUm ?? 0),
    sd: Math.hypot(joint.offsetSd, core?.shiftSd ?? CORE_SD),
  }));
  const core = together(cores);
  const diameterChangeUm = meanOf(worked.map((w) => ({ value: w.joint.changeUm, sd: w.joint.changeSd })));
  const bubbles = worked.flatMap(({ bubble }) => bubble ?? []);
  const bubble = bubbles.reduce<JointBubble | null>((a, b) => (a && a.depth >= b.depth ? a : b), null);
  const bubbleUm = bubble && { value: bubble.diameterUm, sd: bubble.diameterSd };
  const hasLine = worked.some((w) => w.line !== null);
  return {
    ok: true,
    umPerPx: worked.reduce((sum, w) => sum + w.umPerPx, 0) / worked.length,
    umPerPxSd: Math.max(...worked.map((w) => w.umPerPxSd)),
    class: classOf(offsetUm.value, angleDeg.value, diameterChangeUm.value, bubble !== null, hasLine),
    offsetUm,
    coreOffsetUm: worked.some((w) => w.core !== null) ? core : null,
    angleDeg,
    diameterChangeUm,
    bubbleUm,
    lossDb: lossOf(core, angleDeg, modeFieldUm),
    views: worked.map(drawnView),
  };
}

function classOf(
  offset: number,
  angle: number,
  change: number,
  hasBubble: boolean,
  hasLine: boolean,
): SpliceClass {
  if (Math.abs(change) > FAULTY.changeUm) return change < 0 ? 'neck' : 'bulge';
  if (Math.abs(offset) > FAULTY.offsetUm) return 'offset';
  if (Math.abs(angle) > FAULTY.angleDeg) return 'angle';
  if (hasBubble) return 'bubble';
  return hasLine ? 'line' : 'good';
}

/** One view by itself; across two, the root of the sum of squares. */
function together(parts: readonly WithSd[]): WithSd {
  if (parts.length === 1) return parts[0]!;
  const value = Math.hypot(...parts.map((p) => p.value));
  const sum = Math.hypot(...parts.map((p) => p.value * p.sd));
  const least = Math.min(...parts.map((p) => p.sd));
  return { value, sd: value === 0 ? least : Math.max(sum / value, least) };
}
function meanOf(parts: readonly WithSd[]): WithSd {
  const n = parts.length;
  return {
    value: parts.reduce((sum, p) => sum + p.value, 0) / n,
    sd: Math.max(...parts.map((p) => p.sd)) / Math.sqrt(n),
  };
}

/** Loss by step and turn; its uncertainty by their derivatives, and by their squares where they are near nothing. */
function lossOf(offset: WithSd, angle: WithSd, modeFieldUm: number): WithSd {
  const radius = modeFieldUm / 2;
  const loss = (offsetUm: number, tiltDeg: number): number =>
    jointLoss({ fromRadiusUm: radius, intoRadiusUm: radius, offsetUm, tiltDeg, ...LOSS }).lossDb;
  // Both causes go with the square.
  const part = ({ value, sd }: WithSd, a: number): number =>
    a * Math.hypot(2 * value * sd, Math.SQRT2 * sd * sd);
  return {
    value: loss(offset.value, angle.value),
    sd: Math.hypot(part(offset, loss(1, 0)), part(angle, loss(0, 1))),
  };
}

function workedView({ image, from }: JointView, jointAt: number | undefined): WorkedView | JointRefusal {
  const fiber = followThrough(image);
  if (typeof fiber === 'string') return fiber;
  if (fiber.light - fiber.dark < LEAST_CONTRAST * fiber.light) return 'washed_out';
  if (longestGap(fiber) > Math.max(2, GAP * fiber.width)) return isBalled(fiber) ? 'balled' : 'gap';
  const rough = DIAMETER.um / fiber.width;
  const first = fitJoint(fiber.pairs, rough, null);
  if (!first) return 'no_fiber';
  const scales = (['left', 'right'] as const).map((side) => scaleOf(image, fiber, first, rough, side));
  const whole = scales.filter((s): s is SideScale => typeof s !== 'string');
  const refused = scales.find((s): s is JointRefusal => typeof s === 'string');
  if (whole.length === 0) return refused ?? 'no_fiber';
  const umPerPx = whole.reduce((sum, s) => sum + s.um, 0) / whole.length;
  const blurUm = (whole.reduce((sum, s) => sum + s.blur, 0) / whole.length) * umPerPx;
  const half = fiber.width / 2;
  const flat = drawnStraight(image, first, half, umPerPx);
  if (hasLightGap(flat, first, fiber, umPerPx)) return 'gap';
  const line = findLine(flat, umPerPx, half);
  const shown = line
    ? { at: line.at, sdUm: 2 }
    : placeByBubble(findBubble(flat, umPerPx, half), first, umPerPx);
  const joint = fitJoint(
    fiber.pairs,
    umPerPx,
    jointAt === undefined ? shown : { at: jointAt, sdUm: 2, isSet: true },
  );
  if (!joint) return 'no_fiber';
  const bubble = findBubble(drawnStraight(image, joint, half, umPerPx), umPerPx, half);
  return {
    from,
    image,
    joint,
    umPerPx,
    umPerPxSd: Math.max(...whole.map((s) => s.umSd)),
    core: coreShift(image, joint, umPerPx, blurUm),
    line,
    // Where a line is, the darkest part of it is no bubble.
    bubble: bubble && !line && Math.abs(bubble.at - joint.at) * umPerPx < NEAR_JOINT_UM ? bubble : null,
  };
}
/** A bubble of the joint lies so near to it. */
const NEAR_JOINT_UM = 25;
/** So near to where the edges alone put the joint a bubble says where it is, and so well. µm, house. */
const BUBBLE_SAYS = { within: 60, sdUm: 10 };
/** Where a bubble says that the joint is; null where there is none near to where the edges put it. */
function placeByBubble(bubble: JointBubble | null, { at }: JointFit, umPerPx: number): JointHint | null {
  const isNear = bubble !== null && Math.abs(bubble.at - at) * umPerPx < BUBBLE_SAYS.within;
  return isNear ? { at: bubble.at, sdUm: BUBBLE_SAYS.sdUm } : null;
}
/** The stretch that is looked at for marks, and how far along it a level is compared, µm. */
const MARKS = { share: 0.8, nearUm: 34, within: 0.95 };

function drawnStraight(image: GreyImage, joint: JointFit, half: number, umPerPx: number): UnrolledFiber {
  const margin = ((1 - MARKS.share) / 2) * image.width;
  const slope = (joint.left.slope + joint.right.slope) / 2;
  const reach = Math.floor(MARKS.within * half);
  return unrolled(
    image,
    joint.middle,
    slope,
    reach,
    margin,
    image.width - margin,
    Math.round(MARKS.nearUm / umPerPx),
  );
}

interface SideScale {
  readonly um: number;
  readonly umSd: number;
  readonly blur: number;
}
function scaleOf(
  image: GreyImage,
  fiber: ThroughFiber,
  joint: JointFit,
  rough: number,
  side: 'left' | 'right',
): SideScale | JointRefusal {
  const axis = joint[side];
  const sign = side === 'left' ? -1 : 1;
  const away = (sign * 40) / rough;
  const points = fiber.pairs.filter((p) => (p.x - joint.at) * sign > Math.abs(away));
  if (points.length < 20) return 'no_fiber';
  const slant = Math.hypot(1, axis.slope);
  const widths = points.map((p) => (p.bottom - p.top) / slant);
  const width = widths.reduce((sum, w) => sum + w, 0) / widths.length;
  const usual = [...widths].sort((a, b) => a - b)[widths.length >> 1]!;
  const edges: FiberEdges = {
    side,
    origin: joint.at + away,
    middle: joint.middle(joint.at + away),
    slope: axis.slope + 2 * axis.bend * away,
    bend: axis.bend,
    slopeSd: 0,
    width: usual,
    widthSd: Math.abs(width - usual) / 3,
    light: fiber.light,
    dark: fiber.dark,
    near: points[0]!.x,
    far: points.at(-1)!.x,
    points,
  };
  const spread = edgeSpread(image, edges);
  if (!spread || spread.blur <= 0 || spread.blur > MOST_BLUR * usual) return 'defocused';
  if (isCoated(crossProfile(image, edges), fiber.light)) return 'coated';
  const glass = usual - 2 * spread.inside;
  const um = DIAMETER.um / glass;
  return {
    um,
    umSd: um * Math.hypot(Math.hypot(edges.widthSd, 2 * spread.insideSd) / glass, DIAMETER.sd / DIAMETER.um),
    blur: spread.blur,
  };
}

/** Whether the fiber gets thin before a gap in it. */
function isBalled({ pairs, width }: ThroughFiber): boolean {
  const near = Math.max(3, 0.06 * width);
  return pairs.some((p, i) => {
    const next = pairs[i + 1];
    if (!next || next.x - p.x < GAP * width) return false;
    const before = pairs.filter((q) => q.x > p.x - near && q.x <= p.x);
    const thin = before.reduce((sum, q) => sum + (q.bottom - q.top), 0) / before.length;
    return thin < BALLED * width;
  });
}

/**
 * Rows of the dark sides, in half widths, and how light a column of them may be against those beside it; and what share of the light a gap lets
 * through, for where the sides are nearly black anything is lighter.
 */
const SIDES = { from: 0.62, to: 0.84, light: 2.2, lets: 0.25 };
/** Whether light comes through between two ends: both dark sides are light in one column. */
function hasLightGap(
  { columns, reach, ratio, from }: UnrolledFiber,
  joint: JointFit,
  { light, dark, width }: ThroughFiber,
  umPerPx: number,
): boolean {
  const half = width / 2;
  const lightest = Math.max(SIDES.light, (SIDES.lets * light) / Math.max(1, dark));
  // In a neck the rows of the sides lie beside the glass.
  const thin = joint.changeUm < -FAULTY.changeUm ? (3 * joint.changeReachUm) / umPerPx : 0;
  for (let k = 0; k < columns; k++) {
    if (Math.abs(from + k - joint.at) < thin) continue;
    const share = (sign: 1 | -1): number => {
      let sum = 0;
      let n = 0;
      for (let r = Math.ceil(SIDES.from * half); r <= SIDES.to * half && r <= reach; r++) {
        sum += ratio[(reach + sign * r) * columns + k]!;
        n += 1;
      }
      return n === 0 ? 1 : sum / n;
    };
    if (Math.min(share(1), share(-1)) > lightest) return true;
  }
  return false;
}

function drawnView({ joint, from, image, umPerPx }: WorkedView): SplicedView {
  const place = (x: number, y: number): PicturePlace => ({ x, y: y + from });
  const far = 150 / umPerPx;
  const left = Math.max(0, joint.at - far);
  const right = Math.min(image.width - 1, joint.at + far);
  const edge = (sign: 1 | -1): PicturePlace[] => {
    const steps = 24;
    return Array.from({ length: steps + 1 }, (_, i) => {
      const x = left + ((right - left) * i) / steps;
      return place(x, joint.middle(x) + sign * joint.half(x));
    });
  };
  return {
    joint: place(joint.at, (joint.left.middle + joint.right.middle) / 2),
    axes: [
      [place(left, joint.middle(left)), place(joint.at, joint.left.middle)],
      [place(joint.at, joint.right.middle), place(right, joint.middle(right))],
    ],
    edges: [edge(-1), edge(1)],
  };
}
