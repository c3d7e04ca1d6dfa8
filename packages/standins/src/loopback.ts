import type { IncomingMessage, Server } from 'node:http';
import type { AddressInfo } from 'node:net';

/** Listens on loopback, on a port that is free where 0 is given; `stop` cuts off whoever is still there. */
export async function listenOnLoopback(
  server: Server,
  port: number,
): Promise<{ port: number; stop: () => Promise<void> }> {
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  return {
    port: (server.address() as AddressInfo).port,
    stop: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

/** The bytes of a request. Error: when they are more than `most`. */
export async function bytesOf(request: IncomingMessage, most: number): Promise<Buffer> {
  const parts: Buffer[] = [];
  let bytes = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    parts.push(part);
    bytes += part.length;
    if (bytes > most) throw new Error('The request is too long');
  }
  return Buffer.concat(parts);
}

/** The text of a request. Error: when it is longer than `most`. */
export const textOf = async (request: IncomingMessage, most: number): Promise<string> =>
  (await bytesOf(request, most)).toString('utf8');
