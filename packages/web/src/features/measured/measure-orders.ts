import type { CleaveReading } from '@clear-mark/core';
import type { PictureProblem } from '../../pictures/picture-problems.ts';

/** An order to measure the ends in a picture from the side. */
export interface CleaveOrder {
  readonly picture: Blob;
}
export type CleaveNews =
  | { readonly width: number; readonly height: number; readonly reading: CleaveReading }
  | { readonly problem: PictureProblem };

/** An order for what a simulated cleave scope shows. */
export interface CleaveStandInOrder {
  readonly seed: number;
}
export interface CleaveStandInPicture {
  readonly png: Blob;
}
