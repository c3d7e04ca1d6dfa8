import type { FlatFace } from '../cladding/flat-face.ts';
import type { Halved } from '../pixels/halve.ts';
import type { Chance } from './chance.ts';

/** Pixels of one sign that stand out together. */
export interface Spot {
  readonly pixels: readonly number[];
  readonly sign: number;
  /** Height of the highest pixel, levels, without sign. */
  readonly peak: number;
}

/** Smoothing at which spots are grown; standard deviation in pixels. The finest scale is this one. */
export const FINE = 0.7;

/** What the search of spots works on: the face smoothed a little, and the noise of it. */
export interface SpotGround {
  readonly face: FlatFace;
  readonly fine: Float32Array;
  /** Noise by the distance from the centre in whole pixels, and that of all. */
  readonly noise: Float32Array;
  readonly spread: number;
  /** Levels that a line may have left; a spot stands out of them. */
  readonly doubt: Float32Array | null;
  /** Noise by the distance at each scale, and the height that chance does not reach, found when first asked for. */
  readonly chanceOf: Map<number, Chance>;
  /** Copies of half and a quarter of the size, made when they are first asked for. */
  readonly copies: { half?: SmallFace; quarter?: SmallFace };
}
export interface SmallFace extends Halved {
  readonly distance: Float32Array;
}
