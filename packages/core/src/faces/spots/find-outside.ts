import { FACE_SETTINGS, type FaceSettings } from '../settings.ts';
import type { Circle } from '../pixels/enclosing-circle.ts';
import { circleOf, elongation, findSpots, spotGround } from './find-spots.ts';
import { squareOf, takeLight } from '../cladding/flatten.ts';
import { type GreyImage, inGrey, shrink } from '../pixels/image.ts';
import { fitLight } from '../cladding/light.ts';

type Point = readonly [x: number, y: number];

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

/** Size of a pixel of the copy that is searched, um. */
const COPY_UM = 0.9;

/**
 * Defects of the contact zone, of 5 um and more, on a coarse copy of the picture with the ferrule's own light taken out.
 * What the frame cuts off is not looked at, and said. `scratches` are those found on the glass, as places along them in
 * pixels of the picture: where one goes on over the ferrule is no defect.
 */
export function findOutside(
  image: GreyImage,
  circle: Circle,
  umPerPx: number,
  scratches: readonly (readonly Point[])[] = [],
  settings: FaceSettings = FACE_SETTINGS,
): Outside {
  const factor = Math.max(1, Math.round(COPY_UM / umPerPx));
  const [left, top, part] = partRound(image, circle, TO * circle.r + 2 * factor);
  const copy = inGrey(shrink(part, factor));
  const middle = (factor - 1) / 2;
  const centre = {
    x: (circle.x - left - middle) / factor,
    y: (circle.y - top - middle) / factor,
    r: circle.r / factor,
  };
  const face = squareOf(copy, centre, TO * centre.r + 1, FROM * centre.r, TO * centre.r);
  let inFrame = 0;
  for (let i = 0; i < face.inside.length; i++) inFrame += face.inside[i]!;
  const seen = Math.min(1, inFrame / (Math.PI * (TO * TO - FROM * FROM) * centre.r * centre.r));
  const light = fitLight(copy, centre, FROM, TO, 3);
  if (!light) return { defects: [], seen };
  takeLight(face, light);
  const ground = spotGround(face, settings);
  const leastPx = settings.outside.leastUm / umPerPx / factor;
  const defects = findSpots(ground, [4, 2], settings).flatMap((spot): OutsideDefect[] => {
    const { x, y, size } = circleOf(spot, face.side);
    const shape = elongation(spot.pixels, face.side);
    if (size < leastPx || shape.length > settings.outside.elongation * shape.width) return [];
    const at: Point = [left + (face.left + x) * factor + middle, top + (face.top + y) * factor + middle];
    if (scratches.some((line) => goesOnTo(line, at, circle, umPerPx, settings))) return [];
    const distances = spot.pixels.map((i) => face.distance[i]! * factor);
    return [
      {
        x: at[0],
        y: at[1],
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

/** The part of a picture within reach of a circle's centre, and where it begins. */
function partRound(image: GreyImage, { x, y }: Circle, reach: number): [number, number, GreyImage] {
  const left = Math.max(0, Math.floor(x - reach));
  const top = Math.max(0, Math.floor(y - reach));
  const width = Math.min(image.width, Math.ceil(x + reach) + 1) - left;
  const height = Math.min(image.height, Math.ceil(y + reach) + 1) - top;
  const data = new Uint8Array(width * height);
  for (let row = 0; row < height; row++) {
    const from = (top + row) * image.width + left;
    data.set(image.data.subarray(from, from + width), row * width);
  }
  return [left, top, { width, height, data }];
}

/** A place lies where a scratch that crosses the edge of the glass goes on. */
function goesOnTo(
  line: readonly Point[],
  [x, y]: Point,
  circle: Circle,
  umPerPx: number,
  settings: FaceSettings,
): boolean {
  const inward = Math.min(line.length - 1, Math.max(1, Math.round(line.length / 4)));
  const ends = [
    [line[0]!, line[inward]!],
    [line[line.length - 1]!, line[line.length - 1 - inward]!],
  ] as const;
  return ends.some(([[ex, ey], [fx, fy]]) => {
    if (circle.r - Math.hypot(ex - circle.x, ey - circle.y) > settings.outside.atEdgeUm / umPerPx)
      return false;
    const d = Math.hypot(ex - fx, ey - fy) || 1;
    const ux = (ex - fx) / d;
    const uy = (ey - fy) / d;
    const along = (x - ex) * ux + (y - ey) * uy;
    const aside = Math.abs((x - ex) * uy - (y - ey) * ux);
    return (
      along > 0 &&
      along * umPerPx < settings.outside.goesOnUm &&
      aside < settings.outside.asideUm / umPerPx + settings.outside.bends * along
    );
  });
}
