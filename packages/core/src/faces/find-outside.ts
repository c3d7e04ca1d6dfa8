import type { Circle } from './enclosing-circle.ts';
import { circleOf, elongation, findSpots, spotGround } from './find-spots.ts';
import { squareOf, takeLight } from './flatten.ts';
import { type GreyImage, inGrey, shrink } from './image.ts';
import { fitLight } from './light.ts';

/** A defect on the ferrule; pixels of the picture. */
export interface OutsideDefect {
  readonly x: number;
  readonly y: number;
  readonly size: number;
  readonly area: number;
  readonly contrast: number;
  readonly nearest: number;
  readonly farthest: number;
}
export interface Outside {
  readonly defects: readonly OutsideDefect[];
  /** Share of the contact zone that lies in the picture. */
  readonly seen: number;
}

/** The contact zone by radii of the cladding: 135 to 250 um. */
const FROM = 135 / 125;
const TO = 250 / 125;
/** The grain of a ferrule hides what is smaller; um, house. */
export const LEAST_OUTSIDE_UM = 5;
/** Size of a pixel of the copy that is searched, um. */
const COPY_UM = 0.9;
/** A spot so much longer than wide is a scratch, which is not looked for here. */
const LONG = 4;

/**
 * Defects of the contact zone, of 5 um and more, on a coarse copy of the picture with the ferrule's own light taken out.
 * What the frame cuts off is not looked at, and said.
 */
export function findOutside(image: GreyImage, circle: Circle, umPerPx: number): Outside {
  const factor = Math.max(1, Math.round(COPY_UM / umPerPx));
  const small = shrink(image, factor);
  const copy = inGrey(small);
  const middle = (factor - 1) / 2;
  const centre = { x: (circle.x - middle) / factor, y: (circle.y - middle) / factor, r: circle.r / factor };
  const face = squareOf(copy, centre, TO * centre.r + 1, FROM * centre.r, TO * centre.r);
  let inFrame = 0;
  for (let i = 0; i < face.inside.length; i++) inFrame += face.inside[i]!;
  const seen = Math.min(1, inFrame / (Math.PI * (TO * TO - FROM * FROM) * centre.r * centre.r));
  const light = fitLight(copy, centre, FROM, TO, 3);
  if (!light) return { defects: [], seen };
  takeLight(face, light);
  const ground = spotGround(face);
  const leastPx = LEAST_OUTSIDE_UM / umPerPx / factor;
  const defects = findSpots(ground, [4, 2]).flatMap((spot): OutsideDefect[] => {
    const { x, y, size } = circleOf(spot, face.side);
    const shape = elongation(spot.pixels, face.side);
    if (size < leastPx || shape.length > LONG * shape.width) return [];
    const distances = spot.pixels.map((i) => face.distance[i]! * factor);
    return [
      {
        x: (face.left + x) * factor + middle,
        y: (face.top + y) * factor + middle,
        size: size * factor,
        area: spot.pixels.length * factor * factor,
        contrast: spot.peak / ground.spread,
        nearest: Math.min(...distances) - factor / 2,
        farthest: Math.max(...distances) + factor / 2,
      },
    ];
  });
  return { defects, seen };
}
