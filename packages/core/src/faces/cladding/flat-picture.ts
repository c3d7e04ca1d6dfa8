import { FACE_SETTINGS, type FaceSettings } from '../settings.ts';
import { flattenFace } from './flatten.ts';
import type { GreyImage } from '../pixels/image.ts';

/** The flattened cladding as an 8-bit grey picture, to be laid over the part of the picture that it comes from. */
export interface FlatPicture {
  readonly left: number;
  readonly top: number;
  readonly side: number;
  readonly data: Uint8Array;
}

const MIDDLE = 128;
/** Levels are stretched so that a low contrast is seen. */
const GAIN = 4;

/** What the engine looks at, made visible: the light, the core and the rim taken out, contrast four times. Pixels. */
export function flatPicture(
  image: GreyImage,
  centrePx: readonly [number, number],
  diameterPx: number,
  settings: FaceSettings = FACE_SETTINGS,
): FlatPicture {
  const flat = flattenFace(image, { x: centrePx[0], y: centrePx[1], r: diameterPx / 2 }, settings);
  const data = new Uint8Array(flat.side * flat.side);
  for (let i = 0; i < data.length; i++) {
    const v = flat.inside[i] ? MIDDLE + GAIN * flat.level[i]! : 0;
    data[i] = v < 0 ? 0 : v > 255 ? 255 : Math.round(v);
  }
  return { left: flat.left, top: flat.top, side: flat.side, data };
}
