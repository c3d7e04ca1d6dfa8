import { type GreyImage, sampleAt } from '../../faces/pixels/image.ts';
import { middleOf } from '../../faces/pixels/quantile.ts';
import { solve } from '../../faces/pixels/solve.ts';
import type { JointFit } from './joint-fit.ts';

/** By how much the core moves against the cladding from the left fiber to the right one, in the glass. µm, rows of the picture downwards. */
export interface CoreShift {
  readonly shiftUm: number;
  readonly shiftSd: number;
}

/** Index of the cladding: a cylinder of it magnifies by so much what lies near its axis (silica at 589 nm 1.4585, Malitson 1965). */
const CLADDING_INDEX = 1.458;
/** Columns from the joint, µm; places across, µm. */
const ALONG = { from: 70, to: 400, steps: 110 };
const ACROSS = { to: 14, step: 0.5 };
/** Where the flanks of the core are seen through the cladding. */
const FLANKS = { from: 4, to: 12 };
/** The bright middle of the cladding lies over the core and does not move with it: of a shift so much is seen, less in a blurred picture; house, by practice pictures. */
const SEEN = { sharp: 0.8, blurred: 0.58, fromUm: 1.6, toUm: 4.5, sd: 0.16 };
/** Levels from here on are clipped. */
const CLIPPED = 249;
/** Flanks that rise by less than this a µm, of their level, show no core. */
const LEAST_FLANK = 0.035;
const LEAST_PLACES = 14;
/** From here on a shift says that something else is seen. */
const MOST_UM = 3.5;
const LEAST_SD = 0.06;

/** Compares the light across both fibers. Null where the picture shows no core. `blurUm`: from a tenth to nine tenths of an edge. */
export function coreShift(
  image: GreyImage,
  joint: JointFit,
  umPerPx: number,
  blurUm: number,
): CoreShift | null {
  const left = profileOf(image, joint, umPerPx, -1);
  const right = profileOf(image, joint, umPerPx, 1);
  if (!left || !right) return null;
  const n = left.length;
  const log = left.map((l, i) => (Math.log(l) + Math.log(right[i]!)) / 2);
  const rows: number[][] = [];
  const values: number[] = [];
  let steepest = 0;
  for (let i = 2; i < n - 2; i++) {
    const v = (i - (n - 1) / 2) * ACROSS.step;
    if (Math.abs(v) < FLANKS.from || Math.abs(v) > FLANKS.to) continue;
    if (left[i]! >= CLIPPED || right[i]! >= CLIPPED) continue;
    // Mean rise over two steps to each side.
    const rise = (log[i + 2]! + log[i + 1]! - log[i - 1]! - log[i - 2]!) / (6 * ACROSS.step);
    steepest = Math.max(steepest, Math.abs(rise));
    rows.push([-rise, 1, v / 10, (v * v) / 100]);
    values.push(Math.log(right[i]!) - Math.log(left[i]!));
  }
  if (rows.length < LEAST_PLACES || steepest < LEAST_FLANK) return null;
  const fit = leastSquares(rows, values);
  if (!fit) return null;
  const blur = Math.max(0, Math.min(1, (blurUm - SEEN.fromUm) / (SEEN.toUm - SEEN.fromUm)));
  const share = SEEN.sharp + (SEEN.blurred - SEEN.sharp) * blur;
  const seen = fit.value / share;
  if (Math.abs(seen) > MOST_UM) return null;
  // Neighbouring places err together.
  const sd = Math.hypot((2 * fit.sd) / share, (SEEN.sd / share) * seen, LEAST_SD);
  return { shiftUm: seen / CLADDING_INDEX, shiftSd: sd / CLADDING_INDEX };
}

/** The usual level across one fiber, at places -14 to 14 µm from its axis. */
function profileOf(image: GreyImage, joint: JointFit, umPerPx: number, sign: 1 | -1): number[] | null {
  const axis = sign < 0 ? joint.left : joint.right;
  const slant = Math.hypot(1, axis.slope);
  const places = Math.round((2 * ACROSS.to) / ACROSS.step) + 1;
  const found: Float32Array[] = Array.from({ length: places }, () => new Float32Array(ALONG.steps));
  let n = 0;
  for (let s = 0; s < ALONG.steps; s++) {
    const d = ALONG.from + ((ALONG.to - ALONG.from) * s) / (ALONG.steps - 1);
    const x = Math.round(joint.at + (sign * d) / umPerPx);
    if (x < 2 || x > image.width - 3) continue;
    const middle = joint.middle(x);
    let isWhole = true;
    for (let i = 0; i < places; i++) {
      const v = (i * ACROSS.step - ACROSS.to) / umPerPx;
      const level = sampleAt(image, x, middle + v * slant);
      if (level === null) isWhole = false;
      else found[i]![n] = level;
    }
    if (isWhole) n += 1;
  }
  if (n < ALONG.steps / 4) return null;
  return found.map((levels) => Math.max(1, middleOf(levels.slice(0, n))));
}

/** The first coefficient by least squares, with its standard deviation. */
function leastSquares(
  rows: readonly number[][],
  values: readonly number[],
): { value: number; sd: number } | null {
  const n = rows[0]!.length;
  const normal = Array.from({ length: n }, (_, i) =>
    Array.from({ length: n }, (_, j) => rows.reduce((sum, r) => sum + r[i]! * r[j]!, 0)),
  );
  const right = Array.from({ length: n }, (_, i) => rows.reduce((sum, r, k) => sum + r[i]! * values[k]!, 0));
  const found = solve(normal, right);
  const inverse = solve(normal, [1, ...Array<number>(n - 1).fill(0)]);
  if (!found || !inverse) return null;
  const left = rows.reduce(
    (sum, r, k) => sum + (values[k]! - r.reduce((s, t, i) => s + t * found[i]!, 0)) ** 2,
    0,
  );
  return {
    value: found[0]!,
    sd: Math.sqrt((left / Math.max(1, rows.length - n)) * Math.max(0, inverse[0]!)),
  };
}
