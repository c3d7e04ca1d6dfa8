import { FACE_SETTINGS, type FaceSettings } from '../settings.ts';
import type { Circle } from '../pixels/enclosing-circle.ts';
import { findFeatures, type FoundFeature } from '../find-features.ts';
import { squareOf, takeLight, takeRings } from '../cladding/flatten.ts';
import { type GreyImage, partRound } from '../pixels/image.ts';
import { fitLight } from '../cladding/light.ts';

export interface Outside {
  /** In pixels of the picture, distances from the fiber's centre. */
  readonly features: readonly FoundFeature[];
  /** Size of a pixel of the copy that was searched, in pixels of the picture. */
  readonly factor: number;
  /** Share of the contact zone that lies in the picture. */
  readonly seen: number;
}

/** The contact zone by radii of the cladding: 135 to 250 um. */
const FROM = 135 / 125;
const TO = 250 / 125;

/**
 * What lies on the ferrule round the cladding, from where the blurred rim has ended to the end of the contact zone: the
 * ferrule's own light is taken out and its own noise told, since its grain is none of the glass. Very fine pictures are
 * searched on a coarser copy. What the frame cuts off is not looked at, and said.
 */
export function findOutside(
  image: GreyImage,
  circle: Circle,
  umPerPx: number,
  rimEndPx: number,
  blurPx: number,
  settings: FaceSettings = FACE_SETTINGS,
): Outside {
  const factor = Math.max(1, Math.floor(settings.outside.copyUm / umPerPx));
  const [left, top, copy] = partRound(image, circle, TO * circle.r + 2 * factor, factor);
  const middle = (factor - 1) / 2;
  const centre = {
    x: (circle.x - left - middle) / factor,
    y: (circle.y - top - middle) / factor,
    r: circle.r / factor,
  };
  const from = Math.min(FROM * centre.r, rimEndPx / factor);
  const face = squareOf(copy, centre, TO * centre.r + 1, from, TO * centre.r);
  let inFrame = 0;
  for (let i = 0; i < face.inside.length; i++) inFrame += face.inside[i]!;
  const whole = Math.PI * ((TO * centre.r) ** 2 - from ** 2);
  const seen = Math.min(1, inFrame / whole);
  const light = fitLight(copy, centre, FROM, TO, 3);
  if (!light) return { features: [], seen, factor };
  takeLight(face, light);
  takeRings(face, settings);
  const blur = Math.hypot(blurPx / factor, factor > 1 ? 0.29 : 0);
  const at = (x: number, y: number): readonly [number, number] => [
    left + (face.left + x) * factor + middle,
    top + (face.top + y) * factor + middle,
  ];
  const features = findFeatures(face, blur, settings).map((f): FoundFeature => {
    const [x, y] = at(f.x, f.y);
    return {
      ...f,
      x,
      y,
      size: f.size * factor,
      length: f.length * factor,
      area: f.area * factor * factor,
      nearest: f.nearest * factor,
      farthest: f.farthest * factor,
      points: f.points.map(([px, py]) => at(px, py)),
    };
  });
  return { features, seen, factor };
}
