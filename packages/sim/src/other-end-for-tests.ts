import { between, clamp } from './back-lit.ts';
import { cloudsOf, discBlur } from './draw-for-tests.ts';
import type { CardPicture, Colour, EndFault, PreparedEnd } from './end-scene.ts';
import { inByte } from './light.ts';
import {
  type Cable,
  cableSeen,
  isNear,
  type Lamp,
  lightPast,
  metAt,
  type Place,
  randomCable,
} from './other-cable-for-tests.ts';
import { normal, pick, type Rng } from './rng.ts';

/**
 * A second way to photograph ends on their card, for tests and benches alone, so that nothing is tuned to the look of the first: rays that meet tubes with
 * flat ends, so that the edge of a jacket is seen at its upper or its lower rim; a lamp and the sky, shadows as sharp as the lamp is small; linear light,
 * a warm or cold cast, a camera's curve of brightness and its sharpening, noise that grows with light; a desk that may be as light as the paper; white
 * cables, printed jackets, yarn that is trimmed or lies over the buffer.
 */
export interface OtherEnd {
  readonly width: number;
  readonly height: number;
  /** Red, green, blue and 255 for each pixel. */
  readonly data: Uint8Array;
  readonly end: PreparedEnd;
  readonly fault: EndFault;
  readonly tiltDeg: number;
}

interface Eye {
  readonly at: Place;
  readonly rows: readonly [Place, Place, Place];
  readonly focal: number;
  readonly cx: number;
  readonly cy: number;
  readonly k: readonly [k1: number, k2: number];
}
interface Scene {
  readonly card: CardPicture;
  readonly eye: Eye;
  readonly lamp: Lamp;
  readonly cables: readonly Cable[];
  readonly print: number;
  readonly printedAt: readonly [x: number, y: number];
  readonly ink: number;
  readonly spread: number;
  /** How far the middle of the card stands up. */
  readonly bow: number;
  readonly fingers: readonly (readonly [x: number, y: number, r: number])[];
  readonly glare: readonly [x: number, y: number, r: number, light: number] | null;
  /** A hand between lamp and card: its edge through a place, which way it goes, how dark it is. */
  readonly hand: readonly [x: number, y: number, turn: number, dark: number] | null;
  readonly slope: readonly [number, number];
  readonly desk: (x: number, y: number) => Colour;
  readonly paper: (x: number, y: number) => number;
}

export function otherEnd(
  rng: Rng,
  card: CardPicture,
  { width, height }: { readonly width: number; readonly height: number },
  fault: EndFault = 'none',
): OtherEnd {
  const glassMm = between(rng, 5, 16);
  const bufferMm = glassMm + between(rng, 2.5, 14);
  const end: PreparedEnd = {
    glassMm,
    bufferMm,
    jacketMm: bufferMm + between(rng, 8, 20),
    jacketDiameterMm: pick(rng, [2, 2, 3]),
    jacket: [0, 0, 0],
    buffer: [0, 0, 0],
    hasYarn: rng() < 0.6,
  };
  const tiltDeg = Math.min(40, Math.abs(normal(rng)) * 16);
  const eye = eyeOf(rng, card, width, height, tiltDeg);
  const scene = sceneOf(rng, card, eye, end, fault);
  const light = lightOf(scene, width, height, fault === 'mirrored');
  const data = taken(rng, light, width, height, fault === 'blurred');
  return { width, height, data, end, fault, tiltDeg };
}

function eyeOf(rng: Rng, card: CardPicture, width: number, height: number, tiltDeg: number): Eye {
  const focal = between(rng, 0.7, 1.15) * width;
  const roll = rng() < 0.8 ? normal(rng) * 0.15 : between(rng, -3.1, 3.1);
  const c = Math.abs(Math.cos(roll));
  const s = Math.abs(Math.sin(roll));
  const away =
    focal *
    Math.max(
      (card.widthMm * c + card.heightMm * s) / (between(rng, 0.65, 0.85) * width),
      (card.widthMm * s + card.heightMm * c) / (0.82 * height),
    );
  const tilt = (tiltDeg * Math.PI) / 180;
  const way = between(rng, 0, 2 * Math.PI);
  const look: Place = [Math.sin(tilt) * Math.cos(way), Math.sin(tilt) * Math.sin(way), -Math.cos(tilt)];
  const aim = [card.widthMm / 2 + normal(rng) * 2, card.heightMm / 2 + normal(rng) * 2] as const;
  const flat: Place = [Math.cos(roll), Math.sin(roll), 0];
  const dot = flat[0] * look[0] + flat[1] * look[1];
  const raw: Place = [flat[0] - dot * look[0], flat[1] - dot * look[1], -dot * look[2]];
  const size = Math.hypot(...raw);
  const right: Place = [raw[0] / size, raw[1] / size, raw[2] / size];
  // Down in the picture; y of the card goes down as seen from above, and z up.
  const down: Place = [
    right[1] * look[2] - right[2] * look[1],
    right[2] * look[0] - right[0] * look[2],
    right[0] * look[1] - right[1] * look[0],
  ];
  return {
    at: [aim[0] - look[0] * away, aim[1] - look[1] * away, -look[2] * away],
    rows: [right, down, look],
    focal,
    cx: width / 2 + normal(rng) * 0.008 * width,
    cy: height / 2 + normal(rng) * 0.008 * width,
    k: [normal(rng) * 0.05, normal(rng) * 0.02],
  };
}

function rayAt({ rows, focal, cx, cy, k }: Eye, x: number, y: number): Place {
  const u = (x - cx) / focal;
  const v = (y - cy) / focal;
  let a = u;
  let b = v;
  for (let i = 0; i < 5; i++) {
    const r = a * a + b * b;
    const d = 1 + r * (k[0] + k[1] * r);
    a = u / d;
    b = v / d;
  }
  const [right, down, look] = rows;
  const raw: Place = [
    right[0] * a + down[0] * b + look[0],
    right[1] * a + down[1] * b + look[1],
    right[2] * a + down[2] * b + look[2],
  ];
  const size = Math.hypot(...raw);
  return [raw[0] / size, raw[1] / size, raw[2] / size];
}

function sceneOf(rng: Rng, card: CardPicture, eye: Eye, end: PreparedEnd, fault: EndFault): Scene {
  const high = between(rng, 0.75, 1.4);
  const round = between(rng, 0, 2 * Math.PI);
  const tip = [card.axis.fromX + 10 + between(rng, -3, 8), card.axis.y + normal(rng)] as const;
  const cable = randomCable(rng, end, tip);
  const second = randomCable(rng, end, [tip[0] + between(rng, -2, 6), tip[1] + (rng() < 0.5 ? -5.5 : 5.5)]);
  const fingers: [number, number, number][] = [];
  const covered = fault === 'few_marks' ? [0, 2, 3, 5, 6] : rng() < 0.3 ? [Math.floor(rng() * 8)] : [];
  for (const i of covered) fingers.push([card.marks[i]![0], card.marks[i]![1], between(rng, 6, 8)]);
  const lit = between(rng, 0.3, 1);
  return {
    card,
    eye,
    lamp: {
      to: [Math.cos(high) * Math.cos(round), Math.cos(high) * Math.sin(round), Math.sin(high)],
      ambient: between(rng, 0.3, 0.8),
      soft: between(rng, 0.08, 0.8),
    },
    cables: fault === 'no_cable' ? [] : fault === 'two_cables' ? [cable, second] : [cable],
    print:
      fault === 'print_scale' ? 1 + pick(rng, [-1, 1]) * between(rng, 0.018, 0.05) : 1 + normal(rng) * 0.003,
    printedAt: [normal(rng) * 0.15, normal(rng) * 0.15],
    ink: between(rng, 0.02, 0.08),
    spread: between(rng, 0, 0.03),
    bow: fault === 'bent' ? between(rng, 7, 12) : 0,
    fingers,
    glare:
      fault === 'glare'
        ? [tip[0] + between(rng, 3, 14), tip[1] + normal(rng), between(rng, 7, 12), 0.5 + lit]
        : null,
    hand:
      rng() < 0.35
        ? [between(rng, 20, 100), between(rng, 10, 60), between(rng, 0, 2 * Math.PI), between(rng, 0.1, 0.35)]
        : null,
    slope: [normal(rng) * 0.0025, normal(rng) * 0.0025],
    desk: deskOf(rng),
    paper: cloudsOf(rng, 0.35, 0.012),
  };
}

function deskOf(rng: Rng): (x: number, y: number) => Colour {
  const clouds = cloudsOf(rng, 3, 0.12);
  const own = pick<Colour>(rng, [
    [0.02, 0.02, 0.025],
    [0.25, 0.14, 0.06],
    [0.03, 0.16, 0.08],
    [0.55, 0.54, 0.5],
    [0.1, 0.11, 0.13],
  ]);
  const hasGrid = rng() < 0.3;
  return (x, y) => {
    const grain = 1 + clouds(x * 0.15, y * 1.5);
    const isLine =
      hasGrid && (Math.abs(x - 10 * Math.round(x / 10)) < 0.3 || Math.abs(y - 10 * Math.round(y / 10)) < 0.3);
    const more = isLine ? 0.3 : 0;
    return [own[0] * grain + more, own[1] * grain + more, own[2] * grain + more];
  };
}

/** Linear light of every pixel, three values each. */
function lightOf(scene: Scene, width: number, height: number, isMirrored: boolean): Float32Array[] {
  const planes = [0, 1, 2].map(() => new Float32Array(width * height));
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + (isMirrored ? width - 1 - x : x);
      const ray = rayAt(scene.eye, x, y);
      const isFine = scene.cables.some((cable) => isNear(cable, scene.eye.at, ray));
      const n = isFine ? FINE : 1;
      for (let a = 0; a < n; a++) {
        for (let b = 0; b < n; b++) {
          const own = isFine ? rayAt(scene.eye, x + (a + 0.5) / n - 0.5, y + (b + 0.5) / n - 0.5) : ray;
          const c = seenAlong(scene, own);
          for (let k = 0; k < 3; k++) planes[k]![i]! += c[k]! / (n * n);
        }
      }
    }
  }
  return planes;
}
/** So many rays across a pixel where a fiber may be thinner than it. */
const FINE = 4;

function seenAlong(scene: Scene, ray: Place): Colour {
  const { eye, lamp, cables, card } = scene;
  for (const cable of cables) {
    const seen = cableSeen(cable, eye.at, ray, lamp);
    if (!seen) continue;
    const at = metAt(eye.at, ray, 1);
    return lit(seen, lightAt(scene, at[0], at[1], 1), glareAt(scene, at[0], at[1]));
  }
  let [x, y] = metAt(eye.at, ray, 0);
  if (scene.bow > 0) {
    for (let round = 0; round < 4; round++)
      [x, y] = metAt(eye.at, ray, scene.bow * Math.sin(Math.PI * clamp(x / card.widthMm)));
  }
  if (x < 0 || y < 0 || x > card.widthMm || y > card.heightMm) return lit(scene.desk(x, y), 0.8, 0);
  for (const [fx, fy, r] of scene.fingers)
    if (Math.hypot(x - fx, y - fy) < r) return lit([0.6, 0.36, 0.27], 0.8, 0);
  let past = 1;
  for (const cable of cables) past *= lightPast(cable, x, y, lamp);
  const paper = 0.82 * (1 + scene.paper(x, y)) * inked(scene, x, y);
  return lit([paper, paper, paper], lightAt(scene, x, y, past), glareAt(scene, x, y));
}
const lit = (colour: Colour, light: number, more: number): Colour => [
  colour[0] * light + more,
  colour[1] * light + more,
  colour[2] * light + more,
];
/** Light on a place, of which the lamp's part gets past what stands before it. */
function lightAt({ lamp, hand, slope, card }: Scene, x: number, y: number, past: number): number {
  let shade = 1;
  if (hand) {
    const off = (x - hand[0]) * Math.cos(hand[2]) + (y - hand[1]) * Math.sin(hand[2]);
    shade = 1 - hand[3] / (1 + Math.exp(-off / 3));
  }
  const even = 1 + slope[0] * (x - card.widthMm / 2) + slope[1] * (y - card.heightMm / 2);
  return even * (lamp.ambient + (1 - lamp.ambient) * past * lamp.to[2] * shade);
}
function glareAt({ glare }: Scene, x: number, y: number): number {
  if (!glare) return 0;
  const off = Math.hypot(x - glare[0], y - glare[1]) / glare[2];
  return off > 2 ? 0 : glare[3] * Math.exp(-(off ** 6));
}
/** What the print leaves of the light: ink runs a little over its edge. */
function inked({ card, print, printedAt, ink, spread }: Scene, x: number, y: number): number {
  const scale = card.width / card.widthMm;
  const px = (card.widthMm / 2 + (x - printedAt[0] - card.widthMm / 2) / print) * scale;
  const py = (card.heightMm / 2 + (y - printedAt[1] - card.heightMm / 2) / print) * scale;
  const run = spread * scale;
  let level = 1;
  for (const [dx, dy] of [
    [0, 0],
    [run, 0],
    [-run, 0],
    [0, run],
    [0, -run],
  ] as const) {
    const gx = Math.round(px + dx - 0.5);
    const gy = Math.round(py + dy - 0.5);
    if (gx < 0 || gy < 0 || gx >= card.width || gy >= card.height) continue;
    level = Math.min(level, card.data[gy * card.width + gx]! / 255);
  }
  return ink + (1 - ink) * level;
}

/** What a camera makes of linear light: its lens, a hand that moves, noise, its curve and its sharpening. */
function taken(
  rng: Rng,
  planes: Float32Array[],
  width: number,
  height: number,
  isBlurred: boolean,
): Uint8Array {
  const large = width > 3000 ? 1.6 : 1;
  const spread = isBlurred ? Math.max(9, width / 150) : between(rng, 0.5, 1.2) * large;
  const cast = [1, between(rng, 0.88, 1.02), between(rng, 0.68, 1.08)];
  const white = between(rng, 0.62, 0.98) / 0.75;
  const shot = between(rng, 0.002, 0.012);
  const read = between(rng, 0.001, 0.004);
  const sharpen = between(rng, 0, 0.8);
  const vignette = between(rng, 0, 0.35);
  const reach = Math.hypot(width, height) / 2;
  const seen = planes.map((plane, c) => {
    const soft = discBlur(plane, width, height, spread);
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const i = y * width + x;
        const off = Math.hypot(x - width / 2, y - height / 2) / reach;
        const light = soft[i]! * white * cast[c]! * (1 - vignette * off * off);
        const noisy = light + normal(rng) * Math.sqrt(read * read + shot * shot * Math.max(0, light));
        soft[i] = 255 * toned(noisy);
      }
    }
    const wide = sharpen > 0.1 ? discBlur(soft, width, height, 1.5 * large) : soft;
    for (let i = 0; i < soft.length; i++) soft[i]! += sharpen * (soft[i]! - wide[i]!);
    return soft;
  });
  const data = new Uint8Array(4 * width * height);
  for (let i = 0, k = 0; i < width * height; i++, k += 4) {
    for (let c = 0; c < 3; c++) data[k + c] = inByte(seen[c]![i]!);
    data[k + 3] = 255;
  }
  return data;
}
/** A display's curve (IEC 61966-2-1), with a shoulder where it would be cut off. */
function toned(light: number): number {
  const x = Math.max(0, light);
  const kept = x < 0.8 ? x : 0.8 + 0.2 * (1 - Math.exp(-(x - 0.8) / 0.2));
  return kept <= 0.0031308 ? 12.92 * kept : 1.055 * kept ** (1 / 2.4) - 0.055;
}
