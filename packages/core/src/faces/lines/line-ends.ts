import type { FaceSettings } from '../settings.ts';

type Point = readonly [x: number, y: number];

/** The end of a line and where it points to, outward; the unit of its points. */
export interface LineEnd {
  readonly at: Point;
  readonly way: Point;
}

/** Both ends of a line; each points the way of its last `tail`. */
export function endsOf(points: readonly Point[], tail: number): readonly [LineEnd, LineEnd] {
  return [endOf([...points].reverse(), tail), endOf(points, tail)];
}

function endOf(points: readonly Point[], tail: number): LineEnd {
  const at = points[points.length - 1]!;
  let from = points[0]!;
  for (let k = points.length - 2; k >= 0; k--) {
    from = points[k]!;
    if (Math.hypot(at[0] - from[0], at[1] - from[1]) >= tail) break;
  }
  const d = Math.hypot(at[0] - from[0], at[1] - from[1]) || 1;
  return { at, way: [(at[0] - from[0]) / d, (at[1] - from[1]) / d] };
}

/** A place lies where a line goes on beyond its end: within reach along its direction and hardly aside. In um. */
export function liesAhead(
  end: LineEnd,
  [x, y]: Point,
  settings: FaceSettings,
  reachUm = settings.ahead.reachUm,
): boolean {
  const dx = x - end.at[0];
  const dy = y - end.at[1];
  const along = dx * end.way[0] + dy * end.way[1];
  const aside = Math.abs(dx * end.way[1] - dy * end.way[0]);
  return (
    along > -settings.ahead.backUm &&
    along < reachUm &&
    aside < settings.ahead.asideUm + settings.ahead.bends * Math.max(0, along)
  );
}

/** Two ends that face each other, near enough and in line, are of one scratch. In um. */
export function faceEachOther(a: LineEnd, b: LineEnd, settings: FaceSettings): boolean {
  const cos = -(a.way[0] * b.way[0] + a.way[1] * b.way[1]);
  if (cos < Math.cos((settings.ahead.turnedDeg * Math.PI) / 180)) return false;
  return liesAhead(a, b.at, settings) && liesAhead(b, a.at, settings);
}
