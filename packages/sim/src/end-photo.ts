import { between, clamp } from './back-lit.ts';
import { type Lens, lensOf, rayOf } from './end-lens.ts';
import { normal, pick, type Rng } from './rng.ts';

/** What is wrong with a photograph of an end, if anything is. */
export const END_FAULTS = [
  'none',
  'few_marks',
  'print_scale',
  'blurred',
  'glare',
  'bent',
  'no_cable',
  'two_cables',
  'other_card',
  'mirrored',
] as const;
export type EndFault = (typeof END_FAULTS)[number];

type Colour = readonly [red: number, green: number, blue: number];
/** A prepared end: lengths along the cable from the end of the glass, mm. */
export interface PreparedEnd {
  readonly jacketMm: number;
  readonly bufferMm: number;
  readonly glassMm: number;
  readonly jacketDiameterMm: number;
  readonly jacket: Colour;
  readonly buffer: Colour;
  readonly hasYarn: boolean;
}
/** A picture of the card, grey from 0 to 255, cut to its size. */
export interface CardPicture {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly axis: { readonly fromX: number; readonly toX: number; readonly y: number };
  /** Places of the marks, of which some may be covered. */
  readonly marks: readonly (readonly [x: number, y: number])[];
}
export interface EndScene {
  readonly width: number;
  readonly height: number;
  readonly end: PreparedEnd;
  readonly fault: EndFault;
  readonly tipMm: number;
  readonly isFromLeft: boolean;
  /** How far the cable lies beside the axis at the tip, how it leans there, and its radius of bend, mm (infinite where it is straight). */
  readonly besideMm: number;
  readonly lean: number;
  readonly bendMm: number;
  readonly tiltDeg: number;
  readonly tiltWay: number;
  readonly rollDeg: number;
  /** Share of the picture's long side that the card's width takes. */
  readonly fills: number;
  readonly k1: number;
  readonly print: number;
  readonly covered: number;
  readonly blurPx: number;
  readonly noise: number;
  readonly desk: Colour;
  readonly light: number;
}
export interface EndPhoto {
  readonly scene: EndScene;
  readonly width: number;
  readonly height: number;
  /** Red, green, blue and 255 for each pixel. */
  readonly data: Uint8Array;
}

const JACKETS: readonly Colour[] = [
  [225, 200, 40],
  [230, 120, 40],
  [60, 170, 190],
  [40, 45, 50],
  [130, 60, 140],
  [150, 155, 160],
];
const BUFFERS: readonly Colour[] = [
  [200, 205, 210],
  [70, 120, 200],
  [225, 170, 60],
  [90, 170, 90],
  [205, 70, 60],
];
const DESKS: readonly Colour[] = [
  [70, 75, 80],
  [120, 95, 70],
  [40, 60, 90],
  [160, 140, 110],
  [30, 32, 34],
];

/** A hand-held photograph of an end on its card. */
export function randomEndScene(rng: Rng, more: Partial<EndScene> = {}): EndScene {
  const megapixels = pick(rng, [2, 12]);
  const width = more.width ?? (megapixels === 2 ? 1632 : 4032);
  const height = more.height ?? (megapixels === 2 ? 1224 : 3024);
  const glassMm = between(rng, 6, 15);
  const bufferMm = glassMm + between(rng, 2, 12);
  return {
    width,
    height,
    end: {
      glassMm,
      bufferMm,
      jacketMm: bufferMm + between(rng, 8, 18),
      jacketDiameterMm: pick(rng, [2, 3, 3]),
      jacket: pick(rng, JACKETS),
      buffer: pick(rng, BUFFERS),
      hasYarn: rng() < 0.5,
    },
    fault: rng() < 0.85 ? 'none' : pick(rng, END_FAULTS.slice(1)),
    tipMm: 14 + between(rng, -4, 8),
    isFromLeft: rng() < 0.2,
    besideMm: normal(rng) * 0.8,
    lean: normal(rng) * 0.012,
    bendMm: (rng() < 0.5 ? -1 : 1) * between(rng, 250, 2500),
    tiltDeg: Math.abs(normal(rng)) * 14,
    tiltWay: between(rng, 0, 360),
    rollDeg: rng() < 0.7 ? normal(rng) * 10 : between(rng, -180, 180),
    fills: between(rng, 0.6, 0.85),
    k1: normal(rng) * 0.05,
    print: 1 + normal(rng) * 0.003,
    covered: rng() < 0.3 ? Math.floor(rng() * 8) : -1,
    blurPx: between(rng, 0.5, 1.1) * (width > 3000 ? 1.6 : 1),
    noise: between(rng, 1, 4),
    desk: pick(rng, DESKS),
    light: between(rng, 180, 228),
    ...more,
  };
}

/** Draws the photograph: for every pixel the ray from the eye meets cable, card or desk. */
export function drawEnd(card: CardPicture, scene: EndScene, rng: Rng): EndPhoto {
  const { width, height, fault } = scene;
  const lens = lensOf(scene, card);
  const covered = new Set(
    fault === 'few_marks' ? [0, 1, 2, 4, 5, 7] : scene.covered >= 0 ? [scene.covered] : [],
  );
  const print =
    fault === 'print_scale' ? (rng() < 0.5 ? 1 : -1) * between(rng, 0.018, 0.05) + 1 : scene.print;
  const strands = Array.from({ length: 26 }, () => ({
    at: normal(rng) * 0.6,
    lean: normal(rng) * 0.16,
    long: between(rng, 2, 7),
  }));
  const glare = { x: scene.tipMm + between(rng, 2, 10), r: between(rng, 7, 12) };
  const details: Details = { covered, print, strands, glare };
  const data = new Uint8Array(4 * width * height);
  const line = new Float32Array(3 * width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const seenX = fault === 'mirrored' ? width - 1 - x : x;
      const i = 3 * (y * width + x);
      const isNear = isNearCable(card, scene, lens, rayOf(lens, seenX, y));
      // A fiber is thinner than a pixel: near it each is seen by several rays.
      const n = isNear ? RAYS : 1;
      for (let a = 0; a < n; a++) {
        for (let b = 0; b < n; b++) {
          const ray = rayOf(lens, seenX + (a + 0.5) / n - 0.5, y + (b + 0.5) / n - 0.5);
          const c = seenBy(card, scene, lens, ray, details);
          for (let k = 0; k < 3; k++) line[i + k]! += c[k]! / (n * n);
        }
      }
    }
  }
  const blur = fault === 'blurred' ? Math.max(6, width / 200) : scene.blurPx;
  const soft = spread3(line, width, height, blur);
  for (let i = 0, k = 0; i < soft.length; i += 3, k += 4) {
    for (let c = 0; c < 3; c++)
      data[k + c] = Math.max(0, Math.min(255, Math.round(soft[i + c]! + scene.noise * normal(rng))));
    data[k + 3] = 255;
  }
  return { scene, width, height, data };
}

const RAYS = 4;
function isNearCable(
  card: CardPicture,
  scene: EndScene,
  { eye }: Lens,
  ray: readonly [number, number, number],
): boolean {
  const above = scene.end.jacketDiameterMm / 2;
  const t = (-above - eye[2]) / ray[2];
  const x = eye[0] + t * ray[0];
  const beside = Math.abs(eye[1] + t * ray[1] - middleOf(card, scene, x));
  const along = alongOf(card, scene, x);
  return along > -1 && along < scene.end.jacketMm + 1 && beside < above + 0.4;
}

interface Details {
  readonly covered: ReadonlySet<number>;
  readonly print: number;
  readonly strands: readonly { readonly at: number; readonly lean: number; readonly long: number }[];
  readonly glare: { readonly x: number; readonly r: number };
}

function seenBy(
  card: CardPicture,
  scene: EndScene,
  { eye }: Lens,
  ray: readonly [number, number, number],
  details: Details,
): Colour {
  const { end, fault } = scene;
  const on = (above: number): readonly [number, number] => {
    const t = (-above - eye[2]) / ray[2];
    return [eye[0] + t * ray[0], eye[1] + t * ray[1]];
  };
  if (fault !== 'no_cable') {
    // The cable's axis stands off the paper by its radius; on the plane through it the ray shows how far beside it passes.
    const height = end.jacketDiameterMm / 2;
    const at = on(height);
    const own = cableAt(card, scene, at[0], at[1], details);
    if (own) {
      const shine = glareAt(card, scene, at[0], at[1], details.glare);
      return [own[0] + shine, own[1] + shine, own[2] + shine];
    }
    if (fault === 'two_cables') {
      const second = cableAt(card, scene, at[0], at[1] - 6 * (scene.besideMm > 0 ? -1 : 1), details);
      if (second) return second;
    }
  }
  const [x, y] = on(fault === 'bent' ? bentBy(card, on(0)[0]) : 0);
  return cardAt(card, scene, x, y, details);
}
const bentBy = (card: CardPicture, x: number): number => 9 * Math.sin(Math.PI * clamp(x / card.widthMm));

function cardAt(
  card: CardPicture,
  scene: EndScene,
  x: number,
  y: number,
  { covered, print, glare }: Details,
): Colour {
  const { widthMm, heightMm } = card;
  if (x < 0 || y < 0 || x > widthMm || y > heightMm) {
    const grain = 6 * Math.sin(x * 0.7 + 3 * Math.sin(y * 0.13)) + 4 * Math.sin(y * 1.9);
    return [scene.desk[0] + grain, scene.desk[1] + grain, scene.desk[2] + grain];
  }
  for (const i of covered) {
    const mark = card.marks[i]!;
    if (Math.hypot(x - mark[0], y - mark[1]) < 6.5) return [205, 160, 135];
  }
  const light = scene.light * (1 - 0.0015 * (x - widthMm / 2) - 0.001 * (y - heightMm / 2));
  const px = (widthMm / 2 + (x - widthMm / 2) / print) * (card.width / widthMm);
  const py = (heightMm / 2 + (y - heightMm / 2) / print) * (card.height / heightMm);
  const level = paperAt(card, px - 0.5, py - 0.5) / 255;
  // The cable's shadow on the paper.
  const axis = middleOf(card, scene, x);
  const fromTip = alongOf(card, scene, x);
  const radius =
    fromTip > scene.end.jacketMm ? scene.end.jacketDiameterMm / 2 : fromTip > scene.end.bufferMm ? 0.45 : 0;
  const shade =
    scene.fault === 'no_cable' || radius === 0
      ? 0
      : 0.16 * Math.exp(-(((y - axis - radius * 0.9) / (radius * 1.1)) ** 2));
  const bright = glareAt(card, scene, x, y, glare);
  const ink = 0.1 + 0.9 * level;
  const lit = light * ink * (1 - shade) + bright;
  return [lit, lit * 0.99, lit * 0.96];
}

/** What a lamp adds where it is thrown back. */
function glareAt(card: CardPicture, scene: EndScene, x: number, y: number, glare: Details['glare']): number {
  if (scene.fault !== 'glare') return 0;
  const at = scene.isFromLeft ? card.widthMm - glare.x : glare.x;
  return 140 * Math.exp(-(((x - at) / glare.r) ** 4) - ((y - card.axis.y) / glare.r) ** 4);
}

function paperAt({ width, height, data }: CardPicture, x: number, y: number): number {
  const x0 = Math.floor(x);
  const y0 = Math.floor(y);
  if (x0 < 0 || y0 < 0 || x0 >= width - 1 || y0 >= height - 1) return 255;
  const fx = x - x0;
  const fy = y - y0;
  const i = y0 * width + x0;
  return (
    (data[i]! * (1 - fx) + data[i + 1]! * fx) * (1 - fy) +
    (data[i + width]! * (1 - fx) + data[i + width + 1]! * fx) * fy
  );
}

/** From the tip along the axis, and how far beside the axis the cable lies there. */
const alongOf = (card: CardPicture, scene: EndScene, x: number): number =>
  scene.isFromLeft ? card.widthMm - scene.tipMm - x : x - scene.tipMm;
function middleOf(card: CardPicture, scene: EndScene, x: number): number {
  const s = alongOf(card, scene, x);
  return card.axis.y + scene.besideMm + scene.lean * s + (s * s) / (2 * scene.bendMm);
}

/** The colour of the cable at a place, or null where it is not. */
function cableAt(card: CardPicture, scene: EndScene, x: number, y: number, details: Details): Colour | null {
  const { end } = scene;
  const s0 = alongOf(card, scene, x);
  const slope = scene.lean + s0 / scene.bendMm;
  const slant = Math.cos(Math.atan(slope));
  const v = (y - middleOf(card, scene, x)) * slant;
  // Length along the curve: the foot of the perpendicular, then the arc.
  const foot =
    s0 + v * Math.sin(Math.atan(slope)) * (scene.isFromLeft ? -1 : 1) * (scene.isFromLeft ? -1 : 1);
  const s =
    foot * (1 + scene.lean ** 2 / 2) +
    (scene.lean * foot ** 2) / (2 * scene.bendMm) +
    foot ** 3 / (6 * scene.bendMm ** 2);
  if (s < 0) return null;
  const away = Math.abs(v);
  if (s > end.jacketMm && away < end.jacketDiameterMm / 2)
    return shaded(end.jacket, v / (end.jacketDiameterMm / 2), scene);
  if (s > end.bufferMm && away < 0.45) return shaded(end.buffer, v / 0.45, scene);
  if (end.hasYarn && s < end.jacketMm) {
    for (const { at, lean, long } of details.strands) {
      const back = end.jacketMm - s;
      if (back < long && Math.abs(v - at - lean * back * Math.sign(at)) < 0.035) return [215, 190, 70];
    }
  }
  const glass = scene.light;
  if (s <= end.bufferMm && s > end.glassMm && away < 0.125) {
    const dark = 0.5 + 0.3 * Math.exp(-((v / 0.05) ** 2));
    return [glass * dark, glass * dark * 0.99, glass * dark * 0.95];
  }
  if (s <= end.glassMm && away < 0.0625) {
    const dark = 0.45 + 0.5 * Math.exp(-((v / 0.02) ** 2));
    return [glass * dark, glass * dark * 0.99, glass * dark * 0.97];
  }
  return null;
}

function shaded(colour: Colour, place: number, { light }: EndScene): Colour {
  const face = Math.sqrt(Math.max(0, 1 - place * place));
  const lit = (light / 230) * (0.45 + 0.6 * face);
  const shine = 35 * Math.exp(-(((place + 0.35) / 0.12) ** 2));
  return [colour[0] * lit + shine, colour[1] * lit + shine, colour[2] * lit + shine];
}

function spread3(from: Float32Array, width: number, height: number, sigma: number): Float32Array {
  const reach = Math.max(1, Math.ceil(2.6 * sigma));
  const weights = Array.from({ length: 2 * reach + 1 }, (_, k) =>
    Math.exp(-((k - reach) ** 2) / (2 * sigma * sigma)),
  );
  const sum = weights.reduce((a, b) => a + b, 0);
  const pass = (source: Float32Array, isAlong: boolean): Float32Array => {
    const to = new Float32Array(source.length);
    const step = isAlong ? 3 : 3 * width;
    const last = (isAlong ? width : height) - 1;
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const at = isAlong ? x : y;
        const i = 3 * (y * width + x);
        let r = 0;
        let g = 0;
        let b = 0;
        for (let k = -reach; k <= reach; k++) {
          const along = at + k < 0 ? -at : at + k > last ? last - at : k;
          const j = i + along * step;
          const w = weights[k + reach]!;
          r += w * source[j]!;
          g += w * source[j + 1]!;
          b += w * source[j + 2]!;
        }
        to[i] = r / sum;
        to[i + 1] = g / sum;
        to[i + 2] = b / sum;
      }
    }
    return to;
  };
  return pass(pass(from, true), false);
}
