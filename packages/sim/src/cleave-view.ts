import { between, clamp, glassAt, type Optics, seenBackLit } from './back-lit.ts';
import { normal, pick, type Rng } from './rng.ts';

/** What an end of a fiber can look like from the side. */
export const CLEAVE_LOOKS = ['mirror', 'mist', 'hackle', 'lip', 'chip', 'broken'] as const;
export type CleaveLook = (typeof CLEAVE_LOOKS)[number];

/** One end as it is: lengths in µm, angles in degrees. */
export interface CleaveEnd {
  readonly side: 'left' | 'right';
  readonly look: CleaveLook;
  /** Angle of its face, positive when the upper corner sticks out further. */
  readonly angleDeg: number;
  /** Tilt of its axis in the picture, upwards to the right positive. */
  readonly axisDeg: number;
  /** At which edge its fault is. */
  readonly edge: 'up' | 'down';
  readonly sizeUm: number;
}
export interface CleaveScene extends Optics {
  readonly diameterUm: number;
  readonly ends: readonly CleaveEnd[];
  /** Between two ends along the axis, µm. */
  readonly gapUm: number;
}
export interface CleaveView {
  readonly scene: CleaveScene;
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/** Points of a rough outline across the fiber; straight between them. */
const KNOTS = 48;

/** A scene such as a cleave scope or a splicer’s screen shows: one end, or two that face each other. */
export function randomCleaveScene(rng: Rng, more: Partial<CleaveScene> = {}): CleaveScene {
  const width = pick(rng, [640, 720, 800, 1024, 1280]);
  const height = Math.round((width * 3) / 4);
  const isPair = rng() < 0.45;
  const tilt = between(rng, -6, 6);
  const end = (side: CleaveEnd['side']): CleaveEnd => ({
    side,
    look: pick(rng, ['mirror', 'mirror', 'mirror', ...CLEAVE_LOOKS]),
    angleDeg: normal(rng) * 1.2,
    axisDeg: tilt + normal(rng) * 0.4,
    edge: rng() < 0.5 ? 'up' : 'down',
    sizeUm: between(rng, 5, 16),
  });
  const sides: CleaveEnd['side'][] = isPair ? ['left', 'right'] : [rng() < 0.5 ? 'left' : 'right'];
  return {
    width,
    height,
    umPerPx: between(rng, 300, 800) / height,
    diameterUm: 125 + between(rng, -0.7, 0.7),
    ends: sides.map(end),
    gapUm: between(rng, 12, 60),
    lightLevel: between(rng, 150, 225),
    darkShare: between(rng, 0.05, 0.3),
    blurUm: between(rng, 0.5, 2.2),
    noise: between(rng, 0.8, 3),
    ...more,
  };
}

/** Draws a scene: back-lit glass with dark sides and a bright middle, spread by the lens, with fringes, on uneven light, with noise. */
export function drawCleave(scene: CleaveScene, rng: Rng): CleaveView {
  const { width, height, umPerPx } = scene;
  const radius = scene.diameterUm / 2;
  const drawn = scene.ends.map((end) => drawnEnd(scene, end, rng));
  const share = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++)
      share[y * width + x] = shareAt(drawn, x, y, radius, umPerPx, scene.darkShare);
  }
  const data = seenBackLit(share, scene, rng);
  return { scene, width, height, data };
}
interface DrawnEnd {
  readonly side: CleaveEnd['side'];
  /** Where the middle of the face lies, pixels, and the direction outwards and upwards. */
  readonly x: number;
  readonly y: number;
  readonly out: readonly [number, number];
  readonly up: readonly [number, number];
  readonly slope: number;
  /** By how much the face sticks out of its line at the knots across it, µm, from the lower edge to the upper. */
  readonly outline: readonly number[];
}

function drawnEnd(scene: CleaveScene, end: CleaveEnd, rng: Rng): DrawnEnd {
  const { width, height, umPerPx, ends, gapUm } = scene;
  const turn = (end.axisDeg * Math.PI) / 180;
  const sign = end.side === 'left' ? 1 : -1;
  const isPair = ends.length === 2;
  const apart = isPair ? (sign * gapUm) / 2 / umPerPx : -sign * width * between(rng, -0.05, 0.2);
  return {
    side: end.side,
    x: width / 2 - apart,
    y: height / 2 + (isPair ? between(rng, -2, 2) / umPerPx : 0),
    out: [sign * Math.cos(turn), -sign * Math.sin(turn)],
    up: [-Math.sin(turn), -Math.cos(turn)],
    slope: Math.tan((end.angleDeg * Math.PI) / 180),
    outline: outlineOf(end, rng),
  };
}

/** How the faces differ from a line: a rough part, a tongue left on, a corner gone, or nothing straight at all. */
function outlineOf({ look, edge, sizeUm }: CleaveEnd, rng: Rng): number[] {
  const part = look === 'mist' ? 0.32 : 0.38;
  return Array.from({ length: KNOTS + 1 }, (_, k) => {
    const fromEdge = edge === 'up' ? 1 - k / KNOTS : k / KNOTS;
    if (look === 'mist') return fromEdge < part ? normal(rng) * 0.75 : 0;
    if (look === 'hackle') return fromEdge < part ? normal(rng) * 0.3 * sizeUm : 0;
    if (look === 'lip') return fromEdge < 0.12 ? sizeUm * (1 - fromEdge / 0.12) : 0;
    if (look === 'chip') return fromEdge < 0.2 ? -2 * sizeUm * (1 - fromEdge / 0.2) : 0;
    return look === 'broken' ? normal(rng) * 9 : 0;
  });
}

/** Share of the light at a place of the picture: 1 beside the fibers. */
function shareAt(
  ends: readonly DrawnEnd[],
  x: number,
  y: number,
  radius: number,
  umPerPx: number,
  darkShare: number,
): number {
  let share = 1;
  for (const end of ends) {
    const dx = (x - end.x) * umPerPx;
    const dy = (y - end.y) * umPerPx;
    const v = dx * end.up[0] + dy * end.up[1];
    const s = dx * end.out[0] + dy * end.out[1];
    // Pixels on an edge show a part of it.
    const across = clamp((radius - Math.abs(v)) / umPerPx + 0.5);
    if (across === 0) continue;
    const k = ((v / radius + 1) / 2) * KNOTS;
    const i = Math.max(0, Math.min(KNOTS - 1, Math.floor(k)));
    const rough = end.outline[i]! + (end.outline[i + 1]! - end.outline[i]!) * (k - i);
    const depth = end.slope * v + rough - s;
    const along = clamp(depth / umPerPx + 0.5);
    if (along === 0) continue;
    const glass = depth < 1 ? darkShare + 0.1 : glassAt(Math.abs(v) / radius, darkShare);
    share = Math.min(share, 1 + across * along * (glass - 1));
  }
  return share;
}
