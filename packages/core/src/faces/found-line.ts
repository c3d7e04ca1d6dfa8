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
