import { type GreyImage, sampleAt } from '../faces/pixels/image.ts';
import { type FiberEdges, middleAt } from './fiber-edges.ts';

/** Mean levels across a fiber, from one outside to the other: places in half widths, -`OUTSIDE` to `OUTSIDE`. */
export interface CrossProfile {
  readonly levels: Float64Array;
  readonly at: (place: number) => number;
  /** How bright it is at a place across, upwards positive, in half widths: 0 as its dark sides, 1 as the light beside it. */
  readonly bright: (v: number) => number;
}

const OUTSIDE = 1.5;
const PLACES = 240;
/** Columns that are taken: widths of the fiber from its end. */
const COLUMNS = { from: 0.35, to: 2.2 };
const SIDES = { from: 0.72, to: 0.9 };

/** The mean profile across a fiber behind its end. */
export function crossProfile(image: GreyImage, fiber: FiberEdges): CrossProfile {
  const half = fiber.width / 2;
  const slant = Math.hypot(1, fiber.slope);
  const inward = fiber.side === 'left' ? -1 : 1;
  const sums = new Float64Array(PLACES + 1);
  const counts = new Float64Array(PLACES + 1);
  for (let d = COLUMNS.from * fiber.width; d < COLUMNS.to * fiber.width; d += 2) {
    const x = fiber.origin + inward * d;
    if (x < 1 || x > image.width - 2) break;
    const middle = middleAt(fiber, x);
    for (let k = 0; k <= PLACES; k++) {
      const y = middle + ((2 * k) / PLACES - 1) * OUTSIDE * half * slant;
      const level = sampleAt(image, x, y);
      if (level === null) continue;
      sums[k]! += level;
      counts[k]! += 1;
    }
  }
  const levels = sums.map((s, k) => (counts[k]! > 0 ? s / counts[k]! : Number.NaN));
  const at = (place: number): number => {
    const k = Math.round(((place / OUTSIDE + 1) / 2) * PLACES);
    return levels[Math.max(0, Math.min(PLACES, k))]!;
  };
  const mean = (from: number, to: number): number => {
    let sum = 0;
    let n = 0;
    for (let p = from; p <= to; p += 0.02) {
      for (const place of [p, -p]) {
        const level = at(place);
        if (!Number.isFinite(level)) continue;
        sum += level;
        n += 1;
      }
    }
    return n === 0 ? Number.NaN : sum / n;
  };
  const dark = mean(SIDES.from, SIDES.to);
  const bright = (v: number): number => {
    const level = at(-v);
    if (!Number.isFinite(level) || !(fiber.light > dark)) return 0;
    return Math.max(0, Math.min(1, (level - dark) / (fiber.light - dark)));
  };
  return { levels, at, bright };
}

const GLASS = { from: 0.4, to: 0.62 };
const COATING = { from: 0.7, to: 0.88 };
/** The dark line of the glass is darker than the coating beside it by this share of the contrast, on both sides. */
const LINE = 0.05;

/** Whether a fiber wears its coating: the glass inside of it shows as two dark lines at half its width (common practice: 245 µm over 125 µm). */
export function isCoated(profile: CrossProfile, light: number): boolean {
  const side = (sign: number): boolean => {
    let line = Infinity;
    let coating = 0;
    let n = 0;
    for (let p = GLASS.from; p <= GLASS.to; p += 0.0125) line = Math.min(line, profile.at(sign * p));
    for (let p = COATING.from; p <= COATING.to; p += 0.0125) {
      coating += profile.at(sign * p);
      n += 1;
    }
    coating /= n;
    // Brighter again further in: a line and no step.
    const inside = profile.at(sign * (GLASS.from - 0.08));
    return coating - line > LINE * (light - coating) && inside > coating && coating > 0.2 * light;
  };
  return side(1) && side(-1);
}
