import { DomainError } from '../domain-error.ts';
import type { StripGeometry } from '../sheet/index.ts';

/** A place on a card, mm from its upper left corner, y downwards. */
export interface CardPlace {
  readonly xMm: number;
  readonly yMm: number;
}
export interface CameraMark extends CardPlace {
  readonly id: number;
}
/** A square of the card's code. */
export interface CodeCell extends CardPlace {
  readonly isDark: boolean;
}
/**
 * The strip card that a camera measures by: marks whose places are known round an axis on which the prepared end is laid, small dots beside the axis, and
 * squares that say which version of which method it is. Lengths in mm, on a card that is cut to its size.
 */
export interface CameraCard {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly marks: readonly CameraMark[];
  readonly dots: readonly CardPlace[];
  readonly cells: readonly CodeCell[];
  /** From where the fiber ends to where the cable leaves the card. */
  readonly axis: { readonly from: CardPlace; readonly to: CardPlace };
  /** Where the end of the fiber is meant to lie, and how far from it what begins; for the eye. */
  readonly lengths: readonly { readonly name: 'end' | 'buffer' | 'jacket'; readonly fromEndMm: number }[];
  readonly tipMm: number;
}

/** A mark, mm from its middle: a dot, a white ring, a dark ring, a white gap, and sectors of which some are dark. */
export const MARK = { dot: 1.1, ring: [2, 3], sectors: [3.6, 4.7] } as const;
export const DOT_RADIUS_MM = 0.8;
export const CELL_SIDE_MM = 2.4;
/**
 * The sectors of the marks, dark where 1 stands. No two of them are alike when one is turned or seen in a mirror: they differ in three sectors or more, and
 * each differs from its own mirror image.
 */
export const MARK_SECTORS = [
  '111011100010',
  '111001001010',
  '111100000010',
  '110100100000',
  '111111000110',
  '111001010110',
  '111000110000',
  '110010001000',
] as const;

const SIZE = { widthMm: 120, heightMm: 70 };
const AXIS_Y = 36;
const TIP = 14;
/** So much of the cable lies on the card behind the longest length. */
const BEHIND = 18;
const MARKS_X = [7.5, 42.5, 77.5, 112.5];
const MARKS_Y = [7.5, 62.5];
const DOTS = { fromX: 10, toX: 110, step: 10, offAxis: 14 };
const CELLS = { count: 24, step: 3, y: [15.5, 56] };

/** The longest length that fits a card. */
export const LONGEST_MM = SIZE.widthMm - TIP - BEHIND;

/**
 * The card of a version of a method. Error: `card.too_long` where its lengths do not fit one card, with `longest` in mm.
 */
export function cameraCard(id: string, version: number, strip: StripGeometry): CameraCard {
  const longest = Math.max(strip.jacketMm, strip.bufferMm);
  if (longest > LONGEST_MM) throw new DomainError('card.too_long', { longest: LONGEST_MM });
  const bits = bitsOf(`${id} ${version}`);
  return {
    ...SIZE,
    marks: MARKS_Y.flatMap((yMm, row) =>
      MARKS_X.map((xMm, i) => ({ id: row * MARKS_X.length + i, xMm, yMm })),
    ),
    dots: [-1, 1].flatMap((side) =>
      Array.from({ length: (DOTS.toX - DOTS.fromX) / DOTS.step + 1 }, (_, i) => ({
        xMm: DOTS.fromX + i * DOTS.step,
        yMm: AXIS_Y + side * DOTS.offAxis,
      })),
    ),
    cells: CELLS.y.flatMap((yMm) =>
      bits.map((isDark, i) => ({
        xMm: SIZE.widthMm / 2 + (i - (CELLS.count - 1) / 2) * CELLS.step,
        yMm,
        isDark,
      })),
    ),
    axis: { from: { xMm: 4, yMm: AXIS_Y }, to: { xMm: SIZE.widthMm, yMm: AXIS_Y } },
    lengths: [
      { name: 'end', fromEndMm: 0 },
      ...(strip.bufferMm > 0 ? [{ name: 'buffer' as const, fromEndMm: strip.bufferMm }] : []),
      ...(strip.jacketMm > 0 ? [{ name: 'jacket' as const, fromEndMm: strip.jacketMm }] : []),
    ],
    tipMm: TIP,
  };
}

/** The card of a method, with strip lengths or without. Error: `card.too_long`. */
export const cardOfMethod = (sheet: {
  readonly id: string;
  readonly version: number;
  readonly strip?: StripGeometry;
}): CameraCard =>
  cameraCard(sheet.id, sheet.version, sheet.strip ?? { jacketMm: 0, bufferMm: 0, cleaveMm: 0 });

/** Bits of a name by the FNV-1a sum (Fowler, Noll and Vo, 32 bits), mixed once more: another name has others. */
function bitsOf(name: string): boolean[] {
  let sum = 0x811c9dc5;
  for (let i = 0; i < name.length; i++) {
    const unit = name.charCodeAt(i);
    for (const byte of unit < 256 ? [unit] : [unit & 255, unit >> 8])
      sum = Math.imul(sum ^ byte, 0x01000193) >>> 0;
  }
  sum = Math.imul(sum ^ (sum >>> 15), 0x2c1b3c6d) >>> 0;
  sum = (sum ^ (sum >>> 13)) >>> 0;
  return Array.from({ length: CELLS.count }, (_, i) => ((sum >>> i) & 1) === 1);
}
