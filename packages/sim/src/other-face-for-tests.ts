import { boxOf, cloudsOf, discBlur, shareOf } from './draw-for-tests.ts';
import {
  CLADDING_RADIUS_UM,
  fromOutline,
  placeWithin,
  randomScratch,
  type TrueFeature,
} from './face-features.ts';
import { inByte } from './light.ts';
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
      const r = Math.sqrt(ux * ux + uy * uy);
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
  const data = new Uint8Array(soft.length);
  for (let i = 0; i < data.length; i++) {
    const v = soft[i]!;
    data[i] = inByte(v + Math.sqrt(1 + GAIN * Math.max(0, v)) * normal(rng));
  }
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

/** Beyond this of the cladding's edge there is the ferrule alone, um. */
const FAR_UM = 4;

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
    const r = Math.sqrt(x * x + y * y);
    if (r > CLADDING_RADIUS_UM + FAR_UM) return ferrule;
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
