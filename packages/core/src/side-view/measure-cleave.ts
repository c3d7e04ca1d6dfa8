import { checkImage, type GreyImage } from '../faces/pixels/image.ts';
import { crossProfile, isCoated } from './cross-profile.ts';
import { edgeSpread } from './edge-shift.ts';
import { type CleaveClass, classOf, type FaceSigns, signsOf } from './face-class.ts';
import { type FaceLine, fitFaceLine, frameAt, lineByRoughness, lineThrough } from './face-line.ts';
import { type FiberEdges, fitFiberEdges, middleAt } from './fiber-edges.ts';
import { findFibers, type FoundFibers, type RoughFiber, type SideRefusal } from './find-fibers.ts';
import type { Bright } from './line-fit.ts';
import { isNarrow, rowsOfNarrowGap } from './narrow-gap.ts';
import { DIAMETER, type PicturePlace } from './picture-scale.ts';

/** A cleaved end from the side. Angles in degrees. */
export interface CleavedEnd {
  /** From which side of the picture the fiber comes in. */
  readonly side: 'left' | 'right';
  /** The line of the end face against the perpendicular of the fiber's axis at its end, positive when the upper corner sticks out further; null for a broken end. */
  readonly angleDeg: number | null;
  /** Standard uncertainty; null where there is no angle. */
  readonly angleSd: number | null;
  readonly class: CleaveClass;
  readonly signs: FaceSigns;
  readonly isDirty: boolean;
  /** Its face line and its axis, for drawing: ends of each. */
  readonly face: readonly [PicturePlace, PicturePlace];
  readonly axis: readonly [PicturePlace, PicturePlace];
  readonly edges: readonly (readonly [PicturePlace, PicturePlace])[];
}
export interface MeasuredCleave {
  readonly ok: true;
  readonly umPerPx: number;
  readonly umPerPxSd: number;
  readonly ends: readonly CleavedEnd[];
}
export type CleaveReading = MeasuredCleave | { readonly ok: false; readonly reason: SideRefusal };

/** Beside a fiber the light is what it is elsewhere, within this share of its contrast: where it is not, the edge reaches that far. */
const MOST_LOST = 0.12;
/** An edge that is spread over more of the fiber than this shows no angle. */
const MOST_BLUR = 0.15;
const LEAST_CONTRAST = 0.08;
const LEAST_LEVEL = 12;
/** What is not free noise: lens, pixels, the light; degrees. */
const FLOOR_DEG = 0.02;
const SIDE_DIRT_UM = 1.3;

/** One fiber as it is worked on. */
interface WorkedFiber {
  readonly rough: RoughFiber;
  readonly edges: FiberEdges;
  readonly bright: Bright;
  readonly blur: number;
  readonly um: number;
  readonly umSd: number;
}

/**
 * Measures cleaved ends from the side in an 8-bit grey back-lit picture of one fiber or of two that face each other: scale from the fiber's diameter,
 * axis by its edges near the end, the line of the end face, the angle between them, and what the face looks like. Says why where it cannot.
 * Error: `face.bad_image`.
 */
export function measureCleave(image: GreyImage): CleaveReading {
  checkImage(image);
  const found = findFibers(image);
  if (typeof found === 'string') return { ok: false, reason: found };
  const worked: WorkedFiber[] = [];
  let refused: SideRefusal = 'no_fiber';
  for (const rough of found.fibers) {
    const fiber = workedFiber(image, found, rough);
    if (typeof fiber === 'string') refused = fiber;
    else worked.push(fiber);
  }
  if (worked.length === 0 || worked.length < found.fibers.length) return { ok: false, reason: refused };
  const lines = faceLines(image, found, worked);
  const ends = worked.flatMap((fiber, i): CleavedEnd[] => {
    const line = lines[i];
    return line ? [endOf(fiber, line)] : [];
  });
  if (ends.length === 0) return { ok: false, reason: 'no_face' };
  const n = worked.length;
  return {
    ok: true,
    umPerPx: worked.reduce((sum, f) => sum + f.um, 0) / n,
    umPerPxSd: Math.max(...worked.map((f) => f.umSd)),
    ends,
  };
}

function workedFiber(image: GreyImage, found: FoundFibers, rough: RoughFiber): WorkedFiber | SideRefusal {
  const least = Math.max(5 * found.spread, LEAST_LEVEL);
  const first = fitFiberEdges(
    image,
    rough.side,
    rough.end,
    rough.width,
    rough.middle,
    found.border,
    least,
    3,
  );
  if (!first) return 'no_fiber';
  const contrast = first.light - first.dark;
  if (contrast < LEAST_CONTRAST * first.light) return 'washed_out';
  const edges =
    fitFiberEdges(
      image,
      rough.side,
      rough.end,
      first.width,
      (x) => middleAt(first, x),
      found.border,
      Math.max(5 * found.spread, 0.2 * contrast),
    ) ?? first;
  const spread = edgeSpread(image, edges);
  if (!spread || spread.blur <= 0 || spread.blur > MOST_BLUR * edges.width) return 'defocused';
  if (lightLost(found, edges) > MOST_LOST) return 'defocused';
  const profile = crossProfile(image, edges);
  if (isCoated(profile, edges.light)) return 'coated';
  const width = edges.width - 2 * spread.inside;
  const widthSd = Math.hypot(edges.widthSd, 2 * spread.insideSd);
  const um = DIAMETER.um / width;
  return {
    rough,
    edges,
    bright: profile.bright,
    blur: spread.blur,
    um,
    umSd: um * Math.hypot(widthSd / width, DIAMETER.sd / DIAMETER.um),
  };
}

/** By what share of its contrast the light beside a fiber lies under the light behind it. */
function lightLost(found: FoundFibers, edges: FiberEdges): number {
  const x = edges.origin + (edges.side === 'left' ? -1 : 1) * edges.width;
  const middle = middleAt(edges, x);
  const beside = 0.66 * edges.width;
  const behind = (found.light(x, middle - beside) + found.light(x, middle + beside)) / 2;
  return (behind - edges.light) / Math.max(1, behind - edges.dark);
}

function faceLines(
  image: GreyImage,
  found: FoundFibers,
  worked: readonly WorkedFiber[],
): (FaceLine | null)[] {
  const left = worked.find((f) => f.edges.side === 'left');
  const right = worked.find((f) => f.edges.side === 'right');
  const gap = worked[0]!.rough.gap;
  if (left && right && isNarrow(gap, left.blur)) {
    const rows = rowsOfNarrowGap(image, left.edges, right.edges, gap, found.light);
    return worked.map((f) => lineThrough(f === left ? rows.left : rows.right, f.edges.width / 2, f.bright));
  }
  return worked.map(({ edges, rough, bright }) => {
    const least = Math.max(5 * found.spread, 0.15 * (edges.light - edges.dark));
    return fitFaceLine(image, edges, rough.gap, least, bright);
  });
}

function endOf(fiber: WorkedFiber, first: FaceLine): CleavedEnd {
  const { edges, um } = fiber;
  const signs = signsOf(first, um);
  const isClose = isNarrow(fiber.rough.gap, fiber.blur);
  const look = classOf(signs, isClose);
  const line = lineOfLook(first, look, signs, fiber.bright);
  const isBroken = look === 'broken';
  const angle = degrees(line.slope);
  const frame = frameAt(edges);
  const { half } = line;
  const on = (v: number): PicturePlace => frame.at(line.at + line.slope * v, v);
  const back = -3 * half;
  const along = (v: number): [PicturePlace, PicturePlace] => [frame.at(back, v), on(v)];
  return {
    side: edges.side,
    angleDeg: isBroken ? null : angle,
    angleSd: isBroken ? null : angleSd(fiber, line, signs, look),
    class: look,
    signs,
    isDirty: !isBroken && (signs.hasDirt || hasDirtBeside(fiber)),
    face: [on(-half), on(half)],
    axis: along(0),
    edges: [along(half), along(-half)],
  };
}

/**
 * The line of a face that looks so: the rough side of hackle says nothing of it, and mist, seen or not, less than what is smooth. What is broken off
 * or sticks out is left out by the fit itself.
 */
function lineOfLook(first: FaceLine, look: CleaveClass, signs: FaceSigns, bright: Bright): FaceLine {
  if (look === 'hackle') return smoothPart(first, signs, bright) ?? first;
  if (look === 'mist' || look === 'mirror') return lineByRoughness(first, bright);
  return first;
}
/** From here on, in half widths, the rough side is left out. */
const ROUGH_FROM = 0.22;
/** The line through the rows of the smooth side and of the middle alone. */
function smoothPart(line: FaceLine, { roughSide }: FaceSigns, bright: Bright): FaceLine | null {
  const sign = roughSide === 'up' ? 1 : -1;
  const rows = line.rows.filter((r) => (r.v * sign) / line.half < ROUGH_FROM);
  return lineThrough(rows, line.half, bright);
}

const degrees = (slope: number): number => (Math.atan(slope) * 180) / Math.PI;

/**
 * Standard uncertainty of the angle, combined as JCGM 100 does: the scatter of the rows, that of the axis, what roughness and missing corners leave
 * open, and a floor.
 */
function angleSd(
  { edges, rough, blur }: WorkedFiber,
  line: FaceLine,
  signs: FaceSigns,
  look: CleaveClass,
): number {
  const missing = Math.max(0, 1 - line.onLine);
  const roughness = Math.max(0, signs.roughUm - 2 * signs.smoothUm) * ROUGH_DEG;
  const bend = edges.bend === 0 ? 0 : BEND_DEG;
  const narrow = isNarrow(rough.gap, blur) ? NARROW_DEG : 0;
  const scatter = degrees(line.slopeSd);
  return Math.hypot(
    scatter * (1 + 2 * missing),
    degrees(edges.slopeSd),
    roughness,
    missing * (look === 'mirror' ? MISSING_DEG.mirror : MISSING_DEG.other),
    bend,
    narrow,
    LOOK_DEG[look],
    FLOOR_DEG,
  );
}
/** Degrees for each µm that rows go to and fro. */
const ROUGH_DEG = 0.065;
/** Degrees where the whole face is missing: of a mirror what hides it says nothing of its line. */
const MISSING_DEG = { mirror: 0.35, other: 0.5 };
/** What a face leaves open beyond what its rows tell, degrees; by practice pictures. */
const LOOK_DEG: Readonly<Record<CleaveClass, number>> = {
  mirror: 0,
  mist: 0.08,
  hackle: 0.25,
  lip: 0.03,
  chip: 0.15,
  broken: 0,
};
const BEND_DEG = 0.04;
const NARROW_DEG = 0.06;

/** Whether something sticks out of the edges along a fiber. */
function hasDirtBeside({ edges, um }: WorkedFiber): boolean {
  const slant = Math.hypot(1, edges.slope);
  const half = edges.width / 2;
  let run = 0;
  for (const p of edges.points) {
    const middle = middleAt(edges, p.x);
    const out = Math.max(middle - p.top, p.bottom - middle) / slant - half;
    run = out * um > SIDE_DIRT_UM ? run + 1 : 0;
    if (run * um > 2.5 && run >= 2) return true;
  }
  return false;
}
