import { type GreyImage, sampleAt } from '../faces/pixels/image.ts';
import { type FiberEdges, middleAt } from './fiber-edges.ts';
import { frameAt, type FaceRow } from './face-line.ts';

type Rows = Omit<FaceRow, 'off'>[];
/** Narrower than so many pixels, or so many times the blur, the light between two ends does not come up to what it is outside. */
const NARROW = { px: 5, blurs: 1.3 };
/** Rows where the fiber is at least so dark beside the gap, of its darkest. */
const DARK_ROWS = 0.55;

export const isNarrow = (gap: number, blur: number): boolean =>
  gap < Math.max(NARROW.px, NARROW.blurs * blur);

/**
 * The ends of two fibers that nearly touch. The light that comes through between them is spread, but neither its amount nor its middle is changed by
 * that: amount over contrast is the gap, and the ends lie half of it to both sides of the middle. Rows of the left and of the right fiber, in
 * pixels of their own axes.
 */
export function rowsOfNarrowGap(
  image: GreyImage,
  left: FiberEdges,
  right: FiberEdges,
  gap: number,
  light: (x: number, y: number) => number,
): { readonly left: Rows; readonly right: Rows } {
  const half = left.width / 2;
  const reach = Math.ceil(gap / 2 + 0.09 * left.width + 5);
  const centre = (left.origin + right.origin) / 2;
  const found: { v: number; from: number; to: number; dark: number; row: number }[] = [];
  for (let v = -Math.floor(half); v <= half; v++) {
    const at = (x: number): number => (middleAt(left, x) + middleAt(right, x)) / 2 - v;
    let amount = 0;
    let moment = 0;
    const before = sideOf(image, centre, reach, at, -1);
    const after = sideOf(image, centre, reach, at, 1);
    if (before === null || after === null) continue;
    const behind = light(centre, at(centre));
    const contrast = behind - (before + after) / 2;
    for (let k = -reach; k <= reach; k++) {
      const level = sampleAt(image, centre + k, at(centre + k));
      if (level === null) continue;
      const dark = k < 0 ? before : k > 0 ? after : (before + after) / 2;
      const share = (level - dark) / contrast;
      amount += share;
      moment += share * k;
    }
    if (!(contrast > 8) || amount < 0.3 || amount > 3 * gap + 2) continue;
    const middle = centre + moment / amount;
    if (Math.abs(middle - centre) > gap / 2 + 3) continue;
    found.push({ v, from: middle - amount / 2, to: middle + amount / 2, dark: contrast, row: at(middle) });
  }
  const most = Math.max(0, ...found.map((f) => f.dark));
  const clear = found.filter((f) => f.dark > DARK_ROWS * most);
  const rows = (fiber: FiberEdges, end: 'from' | 'to'): Rows => {
    const frame = frameAt(fiber);
    const origin = frame.at(0, 0);
    const up = { x: frame.at(0, 1).x - origin.x, y: frame.at(0, 1).y - origin.y };
    return clear.map((f) => {
      const dx = f[end] - origin.x;
      const dy = f.row - origin.y;
      return { v: dx * up.x + dy * up.y, u: dx * frame.t.x + dy * frame.t.y };
    });
  };
  return { left: rows(left, 'from'), right: rows(right, 'to') };
}

/** How dark the fiber on one side of the gap is in a row. */
function sideOf(
  image: GreyImage,
  centre: number,
  reach: number,
  at: (x: number) => number,
  sign: 1 | -1,
): number | null {
  let sum = 0;
  let n = 0;
  for (let k = reach; k < reach + 10; k++) {
    const x = centre + sign * k;
    const level = sampleAt(image, x, at(x));
    if (level === null) continue;
    sum += level;
    n += 1;
  }
  return n < 6 ? null : sum / n;
}
