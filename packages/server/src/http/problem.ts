import { DomainError } from '@clear-mark/core';
import { type ErrorCode, ERRORS, isErrorCode, keepableText, type Problem } from '@clear-mark/contract';
import { errorWords } from '@clear-mark/words';
import { ZodError } from 'zod';
import { sqlStateOf } from '../database/sql-state.ts';
import { AppError } from '../errors/app-error.ts';

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
    const field = keepableText(issue?.path.join('.') || 'body').slice(0, 80);
    return { code: 'request.bad_field', params: { field, problem: issue?.message ?? 'not as expected' } };
  }
  const state = sqlStateOf(error);
  const known = state === null ? undefined : BY_SQLSTATE[state];
  if (known) return { code: known, params: {} };
  const { type, limit } = (error ?? {}) as { type?: unknown; limit?: number };
  if (type === 'entity.too.large') {
    return { code: 'request.too_large', params: { kilobytes: Math.round((limit ?? 0) / 1024) } };
  }
  if (typeof type === 'string' && /^(entity|encoding|charset|request|parameters)\./.test(type)) {
    return { code: 'request.malformed', params: {} };
  }
  const status = (error as { status?: unknown } | null)?.status;
  if (status === 400) return { code: 'request.malformed', params: {} };
  if (status === 404) return { code: 'request.unknown_route', params: {} };
  if (isDatabaseDown(error)) return { code: 'server.unavailable', params: {} };
  return { code: 'server.failed', params: {} };
}

/**
 * What the database refuses, as an error of the contract. It is the last line: shapes and checks before it say what is
 * wrong by its field. Codes: PostgreSQL, appendix A.
 */
const BY_SQLSTATE: Readonly<Record<string, ErrorCode>> = {
  '22021': 'request.not_storable', // character not in repertoire
  '22P05': 'request.not_storable', // untranslatable character
  '22P02': 'request.not_storable', // invalid text representation
  '22003': 'request.not_storable', // numeric value out of range
  '22007': 'request.not_storable', // invalid datetime format
  '22008': 'request.not_storable', // datetime field overflow
  '22001': 'request.not_storable', // text too long
  '22P03': 'request.not_storable', // invalid binary representation
  '23502': 'request.not_storable', // not null
  '23514': 'request.not_storable', // check
  '23505': 'request.already_there', // unique
  '23503': 'request.names_nothing', // foreign key
  '40001': 'server.busy', // serialization failure
  '40P01': 'server.busy', // deadlock
  '55P03': 'server.busy', // lock not available
  '57014': 'server.busy', // statement timeout
  '25P02': 'server.busy', // a transaction that another statement ended
  '25P03': 'server.busy', // idle in transaction
  '53100': 'server.disk_full',
  '53200': 'server.unavailable', // out of memory
  '53300': 'server.unavailable', // too many connections
};

function isDatabaseDown(error: unknown): boolean {
  const state = sqlStateOf(error);
  // Class 08: connection; class 57P: shut down or starting up.
  if (state !== null) return state.startsWith('08') || state.startsWith('57P');
  const code = (error as { code?: unknown } | null)?.code;
  const name = (error as { name?: unknown } | null)?.name;
  const lost =
    /Connection terminated|Connection ended|connection is closed|timeout exceeded when trying to connect|Query read timeout|Connection reset|not queryable/;
  return (
    code === 'ECONNREFUSED' ||
    code === 'ECONNRESET' ||
    code === 'ETIMEDOUT' ||
    code === 'EPIPE' ||
    code === 'EHOSTUNREACH' ||
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
