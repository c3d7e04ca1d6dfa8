import { CLADDING_RADIUS_UM, crossingsAt, isInside, type TrueFeature } from './face-features.ts';
import { gaussian, inBytes } from './light.ts';
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

export interface RenderedFace {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
  readonly scene: FaceScene;
  readonly features: readonly TrueFeature[];
}

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

/** The picture of a face: light, ferrule, ring, cladding and core, the features on them, blurred and noisy. */
export function renderFace(scene: FaceScene, features: readonly TrueFeature[], rng: Rng): RenderedFace {
  const { width, height } = scene;
  const level = new Float32Array(width * height);
  baseOf(scene, level, rng);
  for (const feature of features) {
    const cover = feature.strokeUm === null ? outlineCover(scene, feature) : strokeCover(scene, feature);
    add(scene, level, feature, cover);
  }
  const blurred = gaussian(level, width, height, scene.blurPx);
  const data = inBytes(blurred, scene.noise, rng);
  return { width, height, data, scene, features };
}

/** Edges are mixed over one pixel, as a sensor's pixels do: the share of a pixel at `r` that lies inside of `edge`. */
const within = (edge: number, r: number, umPerPx: number): number =>
  Math.max(0, Math.min(1, (edge - r) / umPerPx + 0.5));

function baseOf(scene: FaceScene, level: Float32Array, rng: Rng): void {
  const { width, height, umPerPx, centre, core, ring } = scene;
  const grains = coarseNoise(width, height, rng);
  const far = Math.hypot(width, height) / 2;
  const ringEdge = CLADDING_RADIUS_UM + ring.widthUm;
  const ringLevel = ring.widthUm > 0 ? ring.level : scene.claddingLevel;
  for (let y = 0; y < height; y++) {
    const fromY = y - centre[1];
    const dy = (y - height / 2) / height;
    for (let x = 0; x < width; x++) {
      const fromX = x - centre[0];
      const r = Math.sqrt(fromX * fromX + fromY * fromY) * umPerPx;
      let value = scene.ferruleLevel + scene.grain * grains[y * width + x]!;
      value += within(ringEdge, r, umPerPx) * (ringLevel - value);
      value += within(CLADDING_RADIUS_UM, r, umPerPx) * (scene.claddingLevel - value);
      value += within(core.radiusUm, r, umPerPx) * (core.level - value);
      const dx = (x - width / 2) / width;
      const away = Math.sqrt((x - width / 2) ** 2 + (y - height / 2) ** 2) / far;
      const light = 1 + scene.slope[0] * dx * 2 + scene.slope[1] * dy * 2 - scene.vignette * away * away;
      level[y * width + x] = value * light;
    }
  }
}

function coarseNoise(width: number, height: number, rng: Rng): Float32Array {
  const raw = new Float32Array(width * height);
  for (let i = 0; i < raw.length; i++) raw[i] = 2 * rng() - 1;
  const soft = gaussian(raw, width, height, 1.6);
  // Back to unit spread after the blur took most of it.
  for (let i = 0; i < soft.length; i++) soft[i]! *= 9;
  return soft;
}

/** Share of each pixel that a feature covers, by the pixel's place in the picture. */
type Cover = Map<number, number>;

/** Adds a feature's contrast; a soft one is blurred by itself first. */
function add({ width, height, umPerPx }: FaceScene, level: Float32Array, f: TrueFeature, cover: Cover): void {
  if (f.softUm === 0) {
    for (const [at, share] of cover) level[at]! += f.contrast * share;
    return;
  }
  const reach = Math.ceil((3 * f.softUm) / umPerPx);
  const xs = [...cover.keys()].map((at) => at % width);
  const ys = [...cover.keys()].map((at) => Math.floor(at / width));
  if (xs.length === 0) return;
  const left = Math.min(...xs) - reach;
  const top = Math.min(...ys) - reach;
  const w = Math.max(...xs) + reach - left + 1;
  const h = Math.max(...ys) + reach - top + 1;
  const patch = new Float32Array(w * h);
  for (const [at, share] of cover) patch[(Math.floor(at / width) - top) * w + (at % width) - left] = share;
  gaussian(patch, w, h, f.softUm / umPerPx).forEach((share, i) => {
    const x = left + (i % w);
    const y = top + Math.floor(i / w);
    if (x >= 0 && y >= 0 && x < width && y < height) level[y * width + x]! += f.contrast * share;
  });
}

function strokeCover(scene: FaceScene, f: TrueFeature): Cover {
  const { width, height, umPerPx, centre } = scene;
  const half = f.strokeUm! / umPerPx / 2;
  const px = f.points.map(([x, y]) => [centre[0] + x / umPerPx, centre[1] + y / umPerPx] as const);
  const cover: Cover = new Map();
  for (let i = 1; i < px.length; i++) {
    const [x1, y1] = px[i - 1]!;
    const [x2, y2] = px[i]!;
    const reach = half + 2;
    const length2 = (x2 - x1) ** 2 + (y2 - y1) ** 2 || 1;
    const top = Math.max(0, Math.floor(Math.min(y1, y2) - reach));
    const bottom = Math.max(y1, y2) + reach;
    const left = Math.max(0, Math.floor(Math.min(x1, x2) - reach));
    const right = Math.max(x1, x2) + reach;
    for (let y = top; y <= Math.min(height - 1, bottom); y++) {
      for (let x = left; x <= Math.min(width - 1, right); x++) {
        const t = Math.max(0, Math.min(1, ((x - x1) * (x2 - x1) + (y - y1) * (y2 - y1)) / length2));
        const d = Math.sqrt((x - x1 - t * (x2 - x1)) ** 2 + (y - y1 - t * (y2 - y1)) ** 2);
        // The share of the pixel that the line covers, also where the line is thinner than a pixel.
        const share = Math.max(0, Math.min(0.5, half - d) + Math.min(0.5, half + d));
        const at = y * width + x;
        if (share > (cover.get(at) ?? 0)) cover.set(at, share);
      }
    }
  }
  return cover;
}

const SUB_PLACES = [-0.375, -0.125, 0.125, 0.375] as const;
function outlineCover(scene: FaceScene, f: TrueFeature): Cover {
  const { width, height, umPerPx, centre } = scene;
  const px = f.points.map(([x, y]) => [centre[0] + x / umPerPx, centre[1] + y / umPerPx] as const);
  const xs = px.map(([x]) => x);
  const ys = px.map(([, y]) => y);
  const cover: Cover = new Map();
  const left = Math.max(0, Math.floor(Math.min(...xs)) - 1);
  const right = Math.max(...xs) + 1;
  const top = Math.max(0, Math.floor(Math.min(...ys)) - 1);
  const bottom = Math.max(...ys) + 1;
  // Each pixel at four times four places, a line of them at a time.
  for (let y = top; y <= Math.min(height - 1, bottom); y++) {
    const lines = SUB_PLACES.map((dy) => crossingsAt(px, y + dy)).filter((line) => line.length > 0);
    if (lines.length === 0) continue;
    for (let x = left; x <= Math.min(width - 1, right); x++) {
      let hits = 0;
      for (const line of lines) for (const dx of SUB_PLACES) if (isInside(line, x + dx)) hits += 1;
      if (hits > 0) cover.set(y * width + x, hits / 16);
    }
  }
  return cover;
}
