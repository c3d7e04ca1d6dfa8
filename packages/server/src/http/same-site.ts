import type { IncomingMessage } from 'node:http';
import type { RequestHandler } from 'express';
import { type Config, isLoopback } from '../config.ts';
import { AppError } from '../errors/app-error.ts';

const LOOPBACK_NAMES = ['127.0.0.1', 'localhost', '[::1]'];

/** The names by which this server may be called: where it listens, and what it was told. */
function namesOf(config: Config): ReadonlySet<string> {
  const host = config.host.includes(':') ? `[${config.host}]` : config.host;
  const names = [host, ...(config.hostNames ?? [])];
  // Whoever comes over this machine's loopback may name it as is usual.
  if (isLoopback(config.host) || ANY.includes(config.host)) names.push(...LOOPBACK_NAMES);
  return new Set(names.map((n) => n.toLowerCase()));
}
const ANY: readonly string[] = ['0.0.0.0', '::'];

/**
 * Refuses requests under a name that is not this server's: a page of another name that resolves here would otherwise read
 * answers as its own (DNS rebinding). Where it listens on every address, addresses are its names as well.
 */
export function pinnedHost(config: Config): (request: IncomingMessage) => void {
  const names = namesOf(config);
  const anyAddress = ANY.includes(config.host);
  return ({ headers }) => {
    const name = nameOf(headers.host ?? '');
    if (!names.has(name) && !(anyAddress && /^(\d{1,3}(\.\d{1,3}){3}|\[[0-9a-f:.]+\])$/.test(name))) {
      throw new AppError('request.wrong_host');
    }
  };
}

/** The name without its port. */
export const nameOf = (host: string): string => host.toLowerCase().replace(/:\d+$/, '');

/** A browser names the page that a request comes from; only our own may change anything, or ask for data. */
export function requireSameSite({ headers, method }: IncomingMessage): void {
  const site = headers['sec-fetch-site'];
  const opensPage = headers['sec-fetch-mode'] === 'navigate' && method === 'GET';
  if (site !== undefined && site !== 'same-origin' && site !== 'none' && !opensPage) {
    throw new AppError('request.other_site');
  }
  const { origin } = headers;
  const changes = method !== 'GET' && method !== 'HEAD';
  if (changes && origin !== undefined && hostOf(origin) !== headers.host) {
    throw new AppError('request.wrong_origin');
  }
}

/** A check of the request alone, as a step on its way. */
export const checked =
  (check: (request: IncomingMessage) => void): RequestHandler =>
  (request, _response, next) => {
    check(request);
    next();
  };

function hostOf(origin: string): string | null {
  return URL.canParse(origin) ? new URL(origin).host : null;
}
