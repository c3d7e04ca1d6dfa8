import { describe, expect, it } from 'vitest';
import componentsCsv from '../../fixtures/components.csv?raw';
import readingsCsv from '../../fixtures/readings.csv?raw';
import { numbers } from '../numbers-for-tests.ts';
import { offBy, rowsOf } from '../fixtures-for-tests.ts';
import { normalQuantile } from '../special/index.ts';
import { type RandomFactor, type VarianceComponents, varianceComponents } from './index.ts';

type Fitted = Extract<VarianceComponents, { kind: 'components' }>;
const fitted = (values: ArrayLike<number>, factors: readonly RandomFactor[]): Fitted => {
  const fit = varianceComponents(values, factors);
  if (fit.kind !== 'components') throw new Error(JSON.stringify(fit.because));
  return fit;
};
const factor = (source: string, labels: readonly string[]): RandomFactor => ({ source, labels });
const columns = rowsOf(readingsCsv);
const LOSSES = columns.map(([, , , loss]) => Number(loss));
const FACTORS = {
  trainee: factor(
    'trainee',
    columns.map((c) => c[0]!),
  ),
  cleaver: factor(
    'cleaver',
    columns.map((c) => c[1]!),
  ),
  batch: factor(
    'batch',
    columns.map((c) => c[2]!),
  ),
  piece: factor(
    'piece',
    columns.map((c) => c[4]!),
  ),
};
const known = (model: string, what: string, level?: string): number =>
  Number(rowsOf(componentsCsv).find(([m, w, l]) => m === model && w === what && (level ?? '') === l)![3]);

describe('against lme4', () => {
  // Its optimizer stops where the deviance hardly moves; the criterion agrees to 1e-9, the variances to 1e-5 of the whole.
  it.each([
    ['crossed', [FACTORS.trainee, FACTORS.cleaver, FACTORS.batch]],
    ['nested', [FACTORS.trainee, FACTORS.piece, FACTORS.cleaver]],
  ] as const)('%s effects: criterion, variances, mean and predictions', (model, factors) => {
    const fit = fitted(LOSSES, factors);
    expect(fit.converged).toBe(true);
    const criterion = known(model, 'criterion');
    expect(fit.criterion).toBeLessThan(criterion + 1e-7);
    expect(offBy(fit.criterion, criterion)).toBeLessThan(1e-9);
    const total = fit.chance.variance + fit.components.reduce((sum, c) => sum + c.variance, 0);
    for (const c of [...fit.components, { ...fit.chance, source: 'Residual' }]) {
      expect(Math.abs(c.variance - known(model, 'variance', c.source)) / total).toBeLessThan(1e-5);
    }
    expect(offBy(fit.mean, known(model, 'mean'))).toBeLessThan(1e-5);
    expect(offBy(fit.meanError, known(model, 'mean_error'))).toBeLessThan(1e-4);
    for (const c of fit.components) {
      for (const { level, effect } of c.levels) {
        expect(Math.abs(effect - known(model, `effect:${c.source}`, level))).toBeLessThan(2e-5);
      }
    }
    expect(fit.components.reduce((sum, c) => sum + c.share, fit.chance.share)).toBeCloseTo(1, 12);
  });
});

describe('by hand', () => {
  // Balanced data: REML is the analysis of variance. Between mean square 8, within 0.02; piece (8 - 0.02) / 2.
  it('three pieces read twice', () => {
    const fit = fitted([1, 1.2, 3, 3.2, 5, 5.2], [factor('piece', ['a', 'a', 'b', 'b', 'c', 'c'])]);
    expect(fit.components[0]!.variance).toBeCloseTo(3.99, 8);
    expect(fit.chance.variance).toBeCloseTo(0.02, 9);
    expect(fit.mean).toBeCloseTo(3.1, 12);
    expect(fit.meanError).toBeCloseTo(Math.sqrt(8 / 6), 9);
    // Shrunken by 3.99 / (3.99 + 0.01).
    expect(fit.components[0]!.levels[0]!.effect).toBeCloseTo(-2 * (3.99 / 4), 8);
  });
  it('a million away from zero nothing changes but the mean', () => {
    const labels = ['a', 'a', 'b', 'b', 'c', 'c'];
    const far = fitted(
      [1, 1.2, 3, 3.2, 5, 5.2].map((v) => v + 1e6),
      [factor('piece', labels)],
    );
    expect(far.components[0]!.variance).toBeCloseTo(3.99, 6);
    expect(far.mean).toBeCloseTo(1e6 + 3.1, 6);
  });
  it('a source that makes no difference has none, with the bound of its share', () => {
    const labels = ['a', 'b', 'c', 'd', 'a', 'b', 'c', 'd', 'a', 'b', 'c', 'd'];
    const fit = fitted([1, 1, 1, 1, 2, 2, 2, 2, 3, 3, 3, 3], [factor('bench', labels)]);
    expect(fit.components[0]).toMatchObject({ variance: 0, share: 0, low: 0 });
    expect(fit.components[0]!.high).toBeGreaterThan(0);
    expect(fit.components[0]!.levels.every((l) => l.effect === 0)).toBe(true);
    expect(fit.chance.variance).toBeCloseTo(8 / 11, 9);
  });
});

describe('what the readings cannot tell', () => {
  const because = (values: number[], ...factors: RandomFactor[]) => {
    const fit = varianceComponents(values, factors);
    return fit.kind === 'not_identifiable' ? fit.because : [];
  };
  const values = [1, 2, 1.5, 3, 2.5, 4, 3, 5];
  const four = ['a', 'a', 'b', 'b', 'c', 'c', 'd', 'd'];
  it('one bench, each piece once, each trainee with an own cleaver', () => {
    expect(
      because(
        values,
        factor(
          'bench',
          values.map(() => 'x'),
        ),
        factor('trainee', four),
      ),
    ).toEqual([{ reason: 'one_level', sources: ['bench'] }]);
    expect(
      because(
        values,
        factor(
          'piece',
          values.map(String).map((v, i) => v + i),
        ),
      ),
    ).toEqual([{ reason: 'one_reading_each', sources: ['piece'] }]);
    const own = four.map((t) => `of ${t}`);
    expect(because(values, factor('trainee', four), factor('cleaver', own))).toEqual([
      { reason: 'same_groups', sources: ['trainee', 'cleaver'] },
    ]);
  });
  it('two halves that make up a quarter, too few, no spread', () => {
    // With two levels each, the pattern of the cells is made up of both halves, their product and the mean.
    const a = ['x', 'x', 'y', 'y'];
    const b = ['u', 'v', 'u', 'v'];
    const one = ['p', 'q', 'q', 'p'];
    const found = because([1, 2, 3, 5], factor('a', a), factor('b', b), factor('one', one));
    expect(found).toMatchObject([{ reason: 'combined' }]);
    expect(because([1, 2], factor('a', ['x', 'y']))).toMatchObject([{ reason: 'too_few' }]);
    expect(because([2, 2, 2, 2], factor('a', a))).toMatchObject([{ reason: 'no_spread' }]);
  });
  it('refuses what is no design', () => {
    expect(() => varianceComponents([1, 2], [])).toThrow('components.no_source');
    expect(() => varianceComponents([1, 2, 3], [factor('a', ['x'])])).toThrow('stats.not_paired');
    expect(() => varianceComponents([1, NaN, 3], [factor('a', ['x', 'y', 'x'])])).toThrow('stats.not_finite');
  });
});

describe('with the truth known', () => {
  it('shares are covered by their intervals about as often as they say', () => {
    const next = numbers(91);
    const normal = (): number => normalQuantile(Math.min(1 - 1e-9, Math.max(1e-9, next())));
    let covered = 0;
    const rounds = 60;
    for (let round = 0; round < rounds; round++) {
      const people = Array.from({ length: 20 }, normal);
      const tools = Array.from({ length: 12 }, normal);
      const rows = Array.from({ length: 240 }, (_, i) => [i % 20, Math.floor(next() * 12)] as const);
      const values = rows.map(([p, t]) => 0.3 + 0.06 * people[p]! + 0.04 * tools[t]! + 0.05 * normal());
      const fit = fitted(values, [
        factor(
          'trainee',
          rows.map(([p]) => String(p)),
        ),
        factor(
          'cleaver',
          rows.map(([, t]) => String(t)),
        ),
      ]);
      const truth = 0.06 ** 2 / (0.06 ** 2 + 0.04 ** 2 + 0.05 ** 2);
      const { low, high } = fit.components[0]!;
      if (low <= truth && truth <= high) covered += 1;
    }
    expect(covered / rounds).toBeGreaterThan(0.85);
  });
});
