import { sampleAt, type GreyImage } from '../faces/pixels/image.ts';

/** Where a line of levels goes from light to dark. */
export interface EdgeOnLine {
  /** Place on the line, in its steps, where the level is half-way. */
  readonly at: number;
  readonly light: number;
  readonly dark: number;
  /** Where it is darkest behind that. */
  readonly valley: number;
  /** Share of the way from light to dark that one step goes at the half-way level. */
  readonly steep: number;
}

/** Levels along a straight line, `n` of them, one every `step` pixels; NaN outside of the picture. */
export function levelsAlong(
  image: GreyImage,
  from: { readonly x: number; readonly y: number },
  way: { readonly x: number; readonly y: number },
  n: number,
  step = 1,
  out: Float64Array = new Float64Array(n),
): Float64Array {
  for (let i = 0; i < n; i++)
    out[i] = sampleAt(image, from.x + way.x * i * step, from.y + way.y * i * step) ?? Number.NaN;
  return out;
}

/** The first levels of a line, in order. */
const HEAD = new Float64Array(1024);

/**
 * The first fall from light to dark along a line: light is the middle of its first `lit` levels, dark the first valley after the
 * level has gone down by `least`. Half-way between both the edge is read. Null where the line does not fall.
 */
export function firstFall(levels: Float64Array, lit: number, least: number): EdgeOnLine | null {
  let n = 0;
  for (let k = 0; k < lit; k++) {
    const level = levels[k]!;
    if (!Number.isFinite(level)) continue;
    // In order as they come: there are a dozen.
    let at = n++;
    while (at > 0 && HEAD[at - 1]! > level) HEAD[at] = HEAD[--at]!;
    HEAD[at] = level;
  }
  if (n === 0) return null;
  const light = HEAD[n >> 1]!;
  let i = 0;
  while (i < levels.length && !(light - levels[i]! > least)) i++;
  if (i >= levels.length || i === 0) return null;
  let dark = levels[i]!;
  let at = i;
  for (let k = i + 1; k < levels.length; k++) {
    const value = levels[k]!;
    if (!Number.isFinite(value)) break;
    if (value < dark) {
      dark = value;
      at = k;
    } else if (value - dark > least / 2) break;
  }
  const half = (light + dark) / 2;
  let k = at;
  while (k > 0 && levels[k - 1]! < half) k--;
  if (k === 0) return null;
  const above = levels[k - 1]!;
  const below = levels[k]!;
  if (!Number.isFinite(above) || above <= below) return null;
  return {
    at: k - 1 + (above - half) / (above - below),
    light,
    dark,
    valley: at,
    steep: (above - below) / (light - dark),
  };
}
