import { between, clamp } from './back-lit.ts';
import type { Colour, PreparedEnd } from './end-scene.ts';
import { normal, pick, type Rng } from './rng.ts';

export type Place = readonly [x: number, y: number, z: number];

/** A prepared end as a body above a card: mm, z upwards from the paper. */
export interface Cable {
  readonly end: PreparedEnd;
  /** Where the glass ends, which way the cable goes from there (radians, 0 along x), and how it bends, 1/mm. */
  readonly tip: readonly [x: number, y: number];
  readonly heading: number;
  readonly bend: number;
  readonly layers: readonly Layer[];
  readonly strands: readonly Strand[];
  /** Signs printed on the jacket: where they begin, mm from its edge, and how long they are. */
  readonly signs: readonly (readonly [from: number, long: number])[];
  readonly sign: Colour;
  readonly gloss: number;
  readonly sharpness: number;
  /** How much further the jacket was cut on one side than on the other, mm, and how rough that cut is. */
  readonly askew: number;
  readonly ragged: number;
}
interface Layer {
  readonly of: 'jacket' | 'buffer' | 'coating' | 'glass';
  readonly from: number;
  readonly radius: number;
  readonly colour: Colour;
}
interface Strand {
  readonly at: number;
  readonly lean: number;
  readonly curl: number;
  readonly long: number;
  readonly radius: number;
}
export interface Lamp {
  /** Towards the lamp, of length 1. */
  readonly to: Place;
  readonly ambient: number;
  /** How wide the edge of a shadow is, mm a mm of height. */
  readonly soft: number;
}

/** Colours in linear light, 0 to 1. */
const JACKETS: readonly Colour[] = [
  [0.8, 0.8, 0.78],
  [0.72, 0.56, 0.03],
  [0.75, 0.25, 0.02],
  [0.03, 0.4, 0.5],
  [0.02, 0.02, 0.025],
  [0.3, 0.31, 0.33],
  [0.25, 0.04, 0.3],
  [0.02, 0.12, 0.45],
];
const BUFFERS: readonly Colour[] = [
  [0.78, 0.78, 0.74],
  [0.05, 0.2, 0.6],
  [0.7, 0.35, 0.04],
  [0.1, 0.4, 0.12],
  [0.6, 0.05, 0.05],
  [0.35, 0.36, 0.37],
];
const COATINGS: readonly Colour[] = [
  [0.5, 0.5, 0.46],
  [0.05, 0.15, 0.5],
  [0.6, 0.28, 0.04],
  [0.08, 0.3, 0.1],
  [0.4, 0.05, 0.05],
];
const YARN: Colour = [0.66, 0.5, 0.12];

export function randomCable(rng: Rng, end: PreparedEnd, tip: readonly [number, number]): Cable {
  const jacket = pick(rng, JACKETS);
  const isDark = jacket[0] + jacket[1] + jacket[2] < 0.9;
  const signs: [number, number][] = [];
  if (rng() < 0.6)
    for (let at = between(rng, 2, 8); at < 90; at += between(rng, 1.4, 3))
      signs.push([at, between(rng, 0.6, 1.3)]);
  return {
    end,
    tip,
    heading: normal(rng) * 0.02,
    bend: normal(rng) * 0.0015,
    layers: [
      { of: 'jacket', from: end.jacketMm, radius: end.jacketDiameterMm / 2, colour: jacket },
      { of: 'buffer', from: end.bufferMm, radius: 0.45, colour: pick(rng, BUFFERS) },
      { of: 'coating', from: end.glassMm, radius: 0.125, colour: pick(rng, COATINGS) },
      { of: 'glass', from: 0, radius: 0.0625, colour: [0.42, 0.43, 0.43] },
    ],
    strands: end.hasYarn ? strandsOf(rng) : [],
    signs,
    sign: isDark ? [0.7, 0.7, 0.68] : [0.03, 0.03, 0.03],
    gloss: between(rng, 0, 0.35),
    sharpness: between(rng, 10, 60),
    askew: normal(rng) * 0.05,
    ragged: between(rng, 0, 0.06),
  };
}
function strandsOf(rng: Rng): Strand[] {
  const isTrimmed = rng() < 0.4;
  const wide = between(rng, 0.05, 0.35);
  return Array.from({ length: Math.round(between(rng, 15, 50)) }, () => ({
    at: normal(rng) * 0.5,
    lean: normal(rng) * wide,
    curl: normal(rng) * 0.03,
    long: isTrimmed ? between(rng, 0.2, 1) : between(rng, 1, 9),
    radius: between(rng, 0.01, 0.03),
  }));
}

/** Along the cable from its tip, beside it, and which way it goes there. */
interface Beside {
  readonly s: number;
  readonly v: number;
  readonly turn: number;
}
/** The place of a cable next to one of the plane, by the circle on which it lies. */
function besideAt({ tip, heading, bend }: Cable, x: number, y: number): Beside {
  const dx = x - tip[0];
  const dy = y - tip[1];
  const along = dx * Math.cos(heading) + dy * Math.sin(heading);
  const across = dy * Math.cos(heading) - dx * Math.sin(heading);
  if (Math.abs(bend) < 1e-7) return { s: along, v: across, turn: heading };
  const radius = 1 / bend;
  const turn = Math.atan2(along * Math.sign(radius), (radius - across) * Math.sign(radius));
  return {
    s: radius * turn,
    v: radius - Math.sign(radius) * Math.hypot(along, radius - across),
    turn: heading + turn,
  };
}

/** Nothing of a cable, its yarn among it, lies further from its axis, mm. */
const FURTHEST = 6;
export function isNear(cable: Cable, eye: Place, ray: Place): boolean {
  const at = metAt(eye, ray, cable.layers[0]!.radius);
  const { s, v } = besideAt(cable, at[0], at[1]);
  return s > -2 && s < cable.end.jacketMm + 2.5 ? Math.abs(v) < FURTHEST : Math.abs(v) < 2.2 && s > 0;
}
/** Where a ray meets the plane so high above the paper. */
export function metAt(eye: Place, ray: Place, above: number): Place {
  const t = (above - eye[2]) / ray[2];
  return [eye[0] + t * ray[0], eye[1] + t * ray[1], above];
}

/** What is seen of a cable along a ray, or null where it passes by. Every layer is a tube with a flat end, all on one axis. */
export function cableSeen(cable: Cable, eye: Place, ray: Place, lamp: Lamp): Colour | null {
  const above = cable.layers[0]!.radius;
  const at = metAt(eye, ray, above);
  const { s, v, turn } = besideAt(cable, at[0], at[1]);
  if (s < -3 || Math.abs(v) > FURTHEST) return null;
  const along = ray[0] * Math.cos(turn) + ray[1] * Math.sin(turn);
  const across = ray[1] * Math.cos(turn) - ray[0] * Math.sin(turn);
  const size = across * across + ray[2] * ray[2];
  const b = (v * Math.abs(ray[2])) / Math.sqrt(size);
  const foot = -(v * across) / size;
  let nearest = Infinity;
  let colour: Colour | null = null;
  for (const layer of cable.layers) {
    const { radius } = layer;
    // The flat end that looks at the tip.
    const face = (layer.from - s) / along;
    const side = v + face * across;
    const up = face * ray[2];
    if (along > 0 && face < nearest && side * side + up * up < radius * radius) {
      nearest = face;
      colour = faceOf(cable, layer, side, up, lamp);
    }
    if (Math.abs(b) >= radius) continue;
    const hit = foot - Math.sqrt((radius * radius - b * b) / size);
    const sHit = s + hit * along;
    const n = (v + hit * across) / radius;
    const rough =
      layer.of === 'jacket' ? cable.askew * n + cable.ragged * Math.sin(17 * n + 5 * Math.sin(41 * n)) : 0;
    if (sHit < layer.from + rough || hit > nearest) continue;
    nearest = hit;
    colour = sideOf(cable, layer, sHit, n, (hit * ray[2]) / radius, turn, ray, lamp, b / radius);
  }
  return strandAt(cable, s, v, nearest, lamp) ?? colour;
}

function faceOf(cable: Cable, { of, colour }: Layer, side: number, up: number, { ambient }: Lamp): Colour {
  const lit = 0.55 * ambient + 0.3;
  // Yarn fills a jacket between its wall and the buffer.
  const own =
    of === 'jacket' && cable.end.hasYarn && Math.hypot(side, up) < 0.75 * cable.layers[0]!.radius
      ? YARN
      : colour;
  return [own[0] * lit, own[1] * lit, own[2] * lit];
}

function sideOf(
  cable: Cable,
  { of, from, colour }: Layer,
  s: number,
  n: number,
  up: number,
  turn: number,
  ray: Place,
  { to, ambient }: Lamp,
  through: number,
): Colour {
  if (of === 'glass' || of === 'coating') {
    // Clear: the paper is seen through its middle, and nothing through its sides.
    const middle = Math.exp(-((through / (of === 'glass' ? 0.35 : 0.45)) ** 2));
    const clear = of === 'glass' ? [0.62, 0.62, 0.61] : colour.map((c) => 0.35 + 0.4 * c);
    return [0, 1, 2].map((i) => colour[i]! * 0.35 * (1 - middle) + clear[i]! * middle) as unknown as Colour;
  }
  const normalX = -n * Math.sin(turn);
  const normalY = n * Math.cos(turn);
  const facing = Math.max(0, normalX * to[0] + normalY * to[1] + up * to[2]);
  // What paper and sky throw at it from all sides: least from below.
  const sky = ambient * (0.62 + 0.38 * up);
  const lit = sky + (1 - ambient) * facing;
  const half = [to[0] - ray[0], to[1] - ray[1], to[2] - ray[2]] as const;
  const size = Math.hypot(...half);
  const toHalf = Math.max(0, (normalX * half[0] + normalY * half[1] + up * half[2]) / size);
  const shine = cable.gloss * toHalf ** cable.sharpness;
  const at = s - from;
  const isSign =
    of === 'jacket' && Math.abs(n) < 0.4 && cable.signs.some(([a, long]) => at > a && at < a + long);
  const own = isSign ? cable.sign : colour;
  return [own[0] * lit + shine, own[1] * lit + shine, own[2] * lit + shine];
}

function strandAt(
  { strands, end }: Cable,
  s: number,
  v: number,
  nearest: number,
  { ambient }: Lamp,
): Colour | null {
  const back = end.jacketMm - s;
  if (back < -0.1 || back > 9.5) return null;
  for (const { at, lean, curl, long, radius } of strands) {
    if (back > long) continue;
    if (Math.abs(v - at - lean * back - curl * back * back) > radius) continue;
    if (nearest < Infinity && (at * 1000) % 2 > 1) continue;
    const lit = ambient + 0.7 * (1 - ambient);
    return [YARN[0] * lit, YARN[1] * lit, YARN[2] * lit];
  }
  return null;
}

/** Share of the lamp's light that a cable leaves a place of the paper. */
export function lightPast(cable: Cable, x: number, y: number, { to, soft }: Lamp): number {
  const above = cable.layers[0]!.radius;
  // The way to the lamp meets the plane of the axis here.
  const up = above / to[2];
  const { s, v, turn } = besideAt(cable, x + up * to[0], y + up * to[1]);
  if (s < -1 || Math.abs(v) > 8) return 1;
  const across = to[1] * Math.cos(turn) - to[0] * Math.sin(turn);
  const b = Math.abs(v * to[2]) / Math.hypot(across, to[2]);
  const edge = 0.05 + soft * above;
  let most = 0;
  for (const { from, radius } of cable.layers) {
    const inside = clamp(0.5 + (s - from) / edge);
    // What a strip of this width takes of a lamp so wide.
    const taken = clamp(0.5 + (radius - b) / edge) - clamp(0.5 - (radius + b) / edge);
    most = Math.max(most, inside * taken);
  }
  return 1 - most;
}
