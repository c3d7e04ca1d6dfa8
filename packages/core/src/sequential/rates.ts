import { DomainError } from '../domain-error.ts';

/** Failure rates of an acceptable and of an unacceptable trainee: named for what they are, since papers swap p0 and p1. */
export interface RatePair {
  readonly pGood: number;
  readonly pBad: number;
}

/** Refuses rates that contradict each other, by definition 0 < pGood < pBad < 1. Error: `sequential.bad_rates`. Example: 0.3 and 0.1. */
export function checkRates({ pGood, pBad }: RatePair): void {
  if (!(pGood > 0 && pBad < 1 && pGood < pBad))
    throw new DomainError('sequential.bad_rates', { pGood, pBad });
}

/** Refuses a share that is not from 0 to 1 (by definition). Error: `sequential.bad_share`. Example: 1.2. */
export const requireShare = (p: number): void => {
  if (!(p >= 0 && p <= 1)) throw new DomainError('sequential.bad_share', { p });
};
