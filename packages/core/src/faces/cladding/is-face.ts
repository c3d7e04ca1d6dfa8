import type { FaceSettings } from '../settings.ts';
import type { Circle } from '../pixels/enclosing-circle.ts';
import { type GreyImage, sampleRay } from '../pixels/image.ts';
import { middleOf, middleSize, selectNth } from '../pixels/quantile.ts';
import { fitLight, lightOfRow } from './light.ts';
import { roughnessOf, rougherOutside } from './roughness.ts';

/** Directions in which the rim is compared with what it is all round, and rays that are averaged for each. */
const DIRECTIONS = 60;
const RAYS = 4;

/**
 * A circle in a picture is an end face when its rim is the same nearly all the way round, the glass within is even but for
 * what lies on it, no rings lie in it outside of the core, and the ferrule round it is one surface. `ringPx` is the width of
 * a line of adhesive, `blurPx` the softness of the edge; pixels.
 */
export function isFace(
  image: GreyImage,
  circle: Circle,
  ringPx: number,
  blurPx: number,
  settings: FaceSettings,
): boolean {
  const rim = rimAllRound(image, circle, ringPx, blurPx);
  const { leastAlike, alikeInGrain, grainTimes } = settings.cladding;
  if (rim.share < alikeInGrain) return false;
  if (rim.share < leastAlike && !isInGrain(image, circle, grainTimes)) return false;
  const glass = surfaceOf(image, circle, 0.58, 0.93, 2);
  if (!glass) return true;
  if (glass.spread > settings.cladding.mostUneven * glass.level) return false;
  if (glass.rings > settings.cladding.mostRings * rim.contrast) return false;
  if (middleOf(glass.blocks) > settings.cladding.mostPatchy * rim.contrast) return false;
  const ferrule = surfaceOf(image, circle, 1.12 + ringPx / circle.r, 1.9, 3);
  if (!ferrule || ferrule.blocks.length < 20) return true;
  const tenth = selectNth(ferrule.blocks, Math.floor(0.85 * ferrule.blocks.length));
  return (
    tenth <= settings.cladding.mostPatchy * rim.contrast + settings.cladding.patchyFerrule * ferrule.level
  );
}

/** Whether smooth glass lies in grain nearly all the way round. */
const isInGrain = (image: GreyImage, circle: Circle, times: number): boolean =>
  rougherOutside(roughnessOf(image), circle, times) >= ROUGH_SIDES;
/** Of twelve sectors one may be dirty. */
const ROUGH_SIDES = 11 / 12;

/** The share of the directions in which the rim looks as it does in most, and how much it stands out; levels. */
function rimAllRound(
  image: GreyImage,
  { x, y, r }: Circle,
  ringPx: number,
  blurPx: number,
): { share: number; contrast: number } {
  const reach = Math.max(4, 3 * blurPx + 2, 0.04 * r);
  const step = 0.5;
  const places = Math.ceil((2 * reach + ringPx) / step);
  const ray = new Float64Array(places);
  const profiles = Array.from({ length: DIRECTIONS }, (_, way) => {
    const profile = new Float64Array(places);
    for (let n = 0; n < RAYS; n++) {
      const t = ((way + n / RAYS) / DIRECTIONS) * 2 * Math.PI;
      sampleRay(image, x, y, Math.cos(t), Math.sin(t), r - reach, step, ray);
      for (let k = 0; k < places; k++) profile[k]! += ray[k]! / RAYS;
    }
    return profile;
  });
  const usual = Float64Array.from({ length: places }, (_, k) =>
    middleOf(Float32Array.from(profiles.map((p) => p[k]!).filter((v) => !Number.isNaN(v)))),
  );
  const alike = profiles.filter((p) => likeness(p, usual) > LEAST_LIKENESS).length;
  return { share: alike / DIRECTIONS, contrast: Math.max(...usual) - Math.min(...usual) };
}
const LEAST_LIKENESS = 0.5;

/** Pearson's correlation of two profiles; 0 where one is not wholly seen. */
function likeness(a: Float64Array, b: Float64Array): number {
  const n = a.length;
  const mean = (v: Float64Array): number => v.reduce((s, w) => s + w, 0) / n;
  const ma = mean(a);
  const mb = mean(b);
  let ab = 0;
  let aa = 0;
  let bb = 0;
  for (let k = 0; k < n; k++) {
    const p = a[k]! - ma;
    const q = b[k]! - mb;
    ab += p * q;
    aa += p * p;
    bb += q * q;
  }
  return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
}

interface Surface {
  readonly level: number;
  /** Robust spread of its pixels about the light. */
  readonly spread: number;
  /** How far the means of its blocks lie off the light, each. */
  readonly blocks: Float32Array;
  /** How much the medians of its rings vary. */
  readonly rings: number;
}

/** What is left of a ring of the picture when its light is taken out; null where too little of it is seen. */
function surfaceOf(
  image: GreyImage,
  circle: Circle,
  from: number,
  to: number,
  degree: number,
): Surface | null {
  const light = fitLight(image, circle, from, to, degree);
  if (!light) return null;
  const { x: cx, y: cy, r } = circle;
  const step = Math.max(1, Math.round(r / 60));
  const top = Math.max(0, Math.ceil(cy - to * r));
  const left = Math.max(0, Math.ceil(cx - to * r));
  const bottom = Math.min(image.height, cy + to * r);
  const row = new Float32Array(Math.max(0, Math.ceil(Math.min(image.width, cx + to * r)) - left));
  // Blocks of a sixth of the radius, rings of a twenty-fifth.
  const side = r / 6;
  const half = Math.ceil(6 * to);
  const wide = 2 * half + 1;
  const blocks = { sum: new Float64Array(wide * wide), count: new Uint32Array(wide * wide) };
  const most = Math.ceil(row.length / step) * Math.ceil(Math.max(0, bottom - top) / step);
  const off = new Float32Array(most);
  const ringOf = new Uint8Array(most);
  let n = 0;
  let level = 0;
  for (let y = top; y < bottom; y += step) {
    lightOfRow(light, y, left, row);
    const across = half + Math.floor((y - cy) / side);
    for (let k = 0; k < row.length; k += step) {
      const dx = left + k - cx;
      const d = Math.sqrt(dx * dx + (y - cy) ** 2) / r;
      if (d < from || d > to) continue;
      const seen = image.data[y * image.width + left + k]!;
      const v = seen - row[k]!;
      level += seen;
      ringOf[n] = d / RING;
      off[n++] = v;
      const block = across * wide + half + Math.floor(dx / side);
      blocks.sum[block]! += v;
      blocks.count[block]! += 1;
    }
  }
  if (n < 200) return null;
  const full = (0.5 * side * side) / (step * step);
  const means: number[] = [];
  blocks.count.forEach((count, k) => {
    if (count > full) means.push(Math.abs(blocks.sum[k]! / count));
  });
  const medians = mediansByRing(off.subarray(0, n), ringOf);
  return {
    level: level / n,
    spread: 1.4826 * middleSize(off.subarray(0, n)),
    blocks: Float32Array.from(means),
    rings: Math.max(...medians) - Math.min(...medians),
  };
}
/** Width of a ring, share of the radius, and more than so many places must lie in it. */
const RING = 0.04;
const LEAST_IN_RING = 20;

/** The middles of what lies in each ring. */
function mediansByRing(off: Float32Array, ringOf: Uint8Array): number[] {
  const ends = new Uint32Array(257);
  for (let i = 0; i < off.length; i++) ends[ringOf[i]! + 1]! += 1;
  for (let k = 1; k < ends.length; k++) ends[k]! += ends[k - 1]!;
  const sorted = new Float32Array(off.length);
  const next = ends.slice();
  for (let i = 0; i < off.length; i++) {
    const ring = ringOf[i]!;
    sorted[next[ring]!] = off[i]!;
    next[ring]! += 1;
  }
  const medians: number[] = [];
  for (let k = 0; k < 256; k++) {
    const inRing = sorted.subarray(ends[k]!, ends[k + 1]!);
    if (inRing.length > LEAST_IN_RING) medians.push(middleOf(inRing));
  }
  return medians;
}
