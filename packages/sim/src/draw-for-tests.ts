import { crossingsAt, isInside, type TrueFeature } from './face-features.ts';
import { normal, type Rng } from './rng.ts';

/** Smooth noise about 0 with the given spread, between random values on a grid. */
export function cloudsOf(rng: Rng, pitchUm: number, spread: number): (x: number, y: number) => number {
  const n = 64;
  const grid = Float32Array.from({ length: n * n }, () => normal(rng, 0, 1.6 * spread));
  const ease = (t: number): number => t * t * (3 - 2 * t);
  return (x, y) => {
    const gx = x / pitchUm + 1000 * n;
    const gy = y / pitchUm + 1000 * n;
    const x0 = Math.floor(gx);
    const y0 = Math.floor(gy);
    const fx = ease(gx - x0);
    const fy = ease(gy - y0);
    const left = x0 % n;
    const right = (x0 + 1) % n;
    const above = (y0 % n) * n;
    const below = ((y0 + 1) % n) * n;
    const upper = grid[above + left]! * (1 - fx) + grid[above + right]! * fx;
    const lower = grid[below + left]! * (1 - fx) + grid[below + right]! * fx;
    return upper * (1 - fy) + lower * fy;
  };
}

export function boxOf(f: TrueFeature): [number, number, number, number] {
  const more = (f.strokeUm ?? 0) / 2 + 1;
  const xs = f.points.map(([x]) => x);
  const ys = f.points.map(([, y]) => y);
  return [Math.min(...xs) - more, Math.min(...ys) - more, Math.max(...xs) + more, Math.max(...ys) + more];
}

/** Share of a pixel that a feature covers: by nine points of it for an outline, by distance for a line. */
export function shareOf(f: TrueFeature, x: number, y: number, umPerPx: number): number {
  if (f.strokeUm === null) {
    let hits = 0;
    for (const dy of [-0.33, 0, 0.33]) {
      const line = crossingsAt(f.points, y + dy * umPerPx);
      for (const dx of [-0.33, 0, 0.33]) if (isInside(line, x + dx * umPerPx)) hits += 1;
    }
    return hits / 9;
  }
  let d = Infinity;
  for (let i = 1; i < f.points.length; i++) {
    const [x1, y1] = f.points[i - 1]!;
    const [x2, y2] = f.points[i]!;
    const t = ((x - x1) * (x2 - x1) + (y - y1) * (y2 - y1)) / ((x2 - x1) ** 2 + (y2 - y1) ** 2 || 1);
    const c = Math.max(0, Math.min(1, t));
    d = Math.min(d, Math.sqrt((x - x1 - c * (x2 - x1)) ** 2 + (y - y1 - c * (y2 - y1)) ** 2));
  }
  const half = f.strokeUm / 2;
  const within = (at: number): number => Math.max(-0.5, Math.min(0.5, at / umPerPx));
  return Math.max(0, within(half - d) + within(half + d));
}

/** Mean over a disc, its edge weighted by what it covers of a pixel; the picture's edges are repeated. */
export function discBlur(from: Float32Array, width: number, height: number, radius: number): Float32Array {
  const reach = Math.ceil(radius + 0.5);
  const wide = width + 2 * reach;
  const framed = new Float32Array(wide * (height + 2 * reach));
  for (let y = 0; y < height + 2 * reach; y++) {
    const start = Math.max(0, Math.min(height - 1, y - reach)) * width;
    for (let x = 0; x < wide; x++) {
      framed[y * wide + x] = from[start + Math.max(0, Math.min(width - 1, x - reach))]!;
    }
  }
  const offsets: number[] = [];
  const weights: number[] = [];
  for (let dy = -reach; dy <= reach; dy++) {
    for (let dx = -reach; dx <= reach; dx++) {
      const weight = Math.max(0, Math.min(1, radius - Math.hypot(dx, dy) + 0.5));
      if (weight === 0) continue;
      offsets.push((dy + reach) * wide + dx + reach);
      weights.push(weight);
    }
  }
  return meanOver(framed, wide, width, height, Int32Array.from(offsets), Float64Array.from(weights));
}

function meanOver(
  framed: Float32Array,
  wide: number,
  width: number,
  height: number,
  offsets: Int32Array,
  weights: Float64Array,
): Float32Array {
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const corner = y * wide + x;
      let sum = 0;
      for (let k = 0; k < offsets.length; k++) sum += weights[k]! * framed[corner + offsets[k]!]!;
      out[y * width + x] = sum / total;
    }
  }
  return out;
}
