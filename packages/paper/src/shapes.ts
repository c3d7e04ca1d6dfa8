/** What is drawn on a page, in mm from its upper left corner; sizes of letters in pt. Everything that leaves here is at true size. */
export type Shape =
  | {
      readonly kind: 'line';
      readonly from: Point;
      readonly to: Point;
      readonly widthMm: number;
      readonly dashed?: boolean;
    }
  | {
      readonly kind: 'rect';
      readonly at: Point;
      readonly widthMm: number;
      readonly heightMm: number;
      /** Grey from 0, black, to 1, white; none where it is not filled. */
      readonly fill?: number;
      readonly strokeMm?: number;
    }
  | {
      readonly kind: 'circle';
      /** Its centre. */
      readonly at: Point;
      readonly diameterMm: number;
      readonly fill?: number;
      readonly strokeMm?: number;
    }
  | { readonly kind: 'polygon'; readonly points: readonly Point[]; readonly fill: number }
  | {
      readonly kind: 'text';
      /** Upper left corner of the line; of its right end where `align` says so. */
      readonly at: Point;
      readonly text: string;
      readonly sizePt: number;
      readonly bold?: boolean;
      readonly align?: 'left' | 'right' | 'middle';
      readonly widthMm: number;
    }
  | { readonly kind: 'code'; readonly at: Point; readonly sideMm: number; readonly text: string };

export type Point = readonly [xMm: number, yMm: number];

export interface Page {
  readonly shapes: readonly Shape[];
}

/** ISO 216 and the usual American sheet, mm, upright. */
export const PAPERS = {
  A4: { widthMm: 210, heightMm: 297 },
  Letter: { widthMm: 215.9, heightMm: 279.4 },
} as const;
export type Paper = keyof typeof PAPERS;

export const line = (from: Point, to: Point, widthMm = 0.25, dashed = false): Shape => ({
  kind: 'line',
  from,
  to,
  widthMm,
  ...(dashed ? { dashed } : {}),
});
