import type { Circle } from './enclosing-circle.ts';
import type { GreyImage } from './image.ts';
import { solve } from './solve.ts';

/** A square part of a picture round the fiber with the light, the core and the rim taken out: what is left is on the face. */
export interface FlatFace {
  /** Left and top of the square in the picture. */
  readonly left: number;
  readonly top: number;
  readonly side: number;
  /** Level less what a clean face would show there. */
  readonly level: Float32Array;
  /** Distance from the fiber's centre in pixels. */
  readonly distance: Float32Array;
  /** 1 inside the cladding, away from its rim; 0 elsewhere. */
  readonly inside: Uint8Array;
}

/** The rim itself, where nothing can be told from the edge's own blur; pixels on top of twice the blur. */
const RIM_PX = 1.5;

/** How far from the centre features can be told from the rim; pixels. */
export const lookedAtPx = (radiusPx: number, blurPx: number): number => radiusPx - RIM_PX - 2 * blurPx;

/**
 * Flattens the cladding: a surface of the second degree for the light, fitted three times with what stands out left out,
 * then the median of each distance from the centre, which takes the core out. Levels of the picture, 8 bit.
 */
export function flattenFace(image: GreyImage, circle: Circle, blurPx: number): FlatFace {
  const reach = Math.ceil(circle.r) + 2;
  const left = Math.max(0, Math.floor(circle.x) - reach);
  const top = Math.max(0, Math.floor(circle.y) - reach);
  const side = Math.min(2 * reach + 1, image.width - left, image.height - top);
  const level = new Float32Array(side * side);
  const distance = new Float32Array(side * side);
  const inside = new Uint8Array(side * side);
  const edge = lookedAtPx(circle.r, blurPx);
  for (let y = 0; y < side; y++) {
    for (let x = 0; x < side; x++) {
      const i = y * side + x;
      distance[i] = Math.hypot(left + x - circle.x, top + y - circle.y);
      inside[i] = distance[i]! < edge ? 1 : 0;
      level[i] = image.data[(top + y) * image.width + left + x]!;
    }
  }
  const flat = { left, top, side, level, distance, inside };
  takeLight(flat, circle);
  takeRings(flat, circle.r);
  return flat;
}

/** Subtracts the light; the core is no part of the fit. */
function takeLight(
  { side, level, distance, inside, left, top }: FlatFace,
  { x: cx, y: cy, r }: Circle,
): void {
  const terms = (x: number, y: number): number[] => {
    const u = (left + x - cx) / r;
    const v = (top + y - cy) / r;
    return [1, u, v, u * u, u * v, v * v];
  };
  let cut = Infinity;
  let weights = [0, 0, 0, 0, 0, 0];
  for (let round = 0; round < 4; round++) {
    const a = Array.from({ length: 6 }, () => new Array<number>(6).fill(0));
    const b = new Array<number>(6).fill(0);
    const sizes: number[] = [];
    for (let y = 0; y < side; y += 3) {
      for (let x = 0; x < side; x += 3) {
        const i = y * side + x;
        if (!inside[i] || distance[i]! < 0.45 * r) continue;
        const t = terms(x, y);
        const off = level[i]! - t.reduce((sum, v, k) => sum + v * weights[k]!, 0);
        if (round > 0) sizes.push(Math.abs(off));
        if (Math.abs(off) > cut) continue;
        for (let k = 0; k < 6; k++) {
          b[k]! += t[k]! * level[i]!;
          for (let l = 0; l < 6; l++) a[k]![l]! += t[k]! * t[l]!;
        }
      }
    }
    if (round > 0) {
      sizes.sort((p, q) => p - q);
      cut = 3 * 1.4826 * Math.max(0.3, sizes[Math.floor(sizes.length / 2)] ?? 0);
    }
    weights = solve(a, b) ?? weights;
  }
  for (let y = 0; y < side; y++) {
    for (let x = 0; x < side; x++) {
      const t = terms(x, y);
      level[y * side + x]! -= t.reduce((sum, v, k) => sum + v * weights[k]!, 0);
    }
  }
}

/** Subtracts the median of each ring one pixel wide; near the centre rings are joined until they hold enough. */
function takeRings({ level, distance, inside }: FlatFace, r: number): void {
  const LEAST = 40;
  const rings: number[][] = Array.from({ length: Math.ceil(r) + 2 }, () => []);
  for (let i = 0; i < level.length; i++) if (inside[i]) rings[Math.floor(distance[i]!)]!.push(level[i]!);
  const median = new Float32Array(rings.length);
  for (let d = 0; d < rings.length; d++) {
    let values = rings[d]!;
    for (let more = 1; values.length < LEAST && more < 4; more++) {
      values = [...values, ...(rings[d + more] ?? [])];
    }
    const sorted = [...values].sort((a, b) => a - b);
    median[d] = sorted[Math.floor(sorted.length / 2)] ?? 0;
  }
  for (let i = 0; i < level.length; i++) {
    const d = Math.max(0, distance[i]! - 0.5);
    const low = Math.floor(d);
    const [a, b] = [median[low] ?? 0, median[low + 1] ?? median[low] ?? 0];
    level[i]! -= a + (b - a) * (d - low);
  }
}
