import type { DomainErrorCode } from './error-codes.ts';

/**
 * A broken precondition: input that no answer exists for. `code` and `params` are turned into a sentence
 * by the words package; the core itself holds no prose for people.
 */
export class DomainError extends Error {
  override readonly name = 'DomainError';

  constructor(
    readonly code: DomainErrorCode,
    readonly params: Readonly<Record<string, string | number>> = {},
  ) {
    super(`${code} ${JSON.stringify(params)}`);
  }
}

/** Throws `stats.not_finite` unless every value is a finite number. */
export function requireFinite(values: ArrayLike<number>): void {
  for (let i = 0; i < values.length; i++) {
    if (!Number.isFinite(values[i])) throw new DomainError('stats.not_finite', { index: i });
  }
}
