import { factorize, forward, inverseOf } from './cholesky.ts';
import { columnsOf, type Design } from './design.ts';

/** Where the restricted likelihood is at given variances: its value, slope and expected information. */
export interface Look {
  readonly criterion: number;
  readonly mean: number;
  readonly meanVariance: number;
  /** Z'Py and Z'PZ times the chance variance. */
  readonly s: Float64Array;
  readonly big: Float64Array;
  readonly score: Float64Array;
  readonly information: Float64Array;
}

/**
 * The restricted likelihood of variances (the last that of chance), by Woodbury's identity: matrices of the size of the
 * levels, never of the readings. Null where chance is not above 0. `criterion` is -2 log likelihood.
 */
export function lookAt(design: Design, variances: Float64Array, whole: boolean): Look | null {
  const { n, q, together: a, counts, sums, square, sources } = design;
  const kinds = sources.length;
  const chance = variances[kinds]!;
  if (!(chance > 0)) return null;
  const root = new Float64Array(q);
  for (let k = 0; k < kinds; k++) {
    const [from, to] = columnsOf(design, k);
    root.fill(Math.sqrt(variances[k]! / chance), from, to);
  }
  const l = new Float64Array(q * q);
  for (let i = 0; i < q; i++) {
    for (let j = 0; j <= i; j++) l[i * q + j] = root[i]! * a[i * q + j]! * root[j]!;
    l[i * q + i]! += 1;
  }
  if (!factorize(l, q)) return null;
  let logDet = 0;
  for (let i = 0; i < q; i++) logDet += 2 * Math.log(l[i * q + i]!);
  // L^-1 D^1/2 of the counts and of the sums: every product with V^-1 is one of these less.
  const c = Float64Array.from(counts, (v, i) => v * root[i]!);
  const y = Float64Array.from(sums, (v, i) => v * root[i]!);
  forward(l, q, c);
  forward(l, q, y);
  const ones = n - dot(c, c);
  const onesY = -dot(c, y);
  const mean = onesY / ones;
  const quadratic = square - dot(y, y) - mean * onesY;
  const criterion = (n - 1) * Math.log(2 * Math.PI * chance) + logDet + Math.log(ones) + quadratic / chance;
  const look = { criterion, mean, meanVariance: chance / ones };
  const empty = new Float64Array(0);
  if (!whole) return { ...look, s: empty, big: empty, score: empty, information: empty };
  const { s, big } = projected(design, l, root, c, y, ones, mean);
  return { ...look, s, big, ...slopes(design, variances, s, big, quadratic) };
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

/** Z'Py and Z'PZ, times the chance variance. */
function projected(
  { q, together: a, counts, sums }: Design,
  l: Float64Array,
  root: Float64Array,
  c: Float64Array,
  y: Float64Array,
  ones: number,
  mean: number,
): { s: Float64Array; big: Float64Array } {
  // Rows of (L^-1 D^1/2 A)': each a column of A brought forward.
  const rows = new Float64Array(q * q);
  for (let j = 0; j < q; j++) {
    const row = rows.subarray(j * q, (j + 1) * q);
    for (let i = 0; i < q; i++) row[i] = root[i]! * a[i * q + j]!;
    forward(l, q, row);
  }
  const [withOnes, s] = [new Float64Array(q), new Float64Array(q)];
  for (let j = 0; j < q; j++) {
    const row = rows.subarray(j * q, (j + 1) * q);
    withOnes[j] = counts[j]! - dot(row, c);
    s[j] = sums[j]! - dot(row, y) - mean * withOnes[j]!;
  }
  const big = new Float64Array(q * q);
  for (let i = 0; i < q; i++) {
    for (let j = 0; j <= i; j++) {
      let sum = a[i * q + j]! - (withOnes[i]! * withOnes[j]!) / ones;
      for (let k = i * q, m = j * q, end = k + q; k < end; k++, m++) sum -= rows[k]! * rows[m]!;
      big[i * q + j] = big[j * q + i] = sum;
    }
  }
  return { s, big };
}

/** Slope of the log likelihood and expected information by the variances, chance last (Searle and others 1992, 6.6). */
function slopes(
  design: Design,
  variances: Float64Array,
  s: Float64Array,
  big: Float64Array,
  quadratic: number,
): { score: Float64Array; information: Float64Array } {
  const { n, q, sources } = design;
  const kinds = sources.length;
  const chance = variances[kinds]!;
  const [trace, squares] = [new Float64Array(kinds), new Float64Array(kinds)];
  const norm = new Float64Array(kinds * kinds);
  for (let k = 0; k < kinds; k++) {
    const [from, to] = columnsOf(design, k);
    for (let i = from; i < to; i++) {
      trace[k]! += big[i * q + i]! / chance;
      squares[k]! += (s[i]! / chance) ** 2;
    }
    for (let m = 0; m < kinds; m++) {
      const [c, d] = columnsOf(design, m);
      let sum = 0;
      for (let i = from; i < to; i++) for (let j = c; j < d; j++) sum += (big[i * q + j]! / chance) ** 2;
      norm[k * kinds + m] = sum;
    }
  }
  const size = kinds + 1;
  const [score, information] = [new Float64Array(size), new Float64Array(size * size)];
  let [traceP, quadraticP, traceLeft] = [n - 1, quadratic / chance, 0];
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

export interface Fit extends Look {
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
  let look = lookAt(design, variances, true)!;
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
      const there = lookAt(design, tried, false);
      if (there && there.criterion <= look.criterion + 1e-12 * Math.abs(look.criterion)) {
        next = tried;
        break;
      }
    }
    if (!next) return { ...look, variances, rounds: round, converged: true };
    const total = next.reduce((a, b) => a + b, 0);
    const moved = Math.max(...next.map((v, i) => Math.abs(v - variances[i]!))) / total;
    variances = next;
    look = lookAt(design, variances, true)!;
    if (moved < SETTLED) return { ...look, variances, rounds: round, converged: true };
  }
  return { ...look, variances, rounds: ROUNDS, converged: false };
}

/** Information^-1 score over those that are free to move. */
function stepOf(variances: Float64Array, { score, information }: Look): Float64Array {
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
