import { DomainError, requireFinite } from '../domain-error.ts';

/** One source of variation: a label for each reading. */
export interface RandomFactor {
  readonly source: string;
  readonly labels: readonly string[];
}

/**
 * What the fit needs of the readings: cross-products only, whose size is that of the levels and not of the readings. The
 * source with most levels comes first: its own block is diagonal, and the fit takes it out in closed form.
 */
export interface Design {
  readonly n: number;
  /** Mean of the readings; they are centred by it. */
  readonly centre: number;
  readonly sources: readonly string[];
  /** Where each source stood when it was given. */
  readonly given: readonly number[];
  readonly levels: readonly (readonly string[])[];
  /** First column of each source, and the number of all. */
  readonly starts: readonly number[];
  readonly q: number;
  /** Levels of the first source, and of all others. */
  readonly m: number;
  readonly r: number;
  /** Readings that a level of the first shares with one of the others, m by r; those that two others share, r by r. */
  readonly across: Float64Array;
  readonly among: Float64Array;
  /** Readings of a level and their centred sum. */
  readonly counts: Float64Array;
  readonly sums: Float64Array;
  readonly square: number;
}

/**
 * Cross-products of readings and their sources. Errors: `stats.not_finite`, `stats.not_paired` where labels are missing,
 * `components.no_source` without sources or with one named twice.
 */
export function designOf(values: ArrayLike<number>, sources: readonly RandomFactor[]): Design {
  requireFinite(values);
  const n = values.length;
  if (sources.length === 0 || new Set(sources.map((s) => s.source)).size < sources.length) {
    throw new DomainError('components.no_source', { sources: sources.length });
  }
  const columns = sources
    .map(({ source, labels }, given) => {
      if (labels.length !== n) throw new DomainError('stats.not_paired', { first: n, second: labels.length });
      const places = new Map<string, number>();
      const of = new Int32Array(n);
      for (let i = 0; i < n; i++) {
        let at = places.get(labels[i]!);
        if (at === undefined) places.set(labels[i]!, (at = places.size));
        of[i] = at;
      }
      return { source, given, of, levels: [...places.keys()] };
    })
    .sort((a, b) => b.levels.length - a.levels.length || a.given - b.given);
  const starts: number[] = [];
  let q = 0;
  for (const { levels } of columns) {
    starts.push(q);
    q += levels.length;
  }
  let centre = 0;
  for (let i = 0; i < n; i++) centre += (values[i]! - centre) / (i + 1);
  const m = columns[0]!.levels.length;
  const r = q - m;
  const across = new Float64Array(m * r);
  const among = new Float64Array(r * r);
  const counts = new Float64Array(q);
  const sums = new Float64Array(q);
  let square = 0;
  const at = new Int32Array(columns.length);
  for (let i = 0; i < n; i++) {
    const y = values[i]! - centre;
    square += y * y;
    for (let s = 0; s < columns.length; s++) {
      at[s] = starts[s]! + columns[s]!.of[i]!;
      counts[at[s]!]! += 1;
      sums[at[s]!]! += y;
      if (s > 0) across[at[0]! * r + at[s]! - m]! += 1;
      for (let t = 1; t <= s; t++) among[(at[s]! - m) * r + at[t]! - m]! += 1;
    }
  }
  for (let i = 0; i < r; i++) for (let j = 0; j < i; j++) among[j * r + i] = among[i * r + j]!;
  return {
    n,
    centre,
    starts,
    q,
    m,
    r,
    across,
    among,
    counts,
    sums,
    square,
    sources: columns.map((c) => c.source),
    given: columns.map((c) => c.given),
    levels: columns.map((c) => c.levels),
  };
}

/** The columns of a source. */
export function columnsOf(design: Design, source: number): readonly [from: number, to: number] {
  return [design.starts[source]!, design.starts[source + 1] ?? design.q];
}
