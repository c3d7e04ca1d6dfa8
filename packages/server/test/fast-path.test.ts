import { connect } from 'node:net';
import type { Person } from '@clear-mark/contract';
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest';
import { attemptBody, batch, Caller, entryOf, type Reply, type TestClass, World } from './harness.ts';

let world: World;
let teacher: Person;
let asTeacher: Caller;
let classroom: TestClass;
let attemptId: string;
const entry = () => entryOf(attemptId, teacher, 'glasses', { kind: 'check', passed: true });

beforeAll(async () => {
  world = await World.make();
  teacher = await world.person('instructor');
  classroom = await world.classOf([teacher], [await world.person('trainee')]);
  asTeacher = await world.signedIn(teacher);
  const body = attemptBody(classroom);
  attemptId = body.id;
  expect((await asTeacher.post(`/classes/${classroom.id}/attempts`, body)).status).toBe(200);
});
afterAll(() => world.close());
/** Whoever was heard of a moment ago goes the short way. */
beforeEach(async () => {
  for (let i = 0; i < 2; i++) await asTeacher.get('/classes');
});

const SHORT = 'application/json';
/** The same to every reader of JSON, and not to the short way, which takes what devices send. */
const USUAL = 'application/json; charset=UTF-8';
const send = (body: unknown, type: string, more: Record<string, string> = {}): Promise<Reply> =>
  asTeacher.call('POST', '/entries', body, { 'Content-Type': type, ...more });
const wentShort = (reply: Reply): boolean =>
  reply.headers.get('content-security-policy') === "default-src 'none'; frame-ancestors 'none'";

it('goes the short way with what devices send, and is stored', async () => {
  const one = entry();
  const reply = await send(batch([one]), SHORT);
  expect([reply.status, wentShort(reply)]).toEqual([200, true]);
  expect(reply.body).toMatchObject({ receipts: [{ id: one.id, state: 'accepted' }] });
  expect(reply.headers.get('cache-control')).toBe('no-store');
  expect(await world.db('entries').where({ id: one.id }).select('author_id')).toEqual([
    { author_id: teacher.id },
  ]);
  const again = await send(batch([one]), USUAL);
  expect([again.body, wentShort(again)]).toEqual([reply.body, false]);
});

it.each([
  ['no JSON', '{"entries": ['],
  ['no object', '"entries"'],
  ['nothing', 'null'],
  ['no entries', { entries: [], sentAt: new Date().toISOString() }],
  ['no time', { entries: [{}] }],
  ['a year that no clock has', { entries: [{}], sentAt: '0000-01-01T00:00:00Z' }],
  ['an entry of nothing', batch([null, 7, {}])],
  ['half an emoji', batch([{ id: 'x', note: '\ud83d' }])],
])('%s gets the same answer on both ways', async (_, body) => {
  const short = await send(body, SHORT);
  const usual = await send(body, USUAL);
  expect([wentShort(short), wentShort(usual)]).toEqual([true, false]);
  expect([short.status, short.body ?? short.problem]).toEqual([usual.status, usual.body ?? usual.problem]);
  expect(short.status).toBeLessThan(500);
});

it('refuses what another site’s page sends', async () => {
  const one = entry();
  const foreign: Record<string, string>[] = [
    { 'Sec-Fetch-Site': 'cross-site' },
    { Origin: 'http://evil.example' },
  ];
  for (const headers of foreign) {
    const reply = await send(batch([one]), SHORT, headers);
    expect([reply.status, wentShort(reply)]).toEqual([403, true]);
  }
  expect(await world.db('entries').where({ id: one.id })).toEqual([]);
});

it('leaves large bodies and unknown senders to the usual way', async () => {
  const note = 'x'.repeat(1900);
  const many = Array.from({ length: 40 }, () => ({ ...entry(), kind: 'note', value: null, note }));
  const large = await send(batch(many), SHORT);
  expect([large.status, wentShort(large)]).toEqual([200, false]);
  const nobody = await new Caller(world.server.url).call('POST', '/entries', batch([]), {
    'Content-Type': SHORT,
  });
  expect([nobody.status, wentShort(nobody)]).toEqual([401, false]);
});

it('hears of the end of a session before the next entry', async () => {
  const caller = await world.signedIn(teacher);
  const stolen = new Caller(world.server.url);
  stolen.adopt(caller);
  for (let i = 0; i < 2; i++) await caller.get('/classes');
  const post = (who: Caller) => who.call('POST', '/entries', batch([entry()]));
  expect(wentShort(await post(stolen))).toBe(true);
  await caller.call('DELETE', '/session');
  expect((await post(stolen)).status).toBe(401);
});

it('bears a sender that goes away in the middle', async () => {
  const { port } = new URL(world.server.url);
  const cookie = asTeacher.cookie;
  await new Promise<void>((resolve) => {
    const socket = connect(Number(port), '127.0.0.1', () => {
      socket.write(
        `POST /api/entries HTTP/1.1\r\nHost: 127.0.0.1\r\nCookie: ${cookie}\r\nContent-Type: ${SHORT}\r\nContent-Length: 500\r\n\r\n{"entr`,
        () => socket.destroy(),
      );
    });
    socket.once('close', () => resolve());
  });
  expect((await send(batch([entry()]), SHORT)).status).toBe(200);
});
