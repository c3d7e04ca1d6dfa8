/** A place in a picture, pixels from its upper left corner. */
export interface PicturePlace {
  readonly x: number;
  readonly y: number;
}

/** Diameter of bare fiber and its standard uncertainty, µm: 125 within 0.7 (IEC 60793-2-50, from memory). */
export const DIAMETER = { um: 125, sd: 0.4 };
