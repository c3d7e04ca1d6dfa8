import { DomainError } from '@clear-mark/core';
import { type ErrorCode, ERRORS, isErrorCode, type Problem } from '@clear-mark/contract';
import { errorWords } from '@clear-mark/words';
import { ZodError } from 'zod';
import { sqlStateOf } from '../database/sql-state.ts';
import { AppError } from './app-error.ts';

interface Known {
  readonly code: ErrorCode;
  readonly params: Readonly<Record<string, string | number>>;
}

/** The error code behind anything that a handler can throw. */
export function codeOf(error: unknown): Known {
  if (error instanceof AppError) return error;
  if (error instanceof DomainError && isErrorCode(error.code)) {
    return { code: error.code, params: error.params };
  }
  if (error instanceof ZodError) {
    const issue = error.issues[0];
    const params = { field: issue?.path.join('.') || 'body', problem: issue?.message ?? 'not as expected' };
    return { code: 'request.bad_field', params };
  }
  const type = (error as { type?: unknown } | null)?.type;
  if (type === 'entity.too.large') return { code: 'request.too_large', params: {} };
  if (typeof type === 'string' && (type.startsWith('entity.') || type.startsWith('encoding.'))) {
    return { code: 'request.malformed', params: {} };
  }
  const status = (error as { status?: unknown } | null)?.status;
  if (status === 400) return { code: 'request.malformed', params: {} };
  if (status === 404) return { code: 'request.unknown_route', params: {} };
  if (isDatabaseDown(error)) return { code: 'server.unavailable', params: {} };
  return { code: 'server.failed', params: {} };
}

function isDatabaseDown(error: unknown): boolean {
  const state = sqlStateOf(error);
  // Class 08: connection; class 57P: shut down or starting up.
  if (state !== null) return state.startsWith('08') || state.startsWith('57P');
  const code = (error as { code?: unknown } | null)?.code;
  const name = (error as { name?: unknown } | null)?.name;
  const lost = /Connection terminated|Connection ended|connection is closed/;
  return (
    code === 'ECONNREFUSED' ||
    code === 'ECONNRESET' ||
    code === 'ENOENT' ||
    name === 'KnexTimeoutError' ||
    lost.test(String((error as Error | null)?.message))
  );
}

/** RFC 9457 problem details for an error code. */
export function problemOf({ code, params }: Known): Problem {
  return {
    type: `/problems/${code}`,
    title: code,
    status: ERRORS[code],
    detail: errorWords(code, params),
    code,
    params,
  };
}
