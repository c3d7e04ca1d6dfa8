import { middleOf } from '../faces/pixels/quantile.ts';
import { type Camera, project } from './camera.ts';
import type { CameraCard } from './camera-card.ts';
import { type ColourImage, greyAt } from './colour-image.ts';

/** How large the print is against the card that was cut to its size: 1 where it is true. */
export interface PrintScale {
  readonly scale: number;
  readonly sd: number;
}

/** Places along a side, and how far in and out of where the edge should be it is looked for, mm. */
const PLACES = 48;
const IN_MM = 2.5;
const OUT_MM = 4.5;
const STEP_MM = 0.1;
/** A step of the light over so many mm on both sides. */
const BOTH_MM = 0.7;
const LEAST_STEP = 9;
/** Share of the places of a side that must show its edge, and how near to their middle they lie, mm. */
const LEAST_SEEN = 0.4;
const NEAR_MM = 0.35;
/** What a side leaves open: cutting and the shadow of the paper, mm. */
const SIDE_SD = 0.12;
/** Where no edge is seen nothing is known but that printers are mostly true. */
const UNKNOWN: PrintScale = { scale: 1, sd: 0.005 };

/** The print of a card against its cut edges: the marks say how large the print is, the edges how large the card. */
export function printScale(image: ColourImage, camera: Camera, card: CameraCard): PrintScale {
  const { widthMm: w, heightMm: h } = card;
  const left = edgeAt(image, camera, (t, d) => [-d, t * h]);
  const right = edgeAt(image, camera, (t, d) => [w + d, t * h]);
  const top = edgeAt(image, camera, (t, d) => [t * w, -d]);
  const bottom = edgeAt(image, camera, (t, d) => [t * w, h + d]);
  // Each pair of sides gives one scale; the longer side tells it better.
  const found: { scale: number; weight: number }[] = [];
  const add = (size: number, one: number | null, other: number | null): void => {
    if (one === null || other === null) return;
    found.push({ scale: size / (size + one + other), weight: size * size });
  };
  add(w, left, right);
  add(h, top, bottom);
  if (found.length === 0) return UNKNOWN;
  const weight = found.reduce((sum, f) => sum + f.weight, 0);
  return {
    scale: found.reduce((sum, f) => sum + f.scale * f.weight, 0) / weight,
    sd: (SIDE_SD * Math.SQRT2) / Math.sqrt(weight),
  };
}

/** How far outside of its place an edge lies, mm by the marks; null where it is not seen. */
function edgeAt(
  image: ColourImage,
  camera: Camera,
  place: (along: number, out: number) => readonly [number, number],
): number | null {
  const n = Math.round((IN_MM + OUT_MM) / STEP_MM) + 1;
  const both = Math.round(BOTH_MM / STEP_MM);
  const found: number[] = [];
  for (let k = 1; k < PLACES; k++) {
    const levels: number[] = [];
    for (let i = 0; i < n; i++) {
      const on = place(k / PLACES, i * STEP_MM - IN_MM);
      const p = project(camera, [on[0], on[1], 0]);
      levels.push(greyAt(image, p.x, p.y) ?? Number.NaN);
    }
    const at = steepest(levels, both);
    if (at !== null) found.push(at * STEP_MM - IN_MM);
  }
  if (found.length < LEAST_SEEN * PLACES) return null;
  const middle = middleOf(Float32Array.from(found));
  const near = found.filter((f) => Math.abs(f - middle) < NEAR_MM);
  if (near.length < LEAST_SEEN * PLACES) return null;
  return near.reduce((sum, f) => sum + f, 0) / near.length;
}

/** Where a row of levels steps most, between its steps; null where it does not. */
function steepest(levels: readonly number[], both: number): number | null {
  let best = { step: LEAST_STEP, at: -1 };
  const stepAt = (i: number): number => {
    let sum = 0;
    for (let k = 1; k <= both; k++) sum += levels[i + k]! - levels[i - k]!;
    return Math.abs(sum) / both;
  };
  for (let i = both; i + both < levels.length; i++) {
    const step = stepAt(i);
    if (Number.isFinite(step) && step > best.step) best = { step, at: i };
  }
  if (best.at < 0) return null;
  const i = best.at;
  if (i - 1 < both || i + 1 + both >= levels.length) return i;
  const before = stepAt(i - 1);
  const after = stepAt(i + 1);
  const bow = 2 * best.step - before - after;
  return bow > 0 ? i + (0.5 * (after - before)) / bow : i;
}
