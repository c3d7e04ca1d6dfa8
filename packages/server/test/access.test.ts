import { type Access, type Person, ROUTES } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readConfig } from '../src/index.ts';
import { setupService } from '../src/people/index.ts';
import { attemptBody, type Caller, type TestClass, World } from './harness.ts';

let world: World;
let lead: Person;
let teacher: Person;
let other: Person;
let trainee: Person;
let classroom: TestClass;
let callers: Record<'nobody' | 'lead' | 'teacher' | 'other' | 'trainee', Caller>;

beforeAll(async () => {
  world = await World.make();
  [lead, teacher, other, trainee] = await Promise.all([
    world.person('lead'),
    world.person('instructor'),
    world.person('instructor'),
    world.person('trainee'),
  ]);
  classroom = await world.classOf([teacher], [trainee]);
  callers = {
    nobody: world.caller(),
    lead: await world.signedIn(lead),
    teacher: await world.signedIn(teacher),
    other: await world.signedIn(other),
    trainee: await world.signedIn(trainee),
  };
});
afterAll(() => world.close());

const filled = (path: string): string =>
  path
    .replace('/api', '')
    .replace(':id', classroom.id)
    .replace(/:\w+/g, () => v7());

describe('every route is closed unless it says otherwise', () => {
  const closed = Object.entries(ROUTES).filter(([, r]) => r.access !== 'open');
  it.each(closed)('%s without a session', async (_, route) => {
    const reply = await callers.nobody.call(
      route.method.toUpperCase(),
      filled(route.path),
      route.method === 'get' ? undefined : {},
    );
    expect([reply.status, reply.problem.code]).toEqual([401, 'auth.required']);
    expect(reply.headers.get('content-type')).toContain('application/problem+json');
    expect(reply.problem.detail).toMatch(/sign in/);
  });
  const teaching = Object.entries(ROUTES).filter(([, r]) => r.access === 'instructor' || r.access === 'lead');
  it.each(teaching)('%s for a trainee', async (_, route) => {
    const reply = await callers.trainee.call(
      route.method.toUpperCase(),
      filled(route.path),
      route.method === 'get' ? undefined : {},
    );
    expect([reply.status, reply.problem.code]).toEqual([403, 'auth.role']);
  });
  it('CSV downloads too', async () => {
    for (const kind of ['attempts', 'outcomes']) {
      expect((await callers.nobody.get(`/classes/${classroom.id}/${kind}.csv`)).status).toBe(401);
      expect((await callers.trainee.get(`/classes/${classroom.id}/${kind}.csv`)).status).toBe(403);
      expect((await callers.other.get(`/classes/${classroom.id}/${kind}.csv`)).status).toBe(403);
    }
  });
});

describe('class membership decides', () => {
  it.each([
    ['detail', ''],
    ['practice options', '/practice-options'],
    ['suggestions', '/suggestions'],
    ['results', '/results'],
    ['attempts', '/attempts'],
  ])('%s', async (_, path) => {
    expect((await callers.teacher.get(`/classes/${classroom.id}${path}`)).status).toBe(200);
    expect((await callers.lead.get(`/classes/${classroom.id}${path}`)).status).toBe(200);
    const reply = await callers.other.get(`/classes/${classroom.id}${path}`);
    expect([reply.status, reply.problem.code]).toEqual([403, 'auth.not_in_class']);
  });

  it('an attempt is seen by its class’s instructors, the lead and its trainee', async () => {
    const body = attemptBody(classroom);
    await callers.teacher.post(`/classes/${classroom.id}/attempts`, body);
    const status = async (who: Caller): Promise<number> => (await who.get(`/attempts/${body.id}`)).status;
    expect(await status(callers.teacher)).toBe(200);
    expect(await status(callers.lead)).toBe(200);
    expect(await status(callers.trainee)).toBe(200);
    expect(await status(callers.other)).toBe(403);
  });

  it('unknown ids are not found, also those that are no ids', async () => {
    expect((await callers.lead.get(`/attempts/${v7()}`)).problem.code).toBe('not_found.attempt');
    expect((await callers.lead.get('/attempts/17')).problem.code).toBe('not_found.attempt');
    expect((await callers.lead.get(`/classes/${v7()}`)).problem.code).toBe('not_found.class');
    expect((await callers.lead.get(`/method-versions/${v7()}`)).problem.code).toBe(
      'not_found.method_version',
    );
    expect((await callers.lead.get('/nothing')).problem.code).toBe('request.unknown_route');
  });
});

describe('sign-in', () => {
  it('says the same for a wrong name and a wrong password', async () => {
    const wrong = await world.caller().post('/session', { login: teacher.login, password: 'not this one' });
    const unknown = await world.caller().post('/session', { login: 'nobody-here', password: 'not this one' });
    expect([wrong.status, wrong.problem.code]).toEqual([401, 'auth.bad_credentials']);
    expect(unknown.problem).toEqual(wrong.problem);
  });

  it('keeps the session in a cookie that scripts and other sites cannot use', async () => {
    const reply = await world
      .caller()
      .post('/session', { login: teacher.login, password: 'correct horse battery' });
    const cookie = reply.headers.get('set-cookie')!;
    expect(cookie).toMatch(/HttpOnly/);
    expect(cookie).toMatch(/SameSite=Lax/);
  });

  it('stores no password', async () => {
    const hashes: string[] = await world.db('people').whereNotNull('password_hash').pluck('password_hash');
    expect(hashes.every((h) => h.startsWith('$argon2id$'))).toBe(true);
  });

  it('ends', async () => {
    const caller = await world.signedIn(teacher);
    expect((await caller.get('/classes')).status).toBe(200);
    await caller.call('DELETE', '/session');
    expect((await caller.get('/classes')).status).toBe(401);
  });

  it('refuses a changing request from another site', async () => {
    const reply = await callers.teacher.call('POST', '/entries', {}, { Origin: 'http://elsewhere.example' });
    expect([reply.status, reply.problem.code]).toEqual([403, 'request.wrong_origin']);
    const broken = await callers.teacher.call('POST', '/entries', {}, { Origin: 'null' });
    expect(broken.status).toBe(403);
  });

  it('has no one-tap entry outside the demo', async () => {
    const reply = await world.caller().post('/session/demo', { role: 'lead' });
    expect([reply.status, reply.problem.code]).toEqual([403, 'auth.demo_only']);
  });
});

describe('bad requests', () => {
  it('a malformed body', async () => {
    const reply = await callers.teacher.call('POST', '/entries', '{"entries": [');
    expect([reply.status, reply.problem.code]).toEqual([400, 'request.malformed']);
  });
  it('a body of 20 MB', async () => {
    const reply = await callers.teacher.call(
      'POST',
      '/entries',
      JSON.stringify({ x: 'a'.repeat(20_000_000) }),
    );
    expect([reply.status, reply.problem.code]).toEqual([413, 'request.too_large']);
  });
  it('a field of the wrong kind, named', async () => {
    const reply = await callers.teacher.post(`/classes/${classroom.id}/things`, {
      id: v7(),
      kind: 'hammer',
      label: 'x',
    });
    expect(reply.status).toBe(422);
    expect(reply.problem.detail).toMatch(/^kind: .* Nothing was changed\.$/);
  });
  it('answers are never kept by a cache', async () => {
    expect((await callers.teacher.get('/classes')).headers.get('cache-control')).toBe('no-store');
  });
});

describe('the first visit', () => {
  it('makes one lead from the printed code, once', async () => {
    const empty = await World.make();
    try {
      const people = setupService(empty.db);
      const code = (await people.newSetupCode())!;
      expect(code).toMatch(/^[0-9A-F]{5}-[0-9A-F]{5}$/);
      const body = { code, name: 'First Lead', login: 'first', password: 'long enough words' };
      const caller = empty.caller();
      expect((await caller.get('/start')).body).toMatchObject({ setupNeeded: true, demo: false, me: null });
      expect((await caller.post('/setup', { ...body, code: 'AAAAA-AAAAA' })).problem.code).toBe(
        'auth.bad_setup_code',
      );
      expect((await caller.post('/setup', { ...body, password: 'short' })).problem.code).toBe(
        'auth.weak_password',
      );
      const both = await Promise.all([
        caller.post('/setup', body),
        empty.caller().post('/setup', { ...body, login: 'second' }),
      ]);
      expect(both.map((r) => r.status).sort()).toEqual([200, 409]);
      expect(await people.newSetupCode()).toBeNull();
      expect((await caller.get('/start')).body).toMatchObject({ setupNeeded: false });
    } finally {
      await empty.close();
    }
  });
});

describe('settings', () => {
  const base = { DATABASE_URL: 'postgres://a:b@127.0.0.1:5432/c' };
  it('names the bad key and refuses to start', () => {
    expect(() => readConfig({})).toThrow('DATABASE_URL');
    expect(() => readConfig({ ...base, CLEAR_MARK_PORT: 'many' })).toThrow('CLEAR_MARK_PORT');
    expect(() => readConfig({ ...base, CLEAR_MARK_HOST: '0.0.0.0' })).toThrow('CLEAR_MARK_HOST');
    expect(() => readConfig({ ...base, CLEAR_MARK_TLS_CERT: 'x' })).toThrow('CLEAR_MARK_TLS_KEY');
    const tls = { CLEAR_MARK_TLS_CERT: 'c', CLEAR_MARK_TLS_KEY: 'k', CLEAR_MARK_HOST: '0.0.0.0' };
    expect(() => readConfig({ ...base, ...tls, CLEAR_MARK_MODE: 'demo' })).toThrow('CLEAR_MARK_HOST');
    expect(readConfig({ ...base, ...tls })).toMatchObject({ host: '0.0.0.0', mode: 'real' });
  });
});

/** Who may call what: a cell for each route of the contract and each kind of person, made from the contract. */
describe('the table of access', () => {
  const WHO = ['nobody', 'trainee', 'other', 'teacher', 'lead'] as const;
  const RANK: Readonly<Record<Access, number>> = { open: 0, signed_in: 1, instructor: 2, lead: 3 };
  const rankOf = (who: (typeof WHO)[number]): number =>
    ({ nobody: 0, trainee: 1, other: 2, teacher: 2, lead: 3 })[who];
  // Signing out ends the caller for the cells after it; signing in is its own test.
  const cells = Object.entries(ROUTES)
    .filter(([name]) => name !== 'signOut')
    .flatMap(([name, route]) => WHO.map((who) => [name, who, route] as const));

  it.each(cells)('%s by %s', async (_, who, route) => {
    const reply = await callers[who].call(
      route.method.toUpperCase(),
      filled(route.path),
      route.method === 'get' ? undefined : {},
    );
    const { code } = reply.problem ?? {};
    if (rankOf(who) >= RANK[route.access]) {
      expect(['auth.required', 'auth.role']).not.toContain(code);
      // What belongs to a class is closed to an instructor of another one.
      if (who === 'other' && route.path.startsWith('/api/classes/:id') && route.method === 'get') {
        const only = ['auth.not_in_class', 'request.bad_field'];
        expect([route.path, only.includes(code ?? '') || code?.startsWith('not_found')]).toEqual([
          route.path,
          true,
        ]);
      }
    } else expect(code).toBe(who === 'nobody' ? 'auth.required' : 'auth.role');
  });
});
