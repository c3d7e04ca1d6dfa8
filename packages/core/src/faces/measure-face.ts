import { FACE_SETTINGS, type FaceSettings } from './settings.ts';
import type { FaceCriteria } from './grading/criteria.ts';
import type { Circle } from './pixels/enclosing-circle.ts';
import { findCladding } from './cladding/find-cladding.ts';
import { type Core, coreOf } from './cladding/find-core.ts';
import { findFeatures, type FoundFeature } from './find-features.ts';
import { findOutside } from './spots/find-outside.ts';
import { flattenFace } from './cladding/flatten.ts';
import { type FaceGrade, gradeFace } from './grading/grade-face.ts';
import { joinAcrossRim } from './join-across-rim.ts';
import type { MeasuredFeature } from './measured-feature.ts';
import { SCALE_UNCERTAINTY } from './grading/pass-probability.ts';
import { checkImage, doubled, type GreyImage, inGrey, partRound, shrink } from './pixels/image.ts';

export const FACE_REFUSALS = [
  'too_small',
  'too_dark',
  'no_face',
  'cut_off',
  'too_blurred',
  'too_coarse',
] as const;
export type FaceRefusal = (typeof FACE_REFUSALS)[number];

export interface GradedFace {
  readonly ok: true;
  readonly umPerPx: number;
  readonly centrePx: readonly [number, number];
  readonly claddingDiameterPx: number;
  readonly blurUm: number;
  readonly core: Core;
  /** Share of the contact zone that lies in the picture; what is cut off was not looked at. */
  readonly contactSeen: number;
  readonly features: readonly MeasuredFeature[];
  readonly grade: FaceGrade;
}
export type MeasuredFace = GradedFace | { readonly ok: false; readonly reason: FaceRefusal };

/** The steps of measuring a face, in order. */
export const FACE_STEPS = ['cladding', 'light', 'features', 'contact_zone'] as const;
export type FaceStep = (typeof FACE_STEPS)[number];

const CLADDING_UM = 125;

/**
 * Measures and grades a picture of a single-fiber end face of unknown scale: the cladding circle gives 125 um and the
 * centre, the light is taken out, features are found, measured and put in every zone that they touch. A picture that is
 * no face, cut off, too dark, too blurred or too coarse for the limits is refused with the reason. Positions in um from the
 * fiber's centre, x right, y down. Scratches are looked for on the cladding, defects on cladding and contact zone.
 * `onStep` is told of each step as it begins. Error: `face.bad_image`.
 */
export function measureFace(
  image: GreyImage,
  table: FaceCriteria,
  onStep?: (step: FaceStep) => void,
  settings: FaceSettings = FACE_SETTINGS,
): MeasuredFace {
  checkImage(image);
  if (Math.min(image.width, image.height) < settings.face.leastSidePx)
    return { ok: false, reason: 'too_small' };
  if (percentile(image, 0.9) < settings.face.leastLevel) return { ok: false, reason: 'too_dark' };
  onStep?.('cladding');
  const edge = findCladding(image, settings);
  if (edge.state === 'none') return { ok: false, reason: 'no_face' };
  if (edge.state === 'cut') return { ok: false, reason: 'cut_off' };
  const { circle, blurPx } = edge.cladding;
  const umPerPx = CLADDING_UM / (2 * circle.r);
  if (umPerPx * settings.face.pixelsForSmallest > settings.face.smallestUm)
    return { ok: false, reason: 'too_coarse' };
  if (blurPx * umPerPx > settings.face.mostBlurUm) return { ok: false, reason: 'too_blurred' };
  const factor = Math.floor(settings.face.coarsePixelUm / umPerPx);
  if (factor > 1) return coarser(image, table, factor, onStep, settings);
  onStep?.('light');
  const blurUm = blurPx * umPerPx;
  const glass = glassOf(image, circle, umPerPx, settings);
  const flat = flattenFace(glass.image, glass.circle, settings);
  onStep?.('features');
  const found = findFeatures(flat, blurPx * glass.times, settings);
  const onGlass = found.map(placed(flat, glass.circle, umPerPx / glass.times, blurUm));
  onStep?.('contact_zone');
  const rimEnd = circle.r + edge.cladding.ringPx + settings.cladding.rimBlurs * blurPx + 1;
  const outside = findOutside(image, circle, umPerPx, rimEnd, blurPx, settings);
  const searchedUm = umPerPx * outside.factor;
  const onFerrule = outside.features.map(placed({ left: 0, top: 0 }, circle, umPerPx, blurUm, searchedUm));
  const rimUm = (rimEnd - circle.r) * umPerPx;
  const features = joinAcrossRim(onGlass, onFerrule, rimUm, settings);
  return {
    ok: true,
    umPerPx,
    centrePx: [circle.x, circle.y],
    claddingDiameterPx: 2 * circle.r,
    blurUm,
    core: coreOf(flat.core, umPerPx / glass.times, settings),
    contactSeen: outside.seen,
    features,
    grade: gradeFace(features, table),
  };
}

/**
 * The picture as its glass is searched: what is coarse is made twice as large first, since lines and spots are told apart by
 * their shape, which a few pixels do not show.
 */
function glassOf(
  image: GreyImage,
  circle: Circle,
  umPerPx: number,
  settings: FaceSettings,
): { readonly image: GreyImage; readonly circle: Circle; readonly times: 1 | 2 } {
  if (umPerPx < settings.face.doubledFromUm) return { image, circle, times: 1 };
  const [left, top, part] = partRound(image, circle, circle.r * 1.1 + 4);
  const { x, y, r } = circle;
  return { image: doubled(part), circle: { x: 2 * (x - left), y: 2 * (y - top), r: 2 * r }, times: 2 };
}

/** A very fine picture, measured on a coarser copy and given back in its own pixels. */
function coarser(
  image: GreyImage,
  table: FaceCriteria,
  factor: number,
  onStep?: (step: FaceStep) => void,
  settings: FaceSettings = FACE_SETTINGS,
): MeasuredFace {
  const small = shrink(image, factor);
  const found = measureFace(inGrey(small), table, onStep, settings);
  if (!found.ok) return found;
  const middle = (factor - 1) / 2;
  return {
    ...found,
    umPerPx: found.umPerPx / factor,
    centrePx: [found.centrePx[0] * factor + middle, found.centrePx[1] * factor + middle],
    claddingDiameterPx: found.claddingDiameterPx * factor,
  };
}

/** An edge is read to this share of the blur; house, so that on drawn faces U holds the true size in 95 of 100. */
const EDGE_OF_BLUR = { defect: 0.85, scratch: 0.25 };
/** The tips of a jagged outline, by which its circle is drawn, are thinner than can be seen: a share of its size; house. */
const TIPS = { defect: 0.008, scratch: 0 };

/** Of a size, expanded (k = 2), um: the pixel that was searched by, the blur, the noise on its edges, and the scale. */
function uncertaintyOf(
  { kind, size, contrast }: FoundFeature,
  umPerPx: number,
  blurUm: number,
  searchedUm: number,
): number {
  const parts = [
    searchedUm / Math.sqrt(12),
    EDGE_OF_BLUR[kind] * blurUm,
    blurUm / Math.max(1, contrast),
    Math.hypot(SCALE_UNCERTAINTY, TIPS[kind]) * size * umPerPx,
  ];
  return 2 * Math.hypot(...parts);
}

const placed =
  (
    flat: { readonly left: number; readonly top: number },
    circle: Circle,
    umPerPx: number,
    blurUm: number,
    searchedUm = umPerPx,
  ) =>
  (f: FoundFeature): MeasuredFeature => {
    const at = (x: number, y: number): readonly [number, number] => [
      (flat.left + x - circle.x) * umPerPx,
      (flat.top + y - circle.y) * umPerPx,
    ];
    const [xUm, yUm] = at(f.x, f.y);
    // A line's points are a pixel apart; a drawing needs few of them.
    const every = Math.max(1, Math.round(f.points.length / 48));
    return {
      kind: f.kind,
      sizeUm: f.size * umPerPx,
      xUm,
      yUm,
      nearestUm: f.nearest * umPerPx,
      farthestUm: f.farthest * umPerPx,
      ...(f.kind === 'scratch' ? { lengthUm: f.length * umPerPx } : {}),
      areaUm2: f.area * umPerPx ** 2,
      uncertaintyUm: uncertaintyOf(f, umPerPx, blurUm, searchedUm),
      contrast: f.contrast,
      outlineUm: f.points
        .filter((_, i) => i % every === 0 || i === f.points.length - 1)
        .map(([x, y]) => at(x, y)),
    };
  };

/** Of every seventh pixel. */
function percentile({ data }: GreyImage, share: number): number {
  const counts = new Uint32Array(256);
  for (let i = 0; i < data.length; i += 7) counts[data[i]!]! += 1;
  let left = (share * data.length) / 7;
  for (let v = 0; v < 256; v++) {
    left -= counts[v]!;
    if (left <= 0) return v;
  }
  return 255;
}
