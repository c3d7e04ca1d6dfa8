import type { ErrorCode } from '@clear-mark/contract';

/** A refusal that a person can act on. The status and the words come from the code. */
export class AppError extends Error {
  override readonly name = 'AppError';
  constructor(
    readonly code: ErrorCode,
    readonly params: Readonly<Record<string, string | number>> = {},
  ) {
    super(code);
  }
}
