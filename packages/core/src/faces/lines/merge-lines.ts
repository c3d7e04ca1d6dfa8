import type { FaceSettings } from '../settings.ts';
import { lengthOf, type MeasuredLine } from './found-line.ts';

type Point = readonly [x: number, y: number];

interface End {
  readonly at: Point;
  /** Outward. */
  readonly way: Point;
}

/**
 * Measured lines of which one goes on where another ends, made one: a scratch bent further than one curve follows, or
 * interrupted. Its width and height are the means by length.
 */
export function mergeLines(lines: readonly MeasuredLine[], settings: FaceSettings): readonly MeasuredLine[] {
  const rest = [...lines];
  const merged: MeasuredLine[] = [];
  while (rest.length > 0) {
    let line = rest.shift()!;
    for (let k = 0; k < rest.length; k++) {
      const one = joinedTo(line, rest[k]!, settings);
      if (!one) continue;
      line = one;
      rest.splice(k, 1);
      k = -1;
    }
    merged.push(line);
  }
  return merged.filter((line) => !merged.some((other) => isLeftOf(other, line, settings)));
}

/** The one is what the taking out of the other left behind, where its curve does not follow to the end. */
function isLeftOf(long: MeasuredLine, short: MeasuredLine, settings: FaceSettings): boolean {
  if (short.length > settings.merge.shortPx || long.length < 1.5 * short.length || long.sign !== short.sign)
    return false;
  const [x, y] = short.points[short.points.length >> 1]!;
  const first = endOf([...long.points].reverse(), settings);
  const last = endOf(long.points, settings);
  const carried = [first, last].flatMap(({ at, way }): Point[] =>
    Array.from({ length: settings.merge.beyondPx }, (_, s) => [at[0] + s * way[0], at[1] + s * way[1]]),
  );
  const on = [
    ...carried.slice(0, settings.merge.beyondPx).reverse(),
    ...long.points,
    ...carried.slice(settings.merge.beyondPx),
  ];
  let nearest = 0;
  const off = (k: number): number => Math.hypot(on[k]![0] - x, on[k]![1] - y);
  for (let k = 1; k < on.length; k++) if (off(k) < off(nearest)) nearest = k;
  if (off(nearest) > long.width / 2 + settings.merge.besidePx) return false;
  const a = on[Math.max(0, nearest - 6)]!;
  const b = on[Math.min(on.length - 1, nearest + 6)]!;
  const c = short.points[0]!;
  const d = short.points[short.points.length - 1]!;
  return turnedDeg([b[0] - a[0], b[1] - a[1]], [d[0] - c[0], d[1] - c[1]]) < settings.merge.alongDeg;
}

/** Between two directions, either way round. */
function turnedDeg([ax, ay]: Point, [bx, by]: Point): number {
  const cos = Math.abs(ax * bx + ay * by) / (Math.hypot(ax, ay) * Math.hypot(bx, by) || 1);
  return (Math.acos(Math.min(1, cos)) * 180) / Math.PI;
}

function joinedTo(a: MeasuredLine, b: MeasuredLine, settings: FaceSettings): MeasuredLine | null {
  if (a.sign !== b.sign || !alike(a.height, b.height, settings) || !alike(a.width + 1, b.width + 1, settings))
    return null;
  for (const first of [a.points, [...a.points].reverse()]) {
    for (const second of [b.points, [...b.points].reverse()]) {
      if (goesOn(endOf(first, settings), endOf([...second].reverse(), settings), settings))
        return asOne(a, b, first, second, settings);
    }
  }
  return null;
}

const alike = (p: number, q: number, settings: FaceSettings): boolean =>
  p < settings.merge.alike * q && q < settings.merge.alike * p;

function endOf(points: readonly Point[], settings: FaceSettings): End {
  const [x, y] = points[points.length - 1]!;
  const [fx, fy] = points[Math.max(0, points.length - 1 - settings.merge.tailPx)]!;
  const d = Math.hypot(x - fx, y - fy) || 1;
  return { at: [x, y], way: [(x - fx) / d, (y - fy) / d] };
}

/** The end of one line and the beginning of the next, both seen outward: they face each other. */
function goesOn(a: End, b: End, settings: FaceSettings): boolean {
  const turn =
    (Math.acos(Math.max(-1, Math.min(1, -(a.way[0] * b.way[0] + a.way[1] * b.way[1])))) * 180) / Math.PI;
  const dx = b.at[0] - a.at[0];
  const dy = b.at[1] - a.at[1];
  if (turn > settings.merge.turnedDeg + settings.merge.bendsDegPerPx * Math.hypot(dx, dy)) return false;
  // By the direction half-way between the two, as a bend goes.
  const mx = a.way[0] - b.way[0];
  const my = a.way[1] - b.way[1];
  const m = Math.hypot(mx, my);
  const along = (dx * mx + dy * my) / m;
  const aside = Math.abs(dx * my - dy * mx) / m;
  return Math.abs(along) < settings.merge.apartPx && aside < settings.merge.asidePx + 0.1 * Math.abs(along);
}

function asOne(
  a: MeasuredLine,
  b: MeasuredLine,
  first: readonly Point[],
  second: readonly Point[],
  settings: FaceSettings,
): MeasuredLine {
  const { at, way } = endOf(first, settings);
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
