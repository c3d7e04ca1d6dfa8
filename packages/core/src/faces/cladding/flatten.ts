import type { FaceSettings } from '../settings.ts';
import type { Circle } from '../pixels/enclosing-circle.ts';
import type { GreyImage } from '../pixels/image.ts';
import { type CoreFit, coreAt, fitCore, fitMiddle } from './fit-core.ts';
import { type FlatFace, spansOf } from './flat-face.ts';
import { fitLight, type Light, lightOfRow } from './light.ts';
import { middleOf } from '../pixels/quantile.ts';
import { joined, ringsOf, ringsRound } from '../pixels/rings.ts';

/** A flattened face with its core, which was taken out; null where none is lit. */
export interface FlattenedFace extends FlatFace {
  readonly core: CoreFit | null;
}

/** Half a pixel within the edge: beyond it the blurred ferrule is all there is. */
export const lookedAtPx = (radiusPx: number): number => radiusPx - 0.5;

/**
 * Flattens the cladding: a surface of the second degree for the light, fitted with what stands out left out, then the
 * median of each half pixel of distance from the centre, which takes out the core and the blurred rim. Levels of the
 * picture, 8 bit.
 */
export function flattenFace(image: GreyImage, circle: Circle, settings: FaceSettings): FlattenedFace {
  const flat = squareOf(image, circle, circle.r + 2, 0, lookedAtPx(circle.r));
  // A multimode core reaches half way out and is no part of the fit.
  const light = fitLight(image, circle, 0.55, 0.93, 2);
  if (light) takeLight(flat, light);
  const core = takeCore(flat, circle.x - flat.left, circle.y - flat.top, settings);
  takeRings(flat, settings, settings.light.pooledUm / flat.umPerPx);
  return { ...flat, ...core };
}

const CLADDING_RADIUS_UM = 62.5;

/** Measures the core and subtracts it. */
function takeCore(
  face: FlatFace,
  fx: number,
  fy: number,
  settings: FaceSettings,
): { readonly core: CoreFit | null; readonly doubt?: Float32Array } {
  const { umPerPx } = face;
  const core = fitCore(face, fx, fy, umPerPx, settings);
  if (!core) return { core };
  const doubt = new Float32Array(face.level.length);
  subtract(face, core, fx, fy, doubt);
  const mx = fx + core.x;
  const my = fy + core.y;
  const isWide = core.r * umPerPx >= settings.core.betweenSingleAnd50Um;
  const middle = isWide ? fitMiddle(face, mx, my, umPerPx, settings) : null;
  if (middle) subtract(face, middle, mx, my, doubt);
  return { core, doubt };
}

/** Where exactly an edge lies is known to half a pixel: what that may leave goes into `doubt`. */
function subtract(
  { level, inside, side }: FlatFace,
  core: CoreFit,
  fx: number,
  fy: number,
  doubt: Float32Array,
): void {
  const reach = Math.hypot(core.x, core.y) + core.r + 4 * core.soft;
  for (let y = Math.max(0, Math.ceil(fy - reach)); y <= Math.min(side - 1, fy + reach); y++) {
    for (let x = Math.max(0, Math.ceil(fx - reach)); x <= Math.min(side - 1, fx + reach); x++) {
      const i = y * side + x;
      if (!inside[i]) continue;
      const dx = x - fx - core.x;
      const dy = y - fy - core.y;
      const d = Math.sqrt(dx * dx + dy * dy);
      level[i]! -= coreAt(core, d);
      const steep = coreAt(core, d + 0.5) - coreAt(core, Math.abs(d - 0.5));
      doubt[i]! += 0.5 * Math.abs(steep);
    }
  }
}

/** The square round a circle with the levels of what is `inside`: between two distances from the centre, pixels. */
export function squareOf(
  image: GreyImage,
  circle: Circle,
  reachPx: number,
  fromPx: number,
  toPx: number,
): FlatFace {
  const reach = Math.ceil(reachPx);
  const left = Math.floor(circle.x) - reach;
  const top = Math.floor(circle.y) - reach;
  const side = 2 * reach + 1;
  const level = new Float32Array(side * side);
  const distance = new Float32Array(side * side);
  const inside = new Uint8Array(side * side);
  const { width, height, data } = image;
  const firstX = Math.max(0, -left);
  const lastX = Math.min(side, width - left);
  const near = fromPx > 0 ? fromPx * fromPx : 0;
  const far = toPx * toPx;
  for (let y = 0; y < side; y++) {
    const row = (top + y) * width + left;
    const framedRow = top + y >= 0 && top + y < height;
    const dy = top + y - circle.y;
    const dx0 = left - circle.x;
    for (let x = 0, i = y * side; x < side; x++, i++) {
      const dx = dx0 + x;
      const d = dx * dx + dy * dy;
      distance[i] = Math.sqrt(d);
      if (!framedRow || d < near || d >= far || x < firstX || x >= lastX) continue;
      inside[i] = 1;
      level[i] = data[row + x]!;
    }
  }
  const umPerPx = CLADDING_RADIUS_UM / circle.r;
  return { left, top, side, umPerPx, level, distance, inside, spans: spansOf(inside, side) };
}

/** Subtracts the light from what lies inside. */
export function takeLight({ side, level, inside, left, top, spans }: FlatFace, light: Light): void {
  const row = new Float32Array(side);
  for (let y = 0; y < side; y++) {
    const from = spans[2 * y]!;
    const to = spans[2 * y + 1]!;
    const part = row.subarray(0, to - from);
    lightOfRow(light, top + y, left + from, part);
    for (let k = 0, i = y * side + from; k < part.length; k++, i++) if (inside[i]) level[i]! -= part[k]!;
  }
}

const BINS_PER_PX = 2;
/** Of a square about so many pixels tell its rings. */
const TELLING = 48_000;

/**
 * Subtracts the median of each ring half a pixel wide; of all that lies within `pooledPx` of the middle one median, since what
 * lies there would pull that of a small ring.
 */
export function takeRings(
  { level, distance, inside, side, spans }: FlatFace,
  settings: FaceSettings,
  pooledPx = 0,
): void {
  const medians = mediansOf(
    ringsOf(level, distance, inside, BINS_PER_PX, Math.max(1, Math.round(level.length / TELLING))),
    settings,
    pooledPx,
  );
  for (let y = 0; y < side; y++) {
    const end = y * side + spans[2 * y + 1]!;
    for (let i = y * side + spans[2 * y]!; i < end; i++)
      if (inside[i]) level[i]! -= valueAt(medians, distance[i]!);
  }
}

function mediansOf(rings: readonly Float32Array[], settings: FaceSettings, pooledPx: number): Float32Array {
  const pooled = Math.min(rings.length, Math.ceil(pooledPx * BINS_PER_PX));
  const inner = pooled > 0 ? middleOf(joined(rings.slice(0, pooled))) : 0;
  const medians = new Float32Array(rings.length).fill(inner, 0, pooled);
  for (let d = pooled; d < rings.length; d++)
    medians[d] = middleOf(ringsRound(rings, d, 16, settings.light.leastOfRing));
  return medians;
}

/** Between the middles of two rings in proportion. */
function valueAt(medians: Float32Array, distance: number): number {
  const d = distance * BINS_PER_PX - 0.5;
  if (d <= 0) return medians[0]!;
  const low = Math.floor(d);
  if (low >= medians.length - 1) return medians[medians.length - 1]!;
  const a = medians[low]!;
  return a + (medians[low + 1]! - a) * (d - low);
}
