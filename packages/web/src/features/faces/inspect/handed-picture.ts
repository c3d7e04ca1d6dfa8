import type { FaceView } from '../engine/face-orders.ts';

/** A picture of the many that is to be looked at by itself. */
export interface HandedPicture {
  readonly file: File;
  readonly tableId: string;
  readonly shows: FaceView;
}

let handed: HandedPicture | null = null;

/** Hands a picture to the view that inspects one, which opens next. */
export function handPicture(picture: HandedPicture): void {
  handed = picture;
}
/** The picture that was handed over; once. */
export function takeHanded(): HandedPicture | null {
  const picture = handed;
  handed = null;
  return picture;
}
