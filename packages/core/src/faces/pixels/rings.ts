/** The values inside by their distance, in rings of equal width; of every `step`th pixel. */
export function ringsOf(
  level: Float32Array,
  distance: Float32Array,
  inside: Uint8Array,
  binsPerPx: number,
  step = 1,
): Float32Array[] {
  let bins = 0;
  for (let i = 0; i < level.length; i += step) {
    if (inside[i]) bins = Math.max(bins, Math.floor(distance[i]! * binsPerPx) + 1);
  }
  const counts = new Uint32Array(bins);
  for (let i = 0; i < level.length; i += step)
    if (inside[i]) counts[Math.floor(distance[i]! * binsPerPx)]! += 1;
  const rings = Array.from(counts, (n) => new Float32Array(n));
  counts.fill(0);
  for (let i = 0; i < level.length; i += step) {
    if (!inside[i]) continue;
    const bin = Math.floor(distance[i]! * binsPerPx);
    rings[bin]![counts[bin]!++] = level[i]!;
  }
  return rings;
}

/** The values of several rings together. */
export function joined(parts: readonly Float32Array[]): Float32Array {
  const all = new Float32Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}

/** A copy of a ring with so many on both sides of it, `most` at the most, that there are `enough` values. */
export function ringsRound(
  rings: readonly Float32Array[],
  d: number,
  most: number,
  enough: number,
): Float32Array {
  const has = (k: number): number => rings[k]?.length ?? 0;
  let reach = 0;
  let count = has(d);
  while (count < enough && reach < most) {
    reach += 1;
    count += has(d - reach) + has(d + reach);
  }
  return joined(rings.slice(Math.max(0, d - reach), d + reach + 1));
}
