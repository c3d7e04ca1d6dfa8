import { randomUUID } from 'node:crypto';
import {
  type Criterion,
  DEFAULT_POLICY,
  type EntryValue,
  type MethodSheet,
  trunkMap,
} from '@clear-mark/core';
import { type AttemptEntry, type Person, type Problem, type Role, seenText } from '@clear-mark/contract';
import { LC_WEDGE_LOCATOR } from '@clear-mark/methods';
import pg from 'pg';
import { v7 } from 'uuid';
import { expect, inject } from 'vitest';
import { createHash } from 'node:crypto';
import {
  type Config,
  type Database,
  openDatabase,
  peopleService,
  type Running,
  startServer,
  storesForLoading,
} from '../src/index.ts';
import { lockThing } from '../src/database/locks.ts';

export const PASSWORD = 'correct horse battery';

/** A fresh database made from the migrated template; gives its address and a way to throw it away. */
export async function freshDatabase(
  template = 'template_of_tests',
): Promise<{ url: string; appUrl: string; drop: () => Promise<void> }> {
  const adminUrl = inject('adminUrl');
  const name = `suite_${randomUUID().replaceAll('-', '')}`;
  await admin(adminUrl, `create database "${name}" template "${template}"`);
  return {
    url: adminUrl.replace(/[^/]*$/, name),
    appUrl: inject('appUrl').replace(/[^/]*$/, name),
    drop: () => admin(adminUrl, `drop database "${name}" with (force)`),
  };
}

export async function admin(url: string, sql: string): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    await client.query(sql);
  } finally {
    await client.end();
  }
}

export interface Reply {
  readonly status: number;
  readonly body: never;
  readonly problem: Problem;
  readonly headers: Headers;
}

/** A browser-like caller: keeps its cookie. */
export class Caller {
  cookie = '';
  constructor(private readonly base: string) {}
  /** Goes on with another caller's session, as a browser does behind a balancer of load. */
  adopt(other: Caller): void {
    this.cookie = other.cookie;
  }

  async call(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Reply> {
    const response = await fetch(`${this.base}/api${path}`, {
      method,
      headers: {
        ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
        ...(this.cookie === '' ? {} : { Cookie: this.cookie }),
        ...headers,
      },
      ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    const set = response.headers.getSetCookie().find((c) => c.startsWith('clear-mark='));
    if (set !== undefined) this.cookie = set.split(';')[0]!;
    const text = await response.text();
    const json = response.headers.get('content-type')?.includes('json') ? JSON.parse(text) : text;
    return {
      status: response.status,
      body: json as never,
      problem: json as Problem,
      headers: response.headers,
    };
  }
  /** Bytes as they are, and what comes back as bytes. */
  async bytes(
    method: string,
    path: string,
    body?: Uint8Array,
    type = 'image/png',
  ): Promise<{ status: number; body: Buffer; type: string | null; code: string | null }> {
    const response = await fetch(`${this.base}/api${path}`, {
      method,
      headers: { ...(body ? { 'Content-Type': type } : {}), Cookie: this.cookie },
      ...(body ? { body: Uint8Array.from(body) } : {}),
    });
    const bytes = Buffer.from(await response.arrayBuffer());
    const mediaType = response.headers.get('content-type');
    const code = mediaType?.includes('problem+json') ? (JSON.parse(bytes.toString()) as Problem).code : null;
    return { status: response.status, body: bytes, type: mediaType, code };
  }
  stream(path: string, headers: Record<string, string>, signal: AbortSignal): Promise<Response> {
    return fetch(`${this.base}/api${path}`, { headers: { Cookie: this.cookie, ...headers }, signal });
  }
  get = (path: string): Promise<Reply> => this.call('GET', path);
  post = (path: string, body: unknown): Promise<Reply> => this.call('POST', path, body);
  put = (path: string, body: unknown): Promise<Reply> => this.call('PUT', path, body);
}

export interface TestClass {
  readonly id: string;
  readonly versionId: string;
  readonly trainees: readonly Person[];
  readonly things: Readonly<Record<string, string>>;
}

export class World {
  private constructor(
    readonly server: Running,
    readonly db: Database,
    private readonly drop: () => Promise<void>,
    readonly url: string,
    readonly appUrl: string,
  ) {}
  private owned: Database | null = null;

  /** The database as its owner has it: what the application's role may not even try. */
  get owner(): Database {
    return (this.owned ??= openDatabase(this.url, 2));
  }

  static async make(now?: () => Date, template?: string, more: Partial<Config> = {}): Promise<World> {
    const { url, appUrl, drop } = await freshDatabase(template);
    const server = await startServer(
      {
        databaseUrl: appUrl,
        ownerUrl: url,
        mode: 'test',
        host: '127.0.0.1',
        port: 0,
        tls: null,
        webDir: null,
        logLevel: 'silent',
        ...more,
      },
      now,
    );
    return new World(server, server.db, drop, url, appUrl);
  }

  async close(): Promise<void> {
    await this.owned?.destroy();
    await this.server.stop();
    await this.drop();
  }

  /** Does all at once, past whatever is looked at on the way in: the lock is held until each of them waits for it. */
  async atOnce<T>(
    space: Parameters<typeof lockThing>[1],
    id: string,
    works: readonly (() => Promise<T>)[],
  ): Promise<T[]> {
    let running: Promise<T[]> = Promise.resolve([]);
    await this.db.transaction(async (trx) => {
      await lockThing(trx, space, id);
      running = Promise.all(works.map((work) => work()));
      await expect.poll(() => this.waiting(), { timeout: 30_000 }).toBe(works.length);
    });
    return running;
  }

  private async waiting(): Promise<number> {
    const { rows } = await this.owner.raw(
      `select count(*)::int as n from pg_locks join pg_database d on d.oid = database
        where locktype = 'advisory' and not granted and datname = current_database()`,
    );
    return rows[0].n;
  }

  caller(): Caller {
    return new Caller(this.server.url);
  }

  async person(role: Role, name = `${role} ${v7().slice(-5)}`): Promise<Person> {
    const login = `${role}-${v7().slice(-12)}`;
    return peopleService(this.db).add({ id: v7(), name, login, role, password: PASSWORD });
  }

  async signedIn(person: Person): Promise<Caller> {
    const caller = this.caller();
    const reply = await caller.post('/session', { login: person.login, password: PASSWORD });
    if (reply.status !== 200) throw new Error(`sign-in: ${reply.status}`);
    return caller;
  }

  /** A class with its people, one thing of some kinds, and the shipped method in use. */
  async classOf(
    instructors: readonly Person[],
    trainees: readonly Person[],
    timeZone = 'UTC',
  ): Promise<TestClass> {
    const { classes } = storesForLoading(this.db);
    const id = v7();
    const day = { startsOn: '2026-01-05', endsOn: '2026-12-18' };
    await classes.insert(
      { id, name: `Class ${id.slice(-4)}`, place: 'Hall', timeZone, ...day },
      DEFAULT_POLICY,
    );
    for (const i of instructors) await classes.addMember(id, i.id, 'instructor');
    for (const t of trainees) await classes.addMember(id, t.id, 'trainee');
    const things: Record<string, string> = {};
    for (const kind of ['bench', 'cleaver', 'instrument'] as const) {
      things[kind] = v7();
      await classes.insertThing(id, { id: things[kind]!, kind, label: `${kind} 1` });
    }
    const versionId: string = (
      await this.db('method_versions').where({ method_id: LC_WEDGE_LOCATOR.id }).pluck('id')
    )[0];
    await classes.useMethod(id, versionId, true);
    return { id, versionId, trainees, things };
  }
}

/** What a signature names of the entries that were seen. */
export const seen = (entryIds: readonly string[]) => ({
  upTo: entryIds.length,
  digest: createHash('sha256').update(seenText(entryIds)).digest('hex'),
});

export const SHEET: MethodSheet = LC_WEDGE_LOCATOR;
export const CRITERIA: readonly Criterion[] = SHEET.steps.flatMap((s) => s.criteria);
export const criterionId = (name: string): string => `clear-mark/lc-wedge-locator/${name}`;

export const attemptBody = (c: TestClass, trainee = c.trainees[0]!, more: object = {}) => {
  const now = new Date().toISOString();
  return {
    id: v7(),
    traineeId: trainee.id,
    methodVersionId: c.versionId,
    pieceId: v7(),
    pieceLabel: 'T-01',
    thingIds: Object.values(c.things),
    startedAt: now,
    deviceId: v7(),
    sentAt: now,
    ...more,
  };
};

export const entryOf = (
  attemptId: string,
  author: Person,
  name: string,
  value: EntryValue | null,
  more: Partial<AttemptEntry> = {},
): AttemptEntry =>
  ({
    id: v7(),
    attemptId,
    kind: value === null ? 'not_seen' : 'value',
    criterionId: criterionId(name),
    part: '',
    value,
    voidReason: null,
    note: null,
    authorId: author.id,
    capacity: author.role === 'trainee' ? 'trainee' : 'instructor',
    deviceId: '0190aaaa-0000-7000-8000-000000000001',
    source: 'typed',
    at: new Date().toISOString(),
    supersedes: [],
    targetId: null,
    ...more,
  }) as AttemptEntry;

export const batch = (entries: readonly unknown[]) => ({ entries, sentAt: new Date().toISOString() });

/** A value that passes the criterion; readings of loss take `lossDb`. */
export function goodValue(criterion: Criterion): EntryValue {
  switch (criterion.kind) {
    case 'check':
      return { kind: 'check', passed: true };
    case 'measure':
      return { kind: 'measure', text: criterion.band.target ?? '0', unit: criterion.unit };
    case 'count':
      return { kind: 'count', count: 2 };
    case 'timed':
      return { kind: 'timed', text: criterion.band.lower ? '310' : '60' };
    case 'grade':
      return { kind: 'grade', level: criterion.levels[0]!.id };
    case 'call':
      return { kind: 'call', said: 'pass' };
    case 'map':
      return { kind: 'map', far: trunkMap(criterion.trunk, criterion.ports) };
    case 'readings':
    case 'loss':
      throw new Error('it has parts');
  }
}

/** Entries for a whole good piece, but for the named changes. */
export function wholePiece(
  attemptId: string,
  author: Person,
  references: Readonly<Record<number, string>>,
  changes: Readonly<Record<string, EntryValue>> = {},
  lossDb = '0.20',
): AttemptEntry[] {
  return CRITERIA.flatMap((c) => {
    const name = c.id.slice(criterionId('').length);
    if (c.kind !== 'loss') return [entryOf(attemptId, author, name, changes[name] ?? goodValue(c))];
    return c.wavelengthsNm.map((nm) =>
      entryOf(
        attemptId,
        author,
        name,
        { kind: 'loss', text: lossDb, unit: 'dB', referenceId: references[nm]! },
        { part: String(nm) },
      ),
    );
  });
}
