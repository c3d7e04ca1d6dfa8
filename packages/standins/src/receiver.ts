import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { Webhook } from 'standardwebhooks';
import { listenOnLoopback, textOf } from './loopback.ts';

export interface ReceiverOptions {
  readonly port?: number;
  /** The key that webhooks are signed with; without it every signature is taken. */
  readonly key?: string;
  /** Who may write into the store of statements. */
  readonly user?: string;
  readonly password?: string;
  /** Told of each thing that came. */
  readonly onReceived?: (line: string) => void;
}
export interface RunningReceiver {
  readonly port: number;
  /** Webhooks that came, rightly signed, in order. */
  readonly hooks: readonly { readonly id: string; readonly body: unknown }[];
  /** Statements by their ids, in the order in which they came first. */
  readonly statements: ReadonlyMap<string, unknown>;
  /** Answers the next so many requests with a status, as a receiver does that is not well. */
  readonly answerNext: (status: number, times: number) => void;
  /** Checks signatures by this key from now on. */
  readonly useKey: (key: string) => void;
  readonly stop: () => Promise<void>;
}

const LONGEST_BODY = 4_000_000;

/**
 * A simulated program that is told what happens, on loopback: `POST /hook` takes webhooks and checks their signatures with another
 * make's package (Standard Webhooks 1.0); `/xapi/statements` is a small store of statements by IEEE 9274.1.1: it wants the version
 * and a password, takes a statement once, and refuses another one of the same id. `POST /answer` makes it fail.
 */
export async function startReceiver(options: ReceiverOptions = {}): Promise<RunningReceiver> {
  const hooks: { id: string; body: unknown }[] = [];
  const statements = new Map<string, unknown>();
  let failing = { status: 503, times: 0 };
  let { key } = options;
  const told = options.onReceived ?? ((): void => undefined);

  function hook(request: IncomingMessage, body: string): number {
    const headers = Object.fromEntries(Object.entries(request.headers).map(([name, v]) => [name, String(v)]));
    try {
      if (key !== undefined) new Webhook(key).verify(body, headers);
    } catch {
      return 401;
    }
    hooks.push({ id: headers['webhook-id'] ?? '', body: JSON.parse(body) });
    told(`webhook ${body}`);
    return 204;
  }
  function store(request: IncomingMessage, body: string): [status: number, reply: unknown] {
    if (!/^2\.|^1\.0/.test(String(request.headers['x-experience-api-version'] ?? '')))
      return [400, 'no version'];
    const wanted = `Basic ${Buffer.from(`${options.user ?? 'store'}:${options.password ?? 'store'}`).toString('base64')}`;
    if (request.headers.authorization !== wanted) return [401, 'who is there?'];
    if (request.method === 'GET')
      return [
        200,
        request.url?.endsWith('/about')
          ? { version: ['2.0.0'] }
          : { statements: [...statements.values()], more: '' },
      ];
    const list = [JSON.parse(body) as unknown].flat() as { id: string }[];
    for (const statement of list) {
      const there = statements.get(statement.id);
      if (there !== undefined && JSON.stringify(there) !== JSON.stringify(statement))
        return [409, 'another one has this id'];
    }
    for (const statement of list) {
      statements.set(statement.id, statement);
      told(`statement ${JSON.stringify(statement)}`);
    }
    return [200, list.map((s) => s.id)];
  }
  async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const body = await textOf(request, LONGEST_BODY);
    const reply = (status: number, json?: unknown): void =>
      void response
        .writeHead(status, { 'Content-Type': 'application/json' })
        .end(json === undefined ? undefined : JSON.stringify(json));
    if (request.url === '/answer') {
      failing = JSON.parse(body) as typeof failing;
      return reply(204);
    }
    if (failing.times > 0) {
      failing = { ...failing, times: failing.times - 1 };
      return reply(failing.status);
    }
    if (request.url === '/hook' && request.method === 'POST') return reply(hook(request, body));
    if (request.url?.startsWith('/xapi/')) return reply(...store(request, body));
    reply(404);
  }

  const server = createServer((request, response) => {
    answer(request, response).catch(() => response.writeHead(400).end());
  });
  return {
    ...(await listenOnLoopback(server, options.port ?? 0)),
    hooks,
    statements,
    answerNext: (status, times) => (failing = { status, times }),
    useKey: (next) => (key = next),
  };
}
