import { z } from 'zod';
import { Id } from './common.ts';
import type { ErrorCode } from './errors.ts';

/** Who may call: anyone, anyone signed in, or an instructor (the lead is one everywhere). */
export type Access = 'open' | 'signed_in' | 'instructor' | 'lead';

export interface Route<
  P extends z.ZodType = z.ZodType,
  Q extends z.ZodType = z.ZodType,
  B extends z.ZodType = z.ZodType,
  R extends z.ZodType = z.ZodType,
> {
  readonly method: 'get' | 'post' | 'put' | 'delete';
  readonly path: string;
  readonly access: Access;
  readonly params: P;
  readonly query: Q;
  readonly body: B;
  readonly reply: R;
  /** What can go wrong beside the codes that any route can give. */
  readonly errors: readonly ErrorCode[];
  /** The handler looks each item of the body through by itself, so that a bad one refuses only itself. */
  readonly itemsOneByOne: boolean;
}

const Empty = z.object({});
export const ById = z.object({ id: Id });
const Done = z.object({ done: z.literal(true) });

export function route<
  P extends z.ZodType = typeof Empty,
  Q extends z.ZodType = typeof Empty,
  B extends z.ZodType = typeof Empty,
  R extends z.ZodType = typeof Done,
>(
  head: `${'get' | 'post' | 'put' | 'delete'} /${string}`,
  access: Access,
  parts: {
    params?: P;
    query?: Q;
    body?: B;
    reply?: R;
    errors?: readonly ErrorCode[];
    itemsOneByOne?: boolean;
  },
): Route<P, Q, B, R> {
  const [method, path] = head.split(' ') as [Route['method'], string];
  return {
    method,
    path: `/api${path}`,
    access,
    params: parts.params ?? (Empty as unknown as P),
    query: parts.query ?? (Empty as unknown as Q),
    body: parts.body ?? (Empty as unknown as B),
    reply: parts.reply ?? (Done as unknown as R),
    errors: parts.errors ?? [],
    itemsOneByOne: parts.itemsOneByOne ?? false,
  };
}

export const CLASS_ERRORS = ['not_found.class', 'auth.not_in_class'] as const;
export const ATTEMPT_ERRORS = ['not_found.attempt', 'auth.not_in_class'] as const;
