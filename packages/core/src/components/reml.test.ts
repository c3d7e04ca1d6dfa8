import { describe, expect, it } from 'vitest';
import { numbers } from '../numbers-for-tests.ts';
import { factorize, inverseOf } from './cholesky.ts';
import { columnsOf, designOf, type RandomFactor } from './design.ts';
import { likelihoodAt } from './reml.ts';

const next = numbers(13);
const n = 36;
const labelled = (source: string, levels: number): RandomFactor => ({
  source,
  labels: Array.from({ length: n }, () => `${source} ${Math.floor(levels * next())}`),
});
const FACTORS = [labelled('trainee', 5), labelled('piece', 9), labelled('cleaver', 3)];
const VALUES = Array.from({ length: n }, () => 0.3 + 0.2 * next());

/** The same by matrices of the size of the readings, straight from the definitions. */
function byDefinition(variances: Float64Array) {
  const design = designOf(VALUES, FACTORS);
  const size = design.sources.length + 1;
  const patterns = design.sources.map((source, k) => {
    const { labels } = FACTORS[design.given[k]!]!;
    expect(FACTORS[design.given[k]!]!.source).toBe(source);
    return Float64Array.from({ length: n * n }, (_, i) =>
      labels[Math.floor(i / n)] === labels[i % n] ? 1 : 0,
    );
  });
  patterns.push(Float64Array.from({ length: n * n }, (_, i) => (Math.floor(i / n) === i % n ? 1 : 0)));
  const v = new Float64Array(n * n);
  patterns.forEach((pattern, k) => pattern.forEach((x, i) => (v[i]! += variances[k]! * x)));
  const l = v.slice();
  factorize(l, n);
  let logDet = 0;
  for (let i = 0; i < n; i++) logDet += 2 * Math.log(l[i * n + i]!);
  const inverse = inverseOf(l, n);
  const row = (i: number): number => {
    let sum = 0;
    for (let j = 0; j < n; j++) sum += inverse[i * n + j]!;
    return sum;
  };
  const rows = Float64Array.from({ length: n }, (_, i) => row(i));
  const all = rows.reduce((a, b) => a + b, 0);
  const p = inverse.map((x, i) => x - (rows[Math.floor(i / n)]! * rows[i % n]!) / all);
  const times = (a: Float64Array, b: Float64Array): Float64Array => {
    const out = new Float64Array(n * n);
    for (let i = 0; i < n; i++) {
      for (let k = 0; k < n; k++)
        for (let j = 0; j < n; j++) out[i * n + j]! += a[i * n + k]! * b[k * n + j]!;
    }
    return out;
  };
  const trace = (a: Float64Array): number => {
    let sum = 0;
    for (let i = 0; i < n; i++) sum += a[i * n + i]!;
    return sum;
  };
  const quadratic = (a: Float64Array): number => {
    let sum = 0;
    for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) sum += VALUES[i]! * a[i * n + j]! * VALUES[j]!;
    return sum;
  };
  const through = patterns.map((pattern) => times(p, pattern));
  return {
    design,
    criterion: (n - 1) * Math.log(2 * Math.PI) + logDet + Math.log(all) + quadratic(p),
    mean: rows.reduce((sum, x, i) => sum + x * VALUES[i]!, 0) / all,
    score: through.map((a) => -(trace(a) - quadratic(times(a, p))) / 2),
    information: Array.from({ length: size * size }, (_, i) => {
      return trace(times(through[Math.floor(i / size)]!, through[i % size]!)) / 2;
    }),
    p,
  };
}

describe('the restricted likelihood by Woodbury is the one by definition', () => {
  it.each([
    [[0.01, 0.02, 0.005, 0.03]],
    [[0, 0.02, 0.005, 0.03]],
    [[0.04, 0, 0, 0.001]],
    [[0.3, 0.2, 0.1, 1e-4]],
  ])('at %j', (variances) => {
    const at = Float64Array.from(variances);
    const wanted = byDefinition(at);
    const look = likelihoodAt(wanted.design, at, true)!;
    expect(look.criterion).toBeCloseTo(wanted.criterion, 8);
    expect(wanted.design.centre + look.mean).toBeCloseTo(wanted.mean, 10);
    wanted.score.forEach((v, i) =>
      expect(Math.abs(look.score[i]! - v)).toBeLessThan(1e-7 * (1 + Math.abs(v))),
    );
    wanted.information.forEach((v, i) => {
      expect(Math.abs(look.information[i]! - v)).toBeLessThan(1e-7 * (1 + Math.abs(v)));
    });
    // A level's own entry of Z'PZ is the sum of P over its readings.
    const [from] = columnsOf(wanted.design, 0);
    const first = wanted.design.levels[0]![0]!;
    const { labels } = FACTORS[wanted.design.given[0]!]!;
    let sum = 0;
    for (let i = 0; i < n; i++) {
      for (let j = 0; j < n; j++) if (labels[i] === first && labels[j] === first) sum += wanted.p[i * n + j]!;
    }
    expect(look.diagonal[from]! / at[3]!).toBeCloseTo(sum, 6);
  });
  it('without chance there is none', () => {
    expect(likelihoodAt(designOf(VALUES, FACTORS), Float64Array.of(1, 1, 1, 0), true)).toBeNull();
  });
});
