import type { FaceSettings } from '../settings.ts';
import { enclosingCircle } from '../pixels/enclosing-circle.ts';
import type { FlatFace } from '../cladding/flat-face.ts';
import { halved, HALVED, type Halved, fullResolutionIndex } from '../pixels/halve.ts';
import type { PeeledFace } from '../lines/peel-lines.ts';
import { hullOf } from '../pixels/hull.ts';
import { middleOf, selectNth } from '../pixels/quantile.ts';
import { smooth, spreadByDistance, spreadOf } from '../cladding/smooth.ts';

/** Pixels of one sign that stand out together. */
export interface Spot {
  readonly pixels: readonly number[];
  readonly sign: number;
  /** Height of the highest pixel, levels, without sign. */
  readonly peak: number;
}

/** Smoothing at which spots are grown; standard deviation in pixels. The finest scale is this one. */
export const FINE = 0.7;

/** The finest scale that is searched. */
const FINEST = 1;

/** What the search of spots works on: the face smoothed a little, and the noise of it. */
export interface SpotGround {
  readonly face: FlatFace;
  readonly fine: Float32Array;
  /** Noise by the distance from the centre in whole pixels, and that of all. */
  readonly noise: Float32Array;
  readonly spread: number;
  /** Levels that a line may have left; a spot stands out of them. */
  readonly doubt: Float32Array | null;
  /** Noise by the distance at each scale, and the height that chance does not reach, found when first asked for. */
  readonly chanceOf: Map<number, Chance>;
  /** Copies of half and a quarter of the size, made when they are first asked for. */
  readonly copies: { half?: SmallFace; quarter?: SmallFace };
}
/** What noise does at one scale: its spread by the distance, and how many spreads a peak of either sign may reach by chance. */
interface Chance {
  readonly noise: Float32Array;
  readonly dark: number;
  readonly bright: number;
}
interface SmallFace extends Halved {
  readonly distance: Float32Array;
}

export function spotGround(face: FlatFace, settings: FaceSettings): SpotGround {
  const fine = smooth(face.level, face.side, FINE, face.spans);
  const finest = chanceAt(fine, face, settings);
  return {
    face,
    fine,
    noise: finest.noise,
    spread: spreadOf(fine, face.inside),
    doubt: face.doubt ?? null,
    chanceOf: new Map([[FINEST, finest]]),
    copies: {},
  };
}

/** The ground of a face with its lines taken out: its noise is that of the face before. */
export function peeledGround(face: PeeledFace, before: SpotGround): SpotGround {
  return {
    ...before,
    face,
    fine: smooth(face.level, face.side, FINE, face.spans),
    doubt: face.doubt,
    copies: {},
  };
}

/** Spots of the given scales (standard deviations of the smoothing in pixels, largest first), each pixel in one at most. */
export function findSpots(
  ground: SpotGround,
  scales: readonly number[],
  settings: FaceSettings,
): readonly Spot[] {
  const taken = new Uint8Array(ground.fine.length);
  const spots: Spot[] = [];
  for (const scale of scales) {
    const seeds = seedsOf(ground, scale, settings).filter(({ i }) => !taken[i]);
    seeds.sort((a, b) => b.height - a.height);
    for (const { i: seed } of seeds) {
      if (taken[seed]) continue;
      const spot = growSpot(ground, seed, taken, settings);
      if (!spot || spot.pixels.length < settings.spots.leastPx) continue;
      for (const i of skirtOf(ground, spot, taken, settings)) taken[i] = 1;
      spots.push(spot);
    }
  }
  return spots;
}

interface Seed {
  readonly i: number;
  readonly height: number;
}

/** Peaks of the face smoothed at a scale; the coarser scales on smaller copies, where they lose nothing. */
function seedsOf(ground: SpotGround, scale: number, settings: FaceSettings): Seed[] {
  const { face, copies } = ground;
  if (scale < 2) return seedsIn(ground, scale, ground.fine, face, 1, settings);
  copies.half ??= smaller(face);
  if (scale < 4)
    return seedsIn(ground, scale, softened(copies.half, scale / HALVED), copies.half, HALVED, settings);
  copies.quarter ??= smaller(copies.half);
  const shrunk = HALVED * HALVED;
  return seedsIn(ground, scale, softened(copies.quarter, scale / shrunk), copies.quarter, shrunk, settings);
}

const softened = ({ level, side }: SmallFace, sigma: number): Float32Array => smooth(level, side, sigma);

/** Half the size; distances stay those of the whole face. */
function smaller(face: SmallFace): SmallFace {
  const half = halved(face.level, face.inside, face.side);
  const distance = new Float32Array(half.level.length);
  for (let y = 0, i = 0; y < half.side; y++) {
    let at = (y * HALVED + 1) * face.side + 1;
    for (let x = 0; x < half.side; x++, at += HALVED) distance[i++] = face.distance[at]!;
  }
  return { ...half, distance };
}

function seedsIn(
  { face, doubt, chanceOf }: SpotGround,
  scale: number,
  soft: Float32Array,
  { side, inside, distance }: SmallFace,
  shrunk: number,
  settings: FaceSettings,
): Seed[] {
  const chance = chanceOf.get(scale) ?? chanceAt(soft, { side, inside, distance }, settings);
  chanceOf.set(scale, chance);
  const { noise, dark, bright } = chance;
  const seeds: Seed[] = [];
  // Nearly every pixel is under the least that any ring asks for.
  let least = Infinity;
  for (const n of noise) least = Math.min(least, Math.min(dark, bright) * n);
  for (let i = 0; i < soft.length; i++) {
    const height = Math.abs(soft[i]!);
    if (height <= least || inside[i] === 0) continue;
    const asked = Math.max(
      settings.spots.leastLevels,
      (soft[i]! < 0 ? dark : bright) * noise[Math.floor(distance[i]!)]!,
    );
    if (height <= asked || !isPeak(soft, side, i)) continue;
    const at = fullResolutionIndex(i, side, face.side, shrunk);
    // At the rim a slope ends as a peak does: what starts there stands out more.
    if (isAtRim(inside, side, i) && height <= settings.spots.seedAtRim * asked) continue;
    if (doubt && height <= asked + doubt[at]!) continue;
    seeds.push({ i: at, height });
  }
  return seeds;
}

/**
 * How high noise reaches at a scale. The heights of its peaks are taken to follow Rayleigh's law, as those of any smooth
 * Gaussian field do nearly (S. O. Rice 1945, from memory), with the spread that the lower nine tenths of them show: what
 * lies on the face is in the rest. The height that a whole face exceeds `falsePerScale` times by chance is asked for.
 */
function chanceAt(
  soft: Float32Array,
  { side, inside, distance }: Pick<SmallFace, 'side' | 'inside' | 'distance'>,
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
  const squares = Float32Array.from(heights, (h) => h * h);
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

const isAtRim = (inside: Uint8Array, side: number, i: number): boolean =>
  !inside[i - 1] || !inside[i + 1] || !inside[i - side] || !inside[i + side];

function isPeak(level: Float32Array, side: number, i: number): boolean {
  const v = Math.abs(level[i]!);
  for (let row = i - side; row <= i + side; row += side) {
    for (let at = row - 1; at <= row + 1; at++) if (Math.abs(level[at] ?? 0) > v) return false;
  }
  return true;
}

/** The pixels round a seed, of its sign, down to half of the highest among them. */
export function growSpot(
  ground: SpotGround,
  seed: number,
  taken: Uint8Array,
  settings: FaceSettings,
): Spot | null {
  const { face, fine, noise } = ground;
  const { side, distance } = face;
  const sign = Math.sign(fine[seed]!);
  // The peak of the fine picture near the seed of a coarser one.
  let peak = 0;
  const sx = seed % side;
  const sy = Math.floor(seed / side);
  for (let dy = -4; dy <= 4; dy++) {
    for (let dx = -4; dx <= 4; dx++) {
      const x = sx + dx;
      const y = sy + dy;
      if (x >= 0 && y >= 0 && x < side && y < side) peak = Math.max(peak, sign * fine[y * side + x]!);
    }
  }
  const own = noise[Math.floor(distance[seed]!)]!;
  const chance = ground.chanceOf.get(FINEST);
  const asked = chance ? (sign < 0 ? chance.dark : chance.bright) : settings.spots.leastPeak;
  if (peak < asked * own) return null;
  const least = Math.max(2.2 * own, settings.spots.growsTo * peak);
  const pixels = flooded(ground, [seed], taken, (i) => sign * fine[i]! >= least, settings);
  if (pixels.length > settings.spots.mostPx) return null;
  const kept = pixels.filter((i) => sign * fine[i]! >= least);
  // Among many pixels one is high by chance, and the glass is cloudy: what is broad has to stand out more.
  if (
    kept.length === 0 ||
    (kept.length > settings.spots.broadPx && peak < settings.spots.broadPeak * asked * own)
  )
    return null;
  return { pixels: kept, sign, peak: highest(fine, kept) };
}

/** A spot with what falls off round it, in which no second one is looked for. */
function skirtOf(
  ground: SpotGround,
  { pixels, sign, peak }: Spot,
  taken: Uint8Array,
  settings: FaceSettings,
): number[] {
  const least = Math.max(1.5 * ground.spread, 0.15 * peak);
  return flooded(ground, pixels, taken, (i) => sign * ground.fine[i]! >= least, settings);
}

/** What is reached from the first pixels by neighbours that hold; the first ones always. */
export function flooded(
  { face: { side, inside }, fine }: SpotGround,
  first: readonly number[],
  taken: Uint8Array | null,
  holds: (i: number) => boolean,
  settings: FaceSettings,
): number[] {
  const seen = new Set(first);
  const queue = [...first];
  const pixels: number[] = [...first];
  while (queue.length > 0 && pixels.length <= settings.spots.mostPx) {
    const i = queue.pop()!;
    for (const d of [-1, 1, -side, side]) {
      const next = i + d;
      if (next < 0 || next >= fine.length || seen.has(next) || !inside[next] || taken?.[next]) continue;
      if (!holds(next)) continue;
      seen.add(next);
      pixels.push(next);
      queue.push(next);
    }
  }
  return pixels;
}

function highest(fine: Float32Array, pixels: readonly number[]): number {
  let most = 0;
  for (const i of pixels) most = Math.max(most, Math.abs(fine[i]!));
  return most;
}

/** Spots with the thin pieces that nearly touch made one: a crack or lint is thinner in places than it can be seen. */
export function joinThin(spots: readonly Spot[], side: number, settings: FaceSettings): readonly Spot[] {
  const isLong = ({ pixels }: Spot): boolean => circleOf({ pixels }, side).size ** 2 > 3.5 * pixels.length;
  const isThin = ({ pixels }: Spot): boolean =>
    pixels.length < settings.spots.thinPx * circleOf({ pixels }, side).size;
  const rest = spots.map((spot) => ({ spot, long: isLong(spot), thin: isThin(spot) }));
  const joined: Spot[] = [];
  while (rest.length > 0) {
    let { spot, long } = rest.shift()!;
    const first = spot;
    for (let k = 0; k < rest.length; k++) {
      const other = rest[k]!;
      if (!other.thin || !(long || other.long) || other.spot.sign !== spot.sign) continue;
      if (Math.max(first.peak, other.spot.peak) > 3 * Math.min(first.peak, other.spot.peak)) continue;
      if (!isThin(spot) || !near(spot, other.spot, side, settings)) continue;
      spot = {
        pixels: [...spot.pixels, ...other.spot.pixels],
        sign: spot.sign,
        peak: Math.max(spot.peak, other.spot.peak),
      };
      long = true;
      rest.splice(k, 1);
      k = -1;
    }
    joined.push(spot);
  }
  return joined;
}

function near(a: Spot, b: Spot, side: number, settings: FaceSettings): boolean {
  const [small, large] = a.pixels.length < b.pixels.length ? [a, b] : [b, a];
  const body = new Set(large.pixels);
  return small.pixels.some((i) => {
    for (let dy = -settings.spots.closePx; dy <= settings.spots.closePx; dy++) {
      for (let dx = -settings.spots.closePx; dx <= settings.spots.closePx; dx++)
        if (body.has(i + dy * side + dx)) return true;
    }
    return false;
  });
}

/** The pixels of a spot that have a neighbour outside of it. */
export function edgeOf({ pixels }: Pick<Spot, 'pixels'>, side: number): number[] {
  const inSpot = new Set(pixels);
  return pixels.filter((i) => [-1, 1, -side, side].some((d) => !inSpot.has(i + d)));
}

/** Smallest enclosing circle of a spot in pixels: through the middles of its pixels, and half a pixel on either side. */
export function circleOf(spot: Pick<Spot, 'pixels'>, side: number): { x: number; y: number; size: number } {
  const corners = hullOf(edgeOf(spot, side).map((i) => [i % side, Math.floor(i / side)] as const));
  const circle = enclosingCircle(corners)!;
  return { x: circle.x, y: circle.y, size: 2 * circle.r + 1 };
}

/**
 * Smallest circle round the places where a spot crosses about half of its plateau, the height that a fifth of its pixels exceed;
 * between pixels, so that neither the grid nor the highest grain makes it larger. Pixels of the square.
 */
export function outlineCircle({ face: { side }, fine }: SpotGround, spot: Spot): ReturnType<typeof circleOf> {
  const heights = Float32Array.from(spot.pixels, (i) => spot.sign * fine[i]!);
  const half = OUTLINE_AT * selectNth(heights, Math.floor(0.8 * heights.length));
  const crossings: [number, number][] = [];
  for (const i of spot.pixels) {
    const v = spot.sign * fine[i]!;
    if (v < half) continue;
    const x = i % side;
    const y = Math.floor(i / side);
    for (const [dx, dy] of AROUND) {
      const w = spot.sign * (fine[i + dy * side + dx] ?? 0);
      if (w < half) crossings.push([x + (dx * (v - half)) / (v - w), y + (dy * (v - half)) / (v - w)]);
    }
  }
  const circle = enclosingCircle(hullOf(crossings));
  return circle ? { x: circle.x, y: circle.y, size: 2 * circle.r } : circleOf(spot, side);
}
/** A little under a half: blur takes the points of a ragged outline back, and leaves a straight edge where it is. */
const OUTLINE_AT = 0.44;
const AROUND = [
  [-1, 0],
  [1, 0],
  [0, -1],
  [0, 1],
] as const;

/** Length and width of an ellipse with the same second moments, times the square root of three: those of a bar. */
export function elongation(pixels: readonly number[], side: number): { length: number; width: number } {
  let sx = 0;
  let sy = 0;
  for (const i of pixels) {
    sx += i % side;
    sy += Math.floor(i / side);
  }
  const mx = sx / pixels.length;
  const my = sy / pixels.length;
  let xx = 1 / 12;
  let yy = 1 / 12;
  let xy = 0;
  for (const i of pixels) {
    const dx = (i % side) - mx;
    const dy = Math.floor(i / side) - my;
    xx += (dx * dx) / pixels.length;
    yy += (dy * dy) / pixels.length;
    xy += (dx * dy) / pixels.length;
  }
  const half = Math.hypot((xx - yy) / 2, xy);
  const big = (xx + yy) / 2 + half;
  const small = Math.max(1 / 12, (xx + yy) / 2 - half);
  return { length: 2 * Math.sqrt(3 * big), width: 2 * Math.sqrt(3 * small) };
}
