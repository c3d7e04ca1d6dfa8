import type { FlatFace } from '../cladding/flat-face.ts';
import { spreadByDistance } from '../cladding/smooth.ts';
import { middleOf, selectNth } from '../pixels/quantile.ts';
import type { FaceSettings } from '../settings.ts';

/** What noise does at one scale: its spread by the distance, and how many spreads a peak of either sign may reach by chance. */
export interface Chance {
  readonly noise: Float32Array;
  readonly dark: number;
  readonly bright: number;
}
/**
 * How high noise reaches at a scale. The heights of its peaks are taken to follow Rayleigh's law, as those of any smooth
 * Gaussian field do nearly (S. O. Rice 1945, from memory), with the spread that the lower nine tenths of them show: what
 * lies on the face is in the rest. The height that a whole face exceeds `falsePerScale` times by chance is asked for.
 */
export function chanceAt(
  soft: Float32Array,
  { side, inside, distance }: Pick<FlatFace, 'side' | 'inside' | 'distance'>,
  settings: FaceSettings,
): Chance {
  const noise = spreadByDistance(soft, { inside, distance }, settings);
  const sectors = Array.from({ length: 2 * SECTORS }, (): number[] => []);
  const step = Math.max(1, Math.round(soft.length / MOST_LOOKED_AT));
  const half = side / 2;
  // The ferrule lies round what is not looked at.
  const grainy = inside[(side >> 1) * side + (side >> 1)] === 0;
  for (let y = 1, row = side; y < side - 1; y += step, row = y * side) {
    for (let i = row + 1; i < row + side - 1; i++) {
      if (inside[i] === 0 || !isPeak(soft, side, i)) continue;
      const height = soft[i]! / noise[Math.floor(distance[i]!)]!;
      const turn = Math.atan2(y - half, i - row - half) / (2 * Math.PI) + 0.5;
      const sector = Math.min(SECTORS - 1, Math.floor(turn * SECTORS));
      sectors[height < 0 ? sector : SECTORS + sector]!.push(Math.abs(height));
    }
  }
  const reachOf = (parts: readonly number[][]): number => {
    const all = parts.flat();
    const some = parts.filter((part) => part.length >= settings.spots.tellingPeaks);
    const sets = 2 * some.length > parts.length ? some : [all];
    const each = sets.map((set) => reachByChance(set, all.length * step, grainy, settings));
    return middleOf(Float32Array.from(each));
  };
  const dark = reachOf(sectors.slice(0, SECTORS));
  const bright = reachOf(sectors.slice(SECTORS));
  return { noise, dark, bright };
}

/** Glass that is broken on one side tells nothing of the noise of the rest: the middle one of so many sectors does. */
const SECTORS = 8;

/** The height that `count` peaks like these exceed `falsePerScale` times by chance. */
function reachByChance(
  heights: readonly number[],
  count: number,
  grainy: boolean,
  settings: FaceSettings,
): number {
  const n = heights.length;
  if (n < settings.spots.tellingPeaks) return settings.spots.leastPeak;
  const squares = new Float32Array(n);
  for (let i = 0; i < n; i++) squares[i] = heights[i]! * heights[i]!;
  const at = (share: number): number => selectNth(squares, Math.floor(share * n));
  const half = at(0.5);
  // From the half to the tenth that is higher the exceedance falls to a fifth.
  const tenth = (at(0.9) - half) / Math.log(5);
  // Grain has a heavier tail than noise, which shows farther out; on glass that is where what lies on it begins.
  const scale = grainy ? Math.max(tenth, (at(0.97) - half) / Math.log(0.5 / 0.03)) : tenth;
  const exceeded = Math.log(
    (0.5 * count) / (grainy ? settings.spots.falsePerScaleOfGrain : settings.spots.falsePerScale),
  );
  return Math.max(settings.spots.leastSeed, Math.sqrt(half + scale * Math.max(0, exceeded)));
}

/** Of a square of more pixels every second or third row is looked at for what noise does. */
const MOST_LOOKED_AT = 60_000;

/** No neighbour of a pixel stands out more than it does, of either sign; beyond the border nothing does. */
export function isPeak(level: Float32Array, side: number, i: number): boolean {
  const v = Math.abs(level[i]!);
  // Those beside it first: they tell most that are none.
  if (Math.abs(level[i - 1] ?? 0) > v || Math.abs(level[i + 1] ?? 0) > v) return false;
  for (let row = i - side; row <= i + side; row += 2 * side) {
    for (let at = row - 1; at <= row + 1; at++) if (Math.abs(level[at] ?? 0) > v) return false;
  }
  return true;
}
