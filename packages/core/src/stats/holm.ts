import { DomainError } from '../domain-error.ts';

/**
 * Holm's step-down adjustment (Holm 1979): p values that keep the chance of any false signal in the family at
 * the level they are compared with. Input: p from 0 to 1; output in the same order. Error:
 * `stats.bad_probability`. Example: 0.01, 0.04, 0.03 become 0.03, 0.06, 0.06.
 */
export function holm(pValues: readonly number[]): number[] {
  const order = pValues.map((p, index) => ({ p, index })).sort((a, b) => a.p - b.p);
  const adjusted = new Array<number>(pValues.length);
  let reached = 0;
  order.forEach(({ p, index }, i) => {
    if (!(p >= 0 && p <= 1)) throw new DomainError('stats.bad_probability', { p });
    reached = Math.max(reached, Math.min(1, (pValues.length - i) * p));
    adjusted[index] = reached;
  });
  return adjusted;
}
