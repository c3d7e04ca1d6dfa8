import { connect } from 'node:net';
import { ERRORS, type Person } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { codeOf } from '../src/http/problem.ts';
import { pino } from 'pino';
import { night, type Running, startServer } from '../src/index.ts';
import { digestOf, faceBody, keepFace, pngOf } from './faces-for-tests.ts';
import { Caller, PASSWORD, type TestClass, World } from './harness.ts';

let world: World;
let teacher: Person;
let asTeacher: Caller;
let classroom: TestClass;
let second: Running;

beforeAll(async () => {
  world = await World.make();
  teacher = await world.person('instructor');
  classroom = await world.classOf([teacher], [await world.person('trainee')]);
  asTeacher = await world.signedIn(teacher);
  second = await startServer({
    databaseUrl: world.appUrl,
    ownerUrl: world.url,
    mode: 'test',
    host: '127.0.0.1',
    port: 0,
    tls: null,
    webDir: null,
    logLevel: 'silent',
  });
});
afterAll(async () => {
  await second.stop();
  await world.close();
});
beforeEach(() => world.db('sign_in_tries').del());

describe('signing in', () => {
  const tryIn = (login: string, password: string, url = world.server.url) =>
    new Caller(url).post('/session', { login, password });

  it('waits longer with each wrong try, whatever blanks and capitals are put around the name, in every process', async () => {
    const spellings = [teacher.login, ` ${teacher.login}`, `${teacher.login}  `, teacher.login.toUpperCase()];
    const said: string[] = [];
    for (let i = 0; i < 8; i++) {
      const url = i % 2 === 0 ? world.server.url : second.url;
      said.push((await tryIn(spellings[i % 4]!, 'wrong words', url)).problem.code);
    }
    expect(said.slice(0, 5)).toEqual(Array(5).fill('auth.bad_credentials'));
    expect(said.slice(5)).toEqual(Array(3).fill('auth.throttled'));
    // The right password waits as well: it could be the one that was guessed.
    expect((await tryIn(teacher.login, PASSWORD)).problem.code).toBe('auth.throttled');
    const [row] = await world.db('sign_in_tries').whereILike('key', 'account%');
    expect(row).toMatchObject({ key: `account ${teacher.login}`, failures: 5 });
    await world.db('sign_in_tries').update({ locked_until: new Date(Date.now() - 1000) });
    await tryIn(teacher.login, 'wrong words');
    const [after] = await world.db('sign_in_tries').whereILike('key', 'account%');
    expect(Date.parse(after.locked_until) - Date.now()).toBeGreaterThan(1000);
  });

  it('guesses sent at once are no more than guesses sent one after the other', async () => {
    const replies = await Promise.all(Array.from({ length: 16 }, () => tryIn(teacher.login, 'wrong words')));
    const said = replies.map((r) => r.problem.code);
    expect(said.filter((code) => code === 'auth.bad_credentials')).toHaveLength(5);
    expect(said.filter((code) => code === 'auth.throttled')).toHaveLength(11);
  });

  it('works again at once after a right one, and forgets the wrong ones', async () => {
    for (let i = 0; i < 4; i++) await tryIn(teacher.login, 'wrong words');
    expect((await tryIn(teacher.login, PASSWORD)).status).toBe(200);
    expect(await world.db('sign_in_tries').whereILike('key', 'account%')).toEqual([]);
  });

  it('an address that tries many names waits for all of them', async () => {
    for (let i = 0; i < 30; i++) await tryIn(`nobody-${i}`, 'x');
    expect((await tryIn('nobody-else', 'x')).problem.code).toBe('auth.throttled');
  });

  it('a name of two megabytes is refused by its size before it is anybody’s key', async () => {
    const reply = await tryIn('n'.repeat(1_900_000), 'x');
    expect([reply.status, reply.problem.code]).toEqual([413, 'request.too_large']);
    expect((await tryIn('n'.repeat(5000), 'x')).problem.code).toBe('request.bad_field');
    expect(await world.db('sign_in_tries')).toEqual([]);
  });

  const joined = async (login: string, password: string) => {
    const lead = await world.signedIn(await world.person('lead'));
    const invited = await lead.post('/accounts', { id: v7(), name: 'Orla Wetherby', role: 'trainee' });
    const { code } = invited.body as { code: string };
    return world.caller().post('/join', { code, login, password });
  };
  it.each([
    ['short', 'auth.weak_password'],
    ['1234567890', 'auth.common_password'],
    ['Password1234', 'auth.common_password'],
    ['aaaaaaaaaaaa', 'auth.common_password'],
    ['sunshinesunshine', 'auth.common_password'],
    ['my-Wetherby-2026', 'auth.own_name_password'],
    ['xx-wether.by-xx', 'auth.own_name_password'],
  ])('refuses the password %s', async (password, code) => {
    expect((await joined('wether.by', password)).problem.code).toBe(code);
  });
  it('takes four words', async () => {
    expect((await joined(`o.${Date.now()}`, 'kettle moss violin tram')).status).toBe(200);
  });
});

describe('names and pages that a request comes from', () => {
  const ask = (headers: Record<string, string>) => asTeacher.call('GET', '/classes', undefined, headers);
  /** A request with its own Host line, which fetch does not let one set. */
  const raw = (host: string, ...more: string[]): Promise<string> =>
    new Promise((resolve, reject) => {
      const socket = connect(Number(new URL(world.server.url).port), '127.0.0.1');
      socket.once('error', reject).once('data', (part) => {
        resolve(String(part).split('\r\n')[0]!);
        socket.destroy();
      });
      const lines = ['GET /api/start HTTP/1.1', `Host: ${host}`, 'Connection: close', ...more];
      socket.write(`${lines.join('\r\n')}\r\n\r\n`);
    });

  it('another name for this server is refused: a page under it would read as its own', async () => {
    const port = new URL(world.server.url).port;
    expect(await raw(`127.0.0.1:${port}`)).toContain('200');
    expect(await raw('localhost')).toContain('200');
    for (const host of ['evil.example', `evil.example:${port}`, '127.0.0.1.evil.example', '']) {
      expect([host, await raw(host)]).toEqual([host, expect.stringContaining('421')]);
    }
  });

  it('a request that another site’s page makes is refused, also one that only reads', async () => {
    for (const site of ['cross-site', 'same-site']) {
      expect((await ask({ 'Sec-Fetch-Site': site, 'Sec-Fetch-Mode': 'no-cors' })).problem.code).toBe(
        'request.other_site',
      );
    }
    for (const site of ['same-origin', 'none'])
      expect((await ask({ 'Sec-Fetch-Site': site })).status).toBe(200);
    // A link in a mail opens its page; a picture of another page is none.
    const from = (mode: string) => raw('localhost', 'Sec-Fetch-Site: cross-site', `Sec-Fetch-Mode: ${mode}`);
    expect(await from('navigate')).toContain('200');
    expect(await from('no-cors')).toContain('403');
  });
});

describe('a session that ends', () => {
  it('ends its streams at once, in whatever process it was ended, and is remembered by none', async () => {
    const person = await world.person('instructor');
    const klass = await world.classOf([person], []);
    const caller = await world.signedIn(person);
    const elsewhere = new Caller(second.url);
    elsewhere.adopt(caller);
    expect((await elsewhere.get('/classes')).status).toBe(200);
    const ended: string[] = [];
    for (const path of [`/classes/${klass.id}/events`, `/classes/${klass.id}/instrument-events`]) {
      const reply = await elsewhere.stream(path, {}, new AbortController().signal);
      void (async () => {
        for await (const _ of reply.body as unknown as AsyncIterable<Uint8Array>);
        ended.push(path);
      })();
    }
    await caller.call('DELETE', '/session');
    for (let i = 0; i < 100 && ended.length < 2; i++) await new Promise((done) => setTimeout(done, 20));
    expect(ended).toHaveLength(2);
    expect((await elsewhere.get('/classes')).status).toBe(401);
  });

  it('touches its row once a minute at most', async () => {
    const caller = await world.signedIn(teacher);
    const expiry = async (): Promise<string[]> =>
      ((await world.db('session').select('expire').orderBy('sid')) as { expire: string }[]).map((r) =>
        JSON.stringify(r.expire),
      );
    await caller.get('/classes');
    const before = await expiry();
    for (let i = 0; i < 20; i++) await caller.get('/classes');
    expect(await expiry()).toEqual(before);
  });
});

describe('pictures', () => {
  const put = (bytes: Buffer, classId = classroom.id, who = asTeacher) =>
    who.bytes('PUT', `/classes/${classId}/face-blobs/${digestOf(bytes)}`, bytes);

  it('are not read from somebody who may not send them', async () => {
    const stranger = await world.signedIn(await world.person('instructor'));
    expect((await put(pngOf('a'), classroom.id, stranger)).code).toBe('auth.not_in_class');
    // Twelve megabytes are announced and never sent: the refusal does not wait for them.
    const answer = await new Promise<string>((resolve, reject) => {
      const socket = connect(Number(new URL(world.server.url).port), '127.0.0.1');
      socket.once('error', reject).once('data', (part) => {
        resolve(String(part));
        socket.destroy();
      });
      const path = `/api/classes/${classroom.id}/face-blobs/${'ab'.repeat(32)}`;
      socket.write(
        `PUT ${path} HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: image/png\r\nContent-Length: 11000000\r\n\r\n`,
      );
    });
    expect(answer).toContain('401');
  });

  it.each<[string, Buffer, string]>([
    ['cut off', pngOf('cut').subarray(0, 200), 'face.bad_picture'],
    ['of a size that would fill the memory', pngOf('bomb', 30_000, 30_000), 'face.too_large'],
    ['of no format', Buffer.from('GIF89a, say'), 'face.not_a_picture'],
  ])('that are %s are refused', async (_, bytes, code) => {
    expect((await put(bytes)).code).toBe(code);
    expect(await world.db('pictures').where({ sha256: digestOf(bytes) })).toEqual([]);
  });

  it('of another class are as unknown as none: a digest gives nothing away', async () => {
    const other = await world.person('instructor');
    const asOther = await world.signedIn(other);
    const elsewhere = await world.classOf([other], []);
    const bytes = pngOf('shared');
    expect((await put(bytes)).status).toBe(200);
    const face = (sha256: string) => asOther.post(`/classes/${elsewhere.id}/faces`, faceBody(sha256));
    const answers = [await face(digestOf(bytes)), await face('cd'.repeat(32))].map((r) => r.problem?.code);
    expect(answers[0]).toBe(answers[1]);
    expect(answers[0]).toBe('face.no_picture');
  });

  it('that nobody came to use are dropped by the night’s work, those in use stay', async () => {
    const orphan = pngOf('given up');
    const fresh = pngOf('just sent');
    for (const bytes of [orphan, fresh]) expect((await put(bytes)).status).toBe(200);
    const used = await keepFace(asTeacher, classroom.id, []);
    await world
      .owner('pictures')
      .whereNot({ sha256: digestOf(fresh) })
      .update({ received_at: new Date(0) });
    await night(world.db, { safeDir: null }, () => new Date(), pino({ level: 'silent' }));
    const left: string[] = await world.db('pictures').pluck('sha256');
    expect(left).not.toContain(digestOf(orphan));
    expect(left).toContain(digestOf(fresh));
    expect((await asTeacher.bytes('GET', `/classes/${classroom.id}/faces/${used}/picture`)).status).toBe(200);
    // The same night is worked once, also when two processes wake together.
    const checks = () =>
      world
        .db('checks')
        .count<{ count: string }[]>('*')
        .then(([r]) => Number(r!.count));
    const before = await checks();
    await Promise.all(
      [1, 2].map(() => night(world.db, { safeDir: null }, () => new Date(), pino({ level: 'silent' }))),
    );
    expect(await checks()).toBe(before);
  });

  it('of one person have an end in an hour', async () => {
    await world.db('picture_uploads').where({ by: teacher.id }).update({ bytes: 300_000_000 });
    await world.db('picture_uploads').where({ by: teacher.id }).update({ at: new Date() });
    expect((await put(pngOf('one more'))).code).toBe('face.too_many');
    await world.db('picture_uploads').update({ at: new Date(0) });
    expect((await put(pngOf('one more'))).status).toBe(200);
  });
});

describe('what the database refuses', () => {
  it.each([
    ['22021', 'request.not_storable', 422],
    ['22003', 'request.not_storable', 422],
    ['22008', 'request.not_storable', 422],
    ['23505', 'request.already_there', 409],
    ['23503', 'request.names_nothing', 422],
    ['53100', 'server.disk_full', 507],
    ['57014', 'server.busy', 503],
    ['08006', 'server.unavailable', 503],
    ['57P01', 'server.unavailable', 503],
    ['XX000', 'server.failed', 500],
  ] as const)('%s is said as %s', (code, wanted, status) => {
    expect(ERRORS[wanted]).toBe(status);
    expect(codeOf(Object.assign(new Error('x'), { code })).code).toBe(wanted);
  });
  it('an answer that does not come is the database that does not answer', () => {
    for (const words of [
      'timeout exceeded when trying to connect',
      'Query read timeout',
      'Connection terminated',
    ]) {
      expect(codeOf(new Error(words)).code).toBe('server.unavailable');
    }
  });
});
