import { FACE_SETTINGS, type FaceSettings } from './settings.ts';
import type { Call } from '../scoring/index.ts';
import type { FaceCriteria } from './grading/criteria.ts';
import type { Circle } from './pixels/enclosing-circle.ts';
import { findCladding } from './cladding/find-cladding.ts';
import { checkImage, type GreyImage } from './pixels/image.ts';
import { type FaceRefusal, type MeasuredFace, measureFace } from './measure-face.ts';

/** One fiber, counted from the left and, of two rows, the upper one first; positions in its face are from its own centre. */
export interface RowFiber {
  readonly fiber: number;
  readonly centrePx: readonly [number, number];
  readonly face: MeasuredFace;
}
export type MeasuredRow =
  | {
      readonly ok: true;
      readonly fibers: readonly RowFiber[];
      /** Fail when a fiber fails; null when none does and one could not be graded. */
      readonly verdict: Call | null;
    }
  | { readonly ok: false; readonly reason: FaceRefusal };

/** Fibers of a row lie twice their diameter apart: 250 um. */
const PITCH_RADII = 4;
/** Two rows of one ferrule lie 500 um apart (IEC 61754-7, from memory). */
const ROWS_RADII = 8;
const MOST_FIBERS = 32;
/** Half the side of the part that is looked at for each fiber, in radii: the next fiber's edge begins at 3. */
const PART = 1.75;

/** The zones on which a multi-fiber ferrule is graded. */
export const rowTable = (table: FaceCriteria): FaceCriteria => ({
  ...table,
  zones: table.zones.filter(({ zone }) => zone === 'A' || zone === 'B'),
});

/**
 * Measures a picture of the fibers of a ferrule, 250 um apart in one row or in two: one is looked for from the left, the
 * others where the row goes on from it to either side, a second row above and below it; each is graded on zones A and B.
 * Refused like a single face where there is none. Error: `face.bad_image`.
 */
export function measureRow(
  image: GreyImage,
  table: FaceCriteria,
  onFiber?: (done: number) => void,
  settings: FaceSettings = FACE_SETTINGS,
): MeasuredRow {
  checkImage(image);
  const first = firstOf(image, settings);
  if (!first) return { ok: false, reason: 'no_face' };
  const circles = rowsFrom(image, first, settings).flat();
  const zones = rowTable(table);
  const fibers = circles.map((circle, i): RowFiber => {
    onFiber?.(i);
    const part = partOf(image, circle);
    const face = measureFace(part, zones, undefined, settings);
    return {
      fiber: i + 1,
      centrePx: [circle.x, circle.y],
      face: face.ok
        ? { ...face, centrePx: [face.centrePx[0] + part.left, face.centrePx[1] + part.top] }
        : face,
    };
  });
  return {
    ok: true,
    fibers,
    verdict: verdictOfRow(fibers.map(({ face }) => (face.ok ? face.grade.verdict : null))),
  };
}

/** Of a row by its fibers: fail when one fails; null when none does and one could not be graded. */
export function verdictOfRow(fibers: readonly (Call | null)[]): Call | null {
  if (fibers.includes('fail')) return 'fail';
  return fibers.includes(null) ? null : 'pass';
}

/** The first fiber from the left, in parts as wide as the picture is high; of two rows in parts of half of that. */
function firstOf(image: GreyImage, settings: FaceSettings): Circle | null {
  const whole = Math.min(image.width, image.height);
  for (const [side, heights] of [
    [whole, [1 / 2]],
    [whole / 2, [1 / 4, 3 / 4]],
  ] as const) {
    for (const height of heights) {
      for (let left = 0; left + side <= image.width; left += Math.ceil(side / 3)) {
        const circle = claddingIn(image, left + side / 2, image.height * height, side / 2, settings);
        if (circle) return circle;
      }
    }
  }
  return null;
}

/** The row of a fiber and, where there is one, the row beside it; the upper one first. */
function rowsFrom(image: GreyImage, first: Circle, settings: FaceSettings): Circle[][] {
  const row = wholeRow(image, first, settings);
  for (const way of [-1, 1] as const) {
    for (const fiber of row) {
      const [x, y] = beside(row, fiber, way);
      const other = claddingIn(image, x, y, PART * first.r, settings);
      if (!other || Math.abs(other.r / first.r - 1) > 0.1) continue;
      const second = wholeRow(image, other, settings);
      return way === -1 ? [second, row] : [row, second];
    }
  }
  return [row];
}

const wholeRow = (image: GreyImage, first: Circle, settings: FaceSettings): Circle[] => [
  ...walk(image, first, -1, settings).reverse(),
  first,
  ...walk(image, first, 1, settings),
];

/** Where the other row has its fiber beside this one, square to the row: above for -1, below for 1. */
function beside(row: readonly Circle[], { x, y, r }: Circle, way: 1 | -1): [number, number] {
  const from = row[0]!;
  const to = row.at(-1)!;
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  const along = length === 0 ? [1, 0] : [(to.x - from.x) / length, (to.y - from.y) / length];
  const reach = way * ROWS_RADII * r;
  return [x - along[1]! * reach, y + along[0]! * reach];
}

/** The fibers that follow to one side; each is looked for where the two before it point. */
function walk(image: GreyImage, first: Circle, way: 1 | -1, settings: FaceSettings): Circle[] {
  const found: Circle[] = [];
  let step = way * PITCH_RADII * first.r;
  let rise = 0;
  let last = first;
  while (found.length < MOST_FIBERS) {
    const next = claddingIn(image, last.x + step, last.y + rise, PART * first.r, settings);
    if (!next || Math.abs(next.r / first.r - 1) > 0.1) break;
    [step, rise] = [next.x - last.x, next.y - last.y];
    found.push(next);
    last = next;
  }
  return found;
}

function claddingIn(
  image: GreyImage,
  x: number,
  y: number,
  half: number,
  settings: FaceSettings,
): Circle | null {
  const part = cut(image, x, y, half);
  if (!part) return null;
  const found = findCladding(part, settings);
  if (found.state !== 'found') return null;
  const { circle } = found.cladding;
  return { ...circle, x: circle.x + part.left, y: circle.y + part.top };
}

const partOf = (image: GreyImage, { x, y, r }: Circle): Part => cut(image, x, y, PART * r)!;

type Part = GreyImage & { readonly left: number; readonly top: number };

/** The part of a picture round a place; null where hardly any of it is left in the frame. */
function cut(image: GreyImage, x: number, y: number, half: number): Part | null {
  const left = Math.max(0, Math.round(x - half));
  const top = Math.max(0, Math.round(y - half));
  const width = Math.min(image.width, Math.round(x + half)) - left;
  const height = Math.min(image.height, Math.round(y + half)) - top;
  if (width < half || height < half) return null;
  const data = new Uint8Array(width * height);
  for (let row = 0; row < height; row++) {
    const from = (top + row) * image.width + left;
    data.set(image.data.subarray(from, from + width), row * width);
  }
  return { width, height, data, left, top };
}
