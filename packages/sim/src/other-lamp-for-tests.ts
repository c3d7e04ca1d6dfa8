import { between, clamp } from './back-lit.ts';
import { gaussian, inByte } from './light.ts';
import { normal, pick, type Rng } from './rng.ts';

/**
 * A second way to see fibers before a lamp, for tests and benches alone: light is followed as rays through a cylinder of glass, and a lens with a sharp
 * rim spreads what comes through, as amplitude where the lamp is small and as light where it is wide. Angles in radians unless told otherwise.
 */
export interface OtherOptics {
  readonly width: number;
  readonly height: number;
  readonly umPerPx: number;
  /** Half of the angle under which the fiber sees the lamp, by how much its rim is soft, and how far it stands to the side. */
  readonly lamp: { readonly half: number; readonly soft: number; readonly aside: number };
  /** Sine of half of the angle that the lens takes in. */
  readonly aperture: number;
  /** Share of the light that adds up as amplitude. */
  readonly coherent: number;
  /** Blur by what is out of focus, µm. */
  readonly blurUm: number;
  /** Light from everywhere, share of the lamp's. */
  readonly stray: number;
  readonly level: number;
  readonly curve: number;
  readonly sharpen: number;
  /** How much darker the corners are. */
  readonly vignette: number;
  /** Noise of the sensor, levels, and that of the light at the full level. */
  readonly noise: number;
  readonly shot: number;
  /** Specks on the glass of the camera: place, radius and depth. */
  readonly specks: readonly (readonly [x: number, y: number, r: number, depth: number])[];
  /** Width in pixels of dark blocks that hold the fiber, at the left and the right border. */
  readonly blocks: readonly [number, number];
  /** Pointed electrodes from above and below: column of their tips and distance of these from the middle row, pixels; null where none are. */
  readonly tips: { readonly x: number; readonly away: number; readonly slope: number } | null;
}

/** Index of the glass; a cladding shows its core so much larger. */
export const GLASS = 1.458;
const GREEN_UM = 0.55;

/** Optics of a picture that is between `umHigh` µm high. */
export function randomOptics(
  rng: Rng,
  umHigh: readonly [number, number],
  width = pick(rng, [640, 720, 800, 960, 1280]),
): OtherOptics {
  const height = Math.round(width * pick(rng, [0.5625, 0.75, 0.75]));
  const umPerPx = between(rng, ...umHigh) / height;
  return {
    width,
    height,
    umPerPx,
    lamp: { half: between(rng, 0.08, 0.5), soft: between(rng, 0.01, 0.06), aside: between(rng, -0.05, 0.05) },
    aperture: between(rng, 0.12, 0.28),
    coherent: between(rng, 0.1, 0.9),
    blurUm: between(rng, 0, 1.6),
    stray: between(rng, 0.01, 0.2),
    level: between(rng, 0.5, 0.92),
    curve: between(rng, 0.6, 1.1),
    sharpen: rng() < 0.5 ? between(rng, 0.1, 0.6) : 0,
    vignette: between(rng, 0, 0.5),
    noise: between(rng, 0.6, 2.5),
    shot: between(rng, 0.5, 3),
    specks: Array.from({ length: Math.floor(between(rng, 0, 4)) }, () => [
      rng() * width,
      rng() * height,
      between(rng, 3, 14),
      between(rng, 0.05, 0.3),
    ]),
    blocks: rng() < 0.2 ? [between(rng, 0.03, 0.1) * width, between(rng, 0.03, 0.1) * width] : [0, 0],
    tips:
      rng() < 0.2
        ? {
            x: width * between(rng, 0.42, 0.58),
            away: between(rng, 105, 200) / umPerPx,
            slope: between(rng, 0.2, 0.5),
          }
        : null,
  };
}

/** Share of a lamp's light that leaves it at an angle. */
const leaving = ({ half, soft, aside }: OtherOptics['lamp'], angle: number): number =>
  1 / (1 + Math.exp((Math.abs(angle - aside) - half) / soft));

const CONE = 9;
/** Mean of a lamp over the cone of the lens, about a direction. */
function throughLens(optics: OtherOptics, angle: number): number {
  let sum = 0;
  let all = 0;
  for (let k = 0; k < CONE; k++) {
    const t = (2 * (k + 0.5)) / CONE - 1;
    const weight = Math.sqrt(1 - t * t);
    sum += weight * leaving(optics.lamp, angle + t * Math.asin(optics.aperture));
    all += weight;
  }
  return sum / all;
}

/** Share of light that a smooth surface of glass throws back, both polarisations (Fresnel). */
function thrownBack(cosIn: number): number {
  const sinOut = Math.sqrt(1 - cosIn * cosIn) / GLASS;
  const cosOut = Math.sqrt(1 - sinOut * sinOut);
  const s = (cosIn - GLASS * cosOut) / (cosIn + GLASS * cosOut);
  const p = (cosOut - GLASS * cosIn) / (cosOut + GLASS * cosIn);
  return (s * s + p * p) / 2;
}

const FINE = 2400;
/** Light past a cylinder, summed from -1.2 to 1.2 radii across it: differences of it are means over what a pixel sees. */
export class Across {
  private readonly sums = new Float64Array(FINE + 1);

  constructor(optics: OtherOptics) {
    const open = throughLens(optics, 0);
    for (let k = 0; k < FINE; k++) {
      const v = ((k + 0.5) / FINE) * 2.4 - 1.2;
      this.sums[k + 1] = this.sums[k]! + lightAt(optics, v, open);
    }
  }
  private until(v: number): number {
    const k = Math.max(0, Math.min(FINE, ((v + 1.2) / 2.4) * FINE));
    const i = Math.min(FINE - 1, Math.floor(k));
    return this.sums[i]! + (this.sums[i + 1]! - this.sums[i]!) * (k - i);
  }
  /** Mean light between two places across, radii; 1 beside the fiber. */
  mean(from: number, to: number): number {
    const a = Math.max(-1.2, from);
    const b = Math.min(1.2, to);
    if (b - a < 1e-9) return 1;
    return ((this.until(b) - this.until(a)) * 2.4) / FINE / (b - a);
  }
}
function lightAt(optics: OtherOptics, v: number, open: number): number {
  if (Math.abs(v) >= 1) return 1;
  const inward = Math.asin(Math.abs(v));
  const bent = 2 * (inward - Math.asin(Math.abs(v) / GLASS)) * Math.sign(v);
  const back = thrownBack(Math.cos(inward));
  const seen = (1 - back) ** 2 * throughLens(optics, bent);
  return optics.stray + (1 - optics.stray) * (seen / open);
}

/** How fine a grid a scene is drawn on, cells a pixel along each side. */
export const cellsOf = ({ umPerPx }: OtherOptics): number => Math.max(1, Math.ceil(umPerPx / 0.9));

/** Bessel's function J1 by its integral: exact enough for a kernel. */
function besselJ1(x: number): number {
  const n = 40;
  let sum = 0;
  for (let k = 0; k < n; k++) {
    const t = ((k + 0.5) / n) * Math.PI;
    sum += Math.cos(t - x * Math.sin(t));
  }
  return sum / n;
}

/**
 * What a lens with a sharp rim makes of a point: its amplitude over the cells round it, and its light; each sums to 1. A quarter of it,
 * from its corner to its middle: the other three are the same, and what lies on two of them counts half.
 */
function spreads(
  aperture: number,
  umPerCell: number,
): { amplitude: Float64Array; light: Float64Array; reach: number } {
  const first = (0.61 * GREEN_UM) / aperture;
  const reach = Math.max(1, Math.min(8, Math.round((2.1 * first) / umPerCell)));
  const side = reach + 1;
  const amplitude = new Float64Array(side * side);
  const light = new Float64Array(side * side);
  for (let y = 0; y <= reach; y++) {
    for (let x = 0; x <= reach; x++) {
      const off = Math.hypot(reach - x, reach - y);
      const t = ((2 * Math.PI * aperture) / GREEN_UM) * off * umPerCell;
      const fade = 0.5 + 0.5 * Math.cos(Math.PI * Math.min(1, off / (reach + 1)));
      const a = (t < 1e-6 ? 1 : (2 * besselJ1(t)) / t) * fade;
      const shared = (x === reach ? 0.5 : 1) * (y === reach ? 0.5 : 1);
      amplitude[y * side + x] = a * shared;
      light[y * side + x] = a * a * shared;
    }
  }
  for (const kernel of [amplitude, light]) {
    const all = 4 * kernel.reduce((a, b) => a + b, 0);
    for (let i = 0; i < kernel.length; i++) kernel[i]! /= all;
  }
  return { amplitude, light, reach };
}

/** The scene of one row of views: `share` of the lamp's light that comes through, by fine cells. */
export function seenByLens(share: Float32Array, optics: OtherOptics, rng: Rng): Uint8Array {
  const cells = cellsOf(optics);
  const { width, height } = optics;
  const long = width * cells;
  const high = height * cells;
  const um = optics.umPerPx / cells;
  const { amplitude, light, reach } = spreads(optics.aperture, um);
  const wide = long + 2 * reach;
  const around = widened(share, long, high, reach);
  const root = around.map(Math.sqrt);
  const seen = new Float32Array(width * height);
  for (let y = 0; y < high; y++) {
    for (let x = 0; x < long; x++) {
      let value = share[y * long + x]!;
      if (!isFlat(share, long, high, x, y, reach)) {
        let a = 0;
        let l = 0;
        for (let dy = 0, k = 0; dy <= reach; dy++) {
          const above = (y + dy) * wide + x;
          const below = (y + 2 * reach - dy) * wide + x;
          for (let i = 0, j = 2 * reach; i <= reach; i++, j--, k++) {
            a += amplitude[k]! * (root[above + i]! + root[above + j]! + root[below + i]! + root[below + j]!);
            l +=
              light[k]! * (around[above + i]! + around[above + j]! + around[below + i]! + around[below + j]!);
          }
        }
        value = optics.coherent * a * a + (1 - optics.coherent) * l;
      }
      seen[Math.floor(y / cells) * width + Math.floor(x / cells)]! += value / (cells * cells);
    }
  }
  return byCamera(seen, optics, rng);
}
/** A scene with `reach` more cells on each side: beyond its border it goes on as it ends. */
function widened(share: Float32Array, long: number, high: number, reach: number): Float32Array {
  const wide = long + 2 * reach;
  const out = new Float32Array(wide * (high + 2 * reach));
  for (let y = 0; y < high + 2 * reach; y++) {
    const from = Math.max(0, Math.min(high - 1, y - reach)) * long;
    const to = y * wide;
    out.fill(share[from]!, to, to + reach);
    out.set(share.subarray(from, from + long), to + reach);
    out.fill(share[from + long - 1]!, to + reach + long, to + wide);
  }
  return out;
}
const isFlat = (
  share: Float32Array,
  long: number,
  high: number,
  x: number,
  y: number,
  reach: number,
): boolean => {
  const level = share[y * long + x]!;
  for (const dy of [-reach, 0, reach]) {
    for (const dx of [-reach, 0, reach]) {
      const j = Math.max(0, Math.min(high - 1, y + dy)) * long + Math.max(0, Math.min(long - 1, x + dx));
      if (Math.abs(share[j]! - level) > 1e-4) return false;
    }
  }
  return true;
};

function byCamera(seen: Float32Array, optics: OtherOptics, rng: Rng): Uint8Array {
  const { width, height, umPerPx } = optics;
  const focused =
    optics.blurUm > 0.2 * umPerPx ? gaussian(seen, width, height, optics.blurUm / umPerPx) : seen;
  const soft = optics.sharpen > 0 ? gaussian(focused, width, height, 1.1) : focused;
  const data = new Uint8Array(width * height);
  const lean = [between(rng, -0.12, 0.12), between(rng, -0.12, 0.12)] as const;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const u = x / width - 0.5;
      const w = y / height - 0.5;
      const light = 1 + lean[0] * u + lean[1] * w - optics.vignette * (u * u + w * w);
      const sharp = focused[i]! + optics.sharpen * (focused[i]! - soft[i]!);
      const level = optics.level * light * Math.max(0, sharp) * beforeAt(optics, x, y);
      const noisy = level + (optics.shot / 255) * Math.sqrt(Math.max(0, level)) * normal(rng);
      data[i] = inByte(255 * Math.max(0, noisy) ** optics.curve + optics.noise * normal(rng));
    }
  }
  return data;
}
/** What blocks, electrodes and specks leave of the light. */
function beforeAt({ blocks, tips, specks, width, height }: OtherOptics, x: number, y: number): number {
  let left = 1;
  left *= blocks[0] > 0 ? 0.08 + 0.92 * clamp((x - blocks[0]) / 5 + 0.5) : 1;
  left *= blocks[1] > 0 ? 0.08 + 0.92 * clamp((width - blocks[1] - x) / 5 + 0.5) : 1;
  if (tips) {
    const out = Math.abs(y - height / 2) - tips.away;
    left *= 1 - 0.9 * clamp((tips.slope * out - Math.abs(x - tips.x)) / 6 + 0.5) * clamp(out / 6 + 0.5);
  }
  for (const [sx, sy, r, depth] of specks)
    left *= 1 - depth * clamp((r - Math.hypot(x - sx, y - sy)) / 4 + 0.5);
  return left;
}
