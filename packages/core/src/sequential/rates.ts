import { DomainError } from '../domain-error.ts';

/** Failure rates of an acceptable and of an unacceptable trainee: named for what they are, since papers swap p0 and p1. */
export interface RatePair {
  readonly pGood: number;
  readonly pBad: number;
}

/** Refuses rates that contradict each other. Error: `sequential.bad_rates`. */
export function checkRates({ pGood, pBad }: RatePair): void {
  if (!(pGood > 0 && pBad < 1 && pGood < pBad))
    throw new DomainError('sequential.bad_rates', { pGood, pBad });
}

export const requireShare = (p: number): void => {
  if (!(p >= 0 && p <= 1)) throw new DomainError('sequential.bad_share', { p });
};
