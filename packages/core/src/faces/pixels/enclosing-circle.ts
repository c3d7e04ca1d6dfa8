export interface Circle {
  readonly x: number;
  readonly y: number;
  readonly r: number;
}
type Point = readonly [x: number, y: number];

/**
 * The smallest circle that encloses all points (Welzl 1991, the incremental form, points in the given order).
 * Unit that of the points. Null without points. Relative error under 1e-9 for coordinates of ordinary size.
 * Example: two points are enclosed by the circle on their diameter.
 */
export function enclosingCircle(points: readonly Point[]): Circle | null {
  let circle: Circle | null = null;
  for (let i = 0; i < points.length; i++) {
    if (circle && holds(circle, points[i]!)) continue;
    circle = { x: points[i]![0], y: points[i]![1], r: 0 };
    for (let j = 0; j < i; j++) {
      if (holds(circle, points[j]!)) continue;
      circle = onDiameter(points[i]!, points[j]!);
      for (let k = 0; k < j; k++) {
        if (!holds(circle, points[k]!)) circle = through(points[i]!, points[j]!, points[k]!);
      }
    }
  }
  return circle;
}

const holds = (c: Circle, [x, y]: Point): boolean => Math.hypot(x - c.x, y - c.y) <= c.r * (1 + 1e-12) + 1e-9;

function onDiameter(a: Point, b: Point): Circle {
  return { x: (a[0] + b[0]) / 2, y: (a[1] + b[1]) / 2, r: Math.hypot(a[0] - b[0], a[1] - b[1]) / 2 };
}

function through(a: Point, b: Point, c: Point): Circle {
  const bx = b[0] - a[0];
  const by = b[1] - a[1];
  const cx = c[0] - a[0];
  const cy = c[1] - a[1];
  const d = 2 * (bx * cy - by * cx);
  // On a line the two outermost decide.
  if (Math.abs(d) < 1e-12) {
    const pairs = [onDiameter(a, b), onDiameter(a, c), onDiameter(b, c)];
    return pairs.reduce((most, p) => (p.r > most.r ? p : most));
  }
  const x = (cy * (bx * bx + by * by) - by * (cx * cx + cy * cy)) / d;
  const y = (bx * (cx * cx + cy * cy) - cx * (bx * bx + by * by)) / d;
  return { x: a[0] + x, y: a[1] + y, r: Math.hypot(x, y) };
}
