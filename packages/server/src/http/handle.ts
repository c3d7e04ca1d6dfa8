import {
  type Access,
  badTextAt,
  type ErrorCode,
  type FilePath,
  Id,
  keepableText,
  type Person,
  type Route,
} from '@clear-mark/contract';
import type { Request, Response, Router } from 'express';
import type { z } from 'zod';
import { AppError } from '../errors/app-error.ts';

export interface Call<R extends Route> {
  readonly params: z.infer<R['params']>;
  readonly query: z.infer<R['query']>;
  readonly body: z.infer<R['body']>;
  readonly request: Request;
  readonly response: Response;
  /** Who calls; on open routes possibly nobody. */
  readonly me: R['access'] extends 'open' ? Person | null : Person;
}

/**
 * Adds a route of the contract to a router: access first, then the shapes, then the handler; the reply is
 * checked against its shape as well, so that the contract is what crosses the wire.
 */
export function handle<R extends Route>(
  router: Router,
  route: R,
  handler: (call: Call<R>) => Promise<z.input<R['reply']>>,
): void {
  router[route.method](route.path, async (request, response) => {
    const me = response.locals['me'] as Person | null;
    const { params, query } = request;
    const reply = await answerOf(route, { params, query, body: request.body ?? {}, me }, (parsed) =>
      handler({ ...parsed, request, response, me } as Call<R>),
    );
    response.json(reply);
  });
}

export interface FileCall {
  readonly request: Request;
  readonly response: Response;
  readonly me: Person;
  /** An id of the address; one that is not even an id names nothing that exists. */
  readonly id: (name: string, missing: ErrorCode) => string;
}

/** Adds a file or a stream of the contract to a router: access as its line says, then the handler, which answers by itself. */
export function handleFile(
  router: Router,
  { method, path, access }: FilePath,
  handler: (call: FileCall) => Promise<void>,
): void {
  router[method](path, async (request, response) => {
    const me = response.locals['me'] as Person | null;
    requireAccess(access, me);
    const id = (name: string, missing: ErrorCode): string => {
      const found = Id.safeParse(request.params[name]);
      if (!found.success) throw new AppError(missing);
      return found.data;
    };
    await handler({ request, response, me: me!, id });
  });
}

export interface Given {
  readonly params: unknown;
  readonly query: unknown;
  readonly body: unknown;
  readonly me: Person | null;
}

/** Access, then the shapes, then the answer, checked against its own shape. */
export async function answerOf<R extends Route>(
  route: R,
  given: Given,
  answer: (parsed: Pick<Call<R>, 'params' | 'query' | 'body'>) => Promise<z.input<R['reply']>>,
): Promise<unknown> {
  requireAccess(route.access, given.me);
  const params = parseParams(route, given.params);
  requireText(given.query);
  const query: unknown = route.query.parse(given.query);
  if (!route.itemsOneByOne) requireText(given.body);
  const body: unknown = route.body.parse(given.body);
  return route.reply.parse(await answer({ params, query, body } as Call<R>));
}

/** What is no text is refused before its shape is looked at: it could be stored nowhere. */
export function requireText(value: unknown): void {
  const field = badTextAt(value);
  if (field !== null) throw new AppError('request.bad_field', { field: shown(field), problem: 'no text' });
}
const shown = (field: string): string => keepableText(field).slice(0, 80);

/** Throws unless the caller may use a route with this access. */
export function requireAccess(access: Access, me: Person | null): void {
  if (access === 'open') return;
  if (!me) throw new AppError('auth.required');
  if (access === 'instructor' && me.role === 'trainee')
    throw new AppError('auth.role', { needed: 'instructor' });
  if (access === 'lead' && me.role !== 'lead') throw new AppError('auth.role', { needed: 'lead' });
}

/** An id that is not even an id names nothing that exists. */
function parseParams(route: Route, params: unknown): unknown {
  const parsed = route.params.safeParse(params);
  if (parsed.success) return parsed.data;
  const missing = route.errors.find((code) => code.startsWith('not_found.'));
  throw new AppError(missing ?? 'request.unknown_route');
}
