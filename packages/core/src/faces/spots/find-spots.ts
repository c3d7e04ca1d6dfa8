import type { FaceSettings } from '../settings.ts';
import type { FlatFace } from '../cladding/flat-face.ts';
import { halved, HALVED, fullResolutionIndex } from '../pixels/halve.ts';
import type { PeeledFace } from '../lines/peel-lines.ts';
import { smooth, spreadOf } from '../cladding/smooth.ts';
import { chanceAt, isPeak } from './chance.ts';
import { FINE, type SmallFace, type Spot, type SpotGround } from './spot.ts';
import { circleOf } from './spot-shape.ts';

/** The finest scale that is searched. */
const FINEST = 1;

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

const isAtRim = (inside: Uint8Array, side: number, i: number): boolean =>
  !inside[i - 1] || !inside[i + 1] || !inside[i - side] || !inside[i + side];

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
