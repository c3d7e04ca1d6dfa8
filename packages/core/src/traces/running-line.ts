/** A straight line through points by least squares. */
export interface Line {
  /** Level at `centre`, the mean place of its points. */
  readonly level: number;
  readonly slope: number;
  readonly centre: number;
  readonly n: number;
  /** Sum of squares of the places about their mean. */
  readonly sxx: number;
  /** Standard deviation of the points about it. */
  readonly sd: number;
}

/** Level of a line at a place, and its standard uncertainty by the given deviation of one point (Draper and Smith, straight-line fit). */
export const levelAt = (line: Line, x: number): number => line.level + line.slope * (x - line.centre);
export const uncertaintyAt = (line: Line, x: number, sd: number): number =>
  sd * Math.sqrt(1 / line.n + (x - line.centre) ** 2 / line.sxx);

/** The line through the points of both, as if they had been fitted at once. */
export function joinLines(a: Line, b: Line): Line {
  const n = a.n + b.n;
  const centre = (a.n * a.centre + b.n * b.centre) / n;
  const level = (a.n * a.level + b.n * b.level) / n;
  const sum = (of: (line: Line) => number): number => of(a) + of(b);
  const sxx = sum((l) => l.sxx + l.n * (l.centre - centre) ** 2);
  const sxy = sum((l) => l.slope * l.sxx + l.n * (l.centre - centre) * (l.level - level));
  const syy = sum(
    (l) => l.sd ** 2 * Math.max(1, l.n - 2) + l.slope ** 2 * l.sxx + l.n * (l.level - level) ** 2,
  );
  const slope = sxy / sxx;
  const sd = Math.sqrt(Math.max(0, syy - slope * sxy) / Math.max(1, n - 2));
  return { level, slope, centre, n, sxx, sd };
}

/**
 * Sums over all points of a trace, so that the mean or the line of any stretch takes a few operations. Places are counted in points;
 * levels are taken about the first one, so that squares keep their digits.
 */
export class RunningSums {
  private readonly y: Float64Array;
  private readonly xy: Float64Array;
  private readonly yy: Float64Array;
  private readonly zero: number;

  constructor(readonly levels: Float64Array) {
    const n = levels.length;
    this.zero = levels[0] ?? 0;
    this.y = new Float64Array(n + 1);
    this.xy = new Float64Array(n + 1);
    this.yy = new Float64Array(n + 1);
    for (let i = 0; i < n; i++) {
      const v = levels[i]! - this.zero;
      this.y[i + 1] = this.y[i]! + v;
      this.xy[i + 1] = this.xy[i]! + i * v;
      this.yy[i + 1] = this.yy[i]! + v * v;
    }
  }

  /** Mean of the points from `from` up to, not with, `to`. */
  mean(from: number, to: number): number {
    return (this.y[to]! - this.y[from]!) / (to - from) + this.zero;
  }

  /** The line through them; three points at least. */
  line(from: number, to: number): Line {
    const n = to - from;
    const centre = (from + to - 1) / 2;
    const sxx = (n * (n * n - 1)) / 12;
    const sy = this.y[to]! - this.y[from]!;
    const sxy = this.xy[to]! - this.xy[from]! - centre * sy;
    const syy = this.yy[to]! - this.yy[from]! - (sy * sy) / n;
    const slope = sxy / sxx;
    const rest = Math.max(0, syy - slope * sxy);
    return { level: sy / n + this.zero, slope, centre, n, sxx, sd: Math.sqrt(rest / Math.max(1, n - 2)) };
  }
}
