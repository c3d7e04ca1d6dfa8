import type { FaceFeature } from './grading/grade-face.ts';

/** A feature as it was measured in a picture. */
export interface MeasuredFeature extends FaceFeature {
  /** Expanded uncertainty of the size (k = 2), um: where its edges lie, by pixel, blur and noise, and the scale. */
  readonly uncertaintyUm: number;
  /** Area, um^2. */
  readonly areaUm2: number;
  /** Difference to the surroundings over the noise. */
  readonly contrast: number;
  /** Its middle line, or places on its edge; um from the fiber's centre. */
  readonly outlineUm: readonly (readonly [x: number, y: number])[];
}
