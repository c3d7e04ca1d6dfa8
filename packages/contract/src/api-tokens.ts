import { z } from 'zod';
import { Id, Instant, Label } from './common.ts';
import { ById, route } from './route.ts';

/** What a token may be given of what its maker may do: lines of the table of rights. Accounts and erasing are for people. */
export const TOKEN_RIGHTS = [
  'own-record',
  'score',
  'sign',
  'references',
  'faces',
  'results',
  'instructors-compared',
  'plan',
  'class',
  'new-class',
  'methods',
  'instruments',
] as const;
export type TokenRight = (typeof TOKEN_RIGHTS)[number];

/** The longest that a token holds, days. */
export const MOST_TOKEN_DAYS = 366;

export const ApiToken = z.object({
  id: Id,
  label: z.string(),
  rights: z.array(z.enum(TOKEN_RIGHTS)),
  madeAt: Instant,
  until: Instant,
  lastUsed: Instant.nullable(),
});
export type ApiToken = z.infer<typeof ApiToken>;

export const API_TOKEN_ROUTES = {
  apiTokens: route('get /me/tokens', 'instructor', { reply: z.array(ApiToken) }),
  /** The token itself is shown once. It does what its maker may, within its rights, until it ends. */
  addApiToken: route('post /me/tokens', 'instructor', {
    body: z.object({
      id: Id,
      label: Label,
      rights: z.array(z.enum(TOKEN_RIGHTS)).min(1).max(TOKEN_RIGHTS.length),
      days: z.number().int().min(1).max(MOST_TOKEN_DAYS),
    }),
    reply: z.object({ token: z.string(), until: Instant }),
    errors: ['auth.by_pin', 'request.already_there'],
  }),
  endApiToken: route('delete /me/tokens/:id', 'instructor', { params: ById, errors: ['not_found.token'] }),
} as const;
