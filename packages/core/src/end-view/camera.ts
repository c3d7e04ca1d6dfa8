import { solve } from '../faces/pixels/solve.ts';
import type { PicturePlace } from '../side-view/picture-scale.ts';

type Matrix = readonly (readonly number[])[];
/** A place in space, mm: x and y as on the card, z into the table. */
export type Place3 = readonly [x: number, y: number, z: number];

/** A pinhole camera with radial distortion (Brown 1971, two terms) before a card. Pixels, mm. */
export interface Camera {
  readonly focal: number;
  readonly k1: number;
  readonly k2: number;
  readonly centre: PicturePlace;
  readonly turn: Matrix;
  readonly shift: Place3;
}

/** Where a place in space is seen. */
export function project(camera: Camera, [x, y, z]: Place3): PicturePlace {
  const depth = turned(camera, 2, x, y, z);
  const u = turned(camera, 0, x, y, z) / depth;
  const v = turned(camera, 1, x, y, z) / depth;
  const r2 = u * u + v * v;
  const d = camera.focal * (1 + r2 * (camera.k1 + r2 * camera.k2));
  return { x: camera.centre.x + d * u, y: camera.centre.y + d * v };
}

/** One coordinate of a place as the camera has it: right, down, away. */
function turned({ turn, shift }: Camera, i: 0 | 1 | 2, x: number, y: number, z: number): number {
  const row = turn[i]!;
  return row[0]! * x + row[1]! * y + row[2]! * z + shift[i];
}

/** Where the eye of a camera is, in the card's space: z is negative above the card. */
export function eyeOf({ turn, shift }: Camera): Place3 {
  const at = (j: number): number =>
    -(turn[0]![j]! * shift[0] + turn[1]![j]! * shift[1] + turn[2]![j]! * shift[2]);
  return [at(0), at(1), at(2)];
}

/** The homography that takes places of a plane to places of a picture, by the direct linear transform with its last term 1. Null where four of them do not span it. */
export function homographyOf(
  from: readonly { readonly xMm: number; readonly yMm: number }[],
  to: readonly PicturePlace[],
): Matrix | null {
  const n = from.length;
  if (n < 4) return null;
  // About their middles and in units of their spread: the system is well conditioned so (Hartley 1997).
  const a = unitsOf(from.map((p) => [p.xMm, p.yMm]));
  const b = unitsOf(to.map((p) => [p.x, p.y]));
  const normal = Array.from({ length: 8 }, () => new Float64Array(8));
  const right = new Float64Array(8);
  const add = (row: readonly number[], value: number): void => {
    for (let i = 0; i < 8; i++) {
      right[i]! += row[i]! * value;
      for (let j = 0; j < 8; j++) normal[i]![j]! += row[i]! * row[j]!;
    }
  };
  for (let k = 0; k < n; k++) {
    const x = (from[k]!.xMm - a.x) / a.unit;
    const y = (from[k]!.yMm - a.y) / a.unit;
    const u = (to[k]!.x - b.x) / b.unit;
    const v = (to[k]!.y - b.y) / b.unit;
    add([x, y, 1, 0, 0, 0, -u * x, -u * y], u);
    add([0, 0, 0, x, y, 1, -v * x, -v * y], v);
  }
  const h = solve(normal, right);
  if (!h) return null;
  const inUnits = [
    [h[0]!, h[1]!, h[2]!],
    [h[3]!, h[4]!, h[5]!],
    [h[6]!, h[7]!, 1],
  ];
  const back = [
    [b.unit, 0, b.x],
    [0, b.unit, b.y],
    [0, 0, 1],
  ];
  const into = [
    [1 / a.unit, 0, -a.x / a.unit],
    [0, 1 / a.unit, -a.y / a.unit],
    [0, 0, 1],
  ];
  return times(times(back, inUnits), into);
}

/** Where a homography takes a place of the plane. */
export function taken(h: Matrix, { xMm, yMm }: { readonly xMm: number; readonly yMm: number }): PicturePlace {
  const w = h[2]![0]! * xMm + h[2]![1]! * yMm + h[2]![2]!;
  return {
    x: (h[0]![0]! * xMm + h[0]![1]! * yMm + h[0]![2]!) / w,
    y: (h[1]![0]! * xMm + h[1]![1]! * yMm + h[1]![2]!) / w,
  };
}

function unitsOf(places: readonly (readonly number[])[]): { x: number; y: number; unit: number } {
  const n = places.length;
  const x = places.reduce((sum, p) => sum + p[0]!, 0) / n;
  const y = places.reduce((sum, p) => sum + p[1]!, 0) / n;
  const unit = Math.sqrt(places.reduce((sum, p) => sum + (p[0]! - x) ** 2 + (p[1]! - y) ** 2, 0) / n) || 1;
  return { x, y, unit };
}

export const times = (a: Matrix, b: Matrix): number[][] =>
  a.map((row) => b[0]!.map((_, j) => row.reduce((sum, v, k) => sum + v * b[k]![j]!, 0)));

/** A turn by a vector: its direction is the axis, its length the angle in radians (Rodrigues). */
export function turnBy([x, y, z]: Place3): number[][] {
  const angle = Math.hypot(x, y, z);
  const s = angle < 1e-12 ? 1 : Math.sin(angle) / angle;
  const c = angle < 1e-12 ? 0.5 : (1 - Math.cos(angle)) / (angle * angle);
  return [
    [1 - c * (y * y + z * z), c * x * y - s * z, c * x * z + s * y],
    [c * x * y + s * z, 1 - c * (x * x + z * z), c * y * z - s * x],
    [c * x * z - s * y, c * y * z + s * x, 1 - c * (x * x + y * y)],
  ];
}

/** A place of the card that was seen in the picture, with the standard deviation of its place there. */
export interface Sighting {
  readonly xMm: number;
  readonly yMm: number;
  readonly seen: PicturePlace;
  readonly sdPx: number;
}
export interface CameraFit {
  readonly camera: Camera;
  /** What each sighting lies off, px. */
  readonly off: readonly number[];
  /** Root of their mean square, px. */
  readonly rmsPx: number;
}

/**
 * What is known of cameras beforehand: focal length in long sides of the picture (a phone’s main camera: 26 mm of 36, common practice), distortion, and
 * how far the middle of what the lens draws lies off the middle of the picture, in long sides (a lens that is held still, a frame that is cut).
 */
const KNOWN = { focal: 0.82, focalSd: 0.25, k1Sd: 0.15, k2Sd: 0.15, centreSd: 0.01 };

/**
 * The camera by what it saw of a flat card: Levenberg and Marquardt on focal length, distortion, middle, turn and shift, from a camera that is nearly right or from
 * three that follow from a homography. Null where no camera sees it so.
 */
export function fitCamera(
  sightings: readonly Sighting[],
  width: number,
  height: number,
  nearly?: Camera,
): CameraFit | null {
  const h = homographyOf(
    sightings,
    sightings.map((s) => s.seen),
  );
  if (!h) return null;
  const long = Math.max(width, height);
  const centre = { x: (width - 1) / 2, y: (height - 1) / 2 };
  const starts = nearly ? [nearly] : STARTS.flatMap((share) => cameraBy(h, share * long, centre) ?? []);
  let best: { camera: Camera; cost: number } | null = null;
  for (const start of starts) {
    const found = refined(start, sightings, long, centre);
    if (!best || found.cost < best.cost) best = found;
  }
  if (!best) return null;
  const { camera } = best;
  const off = sightings.map((s) => {
    const p = project(camera, [s.xMm, s.yMm, 0]);
    return Math.hypot(p.x - s.seen.x, p.y - s.seen.y);
  });
  return { camera, off, rmsPx: Math.sqrt(off.reduce((sum, o) => sum + o * o, 0) / off.length) };
}

/** Focal lengths that are tried first, in long sides of the picture. */
const STARTS = [0.65, 0.82, 1.1];

/** Turn and shift out of a homography, for a focal length (Zhang 2000). */
function cameraBy(h: Matrix, focal: number, centre: PicturePlace): Camera | null {
  const column = (j: number): number[] => {
    const w = h[2]![j]!;
    return [(h[0]![j]! - centre.x * w) / focal, (h[1]![j]! - centre.y * w) / focal, w];
  };
  const a = column(0);
  const b = column(1);
  const t = column(2);
  const size = Math.sqrt(Math.hypot(...a) * Math.hypot(...b)) * (t[2]! < 0 ? -1 : 1);
  if (!(Math.abs(size) > 1e-12)) return null;
  const x = unit(a.map((v) => v / size));
  const along = dot(x, b) / size;
  const y = unit(b.map((v, i) => v / size - along * x[i]!));
  const z = [x[1]! * y[2]! - x[2]! * y[1]!, x[2]! * y[0]! - x[0]! * y[2]!, x[0]! * y[1]! - x[1]! * y[0]!];
  const turn = [0, 1, 2].map((i) => [x[i]!, y[i]!, z[i]!]);
  return { focal, k1: 0, k2: 0, centre, turn, shift: [t[0]! / size, t[1]! / size, t[2]! / size] };
}
const dot = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, v, i) => sum + v * b[i]!, 0);
const unit = (v: readonly number[]): number[] => {
  const size = Math.hypot(...v) || 1;
  return v.map((c) => c / size);
};

const PARAMETERS = 11;
function moved(camera: Camera, by: readonly number[]): Camera {
  return {
    centre: {
      x: camera.centre.x + by[9]! * camera.focal,
      y: camera.centre.y + by[10]! * camera.focal,
    },
    focal: camera.focal * Math.exp(by[0]!),
    k1: camera.k1 + by[1]!,
    k2: camera.k2 + by[2]!,
    turn: times(turnBy([by[3]!, by[4]!, by[5]!]), camera.turn),
    shift: [
      camera.shift[0] + by[6]! * camera.shift[2],
      camera.shift[1] + by[7]! * camera.shift[2],
      camera.shift[2] * Math.exp(by[8]!),
    ],
  };
}

function refined(
  start: Camera,
  sightings: readonly Sighting[],
  long: number,
  middle: PicturePlace,
): { readonly camera: Camera; readonly cost: number } {
  const known = (c: Camera): number[] => [
    Math.log(c.focal / (KNOWN.focal * long)) / KNOWN.focalSd,
    c.k1 / KNOWN.k1Sd,
    c.k2 / KNOWN.k2Sd,
    (c.centre.x - middle.x) / (KNOWN.centreSd * long),
    (c.centre.y - middle.y) / (KNOWN.centreSd * long),
  ];
  const offOf = (c: Camera, s: Sighting): [number, number] => {
    const p = project(c, [s.xMm, s.yMm, 0]);
    return [(p.x - s.seen.x) / s.sdPx, (p.y - s.seen.y) / s.sdPx];
  };
  // Far out they count less (Huber 1964): by weights that are held while a step is looked for.
  const weightsOf = (c: Camera): number[] =>
    sightings.map((s) => Math.sqrt(Math.min(1, HUBER / Math.max(1e-12, Math.hypot(...offOf(c, s))))));
  const residuals = (c: Camera, weights: readonly number[]): number[] => [
    ...known(c),
    ...sightings.flatMap((s, i) => offOf(c, s).map((o) => o * weights[i]!)),
  ];
  const costOf = (c: Camera): number =>
    known(c).reduce((sum, k) => sum + k * k, 0) +
    sightings.reduce((sum, s) => {
      const size = Math.hypot(...offOf(c, s));
      return sum + (size <= HUBER ? size * size : HUBER * (2 * size - HUBER));
    }, 0);
  let camera = start;
  let cost = costOf(camera);
  let damp = 1e-3;
  for (let round = 0; round < ROUNDS; round++) {
    const weights = weightsOf(camera);
    const now = residuals(camera, weights);
    const columns = Array.from({ length: PARAMETERS }, (_, j) => {
      const by = Array<number>(PARAMETERS).fill(0);
      by[j] = 1e-6;
      return residuals(moved(camera, by), weights).map((r, i) => (r - now[i]!) / 1e-6);
    });
    const normal = columns.map((a) => columns.map((b) => dot(a, b)));
    const right = columns.map((a) => -dot(a, now));
    normal.forEach((row, i) => (row[i]! *= 1 + damp));
    const step = solve(normal, right);
    if (!step) break;
    const next = moved(camera, step);
    const after = costOf(next);
    if (after < cost) {
      const isDone = cost - after < 1e-9 * cost;
      camera = next;
      cost = after;
      damp = Math.max(1e-9, damp / 5);
      if (isDone) break;
    } else {
      damp *= 6;
      if (damp > 1e8) break;
    }
  }
  return { camera, cost };
}
const ROUNDS = 60;
const HUBER = 4;
