import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { get, request } from 'node:http';
import os from 'node:os';
import path from 'node:path';
import {
  openDatabase,
  readClusters,
  readConfig,
  registryStore,
  type RunningSchools,
  startSchools,
  verifyRecords,
} from '@clear-mark/server';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Cluster, freePort, onDatabase, removeCluster, startScratchCluster } from './cluster.ts';
import { clustersOf, REGISTRY } from './schools/clusters-of.ts';
import { addSchool, moveSchool, onRegistry, type SchoolsAt } from './schools/school-work.ts';

/** Two clusters, and a server in front of their schools. */
let main: Cluster;
let other: Cluster;
let at: SchoolsAt;
let server: RunningSchools;
let folder: string;
const codes = new Map<string, string>();

interface Reply {
  readonly status: number;
  readonly body: never;
  readonly cookie: string | null;
}
/** As a browser that calls a name asks. */
function ask(host: string, method: string, route: string, body?: object, cookie?: string): Promise<Reply> {
  const { port } = new URL(server.url);
  const text = body === undefined ? undefined : JSON.stringify(body);
  const headers = {
    Host: `${host}:${port}`,
    ...(text === undefined ? {} : { 'Content-Type': 'application/json', 'Content-Length': text.length }),
    ...(cookie === undefined ? {} : { Cookie: cookie }),
  };
  return new Promise((resolve, reject) => {
    const sent = request({ host: '127.0.0.1', port, method, path: `/api${route}`, headers }, (answer) => {
      let read = '';
      answer.on('data', (part) => (read += String(part)));
      answer.on('end', () =>
        resolve({
          status: answer.statusCode!,
          body: JSON.parse(read) as never,
          cookie: answer.headers['set-cookie']?.[0]?.split(';')[0] ?? null,
        }),
      );
    });
    sent.once('error', reject);
    sent.end(text);
  });
}
const setUp = async (host: string, name: string): Promise<Reply> =>
  ask(host, 'POST', '/setup', {
    code: codes.get(name),
    name: `Lead of ${name}`,
    login: 'lead',
    password: 'correct horse battery',
  });
const databasesOf = (cluster: Cluster): Promise<string[]> =>
  onDatabase(cluster.url('postgres'), async (client) => {
    const { rows } = await client.query<{ datname: string }>(
      `select datname from pg_database where datname like 'school%' order by 1`,
    );
    return rows.map((r) => r.datname);
  });

beforeAll(async () => {
  folder = await mkdtemp(path.join(os.tmpdir(), 'clear-mark-schools-'));
  main = await startScratchCluster(`test-schools-${process.pid}`, { temporary: true });
  other = await startScratchCluster(`test-schools-other-${process.pid}`, { temporary: true });
  const file = path.join(folder, 'clusters.json');
  const gone = `postgres://nobody@127.0.0.1:${await freePort()}/x`;
  await writeFile(
    file,
    JSON.stringify({
      second: { app: other.appUrl('postgres'), owner: other.url('postgres') },
      gone: { app: gone, owner: gone },
    }),
  );
  at = {
    registryUrl: main.url(REGISTRY),
    clusters: clustersOf(main.appUrl(REGISTRY), main.url(REGISTRY), file),
  };
  for (const name of ['north', 'south-hall']) {
    codes.set(name, (await addSchool(at, { name, hosts: [`${name}.test`], cluster: 'main' }))!);
  }
  const settings = {
    DATABASE_URL: main.appUrl(REGISTRY),
    DATABASE_OWNER_URL: main.url(REGISTRY),
    CLEAR_MARK_CLUSTERS: file,
    CLEAR_MARK_SCHOOLS: 'yes',
    CLEAR_MARK_LOG_LEVEL: 'silent',
    CLEAR_MARK_MODE: 'test',
  };
  server = await startSchools({ config: readConfig(settings) });
}, 90_000);
afterAll(async () => {
  await server.stop();
  await removeCluster(main);
  await removeCluster(other);
  await rm(folder, { recursive: true });
}, 60_000);

describe('schools behind one server', () => {
  it('are told apart by the name that is called; a session of one is none of the other', async () => {
    const lead = await setUp('north.test', 'north');
    expect(lead.status).toBe(200);
    expect((await setUp('south-hall.test', 'south-hall')).status).toBe(200);
    const mine = await ask('north.test', 'GET', '/start', undefined, lead.cookie!);
    expect(mine.body).toMatchObject({ me: { name: 'Lead of north' } });
    const theirs = await ask('south-hall.test', 'GET', '/start', undefined, lead.cookie!);
    expect(theirs.body).toMatchObject({ me: null });
    // The code of one opens no other.
    codes.set('wrong', codes.get('north')!);
    expect((await setUp('south-hall.test', 'wrong')).status).not.toBe(200);
  });

  it('under a name that is nobody’s there is nothing', async () => {
    for (const host of ['elsewhere.test', '127.0.0.1', 'north.test.evil']) {
      expect(await ask(host, 'GET', '/start')).toMatchObject({
        status: 421,
        body: { code: 'request.wrong_host' },
      });
    }
  });

  it('whoever opens a page there reads words, not what programs read', async () => {
    const { port } = new URL(server.url);
    const headers = { Host: 'elsewhere.test', Accept: 'text/html,*/*' };
    const page = await new Promise<{ type: string; text: string }>((resolve, reject) => {
      get({ host: '127.0.0.1', port, headers }, (answer) => {
        let text = '';
        answer.on('data', (part) => (text += String(part)));
        answer.on('end', () => resolve({ type: answer.headers['content-type']!, text }));
      }).once('error', reject);
    });
    expect(page.type).toContain('text/html');
    expect(page.text).toContain('does not answer under that name');
    expect(page.text).not.toContain('{');
  });

  it('one that is added is open within a look, in capitals as well', async () => {
    const code = await addSchool(at, { name: 'east', hosts: ['east.test', 'ost.test'], cluster: 'second' });
    codes.set('east', code!);
    await server.look();
    expect([...server.open()].sort()).toEqual(['east', 'north', 'south-hall']);
    expect((await setUp('OST.test', 'east')).status).toBe(200);
    expect(await databasesOf(other)).toContain('school_east');
  });

  it.each([
    [{ name: 'North', hosts: ['x.test'], cluster: 'main' }, /no name/],
    [{ name: 'west', hosts: [], cluster: 'main' }, /--host/],
    [{ name: 'west', hosts: ['a b'], cluster: 'main' }, /no name of a host/],
    [{ name: 'north', hosts: ['x.test'], cluster: 'main' }, /already/],
    [{ name: 'west', hosts: ['ost.test'], cluster: 'main' }, /called by the school east/],
    [{ name: 'west', hosts: ['w.test'], cluster: 'third' }, /no cluster third/],
  ])('%j is refused, and nothing is left of it', async (school, words) => {
    const before = await databasesOf(main);
    await expect(addSchool(at, school)).rejects.toThrow(words);
    expect(await databasesOf(main)).toEqual(before);
    const names = (await onRegistry(at, (registry) => registry.all())).map((s) => s.name);
    expect(names).toEqual(['east', 'north', 'south-hall']);
  });

  it('one is moved to another cluster: closed meanwhile, whole afterwards, sessions go on', async () => {
    const signedIn = await ask('north.test', 'POST', '/session', {
      login: 'lead',
      password: 'correct horse battery',
    });
    const seen = new Map<number, number>();
    let moving = true;
    const asking = (async () => {
      while (moving) {
        const { status } = await ask('north.test', 'GET', '/start', undefined, signedIn.cookie!);
        seen.set(status, (seen.get(status) ?? 0) + 1);
        await new Promise((resolve) => setTimeout(resolve, 20));
      }
    })();
    const looking = setInterval(() => void server.look(), 300);
    const moved = await moveSchool(at, 'north', 'second', new Date('2026-05-04T10:00:00Z'));
    clearInterval(looking);
    await server.look();
    moving = false;
    await asking;
    // Nobody gets anything but an answer or a word that it is closed for a moment.
    expect([...seen.keys()].sort()).toEqual([200, 503]);
    const after = await ask('north.test', 'GET', '/start', undefined, signedIn.cookie!);
    expect(after.body).toMatchObject({ me: { name: 'Lead of north' } });
    expect(moved.keptAs).toBe('school_north_moved_20260504100000');
    expect(await databasesOf(main)).toEqual(['school_north_moved_20260504100000', 'school_south_hall']);
    const there = openDatabase(other.url('school_north'), 1);
    expect((await verifyRecords(there, [])).findings).toEqual([]);
    expect(await there('people').pluck('name')).toEqual(['Lead of north']);
    await there.destroy();
    // The others noticed nothing of it.
    expect((await ask('south-hall.test', 'GET', '/start')).status).toBe(200);
  });

  it('a move that fails leaves it open where it was', async () => {
    await expect(moveSchool(at, 'south-hall', 'gone', new Date())).rejects.toThrow();
    await server.look();
    expect((await ask('south-hall.test', 'GET', '/start')).status).toBe(200);
    await expect(moveSchool(at, 'south-hall', 'main', new Date())).rejects.toThrow(/already/);
    await expect(moveSchool(at, 'nowhere', 'second', new Date())).rejects.toThrow(/no school nowhere/);
  });

  it('one whose database is gone hinders no other', async () => {
    const registry = openDatabase(main.url(REGISTRY), 1);
    await registryStore(registry).addSchool({
      name: 'lost',
      hosts: ['lost.test'],
      cluster: 'gone',
      database: 'school_lost',
      open: true,
    });
    await server.look();
    expect(await ask('lost.test', 'GET', '/start')).toMatchObject({
      status: 503,
      body: { code: 'school.closed' },
    });
    expect((await ask('south-hall.test', 'GET', '/start')).status).toBe(200);
    await registryStore(registry).dropSchool('lost');
    await registry.destroy();
    await server.look();
    expect((await ask('lost.test', 'GET', '/start')).status).toBe(421);
  });
});

describe('a file of clusters', () => {
  it.each([
    ['no JSON', /is no JSON/],
    ['{"a b": {}}', /clusters/],
    ['{"second": {"app": "http://x/y", "owner": "postgres://x/y"}}', /second.app/],
    ['{"second": {"app": "postgres://x/y"}}', /second.owner/],
  ])('%s is refused by what is wrong with it', (text, words) => {
    expect(() => readClusters(text, 'clusters.json')).toThrow(words);
  });
});
