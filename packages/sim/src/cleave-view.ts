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
export interface CleaveScene {
  readonly width: number;
  readonly height: number;
  readonly umPerPx: number;
  readonly diameterUm: number;
  readonly ends: readonly CleaveEnd[];
  /** Between two ends along the axis, µm. */
  readonly gapUm: number;
  readonly lightLevel: number;
  readonly darkShare: number;
  readonly blurUm: number;
  readonly noise: number;
}
export interface CleaveView {
  readonly scene: CleaveScene;
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

const between = (rng: Rng, from: number, to: number): number => from + (to - from) * rng();
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
  // A small lamp lights nearly coherently: the lens spreads the amplitude, and the square of that is seen (a quarter at a sharp edge).
  const amplitude = share.map(Math.sqrt);
  const sharp = spread(amplitude, width, height, scene.blurUm / umPerPx);
  const wide = spread(amplitude, width, height, (2.2 * scene.blurUm) / umPerPx);
  const even = spread(share, width, height, scene.blurUm / umPerPx);
  const lean = between(rng, -0.12, 0.12);
  const hollow = between(rng, 0, 0.25);
  const data = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const u = x / width - 0.5;
      const v = y / height - 0.5;
      const light = scene.lightLevel * (1 + lean * u - hollow * (u * u + v * v));
      // A lens passes fine detail a little stronger than coarse: beside an edge the light rises over itself.
      const field = sharp[i]! + FRINGE * (sharp[i]! - wide[i]!);
      const seen = COHERENT * field * field + (1 - COHERENT) * even[i]!;
      data[i] = Math.max(0, Math.min(255, Math.round(light * seen + scene.noise * normal(rng))));
    }
  }
  return { scene, width, height, data };
}
const FRINGE = 0.12;
const COHERENT = 0.85;

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
const clamp = (t: number): number => Math.max(0, Math.min(1, t));

/** A cylinder of glass as a lens: its sides send the light elsewhere, its middle gathers it. */
function glassAt(place: number, darkShare: number): number {
  const middle = 0.82 + 0.35 * Math.exp(-((place / 0.07) ** 2));
  const edge = 1 / (1 + Math.exp((place - 0.36) / 0.035));
  return darkShare + (middle - darkShare) * edge + 0.04 * place;
}

/** Gaussian spread, columns after rows. */
function spread(from: Float32Array, width: number, height: number, sigma: number): Float32Array {
  const reach = Math.max(1, Math.ceil(3 * sigma));
  const weights = Array.from({ length: 2 * reach + 1 }, (_, k) =>
    Math.exp(-((k - reach) ** 2) / (2 * sigma * sigma)),
  );
  const sum = weights.reduce((a, b) => a + b, 0);
  const pass = (
    source: Float32Array,
    step: number,
    length: number,
    other: number,
    skip: number,
  ): Float32Array => {
    const to = new Float32Array(source.length);
    for (let o = 0; o < other; o++) {
      for (let i = 0; i < length; i++) {
        let total = 0;
        for (let k = -reach; k <= reach; k++) {
          const at = Math.max(0, Math.min(length - 1, i + k));
          total += weights[k + reach]! * source[o * skip + at * step]!;
        }
        to[o * skip + i * step] = total / sum;
      }
    }
    return to;
  };
  return pass(pass(from, 1, width, height, width), width, height, width, 1);
}
