import type { MeasuredLine } from './found-line.ts';

type Point = readonly [x: number, y: number];

/** Ends of one scratch lie at most this far apart or run past each other by as much, pixels. */
const APART = 40;
/** They turn by no more than this from one to the other, and lie this little beside each other; degrees, pixels. */
const TURNED_DEG = 28;
const ASIDE = 4;
/** Width and height differ by no more than this factor. */
const ALIKE = 1.8;
/** The direction of an end is that of its last pixels. */
const TAIL = 26;

interface End {
  readonly at: Point;
  /** Outward. */
  readonly way: Point;
}

/**
 * Measured lines of which one goes on where another ends, made one: a scratch bent further than one curve follows, or
 * interrupted. Its width and height are the means by length.
 */
export function mergeLines(lines: readonly MeasuredLine[]): readonly MeasuredLine[] {
  const rest = [...lines];
  const merged: MeasuredLine[] = [];
  while (rest.length > 0) {
    let line = rest.shift()!;
    for (let k = 0; k < rest.length; k++) {
      const one = joinedTo(line, rest[k]!);
      if (!one) continue;
      line = one;
      rest.splice(k, 1);
      k = -1;
    }
    merged.push(line);
  }
  return merged;
}

function joinedTo(a: MeasuredLine, b: MeasuredLine): MeasuredLine | null {
  if (a.sign !== b.sign || !alike(a.height, b.height) || !alike(a.width + 1, b.width + 1)) return null;
  for (const first of [a.points, [...a.points].reverse()]) {
    for (const second of [b.points, [...b.points].reverse()]) {
      if (goesOn(endOf(first), endOf([...second].reverse()))) return asOne(a, b, first, second);
    }
  }
  return null;
}

const alike = (p: number, q: number): boolean => p < ALIKE * q && q < ALIKE * p;

function endOf(points: readonly Point[]): End {
  const [x, y] = points[points.length - 1]!;
  const [fx, fy] = points[Math.max(0, points.length - 1 - TAIL)]!;
  const d = Math.hypot(x - fx, y - fy) || 1;
  return { at: [x, y], way: [(x - fx) / d, (y - fy) / d] };
}

/** The end of one line and the beginning of the next, both seen outward: they face each other. */
function goesOn(a: End, b: End): boolean {
  const turn =
    (Math.acos(Math.max(-1, Math.min(1, -(a.way[0] * b.way[0] + a.way[1] * b.way[1])))) * 180) / Math.PI;
  if (turn > TURNED_DEG) return false;
  const [dx, dy] = [b.at[0] - a.at[0], b.at[1] - a.at[1]];
  // By the direction half-way between the two, as a bend goes.
  const [mx, my] = [a.way[0] - b.way[0], a.way[1] - b.way[1]];
  const m = Math.hypot(mx, my);
  const along = (dx * mx + dy * my) / m;
  const aside = Math.abs(dx * my - dy * mx) / m;
  return Math.abs(along) < APART && aside < ASIDE + 0.1 * Math.abs(along);
}

function asOne(
  a: MeasuredLine,
  b: MeasuredLine,
  first: readonly Point[],
  second: readonly Point[],
): MeasuredLine {
  const { at, way } = endOf(first);
  // What runs past the end of the first already is none of what the second adds.
  const added = second.filter(([x, y]) => (x - at[0]) * way[0] + (y - at[1]) * way[1] > 0);
  const share = a.length / (a.length + b.length);
  const mean = (p: number, q: number): number => share * p + (1 - share) * q;
  const points = [...first, ...added];
  return {
    points,
    pixels: [...a.pixels, ...b.pixels],
    length: lengthOf(points),
    width: mean(a.width, b.width),
    height: mean(a.height, b.height),
    sign: a.sign,
    blur: a.blur,
  };
}

function lengthOf(points: readonly Point[]): number {
  let sum = 0;
  for (let k = 1; k < points.length; k++) {
    sum += Math.hypot(points[k]![0] - points[k - 1]![0], points[k]![1] - points[k - 1]![1]);
  }
  return sum;
}
