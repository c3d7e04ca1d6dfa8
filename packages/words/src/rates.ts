import type { StandingCell } from '@clear-mark/contract';

export const percent = (share: number): string => `${Math.round(share * 100)} %`;

/** A rate in words that cannot be read without its n: `41 of 48, 85 % (73 to 93)`. */
export function rateWords(rate: StandingCell['rate']): string {
  if (rate.kind === 'none') return 'none yet';
  const low = Math.round(rate.low * 100);
  const high = Math.round(rate.high * 100);
  return `${rate.k} of ${rate.n}, ${percent(rate.share)} (${low} to ${high})`;
}
