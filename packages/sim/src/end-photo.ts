import { between, clamp } from './back-lit.ts';
import { type Lens, lensOf, rayOf } from './end-lens.ts';
import type { CardPicture, Colour, EndScene } from './end-scene.ts';
import { gaussian, inByte } from './light.ts';
import { normal, type Rng } from './rng.ts';

export interface EndPhoto {
  readonly scene: EndScene;
  readonly width: number;
  readonly height: number;
  /** Red, green, blue and 255 for each pixel. */
  readonly data: Uint8Array;
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
      const middle = rayOf(lens, seenX, y);
      if (!isNearCable(card, scene, lens, middle)) {
        const c = seenBy(card, scene, lens, middle, details);
        line[i] = c[0];
        line[i + 1] = c[1];
        line[i + 2] = c[2];
        continue;
      }
      // A fiber is thinner than a pixel: near it each is seen by several rays.
      for (let a = 0; a < RAYS; a++) {
        for (let b = 0; b < RAYS; b++) {
          const ray = rayOf(lens, seenX + (a + 0.5) / RAYS - 0.5, y + (b + 0.5) / RAYS - 0.5);
          const c = seenBy(card, scene, lens, ray, details);
          line[i]! += c[0] / RAYS ** 2;
          line[i + 1]! += c[1] / RAYS ** 2;
          line[i + 2]! += c[2] / RAYS ** 2;
        }
      }
    }
  }
  const blur = fault === 'blurred' ? Math.max(6, width / 200) : scene.blurPx;
  const soft = gaussian(line, width, height, blur, 3);
  for (let i = 0, k = 0; i < soft.length; i += 3, k += 4) {
    for (let c = 0; c < 3; c++) data[k + c] = inByte(soft[i + c]! + scene.noise * normal(rng));
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
  if (fault !== 'no_cable') {
    // The cable's axis stands off the paper by its radius; on the plane through it the ray shows how far beside it passes.
    const height = end.jacketDiameterMm / 2;
    const at = metAt(eye, ray, height);
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
  const place = metAt(eye, ray, fault === 'bent' ? bentBy(card, metAt(eye, ray, 0)[0]) : 0);
  return cardAt(card, scene, place[0], place[1], details);
}
/** Where a ray meets the plane that lies so far above the paper. */
function metAt(eye: Lens['eye'], ray: Lens['eye'], above: number): readonly [number, number] {
  const t = (-above - eye[2]) / ray[2];
  return [eye[0] + t * ray[0], eye[1] + t * ray[1]];
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
      : 0.16 * shadowAt((y - axis - radius * 0.9) / (radius * 1.1));
  const bright = glareAt(card, scene, x, y, glare);
  const ink = 0.1 + 0.9 * level;
  const lit = light * ink * (1 - shade) + bright;
  return [lit, lit * 0.99, lit * 0.96];
}

const shadowAt = (place: number): number => (Math.abs(place) > 7 ? 0 : Math.exp(-(place ** 2)));

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

/** Nothing of a cable, its yarn among it, lies further from its axis, mm. */
const FURTHEST_STRAND = 12;
/** The colour of the cable at a place, or null where it is not. */
function cableAt(card: CardPicture, scene: EndScene, x: number, y: number, details: Details): Colour | null {
  const { end } = scene;
  const s0 = alongOf(card, scene, x);
  const beside = y - middleOf(card, scene, x);
  if (Math.abs(beside) > FURTHEST_STRAND) return null;
  const slope = scene.lean + s0 / scene.bendMm;
  const slant = Math.cos(Math.atan(slope));
  const v = beside * slant;
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
