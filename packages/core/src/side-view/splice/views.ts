import type { GreyImage } from '../../faces/pixels/image.ts';

/** A view of a joint in a picture: rows of it. */
export interface JointView {
  readonly image: GreyImage;
  /** The row of the picture at which it begins. */
  readonly from: number;
}

/** The line between two views lies within this share of the height from the middle, and is no thicker than this. */
const NEAR_MIDDLE = 0.03;
/** A row of that line is as dark as this share of the rows beside it, in nearly all columns. */
const DARK = 0.6;
const NEARLY_ALL = 0.85;
/** Rows beside that line which are taken away with it: lens and compression spread it. */
const SPREAD = 2;
/** So many rows above and below, the picture is light again: the line is thinner than the dark side of a fiber. */
const BESIDE = 7;

/** The views of a picture: one, or two one above the other with a dark line between them. `count` where it is known. */
export function viewsOf(image: GreyImage, count?: 1 | 2): JointView[] {
  const whole = [{ image, from: 0 }];
  if (count === 1) return whole;
  const cut = cutBetween(image) ?? (count === 2 ? { from: image.height >> 1, to: image.height >> 1 } : null);
  if (!cut) return whole;
  return [rowsOf(image, 0, cut.from), rowsOf(image, cut.to, image.height)];
}

function rowsOf(image: GreyImage, from: number, to: number): JointView {
  const { width } = image;
  return { image: { width, height: to - from, data: image.data.slice(from * width, to * width) }, from };
}

function cutBetween(image: GreyImage): { readonly from: number; readonly to: number } | null {
  const { width, height } = image;
  const middle = height / 2;
  const reach = Math.max(4, Math.round(NEAR_MIDDLE * height));
  const first = Math.round(middle - reach);
  const last = Math.round(middle + reach);
  if (first < 8 || last > height - 9) return null;
  const isDark = (y: number): boolean => {
    let n = 0;
    let of = 0;
    for (let x = 0; x < width; x += 4) {
      const beside = Math.min(image.data[(y - BESIDE) * width + x]!, image.data[(y + BESIDE) * width + x]!);
      of += 1;
      if (image.data[y * width + x]! < DARK * beside) n += 1;
    }
    return n > NEARLY_ALL * of;
  };
  let from = -1;
  let to = -1;
  for (let y = first; y <= last; y++) {
    if (!isDark(y)) continue;
    if (from < 0) from = y;
    to = y + 1;
  }
  return from < 0 ? null : { from: from - SPREAD, to: to + SPREAD };
}
