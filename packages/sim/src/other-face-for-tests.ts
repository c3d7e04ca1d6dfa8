import {
  CLADDING_RADIUS_UM,
  contains,
  fromOutline,
  placeWithin,
  randomScratch,
  type TrueFeature,
} from './face-features.ts';
import { chance, normal, type Rng } from './rng.ts';

/**
 * A second way to draw faces, for tests alone, so that nothing is tuned to the look of the first: a spot of light off the
 * centre, a disc of defocus and not a Gaussian, noise that grows with the light, a cloudy surface with faint polishing
 * marks, a graded core, a rim that is not quite round, and defects that are slivers, ovals and corners.
 */
export interface OtherFace {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
  readonly umPerPx: number;
  readonly centre: readonly [number, number];
  /** Noise at the cladding's level. */
  readonly noise: number;
  readonly features: readonly TrueFeature[];
}

const GAIN = 0.035;

export function otherFace(rng: Rng, width = 1280, height = 960, umPerPx = 0.25 + 0.08 * rng()): OtherFace {
  const level = 95 + 60 * rng();
  const noise = Math.sqrt(1 + GAIN * level);
  const features = otherFeatures(rng, noise);
  const centre = [width * (0.46 + 0.08 * rng()), height * (0.47 + 0.06 * rng())] as const;
  const picture = new Float32Array(width * height);
  const surface = surfaceOf(rng, level);
  const clouds = cloudsOf(rng, 5, 0.006);
  const grain = cloudsOf(rng, 1.3, 0.035);
  const light = [
    centre[0] + normal(rng, 0, 120),
    centre[1] + normal(rng, 0, 100),
    (1.1 + 0.8 * rng()) * width,
  ] as const;
  const drawn = features.map((f) => ({ f, box: boxOf(f) }));
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const ux = (x - centre[0]) * umPerPx;
      const uy = (y - centre[1]) * umPerPx;
      const r = Math.hypot(ux, uy);
      let v = surface(ux, uy, umPerPx) * (1 + (r < 64 ? clouds(ux, uy) : grain(ux, uy)));
      for (const { f, box } of drawn) {
        if (ux < box[0] || ux > box[2] || uy < box[1] || uy > box[3]) continue;
        v += f.contrast * shareOf(f, ux, uy, umPerPx);
      }
      picture[y * width + x] =
        v * Math.exp(-((x - light[0]) ** 2 + (y - light[1]) ** 2) / (2 * light[2] ** 2));
    }
  }
  const soft = discBlur(picture, width, height, 0.9 + 1.3 * rng());
  const data = Uint8Array.from(soft, (v) =>
    Math.max(0, Math.min(255, Math.round(v + normal(rng, 0, Math.sqrt(1 + GAIN * Math.max(0, v)))))),
  );
  return { width, height, data, umPerPx, centre, noise, features };
}

function otherFeatures(rng: Rng, noise: number): TrueFeature[] {
  const shapes = [
    () => [0, 1, 2].map((i) => polar(2 * i + 0.8 * rng(), 0.7 + 0.3 * rng())),
    () => Array.from({ length: 24 }, (_, i) => polar((i / 24) * 2 * Math.PI, 1, 0.55 + 0.45 * rng() * 0.2)),
    () => Array.from({ length: 7 }, (_, i) => polar((i / 7) * 2 * Math.PI, 0.75 + 0.25 * rng())),
  ];
  const defects = Array.from({ length: Math.floor(rng() * 5) }, () => {
    const sizeUm = chance(rng, 0.34)
      ? (chance(rng, 0.5) ? 2 : 5) * (0.9 + 0.2 * rng())
      : 1.2 + 10 * rng() ** 2;
    const outline = shapes[Math.floor(rng() * shapes.length)]!();
    return fromOutline('pit', outline, sizeUm, -noise * (6 + 18 * rng()), placeWithin(rng, 57));
  });
  const scratches = Array.from({ length: Math.floor(rng() * 4) }, () =>
    randomScratch(rng, 0.7 + 3 * rng() ** 1.4, (chance(rng, 0.5) ? 1 : -1) * noise * (5 + 12 * rng())),
  );
  return [...defects, ...scratches];
}

const polar = (t: number, r: number, flat = 1): [number, number] => [r * Math.cos(t), flat * r * Math.sin(t)];

function surfaceOf(rng: Rng, level: number): (x: number, y: number, umPerPx: number) => number {
  const multimode = chance(rng, 0.3);
  const core = multimode ? 25 : 4.1;
  const coreBy = (chance(rng, 0.75) ? 1 : -1) * (12 + 14 * rng());
  const ferrule = level * (chance(rng, 0.6) ? 0.62 + 0.15 * rng() : 1.22 + 0.15 * rng());
  const ring = chance(rng, 0.5) ? { widthUm: 0.5 + 2 * rng(), level: level * 0.45 } : null;
  const flat = 0.0015 * rng();
  const lean = Math.PI * rng();
  const marks = { way: Math.PI * rng(), pitch: 2 + 2 * rng(), by: 0.003 * level };
  return (x, y, umPerPx) => {
    const r = Math.hypot(x, y);
    const edge = CLADDING_RADIUS_UM * (1 + flat * Math.cos(2 * (Math.atan2(y, x) - lean)));
    const inside = (at: number): number => Math.max(0, Math.min(1, (at - r) / umPerPx + 0.5));
    let v = ferrule;
    if (ring) v += inside(edge + ring.widthUm) * (ring.level - v);
    const polish =
      marks.by * Math.sin(((x * Math.cos(marks.way) + y * Math.sin(marks.way)) / marks.pitch) * 2 * Math.PI);
    v += inside(edge) * (level + polish - v);
    const share = multimode ? Math.max(0, 1 - (r / core) ** 2) : Math.exp(-((r / core) ** 4));
    return v + coreBy * share;
  };
}

/** Smooth noise about 0 with the given spread, between random values on a grid. */
function cloudsOf(rng: Rng, pitchUm: number, spread: number): (x: number, y: number) => number {
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
    const at = (dx: number, dy: number): number => grid[((y0 + dy) % n) * n + ((x0 + dx) % n)]!;
    return (at(0, 0) * (1 - fx) + at(1, 0) * fx) * (1 - fy) + (at(0, 1) * (1 - fx) + at(1, 1) * fx) * fy;
  };
}

function boxOf(f: TrueFeature): [number, number, number, number] {
  const more = (f.strokeUm ?? 0) / 2 + 1;
  const xs = f.points.map(([x]) => x);
  const ys = f.points.map(([, y]) => y);
  return [Math.min(...xs) - more, Math.min(...ys) - more, Math.max(...xs) + more, Math.max(...ys) + more];
}

/** Share of a pixel that a feature covers: by nine points of it for an outline, by distance for a line. */
function shareOf(f: TrueFeature, x: number, y: number, umPerPx: number): number {
  if (f.strokeUm === null) {
    let hits = 0;
    for (const dy of [-0.33, 0, 0.33]) {
      for (const dx of [-0.33, 0, 0.33])
        if (contains(f.points, x + dx * umPerPx, y + dy * umPerPx)) hits += 1;
    }
    return hits / 9;
  }
  let d = Infinity;
  for (let i = 1; i < f.points.length; i++) {
    const [x1, y1] = f.points[i - 1]!;
    const [x2, y2] = f.points[i]!;
    const t = ((x - x1) * (x2 - x1) + (y - y1) * (y2 - y1)) / ((x2 - x1) ** 2 + (y2 - y1) ** 2 || 1);
    const c = Math.max(0, Math.min(1, t));
    d = Math.min(d, Math.hypot(x - x1 - c * (x2 - x1), y - y1 - c * (y2 - y1)));
  }
  const half = f.strokeUm / 2;
  const within = (at: number): number => Math.max(-0.5, Math.min(0.5, at / umPerPx));
  return Math.max(0, within(half - d) + within(half + d));
}

/** Mean over a disc, its edge weighted by what it covers of a pixel. */
function discBlur(from: Float32Array, width: number, height: number, radius: number): Float32Array {
  const reach = Math.ceil(radius + 0.5);
  const kernel: { dx: number; dy: number; weight: number }[] = [];
  for (let dy = -reach; dy <= reach; dy++) {
    for (let dx = -reach; dx <= reach; dx++) {
      const weight = Math.max(0, Math.min(1, radius - Math.hypot(dx, dy) + 0.5));
      if (weight > 0) kernel.push({ dx, dy, weight });
    }
  }
  const total = kernel.reduce((sum, k) => sum + k.weight, 0);
  const out = new Float32Array(from.length);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (const { dx, dy, weight } of kernel) {
        const xx = Math.max(0, Math.min(width - 1, x + dx));
        const yy = Math.max(0, Math.min(height - 1, y + dy));
        sum += weight * from[yy * width + xx]!;
      }
      out[y * width + x] = sum / total;
    }
  }
  return out;
}
