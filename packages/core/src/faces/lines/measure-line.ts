import type { FaceSettings } from '../settings.ts';
import type { FlatFace } from '../cladding/flat-face.ts';
import { addAcross, alongOf, type Curve, curveThrough, onCurve } from './follow-curve.ts';
import { type FoundLine, lengthOf, type MeasuredLine } from './found-line.ts';
import { barAt, fitBar } from '../pixels/line-profile.ts';
import { middleOf } from '../pixels/quantile.ts';

/** How far across a line its surroundings are seen, and in which steps; pixels. */
const ACROSS = 16;
const STEP = 0.5;
/** The first looks go by whole pixels, and by every second one along the line. */
const COARSE = 1;
const ALONG = 2;
const PLACES = Array.from({ length: (2 * ACROSS) / STEP + 1 }, (_, k) => k * STEP - ACROSS);
/** A stretch of the line that is looked at as one. */
const STRETCH = 8;

/** The curve is moved so often at most; middles that lie this little off it move it no more; pixels. */
const ROUNDS = 5;

/** Held from one look to the next and never read after it. */
const LOOK = new Float64Array((2 * ACROSS) / COARSE + 1);
const LOOK_COUNTS = new Uint16Array(LOOK.length);
const SIDE_ONE = new Float32Array(ACROSS / STEP);
const SIDE_OTHER = new Float32Array(ACROSS / STEP);

interface Stretch {
  readonly s: number;
  /** Mean level at each place across; NaN where nothing is seen. */
  readonly profile: Float64Array;
  readonly height: number;
  readonly offset: number;
}

/**
 * A line measured along the curve that its pixels lie on: where it begins and ends, its width and height by a blurred bar
 * fitted to the mean profile across it. Null where it is no line: short, wide, uneven, rough or an edge.
 * `spread` is the noise of a pixel.
 */
export function measureLine(
  face: FlatFace,
  line: FoundLine,
  blur: number,
  spread: number,
  leastLength: number,
  settings: FaceSettings,
): MeasuredLine | null {
  const { side } = face;
  let curve = curveThrough(
    line.pixels.map((i) => [i % side, Math.floor(i / side)] as const),
    settings,
  );
  if (!curve) return null;
  // What is far too low is no line wherever exactly it lies.
  if (middle(stretchesOf(face, curve, line.sign, settings, COARSE).map((p) => p.height)) < spread)
    return null;
  for (let round = 0; round < ROUNDS; round++) {
    const next = closer(face, curve, line.sign, settings);
    if (!next) break;
    curve = next.curve;
    if (next.off < settings.line.closeEnoughPx) break;
  }
  const first = stretchesOf(face, curve, line.sign, settings);
  const height = middle(first.map((p) => p.height));
  curve = withEnds(
    face,
    curve,
    line.sign,
    Math.max(0.5 * height, (2.2 * spread) / Math.sqrt(STRETCH)),
    settings,
  );
  const length = curve.to - curve.from;
  if (length < leastLength) return null;
  const stretches = stretchesOf(face, curve, line.sign, settings);
  const on = stretches.filter((p) => p.height > settings.line.onLine * height);
  if (on.length < 3 || on.length < settings.line.shareOnLine * stretches.length) return null;
  const bar = barOf(on, blur, settings);
  const tall = line.sign * bar.height;
  if (!(tall * seenShare(bar.width, blur) > settings.line.leastHeight * spread)) return null;
  if (bar.width >= settings.line.mostWidthPx * 0.98 || length < settings.line.elongation * bar.width)
    return null;
  if (
    roughness(on) >
    settings.line.mostRoughPx + (settings.line.roughByChance * spread) / (tall * seenShare(bar.width, blur))
  )
    return null;
  if (isEdge(on, tall * seenShare(bar.width, blur))) return null;
  const points = pointsOf(curve);
  const pixels = points.map(([x, y]) => Math.round(y) * side + Math.round(x));
  return { pixels, points, length: lengthOf(points), width: bar.width, height: tall, sign: line.sign, blur };
}

/** The curve through the middles of its stretches, as long as before, and how far they lay off the one before. */
function closer(
  face: FlatFace,
  curve: Curve,
  sign: number,
  settings: FaceSettings,
): { curve: Curve; off: number } | null {
  const stretches = stretchesOf(face, curve, sign, settings, COARSE);
  const least = settings.line.onLine * middle(stretches.map((p) => p.height));
  const on = stretches.filter((p) => p.height > least);
  const better = curveThrough(
    on.map((p) => onCurve(curve, p.s, p.offset)),
    settings,
  );
  if (!better) return null;
  const [from, to] = [curve.from, curve.to].map((s) => alongOf(better, onCurve(curve, s, 0)));
  const off = middle(on.map((p) => Math.abs(p.offset)));
  return { curve: { ...better, from: Math.min(from!, to!), to: Math.max(from!, to!) }, off };
}

const seenShare = (width: number, blur: number): number => barAt(0, width, blur);

const middle = (values: readonly number[]): number => middleOf(Float32Array.from(values));

function stretchesOf(
  face: FlatFace,
  curve: Curve,
  sign: number,
  settings: FaceSettings,
  step = STEP,
): Stretch[] {
  const count = Math.max(1, Math.round((curve.to - curve.from) / STRETCH));
  return Array.from({ length: count }, (_, k) =>
    stretchAt(face, curve, curve.from + ((k + 0.5) * (curve.to - curve.from)) / count, sign, settings, step),
  );
}

/** The mean profile across a stretch at places `step` apart. */
function stretchAt(
  face: FlatFace,
  curve: Curve,
  s: number,
  sign: number,
  settings: FaceSettings,
  step = STEP,
): Stretch {
  const places = (2 * ACROSS) / step + 1;
  // A coarse look leaves only its height and offset: one profile serves them all.
  const profile = step === STEP ? new Float64Array(places) : LOOK.fill(0);
  const counts = step === STEP ? new Uint16Array(places) : LOOK_COUNTS.fill(0);
  const every = step === STEP ? 1 : ALONG;
  for (let d = -STRETCH / 2 + 0.5; d < STRETCH / 2; d += every) {
    addAcross(face, curve, s + d, -ACROSS, step, profile, counts);
  }
  for (let k = 0; k < profile.length; k++) profile[k] = counts[k]! > 0 ? profile[k]! / counts[k]! : NaN;
  return { s, profile, ...peakOf(profile, sign, step, settings) };
}

/** The middle of the three highest places near the curve, over what lies six and more pixels beside it. */
function peakOf(
  profile: Float64Array,
  sign: number,
  step: number,
  settings: FaceSettings,
): { height: number; offset: number } {
  const centre = ACROSS / step;
  let best = -Infinity;
  let at = centre;
  for (let k = centre - settings.line.sideFromPx / step; k <= centre + settings.line.sideFromPx / step; k++) {
    const v = sign * (profile[k - 1]! + profile[k]! + profile[k + 1]!);
    if (v > best) [best, at] = [v, k];
  }
  let sum = 0;
  let weight = 0;
  // The centre of what is higher than half, so that a wide line has its middle and not its highest grain.
  const ground = groundOf(profile, sign, step, settings);
  const half = ground * sign + (best / 3 - ground * sign) / 2;
  const add = (k: number): boolean => {
    const over = (sign * (profile[k - 1]! + profile[k]! + profile[k + 1]!)) / 3 - half;
    if (!(over > 0)) return false;
    sum += over * (k * step - ACROSS);
    weight += over;
    return true;
  };
  for (let k = at; add(k); k++);
  for (let k = at - 1; add(k); k--);
  const height = best / 3 - sign * ground;
  return { height: Number.isFinite(height) ? height : 0, offset: weight > 0 ? sum / weight : 0 };
}

/** What lies beside, on the side that the line stands out of less: beside another line the ground is not that one. */
function groundOf(profile: Float64Array, sign: number, step: number, settings: FaceSettings): number {
  const half = (profile.length - 1) / 2;
  const count = half - settings.line.sideToPx / step + 1;
  const one = SIDE_ONE;
  const other = SIDE_OTHER;
  let n = 0;
  let m = 0;
  for (let k = 0; k < count; k++) {
    const a = profile[k]!;
    const b = profile[profile.length - 1 - k]!;
    if (!Number.isNaN(a)) one[n++] = a;
    if (!Number.isNaN(b)) other[m++] = b;
  }
  if (n === 0 || m === 0) return middleOf((n > 0 ? one : other).subarray(0, Math.max(n, m)));
  const p = middleOf(one.subarray(0, n));
  const q = middleOf(other.subarray(0, m));
  return sign > 0 ? Math.max(p, q) : Math.min(p, q);
}

/** The ends moved outward while the line goes on, and inward to where it begins. */
function withEnds(face: FlatFace, curve: Curve, sign: number, least: number, settings: FaceSettings): Curve {
  const heightAt = (s: number): number => stretchAt(face, curve, s, sign, settings, COARSE).height;
  const reach = (start: number, way: 1 | -1): number => {
    let s = start - way * (STRETCH / 2);
    // Pieces that do not belong may have been joined: to the middle at most.
    const middle = (curve.from + curve.to) / 2;
    while (heightAt(s) < least && way * (s - middle) > 0) s -= way * (STRETCH / 4);
    // A gap of up to a stretch and a half, as where something crosses, does not end a line.
    for (let out = s, gap = 0; gap < 6 && Math.abs(out - start) < 2 * face.side;) {
      out += way * (STRETCH / 4);
      gap = heightAt(out) >= least ? 0 : gap + 1;
      if (gap === 0) s = out;
    }
    return s;
  };
  const from = reach(curve.from, -1);
  const to = reach(curve.to, 1);
  return to > from ? { ...curve, from, to } : { ...curve, to: curve.from };
}

function barOf(
  stretches: readonly Stretch[],
  blur: number,
  settings: FaceSettings,
): ReturnType<typeof fitBar> {
  const at: number[] = [];
  const level: number[] = [];
  for (let k = 0; k < PLACES.length; k++) {
    // The trimmed mean of the stretches: what crosses or touches the line is none of it.
    const values = stretches
      .map((p) => p.profile[k]!)
      .filter((v) => !Number.isNaN(v))
      .sort((a, b) => a - b);
    if (values.length < 0.5 * stretches.length) continue;
    const drop = Math.floor(values.length / 6);
    const kept = values.slice(drop, values.length - drop);
    at.push(PLACES[k]!);
    level.push(kept.reduce((a, b) => a + b, 0) / kept.length);
  }
  return fitBar(at, level, blur, settings.line.mostWidthPx);
}

/** How far seven stretches of ten lie off the curve at most. */
function roughness(stretches: readonly Stretch[]): number {
  const off = stretches.map((p) => Math.abs(p.offset)).sort((a, b) => a - b);
  return off[Math.floor(0.7 * off.length)] ?? 0;
}

/** An edge is higher on one side of the line than on the other. */
function isEdge(stretches: readonly Stretch[], height: number): boolean {
  const side = (from: number, to: number): number =>
    middle(stretches.flatMap((p) => PLACES.flatMap((n, k) => (n >= from && n <= to ? [p.profile[k]!] : []))));
  const one = side(-14, -8);
  const other = side(8, 14);
  return Math.abs(one - other) > 0.6 * height;
}

function pointsOf(curve: Curve): (readonly [number, number])[] {
  const points: (readonly [number, number])[] = [];
  for (let s = curve.from; s <= curve.to; s++) points.push(onCurve(curve, s, 0));
  return points;
}
