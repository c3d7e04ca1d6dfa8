import type { FaceCriteria } from './criteria.ts';
import { findCladding } from './find-cladding.ts';
import { findFeatures } from './find-features.ts';
import { flattenFace, lookedAtPx } from './flatten.ts';
import { type FaceFeature, type FaceGrade, gradeFace } from './grade-face.ts';
import { checkImage, type GreyImage } from './image.ts';

export const FACE_REFUSALS = [
  'too_small',
  'too_dark',
  'no_face',
  'cut_off',
  'too_blurred',
  'too_coarse',
] as const;
export type FaceRefusal = (typeof FACE_REFUSALS)[number];

export interface MeasuredFeature extends FaceFeature {
  /** Expanded uncertainty of the size (k = 2), um: the edge to half a pixel, the scale to half a percent. */
  readonly uncertaintyUm: number;
  /** Difference to the surroundings over the noise. */
  readonly contrast: number;
}
export type MeasuredFace =
  | {
      readonly ok: true;
      readonly umPerPx: number;
      readonly centrePx: readonly [number, number];
      readonly claddingDiameterPx: number;
      readonly blurUm: number;
      /** Diameter within which features were looked for; zones beyond it were not looked at. */
      readonly lookedAtUm: number;
      readonly features: readonly MeasuredFeature[];
      readonly grade: FaceGrade;
    }
  | { readonly ok: false; readonly reason: FaceRefusal };

const CLADDING_UM = 125;
const LEAST_SIDE = 160;
const LEAST_LEVEL = 16;
/** Smallest defect that every table asks about, and the pixels that it needs to be seen; house. */
const SMALLEST_UM = 2;
const PIXELS_FOR_IT = 3;
/** An edge that is softer than this hides what the tables ask about; um, house. */
const MOST_BLUR_UM = 1.2;

/**
 * Measures and grades a picture of a single-fiber end face of unknown scale: the cladding circle gives 125 um and the
 * centre, the light is taken out, features are found, measured and put in every zone that they touch. A picture that is
 * no face, cut off, too dark, too blurred or too coarse for the limits is refused with the reason.
 * Positions in um from the fiber's centre, x right, y down. Inside the cladding only: what lies on the ferrule is not
 * looked for. Error: `face.bad_image`.
 */
export function measureFace(image: GreyImage, table: FaceCriteria): MeasuredFace {
  checkImage(image);
  if (Math.min(image.width, image.height) < LEAST_SIDE) return { ok: false, reason: 'too_small' };
  if (percentile(image, 0.9) < LEAST_LEVEL) return { ok: false, reason: 'too_dark' };
  const found = findCladding(image);
  if (found.state === 'none') return { ok: false, reason: 'no_face' };
  if (found.state === 'cut') return { ok: false, reason: 'cut_off' };
  const { circle, blurPx } = found.cladding;
  const umPerPx = CLADDING_UM / (2 * circle.r);
  if (umPerPx * PIXELS_FOR_IT > SMALLEST_UM) return { ok: false, reason: 'too_coarse' };
  if (blurPx * umPerPx > MOST_BLUR_UM) return { ok: false, reason: 'too_blurred' };
  const flat = flattenFace(image, circle);
  const features = findFeatures(flat, blurPx).map((f): MeasuredFeature => {
    const sizeUm = f.size * umPerPx;
    return {
      kind: f.kind,
      sizeUm,
      xUm: (flat.left + f.x - circle.x) * umPerPx,
      yUm: (flat.top + f.y - circle.y) * umPerPx,
      nearestUm: f.nearest * umPerPx,
      farthestUm: f.farthest * umPerPx,
      ...(f.kind === 'scratch' ? { lengthUm: f.length * umPerPx } : {}),
      uncertaintyUm: 2 * Math.hypot((0.5 * umPerPx) / Math.sqrt(3), (0.005 * sizeUm) / Math.sqrt(3)),
      contrast: f.contrast,
    };
  });
  return {
    ok: true,
    umPerPx,
    centrePx: [circle.x, circle.y],
    claddingDiameterPx: 2 * circle.r,
    blurUm: blurPx * umPerPx,
    lookedAtUm: 2 * lookedAtPx(circle.r) * umPerPx,
    features,
    grade: gradeFace(features, table),
  };
}

function percentile({ data }: GreyImage, share: number): number {
  const counts = new Uint32Array(256);
  for (const v of data) counts[v]! += 1;
  let left = share * data.length;
  for (let v = 0; v < 256; v++) {
    left -= counts[v]!;
    if (left <= 0) return v;
  }
  return 255;
}
