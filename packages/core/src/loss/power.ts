import { DomainError } from '../domain-error.ts';

/**
 * Optical power in dBm: 10 log10(P / 1 mW). Input mW, over 0. Error: `loss.no_power` at 0 or less.
 * Relative error that of Math.log10 (1 ulp). Example: 1 uW (0.001 mW) is -30 dBm.
 */
export function dbmFromMilliwatts(powerMw: number): number {
  if (!(powerMw > 0) || !Number.isFinite(powerMw)) throw new DomainError('loss.no_power', { powerMw });
  return 10 * Math.log10(powerMw);
}
