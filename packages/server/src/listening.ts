import { readFileSync } from 'node:fs';
import { createServer as createHttp, type RequestListener, type Server } from 'node:http';
import { createServer as createHttps } from 'node:https';
import type { AddressInfo } from 'node:net';
import type { Logger } from 'pino';
import { drainOf } from './app/index.ts';
import type { Config } from './config.ts';
import { startTracing, tracedRequests } from './tracing/index.ts';

const KEEP_ALIVE_MS = 65_000;

export type Address = Pick<Config, 'tls' | 'host' | 'port' | 'traces'>;
export interface Listening {
  readonly url: string;
  readonly stopping: () => boolean;
  /** Takes nothing new, lets what is under way come to its end, and then closes what stands behind it. */
  readonly stop: () => Promise<void>;
}

/** Listens where the settings say. Error: the address is taken; what stands behind is closed then. */
export async function listenAt(
  at: Address,
  log: Logger,
  listener: RequestListener,
  close: () => Promise<void>,
): Promise<Listening> {
  const endTracing = at.traces ? startTracing(at.traces) : null;
  const closeAll = async (): Promise<void> => {
    await close();
    await endTracing?.();
  };
  try {
    const server = await listening(at, endTracing ? tracedRequests(listener) : listener);
    const { port } = server.address() as AddressInfo;
    const host = at.host.includes(':') ? `[${at.host}]` : at.host;
    const url = `${at.tls ? 'https' : 'http'}://${host}:${port}`;
    log.info({ url }, 'listening');
    const drain = drainOf(server);
    const stopOnce = async (): Promise<void> => {
      await drain.stop();
      await closeAll();
    };
    let stopped: Promise<void> | null = null;
    return { url, stopping: drain.stopping, stop: () => (stopped ??= stopOnce()) };
  } catch (error) {
    await closeAll();
    throw error;
  }
}

async function listening({ tls, host, port }: Address, listener: RequestListener): Promise<Server> {
  const server = tls
    ? createHttps({ cert: readFileSync(tls.certFile), key: readFileSync(tls.keyFile) }, listener)
    : createHttp(listener);
  // Longer than proxies keep a connection that nobody uses: otherwise one asks on it in the moment it is closed.
  server.keepAliveTimeout = KEEP_ALIVE_MS;
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, resolve);
  });
  return server;
}
