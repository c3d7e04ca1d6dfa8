/** A source of numbers from 0 up to 1, made from a seed. */
export type Rng = () => number;

/**
 * Seeded generator (the mulberry32 step over a 32-bit state): the same seed gives the same numbers on every
 * machine. For simulated work only, never for ids or secrets.
 */
export function rngFrom(seed: number): Rng {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** A normal deviate by the polar method. */
export function normal(rng: Rng, mean = 0, sd = 1): number {
  for (;;) {
    const u = 2 * rng() - 1;
    const v = 2 * rng() - 1;
    const s = u * u + v * v;
    if (s > 0 && s < 1) return mean + sd * u * Math.sqrt((-2 * Math.log(s)) / s);
  }
}

export const chance = (rng: Rng, probability: number): boolean => rng() < probability;

export const pick = <T>(rng: Rng, list: readonly T[]): T => list[Math.floor(rng() * list.length)]!;

/** A list in an order by chance (Fisher and Yates). */
export function shuffled<T>(rng: Rng, list: readonly T[]): T[] {
  const out = [...list];
  for (let i = out.length - 1; i > 0; i--) {
    const j = Math.floor(rng() * (i + 1));
    [out[i], out[j]] = [out[j]!, out[i]!];
  }
  return out;
}

const HEX = '0123456789abcdef';

/** A version 4 UUID from the generator, so that a seeded data set has the same ids each time. */
export function uuidFrom(rng: Rng): string {
  const digits = new Array<number>(32);
  for (let i = 0; i < 32; i++) digits[i] = Math.floor(rng() * 16);
  digits[12] = 4;
  digits[16] = 8 + Math.floor(rng() * 4);
  let s = '';
  for (let i = 0; i < 32; i++) s += HEX[digits[i]!]!;
  return `${s.slice(0, 8)}-${s.slice(8, 12)}-${s.slice(12, 16)}-${s.slice(16, 20)}-${s.slice(20)}`;
}
