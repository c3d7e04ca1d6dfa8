/** A thin line in the square of a flattened face; pixels. */
export interface FoundLine {
  /** Along the line, in order. */
  readonly pixels: readonly number[];
  readonly length: number;
  readonly width: number;
  /** Mean height of its middle over its surroundings, levels, without sign. */
  readonly height: number;
  readonly sign: number;
}

/** A line measured along its curve: width and height with the blur taken out. */
export interface MeasuredLine extends FoundLine {
  /** The curve, a point each pixel. */
  readonly points: readonly (readonly [x: number, y: number])[];
  /** Blur of the picture, standard deviation. */
  readonly blur: number;
}

/** Along the points, from the first to the last. */
export function lengthOf(points: MeasuredLine['points']): number {
  let sum = 0;
  for (let k = 1; k < points.length; k++) {
    sum += Math.hypot(points[k]![0] - points[k - 1]![0], points[k]![1] - points[k - 1]![1]);
  }
  return sum;
}
