import type { GreyImage } from '../faces/pixels/image.ts';
import { firstFall, levelsAlong } from './edge-profile.ts';
import { type FiberEdges, middleAt } from './fiber-edges.ts';
import { CORRELATED } from './robust.ts';
import { type Bright, bulgeAt, lineOfRows, shareOfRows } from './line-fit.ts';

/** The end of a fiber as it is seen across it. Lengths in pixels, along the axis (u, outwards) and across it (v, upwards). */
export interface FaceLine {
  /** Tangent of the angle to the perpendicular of the axis: positive when the upper corner sticks out further. */
  readonly slope: number;
  readonly slopeSd: number;
  /** Where the line crosses the axis, from the rough end. */
  readonly at: number;
  /** Bulge of the seen rim: a face that is tilted towards the eye is seen as half an ellipse. */
  readonly bulge: number;
  readonly rows: readonly FaceRow[];
  readonly spread: number;
  /** Half the width of the fiber. */
  readonly half: number;
  /** Share of the rows that show an end and lie on the line. */
  readonly onLine: number;
}
export interface FaceRow {
  readonly v: number;
  /** Place of the end in this row; null where none is seen. */
  readonly u: number | null;
  /** From the fitted line, outwards. */
  readonly off: number;
}

const REACH = { out: 0.55, in: 0.45 };
/** Rows that the line is fitted to: nearer to the corners the blur of both edges mixes. */
const FITTED = 0.92;
/** Share of the rows that has to show an end. */
const LEAST_SEEN = 0.35;
/** Nearer than this no edge is read, in pixels and in micrometres of the fiber (house, by practice pictures). */
const LEAST_SPREAD = { px: 0.12, um: 0.08 };
/** Half of the 125 µm of a fiber. */
const HALF_UM = 62.5;
const STEPS = 2;

/** Reads where a fiber ends in each row across it, and fits the line. Null where too few rows show an end. */
export function fitFaceLine(
  image: GreyImage,
  fiber: FiberEdges,
  gap: number,
  least: number,
  bright: Bright,
): FaceLine | null {
  const half = fiber.width / 2;
  const frame = frameAt(fiber);
  const out = Math.max(2, Math.min(REACH.out * fiber.width, gap / 2));
  const inside = REACH.in * fiber.width;
  const n = Math.ceil((out + inside) * STEPS);
  const lit = Math.max(2, Math.round(Math.min(out * 0.5, 12) * STEPS));
  const rows: { v: number; u: number | null }[] = [];
  const levels = new Float64Array(n);
  for (let v = -Math.floor(half); v <= half; v++) {
    const start = frame.at(out, v);
    levelsAlong(image, start, { x: -frame.t.x, y: -frame.t.y }, n, 1 / STEPS, levels);
    const fall = firstFall(levels, lit, least);
    rows.push({ v, u: fall ? out - fall.at / STEPS : null });
  }
  return lineThrough(rows, half, bright);
}

type Rows = readonly Omit<FaceRow, 'off'>[];

/** The line through rows across a fiber of that half width; `bright` as in `lineOfRows`. */
export function lineThrough(rows: Rows, half: number, bright: Bright): FaceLine | null {
  const used = usedOf(rows, half);
  return used && fitted(rows, half, bright, used);
}

/** A line fitted again with rows that count less the rougher the face is near them; itself where it is as smooth everywhere. */
export function lineByRoughness(line: FaceLine, bright: Bright): FaceLine {
  const used = usedOf(line.rows, line.half);
  if (!used) return line;
  const shares = shareOfRows(used.vs, used.us, leastSpread(line.half));
  if (shares.every((share) => share === 1)) return line;
  return fitted(line.rows, line.half, bright, used, shares) ?? line;
}

interface UsedRows {
  /** Across the fiber in half widths, and where its end is seen there. */
  readonly vs: readonly number[];
  readonly us: readonly number[];
  /** How many rows there could be. */
  readonly of: number;
}
/** The rows that a line is fitted to; null where too few show an end. */
function usedOf(rows: Rows, half: number): UsedRows | null {
  const inside = rows.filter((r) => Math.abs(r.v) < FITTED * half);
  const used = inside.filter((r) => r.u !== null);
  if (used.length < 8 || used.length < LEAST_SEEN * inside.length) return null;
  return { vs: used.map((r) => r.v / half), us: used.map((r) => r.u!), of: inside.length };
}

const leastSpread = (half: number): number => Math.max(LEAST_SPREAD.px, (LEAST_SPREAD.um * half) / HALF_UM);

function fitted(
  rows: Rows,
  half: number,
  bright: Bright,
  { vs, us, of }: UsedRows,
  shares?: readonly number[],
): FaceLine | null {
  const line = lineOfRows(vs, us, leastSpread(half), bright, shares);
  if (!line) return null;
  const slope = line.slope / half;
  const on = (v: number): number =>
    line.at + slope * v + line.step * bright(v / half) + line.bulge * bulgeAt(v / half);
  return {
    at: line.at,
    slope,
    slopeSd: (line.slopeSd / half) * CORRELATED,
    bulge: line.bulge,
    rows: rows.map((r) => ({ ...r, off: r.u === null ? 0 : r.u - on(r.v) })),
    spread: line.spread,
    half,
    onLine: line.weights.reduce((sum, w) => sum + (w > 0.2 ? 1 : 0), 0) / of,
  };
}

/** The axis at the end: u outwards along it, v upwards across it. */
export function frameAt(fiber: FiberEdges): {
  readonly t: { readonly x: number; readonly y: number };
  readonly at: (u: number, v: number) => { x: number; y: number };
} {
  const slant = Math.hypot(1, fiber.slope);
  const sign = fiber.side === 'left' ? 1 : -1;
  const t = { x: sign / slant, y: (sign * fiber.slope) / slant };
  const up = { x: fiber.slope / slant, y: -1 / slant };
  const middle = { x: fiber.origin, y: middleAt(fiber, fiber.origin) };
  return {
    t,
    at: (u, v) => ({ x: middle.x + t.x * u + up.x * v, y: middle.y + t.y * u + up.y * v }),
  };
}
