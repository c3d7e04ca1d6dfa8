import { connect, createServer, type Server, type Socket } from 'node:net';
import type { AddressInfo } from 'node:net';
import type { Person } from '@clear-mark/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Running, startServer } from '../src/index.ts';
import { Caller, PASSWORD, World } from './harness.ts';

/** A way to the database that can go deaf, as a firewall does that has forgotten a connection: nothing is refused. */
class DeafWay {
  private readonly pairs = new Set<readonly [Socket, Socket]>();
  deaf = false;
  private constructor(private readonly server: Server) {}

  static open(port: number): Promise<DeafWay> {
    const server = createServer();
    const way = new DeafWay(server);
    server.on('connection', (from) => {
      const to = connect(port, '127.0.0.1');
      const pair = [from, to] as const;
      way.pairs.add(pair);
      for (const [a, b] of [pair, [to, from] as const]) {
        a.on('data', (part) => {
          if (!way.deaf) b.write(part);
        });
        a.on('close', () => void (way.deaf || b.destroy()));
        a.on('error', () => undefined);
      }
    });
    return new Promise((resolve) => server.listen(0, '127.0.0.1', () => resolve(way)));
  }
  get port(): number {
    return (this.server.address() as AddressInfo).port;
  }
  close(): void {
    for (const [a, b] of this.pairs) [a, b].forEach((s) => s.destroy());
    this.server.close();
  }
}

let world: World;
let way: DeafWay;
let server: Running;
let caller: Caller;

beforeAll(async () => {
  world = await World.make();
  const url = new URL(world.appUrl);
  way = await DeafWay.open(Number(url.port));
  url.port = String(way.port);
  server = await startServer({
    databaseUrl: url.href,
    ownerUrl: world.url,
    mode: 'test',
    host: '127.0.0.1',
    port: 0,
    tls: null,
    webDir: null,
    logLevel: 'silent',
    statementMs: 1000,
  });
  const person: Person = await world.person('instructor');
  caller = new Caller(server.url);
  await caller.post('/session', { login: person.login, password: PASSWORD });
});
afterAll(async () => {
  way.close();
  await server.stop();
  await world.close();
});

describe('a way to the database that goes deaf', () => {
  it('is said in words within seconds, and healed from by itself when it hears again', async () => {
    expect((await caller.get('/health')).status).toBe(200);
    way.deaf = true;
    const from = Date.now();
    const lost = await caller.get('/health');
    expect([lost.status, lost.problem.code]).toEqual([503, 'server.unavailable']);
    expect(lost.problem.detail).toMatch(/does not answer/);
    expect(Date.now() - from).toBeLessThan(20_000);
    way.deaf = false;
    let status = 0;
    for (let i = 0; i < 40 && status !== 200; i++) {
      status = (await caller.get('/health')).status;
      if (status !== 200) await new Promise((done) => setTimeout(done, 250));
    }
    expect(status).toBe(200);
  });
});
