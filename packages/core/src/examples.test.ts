import { describe, expect, it } from 'vitest';
import {
  betaQuantile,
  betaShare,
  binomialCdf,
  binomialPmf,
  cohenKappa,
  furtherPieces,
  gwetAc1,
  individualsChart,
  isotonic,
  limitFor,
  logisticCurve,
  mannWhitney,
  mcnemarExact,
  meanInterval,
  noncentralT,
  noncentralTQuantile,
  normalQuantile,
  normalShare,
  pabak,
  pairedTest,
  powerLaw,
  processRisk,
  sampleSd,
  scaledMad,
  sprtBounds,
  sprtOperating,
  studentShare,
  toFirstPass,
  toleranceFactor,
  upperCapability,
  varianceComponents,
  weightedKappa,
  welchTest,
} from './index.ts';

type Numbers = Readonly<Record<string, unknown>>;
const field = (value: object, name: string): number => (value as Numbers)[name] as number;
const RATES = { pGood: 0.1, pBad: 0.3 };
const PLAN = { ...RATES, alpha: 0.05, beta: 0.05 };

/** The worked value of each docstring, to the digits that stand there. */
describe('examples of the docstrings', () => {
  it.each<[string, () => number, number, number]>([
    ['normalShare', () => normalShare(1.96).below, 0.9750021049, 10],
    ['normalQuantile', () => normalQuantile(0.975), 1.959963984540054, 14],
    ['betaShare', () => betaShare(0.5, 2, 3).below, 0.6875, 13],
    ['betaQuantile', () => betaQuantile(0.5, 2, 3), 0.38572757, 8],
    ['binomialPmf', () => binomialPmf(2, 4, 0.5), 0.375, 13],
    ['binomialCdf', () => binomialCdf(1, 4, 0.5), 0.3125, 13],
    ['studentShare', () => studentShare(2.228138852, 10).above, 0.025, 10],
    ['noncentralT', () => noncentralT(2, 10, 1), 0.8076, 4],
    [
      'noncentralTQuantile',
      () => noncentralTQuantile(0.95, 9, 1.645 * Math.sqrt(10)) / Math.sqrt(10),
      2.911,
      3,
    ],
    ['toleranceFactor', () => toleranceFactor(10), 2.911, 3],
    ['mcnemarExact', () => mcnemarExact(2, 10), 0.0386, 4],
    ['mannWhitney', () => field(mannWhitney([1, 2, 3], [4, 5, 6]), 'p'), 0.1, 12],
    ['meanInterval', () => field(meanInterval([1, 2, 4]), 'high') - 7 / 3, 3.795, 3],
    ['welchTest', () => field(welchTest([1, 2, 3], [2, 4, 6, 8]), 't'), -2.121, 3],
    ['welchTest, freedom', () => field(welchTest([1, 2, 3], [2, 4, 6, 8]), 'freedom'), 4.08, 2],
    ['pairedTest', () => field(pairedTest([5, 7, 9], [4, 5, 6]), 't'), 3.464, 3],
    ['scaledMad', () => scaledMad([1, 2, 4]), 1.4826, 12],
    ['powerLaw', () => field(powerLaw([1, 2, 4], [16, 8, 4]), 'first'), 16, 10],
    ['isotonic', () => isotonic([0.6, 0.7, 0.2], undefined, 'falling')[0]!, 0.65, 12],
    ['logisticCurve', () => field(logisticCurve([1, 2, 3, 4, 5, 6], [0, 0, 1, 0, 1, 1]), 'slope'), 1.21, 2],
    [
      'toFirstPass',
      () => toFirstPass([1, 2, 2, 3].map((attempts, i) => ({ attempts, passed: i < 3 }))).median!,
      2,
      12,
    ],
    ['individualsChart', () => field(individualsChart([49.6, 47.6, 49.9]), 'high') - 49.0333, 5.72, 2],
    ['sprtBounds', () => sprtBounds(PLAN).s, 0.1862, 4],
    ['sprtBounds, h', () => sprtBounds(PLAN).h1, 2.181, 3],
    ['sprtOperating', () => sprtOperating(PLAN, 0.1).acceptable, 0.966, 3],
    ['limitFor', () => limitFor(RATES, 'deterioration', 100).h, 2 * Math.log(3), 5],
    ['furtherPieces', () => field(furtherPieces(3, 0, 0.8), 'pieces'), 4.77, 2],
    [
      'cohenKappa',
      () =>
        field(
          cohenKappa([
            [44, 5],
            [20, 31],
          ]),
          'kappa',
        ),
      0.503,
      3,
    ],
    [
      'weightedKappa',
      () =>
        field(
          weightedKappa(
            [
              [11, 2, 1],
              [1, 10, 3],
              [0, 2, 10],
            ],
            'linear',
          ),
          'kappa',
        ),
      0.716,
      3,
    ],
    [
      'gwetAc1',
      () =>
        field(
          gwetAc1([
            [118, 5],
            [2, 0],
          ]),
          'kappa',
        ),
      0.94,
      2,
    ],
    [
      'pabak',
      () =>
        field(
          pabak([
            [118, 5],
            [2, 0],
          ]),
          'kappa',
        ),
      0.888,
      3,
    ],
    ['processRisk', () => processRisk(0.5, 0.1, 0.75, 0.05).falseAccept, 0.0018, 4],
    [
      'upperCapability',
      () => {
        const values = Array.from({ length: 20 }, (_, i) => normalQuantile((i + 0.5) / 20));
        return field(upperCapability(values, 3.99 * sampleSd(values)!), 'atLeast');
      },
      0.95,
      2,
    ],
    [
      'varianceComponents',
      () => {
        const labels = ['a', 'a', 'b', 'b', 'c', 'c'];
        const fit = varianceComponents([1, 1.2, 3, 3.2, 5, 5.2], [{ source: 'piece', labels }]);
        return fit.kind === 'components' ? fit.components[0]!.variance : NaN;
      },
      3.99,
      6,
    ],
  ])('%s', (_name, value, wanted, digits) => expect(value()).toBeCloseTo(wanted, digits));
});
