import { enclosingCircle, type FeatureKind } from '@clear-mark/core';
import { chance, normal, type Rng } from './rng.ts';

/** How a rendered face was taken: light, optics and the make of its end. Lengths in um, levels 0 to 255. */
export interface FaceScene {
  readonly width: number;
  readonly height: number;
  readonly umPerPx: number;
  /** Centre of the fiber in pixels. */
  readonly centre: readonly [x: number, y: number];
  readonly core: { readonly radiusUm: number; readonly level: number };
  readonly claddingLevel: number;
  readonly ferruleLevel: number;
  /** Dark ring of adhesive round the cladding; 0 for none. */
  readonly ring: { readonly widthUm: number; readonly level: number };
  /** Change of the light over the picture, as a share of the level. */
  readonly slope: readonly [x: number, y: number];
  readonly vignette: number;
  readonly blurPx: number;
  readonly noise: number;
  /** Grain of the ferrule, levels. */
  readonly grain: number;
}

/** What lies on the face, with its true size. Micrometres from the fiber's centre, x right, y down. */
export interface TrueFeature {
  readonly kind: FeatureKind;
  readonly sizeUm: number;
  readonly xUm: number;
  readonly yUm: number;
  readonly lengthUm?: number;
  /** Levels by which it differs from what is under it. */
  readonly contrast: number;
  readonly nearestUm: number;
  readonly farthestUm: number;
  /** Points of its middle line or of its outline. */
  readonly points: readonly (readonly [number, number])[];
}
export interface RenderedFace {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
  readonly scene: FaceScene;
  readonly features: readonly TrueFeature[];
}

const CLADDING_UM = 62.5;

export function randomScene(rng: Rng, more: Partial<FaceScene> = {}): FaceScene {
  const width = more.width ?? 1280;
  const height = more.height ?? 960;
  const umPerPx = more.umPerPx ?? 0.24 + 0.1 * rng();
  const multimode = chance(rng, 0.25);
  const claddingLevel = 110 + 60 * rng();
  return {
    width,
    height,
    umPerPx,
    centre: [width * (0.44 + 0.12 * rng()), height * (0.46 + 0.08 * rng())],
    core: { radiusUm: multimode ? 25 : 4.5, level: claddingLevel + (chance(rng, 0.7) ? 25 : -14) },
    claddingLevel,
    ferruleLevel: claddingLevel + (chance(rng, 0.5) ? 1 : -1) * (18 + 25 * rng()),
    ring: chance(rng, 0.7)
      ? { widthUm: 0.6 + 1.8 * rng(), level: claddingLevel - 45 - 30 * rng() }
      : { widthUm: 0, level: 0 },
    slope: [normal(rng, 0, 0.08), normal(rng, 0, 0.08)],
    vignette: 0.16 * rng(),
    blurPx: 0.6 + 1.1 * rng(),
    noise: 1 + 2 * rng(),
    grain: 1 + 2.5 * rng(),
    ...more,
  };
}

/** A line from one place to another, bent a little; points along its middle. */
export function randomScratch(rng: Rng, widthUm: number, contrast: number, reachUm = 60): TrueFeature {
  const angle = 2 * Math.PI * rng();
  const lengthUm = 18 + 70 * rng();
  const [cx, cy] = [reachUm * (2 * rng() - 1) * 0.7, reachUm * (2 * rng() - 1) * 0.7];
  const bend = normal(rng, 0, 0.006);
  const points = Array.from({ length: 41 }, (_, i) => {
    const s = (i / 40 - 0.5) * lengthUm;
    const a = angle + bend * s;
    return [cx + s * Math.cos(a), cy + s * Math.sin(a)] as const;
  }).filter(([x, y]) => Math.hypot(x, y) < CLADDING_UM * 1.6);
  const radii = points.map(([x, y]) => Math.hypot(x, y));
  const middle = points[Math.floor(points.length / 2)] ?? [cx, cy];
  return {
    ...{ kind: 'scratch', sizeUm: widthUm, xUm: middle[0], yUm: middle[1], lengthUm, contrast, points },
    nearestUm: Math.max(0, Math.min(...radii) - widthUm / 2),
    farthestUm: Math.max(...radii) + widthUm / 2,
  };
}

/** A pit, chip or speck with an uneven outline, by the diameter of its smallest enclosing circle. */
export function randomDefect(
  rng: Rng,
  sizeUm: number,
  contrast: number,
  at?: readonly [number, number],
): TrueFeature {
  const [cx, cy] = at ?? placeWithin(rng, 58);
  const waves = [2, 3, 5].map((k) => [k, 0.18 * rng(), 2 * Math.PI * rng()] as const);
  const radius = (t: number): number =>
    1 + waves.reduce((sum, [k, a, p]) => sum + a * Math.cos(k * t + p), 0);
  const outline = Array.from({ length: 48 }, (_, i) => {
    const t = (i / 48) * 2 * Math.PI;
    return [radius(t) * Math.cos(t), radius(t) * Math.sin(t)] as const;
  });
  const circle = enclosingCircle(outline)!;
  const scale = sizeUm / (2 * circle.r);
  const points = outline.map(([x, y]) => [cx + (x - circle.x) * scale, cy + (y - circle.y) * scale] as const);
  const radii = points.map(([x, y]) => Math.hypot(x, y));
  const inside = contains(points, 0, 0);
  return {
    ...{ kind: 'defect', sizeUm, xUm: cx, yUm: cy, contrast, points },
    nearestUm: inside ? 0 : Math.min(...radii),
    farthestUm: Math.max(...radii),
  };
}

export function placeWithin(rng: Rng, radiusUm: number): [number, number] {
  const r = radiusUm * Math.sqrt(rng());
  const t = 2 * Math.PI * rng();
  return [r * Math.cos(t), r * Math.sin(t)];
}

function contains(outline: readonly (readonly [number, number])[], x: number, y: number): boolean {
  let inside = false;
  outline.forEach(([x1, y1], i) => {
    const [x2, y2] = outline[(i + 1) % outline.length]!;
    if (y1 > y !== y2 > y && x < ((x2 - x1) * (y - y1)) / (y2 - y1) + x1) inside = !inside;
  });
  return inside;
}

/** The picture of a face: light, ferrule, ring, cladding and core, the features on them, blurred and noisy. */
export function renderFace(scene: FaceScene, features: readonly TrueFeature[], rng: Rng): RenderedFace {
  const { width, height } = scene;
  const level = new Float32Array(width * height);
  baseOf(scene, level, rng);
  for (const feature of features) {
    if (feature.kind === 'scratch') drawScratch(scene, level, feature);
    else drawDefect(scene, level, feature);
  }
  const blurred = blur(level, width, height, scene.blurPx);
  const data = new Uint8Array(width * height);
  for (let i = 0; i < data.length; i++) {
    data[i] = Math.max(0, Math.min(255, Math.round(blurred[i]! + normal(rng, 0, scene.noise))));
  }
  return { width, height, data, scene, features };
}

function baseOf(scene: FaceScene, level: Float32Array, rng: Rng): void {
  const { width, height, umPerPx, centre, core, ring } = scene;
  const grains = coarseNoise(width, height, rng);
  const far = Math.hypot(width, height) / 2;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const r = Math.hypot(x - centre[0], y - centre[1]) * umPerPx;
      // Edges are mixed over one pixel, as a sensor's pixels do.
      const mix = (edge: number): number => Math.max(0, Math.min(1, (edge - r) / umPerPx + 0.5));
      let value = scene.ferruleLevel + scene.grain * grains[y * width + x]!;
      value +=
        mix(CLADDING_UM + ring.widthUm) * ((ring.widthUm > 0 ? ring.level : scene.claddingLevel) - value);
      value += mix(CLADDING_UM) * (scene.claddingLevel - value);
      value += mix(core.radiusUm) * (core.level - value);
      const [dx, dy] = [(x - width / 2) / width, (y - height / 2) / height];
      const away = Math.hypot(x - width / 2, y - height / 2) / far;
      const light = 1 + scene.slope[0] * dx * 2 + scene.slope[1] * dy * 2 - scene.vignette * away * away;
      level[y * width + x] = value * light;
    }
  }
}

function coarseNoise(width: number, height: number, rng: Rng): Float32Array {
  const raw = new Float32Array(width * height);
  for (let i = 0; i < raw.length; i++) raw[i] = 2 * rng() - 1;
  const soft = blur(raw, width, height, 1.6);
  // Back to unit spread after the blur took most of it.
  for (let i = 0; i < soft.length; i++) soft[i]! *= 9;
  return soft;
}

function drawScratch(scene: FaceScene, level: Float32Array, f: TrueFeature): void {
  const { width, height, umPerPx, centre } = scene;
  const half = f.sizeUm / umPerPx / 2;
  const px = f.points.map(([x, y]) => [centre[0] + x / umPerPx, centre[1] + y / umPerPx] as const);
  const cover = new Map<number, number>();
  for (let i = 1; i < px.length; i++) {
    const [x1, y1] = px[i - 1]!;
    const [x2, y2] = px[i]!;
    const reach = half + 2;
    const length2 = (x2 - x1) ** 2 + (y2 - y1) ** 2 || 1;
    for (
      let y = Math.max(0, Math.floor(Math.min(y1, y2) - reach));
      y <= Math.min(height - 1, Math.max(y1, y2) + reach);
      y++
    ) {
      for (
        let x = Math.max(0, Math.floor(Math.min(x1, x2) - reach));
        x <= Math.min(width - 1, Math.max(x1, x2) + reach);
        x++
      ) {
        const t = Math.max(0, Math.min(1, ((x - x1) * (x2 - x1) + (y - y1) * (y2 - y1)) / length2));
        const d = Math.hypot(x - x1 - t * (x2 - x1), y - y1 - t * (y2 - y1));
        // The share of the pixel that the line covers, also where the line is thinner than a pixel.
        const share = Math.max(0, Math.min(0.5, half - d) + Math.min(0.5, half + d));
        const at = y * width + x;
        if (share > (cover.get(at) ?? 0)) cover.set(at, share);
      }
    }
  }
  for (const [at, share] of cover) level[at]! += f.contrast * share;
}

function drawDefect(scene: FaceScene, level: Float32Array, f: TrueFeature): void {
  const { width, height, umPerPx, centre } = scene;
  const px = f.points.map(([x, y]) => [centre[0] + x / umPerPx, centre[1] + y / umPerPx] as const);
  const xs = px.map(([x]) => x);
  const ys = px.map(([, y]) => y);
  for (
    let y = Math.max(0, Math.floor(Math.min(...ys)) - 1);
    y <= Math.min(height - 1, Math.max(...ys) + 1);
    y++
  ) {
    for (
      let x = Math.max(0, Math.floor(Math.min(...xs)) - 1);
      x <= Math.min(width - 1, Math.max(...xs) + 1);
      x++
    ) {
      let hits = 0;
      for (let s = 0; s < 16; s++) {
        if (contains(px, x - 0.375 + 0.25 * (s % 4), y - 0.375 + 0.25 * Math.floor(s / 4))) hits += 1;
      }
      level[y * width + x]! += (f.contrast * hits) / 16;
    }
  }
}

/** Separable Gaussian, edges repeated. */
function blur(from: Float32Array, width: number, height: number, sigma: number): Float32Array {
  const reach = Math.max(1, Math.ceil(3 * sigma));
  const kernel = Array.from({ length: 2 * reach + 1 }, (_, i) =>
    Math.exp(-((i - reach) ** 2) / (2 * sigma * sigma)),
  );
  const total = kernel.reduce((a, b) => a + b, 0);
  const pass = (src: Float32Array, alongX: boolean): Float32Array => {
    const out = new Float32Array(src.length);
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        let sum = 0;
        for (let k = -reach; k <= reach; k++) {
          const xx = alongX ? Math.max(0, Math.min(width - 1, x + k)) : x;
          const yy = alongX ? y : Math.max(0, Math.min(height - 1, y + k));
          sum += kernel[k + reach]! * src[yy * width + xx]!;
        }
        out[y * width + x] = sum / total;
      }
    }
    return out;
  };
  return pass(pass(from, true), false);
}

/** A random face with so many features of either kind; contrasts as multiples of the noise, of either sign. */
export function randomFace(rng: Rng, more: Partial<FaceScene> = {}): RenderedFace {
  const scene = randomScene(rng, more);
  const spread = Math.hypot(scene.noise, 0.3);
  const features: TrueFeature[] = [];
  const defects = Math.floor(rng() * 6);
  const scratches = Math.floor(rng() * 4);
  for (let i = 0; i < defects; i++) {
    const sizeUm = chance(rng, 0.34) ? (chance(rng, 0.5) ? 2 : 5) * (0.9 + 0.2 * rng()) : 1 + 9 * rng() ** 2;
    features.push(randomDefect(rng, sizeUm, -spread * (5 + 22 * rng())));
  }
  for (let i = 0; i < scratches; i++) {
    features.push(
      randomScratch(rng, 0.6 + 3 * rng() ** 1.5, (chance(rng, 0.4) ? 1 : -1) * spread * (4 + 14 * rng())),
    );
  }
  return renderFace(scene, features, rng);
}
