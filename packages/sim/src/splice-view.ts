import { between, clamp, glassAt, type Optics, seenBackLit } from './back-lit.ts';
import { normal, pick, type Rng } from './rng.ts';

/** What a joint can look like after the arc. */
export const SPLICE_LOOKS = ['good', 'offset', 'angle', 'neck', 'bulge', 'bubble', 'line'] as const;
export type SpliceLook = (typeof SPLICE_LOOKS)[number];

/** What one view shows: the step and the turn of the axis and the shift of the core in its plane. */
export interface SpliceSide {
  readonly offsetUm: number;
  readonly coreOffsetUm: number;
  readonly angleDeg: number;
  /** Where the joint lies across the picture, share of the width. */
  readonly at: number;
}
export interface SpliceScene extends Optics {
  readonly diameterUm: number;
  readonly look: SpliceLook;
  readonly sides: readonly SpliceSide[];
  readonly changeUm: number;
  /** Standard deviation along the axis of the bell that the change makes. */
  readonly changeReachUm: number;
  /** Place along and across from the joint, µm. */
  readonly bubble: { readonly diameterUm: number; readonly along: number; readonly across: number } | null;
  /** By which share of the light the line across the joint is darker. */
  readonly lineDepth: number;
  readonly tiltDeg: number;
  /** Radius of the curl on both sides, mm; straight where it is null. */
  readonly curlMm: readonly [number, number] | null;
  readonly coreContrast: number;
}
export interface SpliceView {
  readonly scene: SpliceScene;
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
  readonly offsetUm: number;
  readonly coreOffsetUm: number;
  readonly angleDeg: number;
}

/** The cladding shows its core so much larger. */
const MAGNIFIES = 1.458;
const CORE_RADIUS_UM = 4.4;
/** Rows of the dark line between two views. */
const BETWEEN = 4;
/** Over so many µm the arc draws a step out. */
const DRAWN_UM = 9;

/** A joint as a splicer's screen shows it, in one view or in two. */
export function randomSpliceScene(rng: Rng, more: Partial<SpliceScene> = {}): SpliceScene {
  const width = more.width ?? pick(rng, [640, 800, 1024]);
  const height = more.height ?? Math.round((width * 3) / 4);
  const look = more.look ?? pick(rng, ['good', 'good', 'good', ...SPLICE_LOOKS]);
  const views = rng() < 0.45 ? 2 : 1;
  const way = between(rng, 0, 2 * Math.PI);
  const size = look === 'offset' ? between(rng, 4, 18) : Math.abs(normal(rng)) * 0.45;
  const core = { size: Math.abs(normal(rng)) * 0.35, way: between(rng, 0, 2 * Math.PI) };
  const turn = look === 'angle' ? between(rng, 1.6, 5) : Math.abs(normal(rng)) * 0.12;
  const turnWay = between(rng, 0, 2 * Math.PI);
  const sides = Array.from({ length: views }, (_, i): SpliceSide => {
    const quarter = (i * Math.PI) / 2;
    // One view alone is turned so that it shows the fault.
    const of = (amount: number, angle: number, isFault: boolean): number =>
      views === 1 && isFault ? amount * Math.sign(Math.cos(angle) || 1) : amount * Math.cos(angle - quarter);
    const offsetUm = of(size, way, look === 'offset');
    return {
      offsetUm,
      coreOffsetUm: offsetUm + of(core.size, core.way, false),
      angleDeg: of(turn, turnWay, look === 'angle'),
      at: 0.5 + between(rng, -0.1, 0.1),
    };
  });
  return {
    width,
    height,
    umPerPx: between(rng, 260, 700) / (height / views),
    diameterUm: 125 + between(rng, -0.7, 0.7),
    look,
    sides,
    changeUm:
      look === 'neck' ? -between(rng, 6, 40) : look === 'bulge' ? between(rng, 6, 30) : normal(rng) * 0.4,
    changeReachUm: between(rng, 11, 27),
    bubble:
      look === 'bubble'
        ? { diameterUm: between(rng, 9, 28), along: normal(rng) * 2, across: between(rng, -12, 12) }
        : null,
    lineDepth: look === 'line' ? between(rng, 0.25, 0.6) : 0,
    tiltDeg: normal(rng) * 1.1,
    curlMm: rng() < 0.4 ? [curl(rng), curl(rng)] : null,
    lightLevel: between(rng, 135, 215),
    darkShare: between(rng, 0.06, 0.28),
    blurUm: between(rng, 0.5, 1.8),
    noise: between(rng, 0.8, 3),
    coreContrast: between(rng, 0.15, 0.32),
    ...more,
  };
}
const curl = (rng: Rng): number => (rng() < 0.5 ? -1 : 1) * between(rng, 110, 300);

/** Draws a joint: a fiber that goes through, stepped, turned and changed at the joint, one view or two one above the other. */
export function drawSplice(scene: SpliceScene, rng: Rng): SpliceView {
  const { sides, width } = scene;
  const isPair = sides.length === 2;
  const rows = isPair ? Math.floor((scene.height - BETWEEN) / 2) : scene.height;
  const parts = sides.map((side) => drawnSide(scene, side, rows, rng));
  const height = isPair ? 2 * rows + BETWEEN : rows;
  const data = new Uint8Array(width * height).fill(DARK_LINE);
  parts.forEach((part, i) => data.set(part, i * (rows + BETWEEN) * width));
  const whole = (of: (s: SpliceSide) => number): number =>
    isPair ? Math.hypot(...sides.map(of)) : Math.abs(of(sides[0]!));
  return {
    scene,
    width,
    height,
    data,
    offsetUm: whole((s) => s.offsetUm),
    coreOffsetUm: whole((s) => s.coreOffsetUm),
    angleDeg: whole((s) => s.angleDeg),
  };
}
const DARK_LINE = 18;

function drawnSide(scene: SpliceScene, side: SpliceSide, rows: number, rng: Rng): Uint8Array {
  const { width, umPerPx } = scene;
  const share = new Float32Array(width * rows);
  const lies = rows / 2 + between(rng, -0.04, 0.04) * rows;
  const slope = Math.tan((scene.tiltDeg * Math.PI) / 180);
  const turned = Math.tan(((scene.tiltDeg + side.angleDeg) * Math.PI) / 180) - slope;
  for (let x = 0; x < width; x++) {
    const u = (x - side.at * width) * umPerPx;
    // From one fiber to the other without a corner.
    const way = clamp(u / (2 * DRAWN_UM) + 0.5);
    const eased = way * way * (3 - 2 * way);
    const radius = scene.curlMm?.[u < 0 ? 0 : 1];
    const bent = radius === undefined ? 0 : (u * u) / (2000 * radius);
    const past = u > DRAWN_UM ? u : u < -DRAWN_UM ? 0 : (u + DRAWN_UM) ** 2 / (4 * DRAWN_UM);
    const axis = slope * u + turned * past + side.offsetUm * eased + bent;
    const bell = Math.exp(-(u * u) / (2 * scene.changeReachUm ** 2));
    const half = (scene.diameterUm + scene.changeUm * bell) / 2;
    const slant = Math.cos(Math.atan(slope + turned * way));
    const core = MAGNIFIES * (side.coreOffsetUm - side.offsetUm) * eased;
    for (let y = 0; y < rows; y++) {
      const v = ((y - lies) * umPerPx - axis) * slant;
      share[y * width + x] = shareAt(scene, u + slope * v, v, half, core);
    }
  }
  return seenBackLit(share, { ...scene, height: rows }, rng);
}

/** Share of the light at a place along (from the joint) and across (from the axis) a fiber, µm. */
function shareAt(scene: SpliceScene, u: number, v: number, half: number, core: number): number {
  const across = clamp((half - Math.abs(v)) / scene.umPerPx + 0.5);
  if (across === 0) return 1;
  let glass = glassAt(Math.abs(v) / half, scene.darkShare);
  const inCore = clamp((MAGNIFIES * CORE_RADIUS_UM - Math.abs(v - core)) / 1.2 + 0.5);
  glass *= 1 + scene.coreContrast * inCore;
  if (scene.lineDepth > 0) glass *= 1 - scene.lineDepth * Math.exp(-((u / 1.3) ** 2));
  const { bubble } = scene;
  if (bubble) {
    const away = Math.hypot(u - bubble.along, v - bubble.across) / (bubble.diameterUm / 2);
    // A hollow sends the light away at its rim and lets it through in its middle.
    const rim = clamp((1 - away) * 6 + 0.5);
    glass *= 1 - 0.55 * rim * (away > 0.45 ? 1 : 0.5);
  }
  return 1 + across * (glass - 1);
}
