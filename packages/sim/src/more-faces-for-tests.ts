import { boxOf, cloudsOf, discBlur, shareOf } from './draw-for-tests.ts';
import { CLADDING_RADIUS_UM, type TrueFeature } from './face-features.ts';
import { inByte } from './light.ts';
import type { OtherFace } from './other-face-for-tests.ts';
import { FACE_STATES, randomFeatures } from './random-face.ts';
import { chance, normal, pick, type Rng } from './rng.ts';

/**
 * Two more ways to draw faces, for tests and benches alone. `small_scope`: coarse pixels, a lens that darkens to its corners,
 * a sensor with noise by rows, a picture kept in blocks, and marks of a capture program in its corners. `slanted_light`: light
 * from one side that shades what is deep, a cloudy and brushed surface, a strong grain, films that shine in fringes, and rims
 * that are bright or not there. In both the core is bright, dark or unlit, sharp or soft, and off the centre.
 */
export const MORE_FAMILIES = ['small_scope', 'slanted_light'] as const;
export type MoreFamily = (typeof MORE_FAMILIES)[number];

type Field = (x: number, y: number) => number;

interface Scene {
  readonly width: number;
  readonly height: number;
  readonly umPerPx: number;
  readonly centre: readonly [number, number];
  readonly level: number;
  readonly surface: Field;
  readonly light: Field;
}

export function moreFace(family: MoreFamily, rng: Rng): OtherFace {
  const coarse = family === 'small_scope';
  const [width, height] = coarse
    ? pick(rng, [
        [640, 480],
        [800, 600],
        [1024, 768],
      ] as const)
    : pick(rng, [
        [1024, 768],
        [1280, 960],
      ] as const);
  const least = 258 / height;
  const umPerPx = coarse
    ? Math.max(least, 0.42 + 0.48 * rng())
    : Math.max(0.3 * (1024 / width), 0.27 + 0.22 * rng());
  const centre = [width * (0.47 + 0.06 * rng()), height * (0.48 + 0.04 * rng())] as const;
  const level = 85 + 80 * rng();
  const noise = coarse ? Math.sqrt(0.8 + 0.012 * level) : Math.sqrt(0.5 + 0.03 * level);
  const scene: Scene = {
    width,
    height,
    umPerPx,
    centre,
    level,
    surface: surfaceOf(rng, level, coarse),
    light: lightOf(rng, width * umPerPx, coarse),
  };
  const features = randomFeatures(rng, pick(rng, FACE_STATES), noise * 1.6);
  const sharp = drawn(rng, scene, features, coarse);
  const blurred = discBlur(sharp, width, height, Math.max(0.6, (0.5 + 0.6 * rng()) / umPerPx));
  const data = coarse
    ? inBlocks(sensed(rng, blurred, width, 0.8, 0.012, 0.35 * rng()), width, height, 2 + 3 * rng())
    : sensed(rng, blurred, width, 0.5, 0.03, 0);
  if (coarse && chance(rng, 0.5)) marksOfProgram(data, width, height, centre, 132 / umPerPx);
  return { width, height, data, umPerPx, centre, noise, features };
}

function drawn(rng: Rng, scene: Scene, features: readonly TrueFeature[], coarse: boolean): Float32Array {
  const { width, height, umPerPx, centre, surface, light } = scene;
  const parts = features.map((f) => ({ f, box: boxOf(f) }));
  const from = 2 * Math.PI * rng();
  const shade = coarse ? 0 : 0.35;
  const sx = 0.6 * Math.cos(from);
  const sy = 0.6 * Math.sin(from);
  const fringe = 3 + 5 * rng();
  const picture = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const ux = (x - centre[0]) * umPerPx;
      const uy = (y - centre[1]) * umPerPx;
      let v = surface(ux, uy);
      for (const { f, box } of parts) {
        if (ux < box[0] - 1 || ux > box[2] + 1 || uy < box[1] - 1 || uy > box[3] + 1) continue;
        const share = shareOf(f, ux, uy, umPerPx);
        if (f.look === 'film' && !coarse) {
          v +=
            f.contrast * share * (0.75 + 0.5 * Math.cos((Math.hypot(ux - f.xUm, uy - f.yUm) / fringe) * 6));
          continue;
        }
        v += f.contrast * share;
        if (shade > 0 && f.strokeUm === null) {
          const before = shareOf(f, ux + sx, uy + sy, umPerPx);
          const after = shareOf(f, ux - sx, uy - sy, umPerPx);
          v += shade * Math.abs(f.contrast) * (before - after);
        }
      }
      picture[y * width + x] = v * light(ux, uy);
    }
  }
  return picture;
}

function surfaceOf(rng: Rng, level: number, coarse: boolean): Field {
  const core = coreOf(rng);
  const ferrule = level * pick(rng, [0.55 + 0.3 * rng(), 0.95 + 0.15 * rng(), 1.15 + 0.35 * rng()]);
  const rim = coarse
    ? pick(rng, [null, 'dark', 'dark'] as const)
    : pick(rng, [null, 'dark', 'bright'] as const);
  // Without a ring glass and ferrule differ, or there is nothing to see.
  const outside = rim === null && Math.abs(ferrule / level - 1) < 0.12 ? level * 0.75 : ferrule;
  const least = Math.min(level, outside);
  const ring = {
    widthUm: rim === null ? 0 : 0.3 + 1.6 * rng(),
    level: rim === 'bright' ? 1.35 * Math.max(level, outside) : least * (0.25 + 0.35 * rng()),
  };
  const offX = 0.3 * normal(rng);
  const offY = 0.3 * normal(rng);
  const glass = octavesOf(rng, coarse ? 0.004 : 0.008);
  const grain = octavesOf(rng, coarse ? 0.02 : 0.035);
  const brushed = { way: Math.PI * rng(), by: coarse ? 0 : 0.006 };
  const marks = cloudsOf(rng, 0.8, 1);
  const within = (at: number, d: number): number => Math.max(0, Math.min(1, (at - d) / 0.25 + 0.5));
  return (x, y) => {
    const r = Math.sqrt(x * x + y * y);
    const inGlass = within(CLADDING_RADIUS_UM, r);
    let v = 0;
    if (inGlass < 1) {
      v = outside * (1 + grain(x, y));
      const fromRing = Math.sqrt((x - offX) ** 2 + (y - offY) ** 2);
      if (ring.widthUm > 0) v += within(CLADDING_RADIUS_UM + ring.widthUm, fromRing) * (ring.level - v);
    }
    if (inGlass === 0) return v;
    const across = -x * Math.sin(brushed.way) + y * Math.cos(brushed.way);
    const along = x * Math.cos(brushed.way) + y * Math.sin(brushed.way);
    const brush = brushed.by > 0 ? brushed.by * marks(across, along / 40) : 0;
    const here = (level + core(x, y)) * (1 + glass(x, y) + brush);
    return v + inGlass * (here - v);
  };
}

function coreOf(rng: Rng): Field {
  const kind = pick(rng, ['single', 'single', 'single', 'fifty', 'sixty'] as const);
  const by = pick(rng, [0, 14 + 40 * rng(), -(10 + 15 * rng())]);
  const cx = 0.5 * normal(rng);
  const cy = 0.5 * normal(rng);
  const radius = kind === 'single' ? 4.1 + 1 * rng() : kind === 'fifty' ? 25 : 31.25;
  const soft = kind === 'single' ? 0.2 + 1.1 * rng() : 0.3 + 0.8 * rng();
  const dip = kind !== 'single' && chance(rng, 0.4) ? 0.35 : 0;
  return (x, y) => {
    const d = Math.sqrt((x - cx) ** 2 + (y - cy) ** 2);
    const edge = 1 / (1 + Math.exp((d - radius) / (0.55 * soft)));
    const shape = kind === 'single' ? 1 : 1 - 0.6 * (d / radius) ** 2;
    return by * edge * (shape - dip * Math.exp(-((d / 1.6) ** 2)));
  };
}

/** Clouds of three sizes, the larger the stronger, as the grain of a ground surface has. */
function octavesOf(rng: Rng, spread: number): Field {
  const parts = [0.7, 1.6, 4].map((pitch, k) => cloudsOf(rng, pitch, spread * (0.5 + 0.25 * k)));
  return (x, y) => {
    let sum = 0;
    for (const part of parts) sum += part(x, y);
    return sum;
  };
}

function lightOf(rng: Rng, wideUm: number, coarse: boolean): Field {
  const slope = [normal(rng, 0, coarse ? 0.05 : 0.14), normal(rng, 0, coarse ? 0.05 : 0.14)] as const;
  const corner = 0.1 + 0.3 * rng();
  const glow = { x: 70 * normal(rng), y: 70 * normal(rng), by: coarse ? 0 : 0.1 * rng() };
  const half = wideUm / 2;
  return (x, y) => {
    const r2 = (x * x + y * y) / (half * half);
    const shine = glow.by * Math.exp(-((x - glow.x) ** 2 + (y - glow.y) ** 2) / (2 * 60 * 60));
    return (1 + (slope[0] * x + slope[1] * y) / half + shine) * (1 - corner * r2 * r2 * 0.5);
  };
}

/** What a sensor makes of light: noise that grows with it, noise of its own, and rows that are a little off. */
function sensed(
  rng: Rng,
  level: Float32Array,
  width: number,
  read: number,
  gain: number,
  rows: number,
): Uint8Array {
  const data = new Uint8Array(level.length);
  let row = 0;
  for (let i = 0; i < data.length; i++) {
    if (i % width === 0) row = rows === 0 ? 0 : rows * normal(rng);
    const v = Math.max(0, level[i]!);
    data[i] = inByte(v + row + Math.sqrt(read + gain * v) * normal(rng));
  }
  return data;
}

const COSINES = Float64Array.from({ length: 64 }, (_, i) => {
  const k = i >> 3;
  const n = i & 7;
  return (k === 0 ? Math.SQRT1_2 : 1) * 0.5 * Math.cos(((2 * n + 1) * k * Math.PI) / 16);
});

/** A picture kept as JPEG keeps its light: cosines of blocks of eight by eight, in steps that are wider for finer ones. */
function inBlocks(data: Uint8Array, width: number, height: number, step: number): Uint8Array {
  const out = data.slice();
  const block = new Float64Array(64);
  const half = new Float64Array(64);
  for (let top = 0; top + 8 <= height; top += 8) {
    for (let left = 0; left + 8 <= width; left += 8) {
      for (let i = 0; i < 64; i++) block[i] = data[(top + (i >> 3)) * width + left + (i & 7)]!;
      transform(block, half, false);
      for (let i = 0; i < 64; i++) {
        const each = step * (0.6 + 0.25 * ((i >> 3) + (i & 7)));
        block[i] = Math.floor(block[i]! / each + 0.5) * each;
      }
      transform(block, half, true);
      for (let i = 0; i < 64; i++) out[(top + (i >> 3)) * width + left + (i & 7)] = inByte(block[i]!);
    }
  }
  return out;
}

function transform(block: Float64Array, half: Float64Array, back: boolean): void {
  for (let pass = 0; pass < 2; pass++) {
    for (let line = 0; line < 8; line++) {
      for (let k = 0; k < 8; k++) {
        let sum = 0;
        for (let n = 0; n < 8; n++)
          sum += block[line * 8 + n]! * (back ? COSINES[n * 8 + k]! : COSINES[k * 8 + n]!);
        half[k * 8 + line] = sum;
      }
    }
    block.set(half);
  }
}

/** A bar with ticks and rows of small strokes in two corners, as programs write scale and date into a picture. */
function marksOfProgram(
  data: Uint8Array,
  width: number,
  height: number,
  centre: readonly [number, number],
  freePx: number,
): void {
  const put = (x: number, y: number): void => {
    if (Math.hypot(x - centre[0], y - centre[1]) > freePx) data[y * width + x] = 250;
  };
  for (let x = 12; x < 92; x++) for (let y = height - 16; y < height - 13; y++) put(x, y);
  for (let k = 0; k < 18; k++) {
    for (let y = 10; y < 20; y++) if ((k * 7 + y) % 3 > 0) put(width - 120 + 6 * k, y);
    for (let x = 0; x < 4; x++) put(width - 120 + 6 * k + x, k % 2 === 0 ? 10 : 19);
  }
}
