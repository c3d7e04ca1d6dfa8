import type { Access, Person, Route } from '@clear-mark/contract';
import type { Request, Response, Router } from 'express';
import type { z } from 'zod';
import { AppError } from './app-error.ts';

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
    requireAccess(route.access, me);
    const params = parseParams(route, request.params);
    const query: unknown = route.query.parse(request.query);
    const body: unknown = route.body.parse(request.body ?? {});
    const call = { params, query, body, request, response, me } as Call<R>;
    response.json(route.reply.parse(await handler(call)));
  });
}

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
