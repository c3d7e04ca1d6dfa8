import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Caller, type TestClass, World } from './harness.ts';

let world: World;
let api: Caller;
let room: TestClass;
beforeAll(async () => {
  world = await World.make();
  const teacher = await world.person('instructor');
  api = await world.signedIn(teacher);
  room = await world.classOf([teacher], []);
});
afterAll(() => world.close());

describe('what a collector reads', () => {
  const metrics = (headers: Record<string, string> = {}): Promise<Response> =>
    fetch(`${world.server.url}/metrics`, { headers });
  it('is requests by the routes of the list, never by their ids, and what waits', async () => {
    await api.get(`/classes/${room.id}`);
    const text = await (await metrics()).text();
    expect(text).toMatch(
      /clear_mark_request_seconds_count\{method="GET",route="\/api\/classes\/:id",status="200"\} 1/,
    );
    expect(text).not.toContain(room.id);
    expect(text).toMatch(/clear_mark_waiting\{what="open_pieces"\} 0/);
    expect(text).toContain('process_cpu_seconds_total');
  });
  it('is for this machine: what came over a proxy finds nothing there', async () => {
    expect((await metrics({ 'X-Forwarded-For': '192.0.2.7' })).status).toBe(404);
    expect((await metrics({ Forwarded: 'for=192.0.2.7' })).status).toBe(404);
  });
});

describe('a server that is told to stop', () => {
  it('answers what is under way, ends its streams, and takes nothing new', async () => {
    expect((await api.get('/ready')).body).toEqual({ status: 'ready' });
    const stream = await api.stream(`/classes/${room.id}/events`, {}, AbortSignal.timeout(20_000));
    const ended = stream.text().then(() => 'ended');
    // The class is held by somebody else: the answer comes when it is let go.
    let letGo!: () => void;
    const held = world.owner.transaction(async (trx) => {
      await trx.raw('select pg_advisory_xact_lock(hashtextextended(?, 11))', [room.id]);
      await new Promise<void>((resolve) => (letGo = resolve));
    });
    await expect.poll(() => letGo).toBeTypeOf('function');
    const things = [{ id: '0190aaaa-0000-7000-8000-0000000000aa', kind: 'scope', label: 'Scope 9' }];
    const answer = api.post(`/classes/${room.id}/equipment`, { things });
    await new Promise((done) => setTimeout(done, 300));
    const stopped = world.server.stop();
    expect(await ended).toBe('ended');
    await expect(fetch(`${world.server.url}/api/ready`)).rejects.toThrow('fetch failed');
    letGo();
    await held;
    expect((await answer).body).toEqual({ added: 1 });
    await stopped;
  });
});
