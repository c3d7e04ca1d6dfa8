import type { PicturePlace } from '../side-view/picture-scale.ts';
import {
  type Camera,
  type CameraFit,
  fitCamera,
  homographyOf,
  project,
  type Sighting,
  taken,
} from './camera.ts';
import { type CameraCard, DOT_RADIUS_MM } from './camera-card.ts';
import { type ColourImage, greyAt } from './colour-image.ts';
import { darkMiddle, findMarks, type FoundMark } from './find-marks.ts';

/** A card as it lies before the camera. */
export interface CardPose {
  readonly camera: Camera;
  /** What marks and dots lie off, root of the mean square: px, and mm on the card. */
  readonly offPx: number;
  readonly offMm: number;
  /** Pixels a mm in the middle of the card. */
  readonly pxPerMm: number;
  /** From a fifteenth to fourteen fifteenths of the light at the edges of the marks, mm. */
  readonly blurMm: number;
  readonly marks: readonly FoundMark[];
  readonly sightings: readonly Sighting[];
}
export type PoseRefusal = 'few_marks' | 'mirrored' | 'other_card' | 'bent' | 'blurred';

/** So many marks are needed: fewer show a bent card no more. */
const LEAST_MARKS = 5;
/** Standard deviations of places, px: of a mark and of a dot. */
const SD_PX = { mark: 0.12, dot: 0.2 };
/** A mark that is off by so much of the others' usual is none of the card. */
const STRAY = 6;
/** Marks and dots of a flat card lie off no further, mm and px. */
const FLAT = { mm: 0.045, px: 0.35 };
/** Edges that are spread further are blurred, mm. */
const MOST_BLUR_MM = 0.48;
/** Squares that must be read, and share of them that must be what the card says. */
const CODE = { least: 0.5, right: 0.85 };

/** Finds a card in a photograph and how it lies before the camera, or says why not. */
export function poseOf(image: ColourImage, card: CameraCard): CardPose | PoseRefusal {
  const found = findMarks(image);
  if (found.mirrored > found.marks.length) return 'mirrored';
  const known = found.marks.flatMap((m) => {
    const on = card.marks.find((c) => c.id === m.id);
    return on ? [{ mark: m, sighting: sightingOf(on, m.seen, SD_PX.mark) }] : [];
  });
  const kept = withoutStrays(known);
  if (kept.length < LEAST_MARKS) return isBlurred(image) ? 'blurred' : 'few_marks';
  const ofMarks = kept.map((k) => k.sighting);
  const first = fitCamera(ofMarks, image.width, image.height);
  if (!first) return 'few_marks';
  const blurs = kept.map((k) => k.mark.blurMm).sort((a, b) => a - b);
  const blurMm = blurs[blurs.length >> 1]!;
  if (blurMm > MOST_BLUR_MM) return 'blurred';
  const dots = card.dots.flatMap(
    (dot) =>
      dotAt(
        image,
        first.camera,
        dot,
        kept.map((k) => k.mark),
      ) ?? [],
  );
  const sightings = [...ofMarks, ...dots];
  const fit = fitCamera(sightings, image.width, image.height, first.camera) ?? first;
  const pxPerMm = scaleAt(fit.camera, card.widthMm / 2, card.heightMm / 2);
  const offPx = robustRms(fit);
  if (offPx / pxPerMm > FLAT.mm && offPx > FLAT.px) return 'bent';
  if (
    !isSameCard(
      image,
      fit.camera,
      card,
      kept.map((k) => k.mark),
    )
  )
    return 'other_card';
  return {
    camera: fit.camera,
    offPx,
    offMm: offPx / pxPerMm,
    pxPerMm,
    blurMm,
    marks: kept.map((k) => k.mark),
    sightings,
  };
}

/** Whether the steepest edges of a whole picture are no steeper than blur leaves them. */
function isBlurred({ width, height, data }: ColourImage): boolean {
  const counts = new Uint32Array(256);
  let n = 0;
  let least = 255;
  let most = 0;
  const grey = (x: number, y: number): number => {
    const i = 4 * (y * width + x);
    return (data[i]! + data[i + 1]!) >> 1;
  };
  for (let y = 1; y < height - 1; y += 3) {
    for (let x = 2; x < width - 2; x += 2) {
      counts[Math.abs(grey(x + 1, y) - grey(x - 1, y))]! += 1;
      n += 1;
      const own = grey(x, y);
      least = Math.min(least, own);
      most = Math.max(most, own);
    }
  }
  // A picture of nothing has no edges either.
  if (most - least < SOMETHING) return false;
  // The steepest of a thousand.
  let above = 0;
  for (let step = 255; step >= 0; step--) {
    above += counts[step]!;
    if (above > n / 1000) return step < SHARP;
  }
  return true;
}
/** Levels over two pixels; a sharp edge of a mark has a hundred. */
const SHARP = 28;
const SOMETHING = 60;

const sightingOf = (on: { xMm: number; yMm: number }, seen: PicturePlace, sdPx: number): Sighting => ({
  xMm: on.xMm,
  yMm: on.yMm,
  seen,
  sdPx,
});

/** Marks that lie with the others; one that does not is dropped after the other. */
function withoutStrays<T extends { readonly sighting: Sighting }>(given: readonly T[]): T[] {
  const kept = [...given];
  while (kept.length > LEAST_MARKS) {
    const h = homographyOf(
      kept.map((k) => k.sighting),
      kept.map((k) => k.sighting.seen),
    );
    if (!h) return kept;
    const off = kept.map(({ sighting }) => {
      const p = taken(h, sighting);
      return Math.hypot(p.x - sighting.seen.x, p.y - sighting.seen.y);
    });
    const usual = [...off].sort((a, b) => a - b)[off.length >> 1]!;
    const worst = off.reduce((b, o, i) => (o > off[b]! ? i : b), 0);
    if (off[worst]! < STRAY * Math.max(usual, 2)) return kept;
    kept.splice(worst, 1);
  }
  return kept;
}

/** Pixels a mm at a place of the card. */
export function scaleAt(camera: Camera, xMm: number, yMm: number): number {
  const p = project(camera, [xMm, yMm, 0]);
  const px = project(camera, [xMm + 1, yMm, 0]);
  const py = project(camera, [xMm, yMm + 1, 0]);
  return Math.sqrt(Math.abs((px.x - p.x) * (py.y - p.y) - (px.y - p.y) * (py.x - p.x)));
}

/** How the light of the nearest mark tells dark from light. */
function nearest(marks: readonly FoundMark[], p: PicturePlace): FoundMark {
  return marks.reduce((b, m) =>
    Math.hypot(m.seen.x - p.x, m.seen.y - p.y) < Math.hypot(b.seen.x - p.x, b.seen.y - p.y) ? m : b,
  );
}

function dotAt(
  image: ColourImage,
  camera: Camera,
  dot: { readonly xMm: number; readonly yMm: number },
  marks: readonly FoundMark[],
): Sighting | null {
  const p = project(camera, [dot.xMm, dot.yMm, 0]);
  const { light, dark, perMm } = nearest(marks, p);
  let at: PicturePlace = p;
  for (let round = 0; round < 2; round++) {
    const next = darkMiddle(image, at, perMm, 1.9 * DOT_RADIUS_MM, light, dark);
    if (!next) return null;
    at = next;
  }
  const pxPerMm = Math.sqrt(perMm[0] * perMm[2] - perMm[1] ** 2);
  if (Math.hypot(at.x - p.x, at.y - p.y) > Math.max(2.5, 0.8 * pxPerMm)) return null;
  const level = greyAt(image, at.x, at.y);
  if (level === null || level > dark + 0.5 * (light - dark)) return null;
  return sightingOf(dot, at, SD_PX.dot);
}

/** Root of the mean square without the worst tenth: a dot may be covered. */
function robustRms({ off }: CameraFit): number {
  const kept = [...off].sort((a, b) => a - b).slice(0, Math.max(5, Math.ceil(0.9 * off.length)));
  return Math.sqrt(kept.reduce((sum, o) => sum + o * o, 0) / kept.length);
}

function isSameCard(
  image: ColourImage,
  camera: Camera,
  card: CameraCard,
  marks: readonly FoundMark[],
): boolean {
  let read = 0;
  let right = 0;
  for (const cell of card.cells) {
    const p = project(camera, [cell.xMm, cell.yMm, 0]);
    const level = greyAt(image, p.x, p.y);
    if (level === null) continue;
    const { light, dark } = nearest(marks, p);
    const share = (light - level) / (light - dark);
    // Neither dark nor light: something lies on it.
    if (share > 0.35 && share < 0.65) continue;
    read += 1;
    if (share > 0.5 === cell.isDark) right += 1;
  }
  return read >= CODE.least * card.cells.length && right >= CODE.right * read;
}
