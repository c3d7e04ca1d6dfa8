import { factorize, forward, inverseOf } from './cholesky.ts';
import { columnsOf, type Design } from './design.ts';

/** Where the restricted likelihood is at given variances: its value, slope and expected information. */
export interface LikelihoodAt {
  readonly criterion: number;
  readonly mean: number;
  readonly meanVariance: number;
  /** Z'Py and the diagonal of Z'PZ, times the chance variance. */
  readonly s: Float64Array;
  readonly diagonal: Float64Array;
  readonly score: Float64Array;
  readonly information: Float64Array;
}

/** The first source taken out: what is left of the readings' cross-products, at the variances' ratios to chance. */
interface Absorbed {
  /** What a reading of each of its levels still counts, 1 / (1 + ratio x readings), and counts and sums by that. */
  readonly weight: Float64Array;
  readonly counts: Float64Array;
  readonly sums: Float64Array;
  /** Cross-products of the others. */
  readonly k: Float64Array;
  readonly n: number;
  readonly sum: number;
  readonly square: number;
  readonly logDet: number;
}

function absorb(design: Design, ratio: number): Absorbed {
  const { m, r, across, among } = design;
  const weight = new Float64Array(m);
  const counts = design.counts.slice();
  const sums = design.sums.slice();
  const k = among.slice();
  let n = design.n;
  let sum = 0;
  let square = design.square;
  let logDet = 0;
  for (let i = 0; i < m; i++) {
    const c = design.counts[i]!;
    const y = design.sums[i]!;
    const w = 1 / (1 + ratio * c);
    const taken = ratio * w;
    weight[i] = w;
    logDet -= Math.log(w);
    counts[i] = c * w;
    sums[i] = y * w;
    n -= taken * c * c;
    sum -= taken * c * y;
    square -= taken * y * y;
    const row = i * r;
    for (let a = 0; a < r; a++) {
      const shared = across[row + a]!;
      if (shared === 0) continue;
      counts[m + a]! -= taken * shared * c;
      sums[m + a]! -= taken * shared * y;
      for (let b = 0; b <= a; b++) k[a * r + b]! -= taken * shared * across[row + b]!;
    }
  }
  for (let a = 0; a < r; a++) for (let b = 0; b < a; b++) k[b * r + a] = k[a * r + b]!;
  return { weight, counts, sums, k, n, sum, square, logDet };
}

/**
 * The restricted likelihood of variances (the last that of chance), by Woodbury's identity: the source with most levels in
 * closed form, the others by a matrix of the size of their levels, never of the readings. Null where chance is not above
 * 0. `criterion` is -2 log likelihood.
 */
export function likelihoodAt(design: Design, variances: Float64Array, whole: boolean): LikelihoodAt | null {
  const { m, r, sources } = design;
  const kinds = sources.length;
  const chance = variances[kinds]!;
  if (!(chance > 0)) return null;
  const left = absorb(design, variances[0]! / chance);
  const root = new Float64Array(r);
  for (let s = 1; s < kinds; s++) {
    const [from, to] = columnsOf(design, s);
    root.fill(Math.sqrt(variances[s]! / chance), from - m, to - m);
  }
  const l = new Float64Array(r * r);
  for (let i = 0; i < r; i++) {
    for (let j = 0; j <= i; j++) l[i * r + j] = root[i]! * left.k[i * r + j]! * root[j]!;
    l[i * r + i]! += 1;
  }
  if (!factorize(l, r)) return null;
  let logDet = left.logDet;
  for (let i = 0; i < r; i++) logDet += 2 * Math.log(l[i * r + i]!);
  // L^-1 D^1/2 of the counts and of the sums: every product with V^-1 is one of these less.
  const c = root.map((v, i) => v * left.counts[m + i]!);
  const y = root.map((v, i) => v * left.sums[m + i]!);
  forward(l, r, c);
  forward(l, r, y);
  const ones = left.n - dot(c, c);
  const onesY = left.sum - dot(c, y);
  const mean = onesY / ones;
  const quadratic = left.square - dot(y, y) - mean * onesY;
  const criterion =
    (design.n - 1) * Math.log(2 * Math.PI * chance) + logDet + Math.log(ones) + quadratic / chance;
  const look = { criterion, mean, meanVariance: chance / ones };
  if (!whole) {
    const empty = new Float64Array(0);
    return { ...look, s: empty, diagonal: empty, score: empty, information: empty };
  }
  const products = projected(design, left, l, root, c, y, ones, mean);
  const { s, diagonal } = products;
  return { ...look, s, diagonal, ...slopes(design, variances, products, quadratic) };
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

/** Z'Py, the diagonal of Z'PZ and the squared size of its blocks, times the chance variance. */
interface Projected {
  readonly s: Float64Array;
  readonly diagonal: Float64Array;
  readonly norm: Float64Array;
}

function projected(
  design: Design,
  left: Absorbed,
  l: Float64Array,
  root: Float64Array,
  c: Float64Array,
  y: Float64Array,
  ones: number,
  mean: number,
): Projected {
  const { m, r, q, across, sources } = design;
  const kinds = sources.length;
  const s = new Float64Array(q);
  const diagonal = new Float64Array(q);
  const norm = new Float64Array(kinds * kinds);
  // A column of what a level shares with the others, brought forward: Z'PZ is a block less the products of these, and the
  // mean's share is one more number of each.
  const wide = r + 1;
  const rows = new Float64Array(q * wide);
  const scale = 1 / Math.sqrt(ones);
  const part = new Float64Array(r);
  for (let i = 0; i < q; i++) {
    const w = i < m ? left.weight[i]! : 1;
    const from = i < m ? across : left.k;
    const at = (i < m ? i : i - m) * r;
    for (let a = 0; a < r; a++) part[a] = root[a]! * w * from[at + a]!;
    forward(l, r, part);
    const withOnes = left.counts[i]! - dot(part, c);
    s[i] = left.sums[i]! - dot(part, y) - mean * withOnes;
    rows.set(part, i * wide);
    rows[i * wide + r] = withOnes * scale;
  }
  const productOf = (i: number, j: number): number => {
    let sum = 0;
    for (let a = i * wide, b = j * wide, end = a + wide; a < end; a++, b++) sum += rows[a]! * rows[b]!;
    return sum;
  };
  for (let i = 0; i < q; i++)
    diagonal[i] = (i < m ? left.counts[i]! : left.k[(i - m) * r + i - m]!) - productOf(i, i);
  norm[0] = ownNorm(left.counts, rows, m, wide);
  for (let b = 1; b < kinds; b++) {
    const [start, end] = columnsOf(design, b);
    for (let a = 0; a <= b; a++) {
      const [from, to] = columnsOf(design, a);
      let sum = 0;
      for (let i = from; i < to; i++) {
        for (let j = start; j < end; j++) {
          const block = i < m ? left.weight[i]! * across[i * r + j - m]! : left.k[(i - m) * r + j - m]!;
          sum += (block - productOf(i, j)) ** 2;
        }
      }
      norm[a * kinds + b] = norm[b * kinds + a] = sum;
    }
  }
  return { s, diagonal, norm };
}

/** Squared size of diag(g) - R R' without making it: that of the first source, which may have thousands of levels. */
function ownNorm(g: Float64Array, rows: Float64Array, m: number, wide: number): number {
  const gram = new Float64Array(wide * wide);
  let sum = 0;
  for (let i = 0; i < m; i++) {
    const row = i * wide;
    let own = 0;
    for (let a = 0; a < wide; a++) {
      const v = rows[row + a]!;
      if (v === 0) continue;
      own += v * v;
      for (let b = 0; b <= a; b++) gram[a * wide + b]! += v * rows[row + b]!;
    }
    sum += g[i]! * g[i]! - 2 * g[i]! * own;
  }
  for (let a = 0; a < wide; a++) {
    for (let b = 0; b <= a; b++) sum += (a === b ? 1 : 2) * gram[a * wide + b]! ** 2;
  }
  return sum;
}

/** Slope of the log likelihood and expected information by the variances, chance last (Searle and others 1992, 6.6). */
function slopes(
  design: Design,
  variances: Float64Array,
  { s, diagonal, norm: blocks }: Projected,
  quadratic: number,
): { score: Float64Array; information: Float64Array } {
  const { n, sources } = design;
  const kinds = sources.length;
  const chance = variances[kinds]!;
  const trace = new Float64Array(kinds);
  const squares = new Float64Array(kinds);
  const norm = blocks.map((v) => v / (chance * chance));
  for (let k = 0; k < kinds; k++) {
    const [from, to] = columnsOf(design, k);
    for (let i = from; i < to; i++) {
      trace[k]! += diagonal[i]! / chance;
      squares[k]! += (s[i]! / chance) ** 2;
    }
  }
  const size = kinds + 1;
  const score = new Float64Array(size);
  const information = new Float64Array(size * size);
  let traceP = n - 1;
  let quadraticP = quadratic / chance;
  let traceLeft = 0;
  for (let k = 0; k < kinds; k++) {
    score[k] = -(trace[k]! - squares[k]!) / 2;
    traceP -= variances[k]! * trace[k]!;
    quadraticP -= variances[k]! * squares[k]!;
    let cross = trace[k]!;
    for (let m = 0; m < kinds; m++) {
      information[k * size + m] = norm[k * kinds + m]! / 2;
      cross -= variances[m]! * norm[k * kinds + m]!;
    }
    cross /= chance;
    information[k * size + kinds] = information[kinds * size + k] = cross / 2;
    traceLeft += variances[k]! * cross;
  }
  traceP /= chance;
  score[kinds] = -(traceP - quadraticP / chance) / 2;
  information[size * size - 1] = (traceP - traceLeft) / chance / 2;
  return { score, information };
}

export interface Fit extends LikelihoodAt {
  readonly variances: Float64Array;
  readonly rounds: number;
  readonly converged: boolean;
}

const ROUNDS = 200;
const SETTLED = 1e-10;

/**
 * Variances at the top of the restricted likelihood by Fisher scoring with halved steps, none under 0: a source whose
 * likelihood falls from 0 on stays there.
 */
export function fitReml(design: Design): Fit {
  const { n, square, sources } = design;
  const size = sources.length + 1;
  let variances: Float64Array = new Float64Array(size).fill(square / (n - 1) / size);
  let look = likelihoodAt(design, variances, true)!;
  for (let round = 1; round <= ROUNDS; round++) {
    const step = stepOf(variances, look);
    let next: Float64Array | null = null;
    let share = 1;
    for (; share > 1e-8; share /= 2) {
      const tried = variances.map((v, i) => {
        const to = v + share * step[i]!;
        // Chance never reaches 0; a source does, and may leave it again.
        return to > 0 ? to : i === size - 1 ? v / 10 : 0;
      });
      const there = likelihoodAt(design, tried, false);
      if (there && there.criterion <= look.criterion + 1e-12 * Math.abs(look.criterion)) {
        next = tried;
        break;
      }
    }
    if (!next) return { ...look, variances, rounds: round, converged: true };
    const total = next.reduce((a, b) => a + b, 0);
    const moved = Math.max(...next.map((v, i) => Math.abs(v - variances[i]!))) / total;
    variances = next;
    look = likelihoodAt(design, variances, true)!;
    if (moved < SETTLED) return { ...look, variances, rounds: round, converged: true };
  }
  return { ...look, variances, rounds: ROUNDS, converged: false };
}

/** Information^-1 score over those that are free to move. */
function stepOf(variances: Float64Array, { score, information }: LikelihoodAt): Float64Array {
  const size = variances.length;
  const free = [...variances.keys()].filter((i) => variances[i]! > 0 || score[i]! > 0);
  const m = new Float64Array(free.length ** 2);
  free.forEach((i, a) => free.forEach((j, b) => (m[a * free.length + b] = information[i * size + j]!)));
  const step = new Float64Array(size);
  if (!factorize(m, free.length)) {
    for (const i of free) step[i] = score[i]! / information[i * size + i]!;
    return step;
  }
  const inverse = inverseOf(m, free.length);
  free.forEach((i, a) => {
    free.forEach((j, b) => (step[i]! += inverse[a * free.length + b]! * score[j]!));
  });
  return step;
}
