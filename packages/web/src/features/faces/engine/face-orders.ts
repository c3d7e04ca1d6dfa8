import type { FaceCriteria, FaceStep, MeasuredFace, MeasuredRow, MeasuredSlide } from '@clear-mark/core';
import type { FaceState } from '@clear-mark/sim';
import type { PictureProblem } from '../../../pictures/picture-problems.ts';

/** What a picture shows: one end, or the row of a multi-fiber ferrule. */
export type FaceView = 'single' | 'row';

/** An order to the worker that measures. */
export interface FaceOrder {
  readonly picture: Blob;
  readonly name: string;
  readonly view: FaceView;
  readonly table: FaceCriteria;
}
/** The flattened part of a picture, where it lies in it. */
export interface FlatImage {
  readonly left: number;
  readonly top: number;
  readonly side: number;
  readonly png: Blob;
}
export type FaceNews =
  | { readonly news: 'size'; readonly width: number; readonly height: number }
  | { readonly news: 'step'; readonly step: FaceStep | 'reading'; readonly fiber: number | null }
  | {
      readonly news: 'done';
      readonly found: MeasuredFace | MeasuredRow;
      readonly flat: FlatImage | null;
    }
  | { readonly news: 'problem'; readonly problem: PictureProblem };

/** An order for the scale of a calibration slide whose lines lie so far apart, um. */
export interface SlideOrder {
  readonly picture: Blob;
  readonly divisionUm: number;
}
export type SlideNews = { readonly found: MeasuredSlide } | { readonly problem: PictureProblem };

/** An order to the stand-in of the microscope: a face by its seed, as it lies under the scope at that moment. */
export interface StandInOrder {
  readonly seed: number;
  readonly state: FaceState;
  /** Share of what was loose that is still there, 0 to 1: 1 before it is cleaned. */
  readonly loose: number;
  /** Another picture of the same face has another noise. */
  readonly shot: number;
  readonly kind: 'single_mode' | 'multimode' | 'row';
  readonly height: number;
}
/** An order for the faces of a series: from which seed on, and how many. */
export interface CallFacesOrder {
  readonly first: number;
  readonly count: number;
}
export interface StandInPicture {
  readonly width: number;
  readonly height: number;
  readonly png: Blob;
  readonly looks: readonly string[];
  /** What it is by its own features and the flat single-mode or the multimode table. */
  readonly verdict: 'pass' | 'fail';
}
