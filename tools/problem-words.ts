import { isErrorCode } from '@clear-mark/contract';
import { DomainError } from '@clear-mark/core';
import { errorWords } from '@clear-mark/words';

/** An error of the core in words; any other is thrown on. */
export function problemWords(error: unknown): string {
  if (error instanceof DomainError && isErrorCode(error.code)) return errorWords(error.code, error.params);
  throw error;
}
