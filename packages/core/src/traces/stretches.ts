import type { Line } from './running-line.ts';

/** Points that make a line, at least. */
export const LEAST_LINE = 10;

/** A stretch of backscatter on which a line was fitted: points from `from` up to, not with, `to`. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly line: Line;
}
/** Where the trace leaves a line: the first point of the leading edge, and whether it goes up there. */
export interface Edge {
  readonly at: number;
  readonly rises: boolean;
}
