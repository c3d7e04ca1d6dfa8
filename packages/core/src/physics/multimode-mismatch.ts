import { requirePositive } from './joint-loss.ts';

export interface MultimodeEnd {
  readonly coreUm: number;
  readonly aperture: number;
}
export interface MultimodeMismatch {
  /** 20 log10 of the ratio from / into, signed: negative where a smaller core feeds a larger one. */
  readonly coreRatioDb: number;
  readonly apertureRatioDb: number;
  /** What is lost: larger into smaller only. */
  readonly lossDb: number;
}

/**
 * Overfilled multimode mismatch: 20 log10 of the core ratio and of the aperture ratio, each lost only where a larger
 * one feeds a smaller one. Domain: all over 0. Error: `physics.out_of_domain`. Source: handbook formula for a uniform
 * mode distribution, from memory. Example: 62.5 um NA 0.275 into 50 um NA 0.20 loses 1.94 + 2.77 dB.
 */
export function multimodeMismatch(from: MultimodeEnd, into: MultimodeEnd): MultimodeMismatch {
  requirePositive('coreUm', from.coreUm);
  requirePositive('coreUm', into.coreUm);
  requirePositive('aperture', from.aperture);
  requirePositive('aperture', into.aperture);
  const coreRatioDb = 20 * Math.log10(from.coreUm / into.coreUm);
  const apertureRatioDb = 20 * Math.log10(from.aperture / into.aperture);
  return {
    coreRatioDb,
    apertureRatioDb,
    lossDb: Math.max(0, coreRatioDb) + Math.max(0, apertureRatioDb),
  };
}
