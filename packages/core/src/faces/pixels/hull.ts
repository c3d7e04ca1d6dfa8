type Point = readonly [x: number, y: number];

/** The corners of the convex hull of points, by the monotone chain (Andrew 1979); of up to two points the points. */
export function hullOf(points: readonly Point[]): readonly Point[] {
  if (points.length < 3) return points;
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const half = (order: readonly Point[]): Point[] => {
    const chain: Point[] = [];
    for (const p of order) {
      while (chain.length > 1 && turn(chain[chain.length - 2]!, chain[chain.length - 1]!, p) <= 0)
        chain.pop();
      chain.push(p);
    }
    return chain.slice(0, -1);
  };
  return [...half(sorted), ...half(sorted.reverse())];
}

const turn = (a: Point, b: Point, c: Point): number =>
  (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
