/** Coarse searches run on a copy of half the size. */
export const HALVED = 2;

export interface Halved {
  readonly level: Float32Array;
  readonly inside: Uint8Array;
  readonly side: number;
}

/** A square with four pixels made one: their mean, and inside where all four are. */
export function halved(level: Float32Array, inside: Uint8Array, side: number): Halved {
  const small = Math.floor(side / HALVED);
  const out = { level: new Float32Array(small * small), inside: new Uint8Array(small * small), side: small };
  for (let y = 0; y < small; y++) {
    for (let x = 0; x < small; x++) {
      const i = y * HALVED * side + x * HALVED;
      const b = i + 1;
      const c = i + side;
      const d = i + side + 1;
      out.level[y * small + x] = (level[i]! + level[b]! + level[c]! + level[d]!) / 4;
      out.inside[y * small + x] = inside[i]! & inside[b]! & inside[c]! & inside[d]!;
    }
  }
  return out;
}

/** The place in the whole square of a pixel of a copy of 1 / `shrunk` of its size. */
export function fullResolutionIndex(i: number, small: number, side: number, shrunk = HALVED): number {
  const middle = shrunk >> 1;
  return (Math.floor(i / small) * shrunk + middle) * side + (i % small) * shrunk + middle;
}
