import type { FaceSettings } from '../settings.ts';
import type { Circle } from '../pixels/enclosing-circle.ts';
import { type GreyImage, sampleAt } from '../pixels/image.ts';
import { middleOf, selectNth } from '../pixels/quantile.ts';
import { fitLight, lightAt } from './light.ts';
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
  const profiles = Array.from({ length: DIRECTIONS }, (_, way) => {
    const profile = new Float64Array(places);
    for (let ray = 0; ray < RAYS; ray++) {
      const t = ((way + ray / RAYS) / DIRECTIONS) * 2 * Math.PI;
      for (let k = 0; k < places; k++) {
        const d = r - reach + k * step;
        profile[k]! += (sampleAt(image, x + d * Math.cos(t), y + d * Math.sin(t)) ?? NaN) / RAYS;
      }
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
  const side = r / 6;
  const blocks = new Map<number, number[]>();
  const rings = new Map<number, number[]>();
  const off: number[] = [];
  let level = 0;
  const step = Math.max(1, Math.round(r / 60));
  for (let y = Math.max(0, Math.ceil(cy - to * r)); y < Math.min(image.height, cy + to * r); y += step) {
    for (let x = Math.max(0, Math.ceil(cx - to * r)); x < Math.min(image.width, cx + to * r); x += step) {
      const d = Math.hypot(x - cx, y - cy) / r;
      if (d < from || d > to) continue;
      const seen = image.data[y * image.width + x]!;
      const v = seen - lightAt(light, x, y);
      level += seen;
      off.push(v);
      const block = Math.floor((x - cx) / side) * 1000 + Math.floor((y - cy) / side);
      (blocks.get(block) ?? blocks.set(block, []).get(block)!).push(v);
      const ring = Math.floor(d / 0.04);
      (rings.get(ring) ?? rings.set(ring, []).get(ring)!).push(v);
    }
  }
  if (off.length < 200) return null;
  const full = (0.5 * side * side) / (step * step);
  const means = [...blocks.values()]
    .filter((b) => b.length > full)
    .map((b) => Math.abs(b.reduce((s, v) => s + v, 0) / b.length));
  const medians = [...rings.values()].filter((v) => v.length > 20).map((v) => middleOf(Float32Array.from(v)));
  return {
    level: level / off.length,
    spread: 1.4826 * middleOf(Float32Array.from(off, Math.abs)),
    blocks: Float32Array.from(means),
    rings: Math.max(...medians) - Math.min(...medians),
  };
}
