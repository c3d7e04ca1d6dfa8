import { columnsOf, type Design } from './design.ts';

/** Why these readings cannot tell sources apart. */
export type NotIdentifiable =
  | { readonly reason: 'too_few'; readonly sources: readonly string[] }
  | { readonly reason: 'no_spread'; readonly sources: readonly string[] }
  /** All readings share one level. */
  | { readonly reason: 'one_level'; readonly sources: readonly string[] }
  /** Every level was read once: its effect and chance are one. */
  | { readonly reason: 'one_reading_each'; readonly sources: readonly string[] }
  /** Two sources group the readings alike, as when each trainee keeps to one cleaver. */
  | { readonly reason: 'same_groups'; readonly sources: readonly string[] }
  /** Some source is made up of others in these readings. */
  | { readonly reason: 'combined'; readonly sources: readonly string[] };

const ALIKE = 1 - 1e-9;

/**
 * What the design cannot tell apart, whatever the readings say: the covariances that the sources would make, with the mean
 * taken out, have to be independent of each other and of chance (Searle, Casella & McCulloch 1992, 4.6). Empty when
 * all can be told.
 */
export function unidentifiable(design: Design): readonly NotIdentifiable[] {
  const { n, sources, square } = design;
  if (n < 3) return [{ reason: 'too_few', sources }];
  if (!(square > n * 1e-24 * (1 + design.centre ** 2))) return [{ reason: 'no_spread', sources }];
  const found: NotIdentifiable[] = [];
  const size = sources.length + 1;
  const gram = gramOf(design);
  const at = (i: number, j: number): number => gram[i * size + j]!;
  const told = new Set<number>();
  sources.forEach((source, i) => {
    const [from, to] = columnsOf(design, i);
    const reason = to - from === 1 ? 'one_level' : to - from === n ? 'one_reading_each' : null;
    if (!reason) return;
    found.push({ reason, sources: [source] });
    told.add(i);
  });
  for (let i = 0; i < sources.length; i++) {
    for (let j = 0; j < i; j++) {
      if (told.has(i) || told.has(j) || at(i, j) < ALIKE * Math.sqrt(at(i, i) * at(j, j))) continue;
      found.push({ reason: 'same_groups', sources: [sources[j]!, sources[i]!] });
      told.add(i);
    }
  }
  const rest = Array.from({ length: size }, (_, i) => i).filter((i) => !told.has(i));
  const dependent = dependentOf(rest, at);
  if (dependent)
    found.push({
      reason: 'combined',
      sources: dependent.filter((i) => i < size - 1).map((i) => sources[i]!),
    });
  return found;
}

/** Inner products of the covariance patterns, the mean taken out; the last is that of chance. */
function gramOf(design: Design): Float64Array {
  const { n, m, r, across, among, counts, sources } = design;
  const together = (i: number, j: number): number =>
    j < m ? (i < m ? (i === j ? counts[i]! : 0) : across[j * r + i - m]!) : among[(i - m) * r + j - m]!;
  const size = sources.length + 1;
  const gram = new Float64Array(size * size);
  for (let s = 0; s < sources.length; s++) {
    const [a, b] = columnsOf(design, s);
    let withChance = 0;
    for (let i = a; i < b; i++) withChance += counts[i]! - (counts[i]! * counts[i]!) / n;
    gram[s * size + size - 1] = gram[(size - 1) * size + s] = withChance;
    gram[s * size + s] = ownOf(counts.subarray(a, b), n);
    for (let t = 0; t < s; t++) {
      const [c, d] = columnsOf(design, t);
      let sum = 0;
      for (let i = a; i < b; i++) {
        for (let j = c; j < d; j++) sum += (together(i, j) - (counts[i]! * counts[j]!) / n) ** 2;
      }
      gram[s * size + t] = gram[t * size + s] = sum;
    }
  }
  gram[size * size - 1] = n - 1;
  return gram;
}

/** A source with itself: its levels share no reading, so that the product is a sum over them. */
function ownOf(counts: Float64Array, n: number): number {
  let second = 0;
  let third = 0;
  for (const c of counts) {
    second += c * c;
    third += c * c * c;
  }
  return second - (2 * third) / n + (second * second) / (n * n);
}

/** The first pattern that the ones before it make up, with those that it takes; null where there is none. */
function dependentOf(order: readonly number[], at: (i: number, j: number) => number): number[] | null {
  // Chance first, so that a source is named and not it.
  const ranked = [...order].reverse();
  const basis: { i: number; vector: Map<number, number>; length: number }[] = [];
  const dot = (u: Map<number, number>, v: Map<number, number>): number => {
    let sum = 0;
    for (const [i, x] of u) for (const [j, y] of v) sum += x * y * at(i, j);
    return sum;
  };
  for (const i of ranked) {
    const vector = new Map([[i, 1 / Math.sqrt(at(i, i))]]);
    for (const b of basis) {
      const share = dot(vector, b.vector) / b.length;
      for (const [j, v] of b.vector) vector.set(j, (vector.get(j) ?? 0) - share * v);
    }
    const length = dot(vector, vector);
    if (length < 1e-9) {
      const used = [...vector].filter(([j, v]) => Math.abs(v) * Math.sqrt(at(j, j)) > 1e-4).map(([j]) => j);
      return used.sort((a, b) => a - b);
    }
    basis.push({ i, vector, length });
  }
  return null;
}
