import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { Person } from '@clear-mark/contract';
import { EXAMPLE_LINKS } from '@clear-mark/methods';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Running, startServer } from '../src/index.ts';
import { type Caller, type TestClass, World } from './harness.ts';

let world: World;
let served: Running;
let files: string;
let teacher: Person;
let other: Person;
let asTeacher: Caller;
let asOther: Caller;
let classroom: TestClass;
let otherClass: TestClass;

beforeAll(async () => {
  world = await World.make();
  files = mkdtempSync(path.join(os.tmpdir(), 'clear-mark-files-'));
  mkdirSync(path.join(files, 'assets'));
  writeFileSync(path.join(files, 'index.html'), '<!doctype html><title>x</title>');
  writeFileSync(path.join(files, 'assets', 'app-1234.js'), 'export {};');
  served = await startServer({
    databaseUrl: world.appUrl,
    ownerUrl: world.url,
    mode: 'test',
    host: '127.0.0.1',
    port: 0,
    tls: null,
    webDir: files,
    logLevel: 'silent',
  });
  teacher = await world.person('instructor');
  other = await world.person('instructor');
  classroom = await world.classOf([teacher], [await world.person('trainee')]);
  otherClass = await world.classOf([other], [await world.person('trainee')]);
  asTeacher = await world.signedIn(teacher);
  asOther = await world.signedIn(other);
});
afterAll(async () => {
  await served.stop();
  await world.close();
  rmSync(files, { recursive: true, force: true });
});

describe('what every answer carries', () => {
  it.each(['/', '/any/page', '/assets/app-1234.js', '/api/health', '/api/nowhere'])(
    '%s lets nothing foreign in, is framed by nobody, and is taken for nothing else',
    async (at) => {
      const { headers } = await fetch(`${served.url}${at}`);
      const policy = headers.get('content-security-policy') ?? '';
      const allowed = Object.fromEntries(
        policy
          .split(';')
          .map((d) => [d.trim().split(' ')[0]!, d.trim().split(' ').slice(1).sort().join(' ')]),
      );
      expect(allowed).toMatchObject({
        'default-src': "'self'",
        'script-src': "'self'",
        'connect-src': "'self'",
        'object-src': "'none'",
        'frame-ancestors': "'none'",
        'base-uri': "'self'",
        'form-action': "'self'",
      });
      expect(policy).not.toMatch(/unsafe-eval|https?:|\*/);
      expect(headers.get('x-content-type-options')).toBe('nosniff');
      expect(headers.get('x-powered-by')).toBeNull();
      expect(headers.get('referrer-policy')).toBe('no-referrer');
      expect(headers.get('cross-origin-opener-policy')).toBe('same-origin');
      // Over plain HTTP on loopback a browser must not be told to come by HTTPS alone.
      expect(headers.get('strict-transport-security')).toBeNull();
    },
  );

  it('answers of the interface are kept nowhere, files with a digest in their name for good, the page never', async () => {
    const kept = async (at: string) => (await fetch(`${served.url}${at}`)).headers.get('cache-control');
    expect(await kept('/api/health')).toBe('no-store');
    expect(await kept('/assets/app-1234.js')).toMatch(/immutable/);
    expect(await kept('/')).toMatch(/no-cache|max-age=0/);
  });

  it('the session’s cookie is for this host, over HTTP alone, and out of the page’s reach', async () => {
    const reply = await world
      .caller()
      .post('/session', { login: teacher.login, password: 'correct horse battery' });
    const cookie = reply.headers.get('set-cookie') ?? '';
    expect(cookie).toMatch(/HttpOnly/i);
    expect(cookie).toMatch(/SameSite=(Strict|Lax)/i);
    expect(cookie).not.toMatch(/Domain=/i);
  });
});

describe('links of two classes', () => {
  const body = { ...structuredClone(EXAMPLE_LINKS[0]!), label: 'Own' };
  const save = (who: Caller, of: TestClass, id: string, label = 'Own') =>
    who.call('PUT', `/classes/${of.id}/links/${id}`, { ...body, label, retired: false });

  it('a class’s links are changed by its own instructors alone', async () => {
    const id = v7();
    expect((await save(asOther, classroom, id)).problem.code).toBe('auth.not_in_class');
    expect(await world.db('links').where({ id })).toEqual([]);
    expect((await save(asTeacher, classroom, id)).status).toBe(200);
  });

  it('an id that another class has is refused, and its link stays as it was', async () => {
    const id = v7();
    expect((await save(asTeacher, classroom, id, 'First')).status).toBe(200);
    const taken = await save(asOther, otherClass, id, 'Taken over');
    expect(taken.problem.code).toBe('link.other_class');
    const [row] = await world.db('links').where({ id });
    expect(row).toMatchObject({ class_id: classroom.id, label: 'First' });
  });

  it('no piece is started on a link of another class', async () => {
    const id = v7();
    await save(asTeacher, classroom, id);
    const start = {
      id: v7(),
      traineeId: otherClass.trainees[0]!.id,
      methodVersionId: otherClass.versionId,
      pieceId: v7(),
      pieceLabel: 'P-1',
      thingIds: [],
      startedAt: new Date().toISOString(),
      deviceId: v7(),
      sentAt: new Date().toISOString(),
    };
    const refused = await asOther.post(`/classes/${otherClass.id}/attempts`, { ...start, linkId: id });
    expect(refused.problem.code).toBe('attempt.link_not_in_class');
    expect(await world.db('attempts').where({ id: start.id })).toEqual([]);
  });
});
