import { type ApiToken, FILES, type Person, RIGHTS, ROUTES, type Route } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { rightOf } from '../src/api-tokens/index.ts';
import { type Caller, type Reply, type TestClass, World } from './harness.ts';

let clock = Date.now();
let world: World;
let teacher: Person;
let api: Caller;
let room: TestClass;
beforeAll(async () => {
  world = await World.make(() => new Date(clock));
});
afterAll(() => world.close());

/** A teacher who is signed in, with a class: for what asks the server of tokens, not for what is read off a table. */
async function newTeacher(): Promise<void> {
  teacher = await world.person('instructor');
  api = await world.signedIn(teacher);
  room = await world.classOf([teacher], [await world.person('trainee')]);
}

const make = async (rights: readonly string[], more: object = {}): Promise<{ id: string; token: string }> => {
  const id = v7();
  const reply = await api.post('/me/tokens', { id, label: 'Sheet of the office', rights, days: 30, ...more });
  expect(reply.status).toBe(200);
  return { id, token: (reply.body as { token: string }).token };
};
const as = (token: string, path: string, method = 'GET', body?: unknown): Promise<Reply> =>
  world.caller().call(method, path, body, { Authorization: `Bearer ${token}` });

describe('a token for scripts', () => {
  beforeEach(newTeacher);
  it('does what its maker may, within its rights, and nothing else', async () => {
    const { token } = await make(['results']);
    expect((await as(token, `/classes/${room.id}/results`)).status).toBe(200);
    expect((await as(token, `/classes/${room.id}/attempts.csv`)).status).toBe(200);
    const refused = [
      await as(token, '/classes'),
      await as(token, `/classes/${room.id}/roster`, 'POST', { people: [] }),
      await as(token, '/me/tokens'),
      await as(token, '/me/account'),
      await as(token, '/me/held.zip'),
      await as(token, '/nothing-here'),
    ];
    expect(refused.map((r) => r.problem.code)).toEqual([
      ...Array.from({ length: 5 }, () => 'auth.token_rights'),
      'request.unknown_route',
    ]);
    const other = await world.classOf([await world.person('instructor')], []);
    expect((await as(token, `/classes/${other.id}/results`)).problem.code).toBe('auth.not_in_class');
  });
  it('writes where it was given the right to', async () => {
    const { token } = await make(['class']);
    const things = [{ id: v7(), kind: 'scope', label: 'Scope 7' }];
    expect((await as(token, `/classes/${room.id}/equipment`, 'POST', { things })).body).toEqual({ added: 1 });
  });
  it('is shown once, listed without itself, and ends by its day, by its maker, and with the account', async () => {
    const { id, token } = await make(['results']);
    const list = (await api.get('/me/tokens')).body as ApiToken[];
    expect(list).toMatchObject([{ id, label: 'Sheet of the office', rights: ['results'] }]);
    expect(JSON.stringify(list)).not.toContain(token);
    const asked = () => as(token, `/classes/${room.id}/results`);
    expect((await asked()).status).toBe(200);
    clock += 31 * 86_400_000;
    expect((await asked()).problem.code).toBe('auth.bad_token');
    clock -= 31 * 86_400_000;
    expect((await asked()).status).toBe(200);
    expect((await api.call('DELETE', `/me/tokens/${id}`)).status).toBe(200);
    expect((await api.call('DELETE', `/me/tokens/${id}`)).problem.code).toBe('not_found.token');
    await expect.poll(async () => (await asked()).problem.code, { timeout: 10_000 }).toBe('auth.bad_token');
    const next = await make(['results']);
    const lead = await world.signedIn(await world.person('lead'));
    await lead.put(`/accounts/${teacher.id}/disabled`, { disabled: true });
    await expect
      .poll(async () => (await as(next.token, `/classes/${room.id}/results`)).problem.code, {
        timeout: 10_000,
      })
      .toBe('auth.bad_token');
  });
  it('what it has under way ends with it', async () => {
    const { id, token } = await make(['results']);
    const stream = await fetch(`${world.server.url}/api/classes/${room.id}/events`, {
      headers: { Authorization: `Bearer ${token}` },
    });
    expect(stream.status).toBe(200);
    const ended = stream.text().then(
      () => 'ended',
      () => 'ended',
    );
    await api.call('DELETE', `/me/tokens/${id}`);
    expect(await ended).toBe('ended');
  });
  it.each([
    ['nothing', ''],
    ['another kind', 'Basic abc'],
    ['one that never was', `Bearer clear-mark-${'0'.repeat(64)}`],
    ['one that is far too long', `Bearer ${'x'.repeat(5000)}`],
  ])('with %s in its place all is refused, whatever session comes along', async (_, header) => {
    const reply = await api.call('GET', '/classes', undefined, { Authorization: header });
    expect(reply.problem.code).toBe('auth.bad_token');
  });
  it('is not made of rights that no token has, for longer than a year, or by a trainee', async () => {
    const bad = (more: object) =>
      api.post('/me/tokens', { id: v7(), label: 'X', rights: ['results'], days: 3, ...more });
    for (const more of [{ rights: ['accounts'] }, { rights: [] }, { days: 367 }, { days: 0 }, { label: ' ' }])
      expect((await bad(more)).problem.code).toBe('request.bad_field');
    const trainee = await world.signedIn(await world.person('trainee'));
    expect((await trainee.get('/me/tokens')).problem.code).toBe('auth.role');
  });
});

describe('a file', () => {
  beforeAll(newTeacher);
  it.each(Object.entries(FILES))(
    '%s is given to those whom its line lets in, and to nobody else',
    async (_, file) => {
      const path = file.path
        .replace(/^\/api/, '')
        .replace(/:sha256/, '0'.repeat(64))
        .replace(/:\w+/g, v7());
      const asked = (who: Caller) => who.bytes(file.method.toUpperCase(), path);
      expect((await asked(world.caller())).code).toBe('auth.required');
      const trainee = await world.signedIn(await world.person('trainee'));
      if (file.access !== 'signed_in') expect((await asked(trainee)).code).toBe('auth.role');
      if (file.access === 'lead') expect((await asked(api)).code).toBe('auth.role');
      const lead = await world.signedIn(await world.person('lead'));
      expect((await asked(lead)).code ?? '').not.toMatch(/^auth\./);
    },
  );
});

describe('the right of an address', () => {
  const ID = '0190aaaa-0000-7000-8000-000000000001';
  const filled = (path: string): string => path.replace(/:\w+/g, ID);
  it.each(Object.entries(ROUTES as Record<string, Route>))(
    '%s needs the line that it stands in',
    (name, route) => {
      const line = RIGHTS.find((r) => (r.routes as readonly string[]).includes(name));
      expect(rightOf(route.method, filled(route.path))).toBe(line?.id ?? null);
    },
  );
  it.each(Object.values(FILES))('$path needs $right', ({ method, path, right }) => {
    expect(rightOf(method, filled(path))).toBe(right);
  });
});

describe('what programs may ask', () => {
  it('is told as OpenAPI, and shown by a page that loads from this server alone', async () => {
    const caller = world.caller();
    expect((await caller.get('/openapi.json')).body).toMatchObject({ openapi: '3.1.0' });
    const page = (await caller.get('/docs')).body as string;
    const files = [...page.matchAll(/(?:src|href)="([^"]+)"/g)].map(([, file]) => file!);
    expect(files).toHaveLength(3);
    for (const file of files) {
      expect(file).toMatch(/^\/api\/docs\//);
      expect((await fetch(`${world.server.url}${file}`)).status).toBe(200);
    }
    expect((await caller.get('/docs/package.json')).problem.code).toBe('request.unknown_route');
  });
});
