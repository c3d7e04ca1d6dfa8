import { gaussian, inByte } from './light.ts';
import { normal, type Rng } from './rng.ts';

/** How a picture of a fiber before a lamp is taken. */
export interface Optics {
  readonly width: number;
  readonly height: number;
  readonly umPerPx: number;
  /** Level of the light, and what of it the dark sides of a fiber let through. */
  readonly lightLevel: number;
  readonly darkShare: number;
  readonly blurUm: number;
  /** Standard deviation, levels. */
  readonly noise: number;
}

const FRINGE = 0.12;
const COHERENT = 0.85;

export const between = (rng: Rng, from: number, to: number): number => from + (to - from) * rng();
export const clamp = (t: number): number => Math.max(0, Math.min(1, t));

/**
 * What a camera sees where `share` of the light comes through: spread by the lens, with fringes, on uneven light, with noise. A small
 * lamp lights nearly coherently: the lens spreads the amplitude, and the square of that is seen (a quarter at a sharp edge).
 */
export function seenBackLit(share: Float32Array, optics: Optics, rng: Rng): Uint8Array {
  const { width, height, umPerPx, blurUm, lightLevel, noise } = optics;
  const amplitude = share.map((s) => Math.sqrt(s));
  const sharp = gaussian(amplitude, width, height, blurUm / umPerPx);
  const wide = gaussian(amplitude, width, height, (2.2 * blurUm) / umPerPx);
  const even = gaussian(share, width, height, blurUm / umPerPx);
  const lean = between(rng, -0.12, 0.12);
  const hollow = between(rng, 0, 0.25);
  const data = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const u = x / width - 0.5;
      const v = y / height - 0.5;
      const light = lightLevel * (1 + lean * u - hollow * (u * u + v * v));
      // A lens passes fine detail a little stronger than coarse: beside an edge the light rises over itself.
      const field = sharp[i]! + FRINGE * (sharp[i]! - wide[i]!);
      const seen = COHERENT * field * field + (1 - COHERENT) * even[i]!;
      data[i] = inByte(light * seen + noise * normal(rng));
    }
  }
  return data;
}

/** A cylinder of glass as a lens: its sides send the light elsewhere, its middle gathers it. `place` in half widths from its middle. */
export function glassAt(place: number, darkShare: number): number {
  const middle = 0.82 + 0.35 * Math.exp(-((place / 0.07) ** 2));
  const edge = 1 / (1 + Math.exp((place - 0.36) / 0.035));
  return darkShare + (middle - darkShare) * edge + 0.04 * place;
}
