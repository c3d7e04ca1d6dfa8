import type { Person, Route } from '@clear-mark/contract';
import type { IncomingMessage, RequestListener, ServerResponse } from 'node:http';
import type { z } from 'zod';
import { AppError } from '../errors/app-error.ts';
import { answerOf } from './handle.ts';
import { codeOf, problemOf } from './problem.ts';

/** A larger body goes the usual way: it costs little there beside its own weight. */
const MOST_BYTES = 64 * 1024;

export interface FastPath<R extends Route> {
  readonly route: R;
  /** Throws where the request names another server or comes from another site. */
  readonly guard: (request: IncomingMessage) => void;
  /** Who sends, where that is known without asking the database; null: the usual way finds out. */
  readonly sender: (request: IncomingMessage) => Person | null;
  readonly answer: (me: Person, body: z.infer<R['body']>) => Promise<z.input<R['reply']>>;
  readonly onDone: (done: Done) => void;
}

export interface Done {
  readonly path: string;
  readonly method: string;
  readonly status: number;
  readonly ms: number;
  /** What failed, where the status is 500 or above. */
  readonly error: unknown;
}

/**
 * A shorter way to one route that is called far more often than all others: the same checks, without the middleware that
 * each request would walk through. What it cannot tell at once (an unknown session, a large or packed body) goes the usual
 * way, which answers every request by itself.
 */
export function withFastPath<R extends Route>(usual: RequestListener, fast: FastPath<R>): RequestListener {
  const method = fast.route.method.toUpperCase();
  return (request, response) => {
    if (request.url !== fast.route.path || request.method !== method || !isSmallJson(request)) {
      return usual(request, response);
    }
    const me = fast.sender(request);
    if (me === null) return usual(request, response);
    void answerFast(fast, me, request, response);
  };
}

function isSmallJson({ headers }: IncomingMessage): boolean {
  const length = Number(headers['content-length'] ?? Number.NaN);
  const type = headers['content-type'];
  const isJson = type === 'application/json' || type === 'application/json; charset=utf-8';
  return isJson && headers['content-encoding'] === undefined && length > 0 && length <= MOST_BYTES;
}

async function answerFast<R extends Route>(
  fast: FastPath<R>,
  me: Person,
  request: IncomingMessage,
  response: ServerResponse,
): Promise<void> {
  const started = performance.now();
  let failure: unknown = null;
  let status = 200;
  let text: string;
  let type = 'application/json; charset=utf-8';
  try {
    fast.guard(request);
    const body = asJson(await bodyOf(request));
    const given = { params: {}, query: {}, body, me };
    text = JSON.stringify(await answerOf(fast.route, given, (parsed) => fast.answer(me, parsed.body)));
  } catch (error) {
    if (request.destroyed && !request.complete) return;
    const problem = problemOf(codeOf(error));
    failure = error;
    ({ status } = problem);
    text = JSON.stringify(problem);
    type = 'application/problem+json; charset=utf-8';
  }
  response.writeHead(status, {
    ...PLAIN_HEADERS,
    'Content-Type': type,
    'Content-Length': Buffer.byteLength(text),
  });
  response.end(text);
  fast.onDone({
    path: fast.route.path,
    method: request.method ?? '',
    status,
    ms: performance.now() - started,
    error: failure,
  });
}

/** What an answer that is data and no page needs of the headers that all others have. */
const PLAIN_HEADERS = {
  'Cache-Control': 'no-store',
  'Content-Security-Policy': "default-src 'none'; frame-ancestors 'none'",
  'X-Content-Type-Options': 'nosniff',
} as const;

function asJson(text: string): unknown {
  let body: unknown;
  try {
    body = JSON.parse(text);
  } catch {
    throw new AppError('request.malformed');
  }
  // As on the usual way: an object or a list.
  if (body === null || typeof body !== 'object') throw new AppError('request.malformed');
  return body;
}

function bodyOf(request: IncomingMessage): Promise<string> {
  return new Promise((resolve, reject) => {
    let text = '';
    request.setEncoding('utf8');
    request.on('data', (part: string) => (text += part));
    request.once('end', () => resolve(text));
    request.once('error', reject);
    request.once('close', () => reject(new Error('the sender has gone')));
  });
}
