import type { Circle } from '../pixels/enclosing-circle.ts';
import { type GreyImage, inGrey, shrink } from '../pixels/image.ts';

/** The copy that detail is taken from is about so wide, and the map of it so many times smaller; px. */
const DETAIL_WIDTH = 400;
const BLOCK = 3;
/** Mean level of the map. */
const MEAN = 60;

/** How rough a picture is from place to place, as a picture of its own. */
export interface Roughness {
  readonly map: GreyImage;
  /** Pixels of the picture to one of the map. */
  readonly factor: number;
}

/** How much the levels differ from their surroundings: a ferrule shows its grain where its light is that of the glass. */
export function roughnessOf(image: GreyImage): Roughness {
  const first = Math.max(1, Math.round(image.width / DETAIL_WIDTH));
  const { width, height, level } = shrink(image, first);
  const detail = new Float32Array(level.length);
  for (let y = 2; y < height - 2; y++) {
    for (let x = 2; x < width - 2; x++) {
      const i = y * width + x;
      let sum = 0;
      for (let row = i - 2 * width; row <= i + 2 * width; row += width)
        for (let at = row - 2; at <= row + 2; at++) sum += level[at]!;
      detail[i] = Math.abs(level[i]! - sum / 25);
    }
  }
  const mean = detail.reduce((a, b) => a + b, 0) / detail.length;
  const times = MEAN / Math.max(0.05, mean);
  // What lies on the glass is far rougher than either, and no part of a rim.
  for (let i = 0; i < detail.length; i++) detail[i] = Math.min(4 * MEAN, detail[i]! * times);
  const map = inGrey(shrink(inGrey({ width, height, level: detail }), BLOCK));
  return { map, factor: first * BLOCK };
}

const SECTORS = 12;

/** The share of twelve sectors in which the ferrule beside the rim is at least `times` as rough as the glass within it. */
export function rougherOutside({ map, factor }: Roughness, circle: Circle, times: number): number {
  const inside = new Float64Array(2 * SECTORS);
  const outside = new Float64Array(2 * SECTORS);
  const middle = (factor - 1) / 2;
  for (let y = 0; y < map.height; y++) {
    for (let x = 0; x < map.width; x++) {
      const dx = x * factor + middle - circle.x;
      const dy = y * factor + middle - circle.y;
      const d = Math.hypot(dx, dy) / circle.r;
      const side = d > 0.5 && d < 0.9 ? inside : d > 1.12 && d < 1.5 ? outside : null;
      if (!side) continue;
      const sector = Math.min(SECTORS - 1, Math.floor((Math.atan2(dy, dx) / (2 * Math.PI) + 0.5) * SECTORS));
      side[2 * sector]! += map.data[y * map.width + x]!;
      side[2 * sector + 1]! += 1;
    }
  }
  let rougher = 0;
  for (let s = 0; s < 2 * SECTORS; s += 2) {
    const glass = inside[s]! / Math.max(1, inside[s + 1]!);
    const ferrule = outside[s]! / Math.max(1, outside[s + 1]!);
    if (ferrule > times * glass) rougher += 1;
  }
  return rougher / SECTORS;
}
