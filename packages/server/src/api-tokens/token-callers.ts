import { FILES, RIGHTS, ROUTES, type Route } from '@clear-mark/contract';
import type { Response } from 'express';
import { LRUCache } from 'lru-cache';
import { sha256 } from '../chain/index.ts';
import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import type { ChangeNotifier } from '../live/index.ts';
import { apiTokensStore, type TokenRow } from './api-tokens.store.ts';

/** How long a token is taken as last read: its end in another process is heard of by the bell before. */
const REMEMBERED_MS = 5000;
const MOST_REMEMBERED = 1000;

/** No timer runs longer, and no answer takes as long. */
const LONGEST_TIMER_MS = 86_400_000;

interface Known {
  readonly method: string;
  readonly path: RegExp;
  /** Null: open to everybody. */
  readonly right: string | null;
}
const pattern = (path: string): RegExp =>
  new RegExp(`^${path.replaceAll('.', String.raw`\.`).replace(/:\w+/g, '[^/]+')}/?$`);

/** Every address of the server with the line of the table of rights that it belongs to. */
const ADDRESSES: readonly Known[] = [
  ...Object.entries(ROUTES as Record<string, Route>).map(([name, { method, path, access }]) => ({
    method,
    path: pattern(path),
    right:
      access === 'open'
        ? null
        : (RIGHTS.find((r) => (r.routes as readonly string[]).includes(name))?.id ?? ''),
  })),
  ...Object.values(FILES).map(({ method, path, right }) => ({ method, path: pattern(path), right })),
];

/** Which right an address needs; null for one that is open or that there is not. */
export function rightOf(method: string, path: string): string | null {
  const wanted = method.toLowerCase();
  return ADDRESSES.find((a) => a.method === wanted && a.path.test(path))?.right ?? null;
}

export interface TokenCallers {
  /** The token that a request names, once it is found to hold and to be enough. Errors: `auth.bad_token`, `auth.token_rights`. */
  readonly take: (header: string, method: string, path: string, now: Date) => Promise<TokenRow>;
  /** What is sent by a token ends when the token does. */
  readonly follow: (token: TokenRow, response: Response) => void;
}

/** Scripts that call by a token: `Authorization: Bearer ...` (RFC 6750). */
export function tokenCallers(db: Database, notifier: ChangeNotifier): TokenCallers {
  const known = new LRUCache<string, TokenRow>({ max: MOST_REMEMBERED, ttl: REMEMBERED_MS });
  const underWay = new Map<string, Set<Response>>();
  notifier.listen('token', ({ what: id }) => {
    for (const [digest, token] of known.entries()) if (token.id === id) known.delete(digest);
    for (const response of underWay.get(id) ?? []) response.destroy();
  });
  async function tokenOf(digest: string, now: Date): Promise<TokenRow> {
    const there = known.get(digest);
    if (there && there.until > now) return there;
    const found = await apiTokensStore(db).use(digest, now);
    if (!found) throw new AppError('auth.bad_token');
    known.set(digest, found);
    return found;
  }
  return {
    take: async (header, method, path, now) => {
      const text = /^Bearer ([\w-]{1,200})$/i.exec(header)?.[1];
      if (text === undefined) throw new AppError('auth.bad_token');
      const token = await tokenOf(sha256(text), now);
      const right = rightOf(method, path);
      if (right !== null && !token.rights.includes(right)) throw new AppError('auth.token_rights', { right });
      return token;
    },
    follow: ({ id, until }, response) => {
      const mine = underWay.get(id) ?? new Set();
      underWay.set(id, mine.add(response));
      const left = Math.min(until.getTime() - Date.now(), LONGEST_TIMER_MS);
      const runsOut = setTimeout(() => response.destroy(), left);
      response.once('close', () => {
        clearTimeout(runsOut);
        mine.delete(response);
        if (mine.size === 0) underWay.delete(id);
      });
    },
  };
}
