import { between } from './back-lit.ts';
import { normal, pick, type Rng } from './rng.ts';

/** What is wrong with a photograph of an end, if anything is. */
export const END_FAULTS = [
  'none',
  'few_marks',
  'print_scale',
  'blurred',
  'glare',
  'bent',
  'no_cable',
  'two_cables',
  'other_card',
  'mirrored',
] as const;
export type EndFault = (typeof END_FAULTS)[number];

export type Colour = readonly [red: number, green: number, blue: number];
/** A prepared end: lengths along the cable from the end of the glass, mm. */
export interface PreparedEnd {
  readonly jacketMm: number;
  readonly bufferMm: number;
  readonly glassMm: number;
  readonly jacketDiameterMm: number;
  readonly jacket: Colour;
  readonly buffer: Colour;
  readonly hasYarn: boolean;
}
/** A picture of the card, grey from 0 to 255, cut to its size. */
export interface CardPicture {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly axis: { readonly fromX: number; readonly toX: number; readonly y: number };
  /** Places of the marks, of which some may be covered. */
  readonly marks: readonly (readonly [x: number, y: number])[];
}
export interface EndScene {
  readonly width: number;
  readonly height: number;
  readonly end: PreparedEnd;
  readonly fault: EndFault;
  readonly tipMm: number;
  readonly isFromLeft: boolean;
  /** How far the cable lies beside the axis at the tip, how it leans there, and its radius of bend, mm (infinite where it is straight). */
  readonly besideMm: number;
  readonly lean: number;
  readonly bendMm: number;
  readonly tiltDeg: number;
  readonly tiltWay: number;
  readonly rollDeg: number;
  /** Share of the picture's long side that the card's width takes. */
  readonly fills: number;
  readonly k1: number;
  readonly print: number;
  readonly covered: number;
  readonly blurPx: number;
  readonly noise: number;
  readonly desk: Colour;
  readonly light: number;
}
const JACKETS: readonly Colour[] = [
  [225, 200, 40],
  [230, 120, 40],
  [60, 170, 190],
  [40, 45, 50],
  [130, 60, 140],
  [150, 155, 160],
];
const BUFFERS: readonly Colour[] = [
  [200, 205, 210],
  [70, 120, 200],
  [225, 170, 60],
  [90, 170, 90],
  [205, 70, 60],
];
const DESKS: readonly Colour[] = [
  [70, 75, 80],
  [120, 95, 70],
  [40, 60, 90],
  [160, 140, 110],
  [30, 32, 34],
];

/** A hand-held photograph of an end on its card. */
export function randomEndScene(rng: Rng, more: Partial<EndScene> = {}): EndScene {
  const megapixels = pick(rng, [2, 12]);
  const width = more.width ?? (megapixels === 2 ? 1632 : 4032);
  const height = more.height ?? (megapixels === 2 ? 1224 : 3024);
  const glassMm = between(rng, 6, 15);
  const bufferMm = glassMm + between(rng, 2, 12);
  return {
    width,
    height,
    end: {
      glassMm,
      bufferMm,
      jacketMm: bufferMm + between(rng, 8, 18),
      jacketDiameterMm: pick(rng, [2, 3, 3]),
      jacket: pick(rng, JACKETS),
      buffer: pick(rng, BUFFERS),
      hasYarn: rng() < 0.5,
    },
    fault: rng() < 0.85 ? 'none' : pick(rng, END_FAULTS.slice(1)),
    tipMm: 14 + between(rng, -4, 8),
    isFromLeft: rng() < 0.2,
    besideMm: normal(rng) * 0.8,
    lean: normal(rng) * 0.012,
    bendMm: (rng() < 0.5 ? -1 : 1) * between(rng, 250, 2500),
    tiltDeg: Math.abs(normal(rng)) * 14,
    tiltWay: between(rng, 0, 360),
    rollDeg: rng() < 0.7 ? normal(rng) * 10 : between(rng, -180, 180),
    fills: between(rng, 0.6, 0.85),
    k1: normal(rng) * 0.05,
    print: 1 + normal(rng) * 0.003,
    covered: rng() < 0.3 ? Math.floor(rng() * 8) : -1,
    blurPx: between(rng, 0.5, 1.1) * (width > 3000 ? 1.6 : 1),
    noise: between(rng, 1, 4),
    desk: pick(rng, DESKS),
    light: between(rng, 180, 228),
    ...more,
  };
}
