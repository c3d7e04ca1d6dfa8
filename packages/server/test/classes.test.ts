import { DEFAULT_POLICY } from '@clear-mark/core';
import type { ClassDetail, Person } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { migrate, openDatabase } from '../src/index.ts';
import { MIGRATIONS } from '../src/migrations/index.ts';
import { type Caller, freshDatabase, SHEET, World } from './harness.ts';

let world: World;
let lead: Person;
let api: Caller;
const classBody = (more: object = {}) => ({
  id: v7(),
  name: 'Spring crew',
  place: 'Hall',
  timeZone: 'Europe/Lisbon',
  startsOn: '2026-03-02',
  endsOn: '2026-03-27',
  ...more,
});

beforeAll(async () => {
  world = await World.make();
  lead = await world.person('lead');
  api = await world.signedIn(lead);
});
afterAll(() => world.close());

describe('a class', () => {
  it('is made, filled and read back', async () => {
    const body = classBody();
    expect((await api.post('/classes', body)).status).toBe(200);
    const path = `/classes/${body.id}`;
    const member = { role: 'trainee', personId: v7(), newPerson: { name: 'Ada Brookmere' } };
    expect((await api.post(`${path}/members`, member)).body).toMatchObject({
      name: 'Ada Brookmere',
      role: 'trainee',
    });
    await api.post(`${path}/things`, { id: v7(), kind: 'bench', label: 'Bench 1' });
    const versionId = (await world.db('method_versions').pluck('id'))[0];
    await api.put(`${path}/methods`, { versionId, inUse: true });
    const detail = (await api.get(path)).body as ClassDetail;
    expect(detail.trainees.map((t) => t.name)).toEqual(['Ada Brookmere']);
    expect(detail.instructors.map((t) => t.id)).toEqual([lead.id]);
    expect(detail.things.map((t) => t.label)).toEqual(['Bench 1']);
    expect(detail.methods.filter((m) => m.inUse)).toMatchObject([{ versionId, version: SHEET.version }]);
    expect(detail.policy).toEqual(DEFAULT_POLICY);
  });

  it.each([
    [{ timeZone: 'Mars/Olympus' }, 'class.bad_time_zone'],
    [{ endsOn: '2026-03-01' }, 'class.dates_crossed'],
    [{ name: '  ' }, 'request.bad_field'],
    [{ startsOn: '2026-02-30' }, 'request.bad_field'],
  ])('with %j is refused', async (more, code) => {
    expect((await api.post('/classes', classBody(more))).problem.code).toBe(code);
  });

  it('takes nobody twice and nobody in the wrong role', async () => {
    const body = classBody();
    await api.post('/classes', body);
    const trainee = await world.person('trainee');
    const path = `/classes/${body.id}/members`;
    const member = { role: 'trainee', personId: trainee.id, newPerson: null };
    expect((await api.post(path, member)).status).toBe(200);
    expect((await api.post(path, member)).problem.code).toBe('class.already_member');
    expect((await api.post(path, { ...member, role: 'instructor', personId: trainee.id })).problem.code).toBe(
      'class.wrong_role',
    );
    expect((await api.post(path, { ...member, personId: v7() })).problem.code).toBe('not_found.person');
  });

  it('has every label once, and retires what is used up', async () => {
    const body = classBody();
    await api.post('/classes', body);
    const path = `/classes/${body.id}/things`;
    const id = v7();
    await api.post(path, { id, kind: 'film', label: 'Film 3 um' });
    expect((await api.post(path, { id: v7(), kind: 'film', label: 'Film 3 um' })).problem.code).toBe(
      'thing.label_taken',
    );
    expect((await api.put(`${path}/${id}`, { retired: true })).body).toMatchObject({ retired: true });
    expect((await api.put(`${path}/${v7()}`, { retired: true })).problem.code).toBe('not_found.thing');
  });

  it('refuses a policy that contradicts itself and keeps the old one', async () => {
    const body = classBody();
    await api.post('/classes', body);
    const path = `/classes/${body.id}`;
    const reply = await api.put(`${path}/policy`, { ...DEFAULT_POLICY, window: 1 });
    expect([reply.status, reply.problem.code]).toEqual([422, 'policy.window_too_short']);
    expect(((await api.get(path)).body as ClassDetail).policy).toEqual(DEFAULT_POLICY);
    await api.put(`${path}/policy`, { ...DEFAULT_POLICY, passesInARow: 5 });
    expect(((await api.get(path)).body as ClassDetail).policy.passesInARow).toBe(5);
  });
});

describe('migrations', () => {
  it('run from empty, twice, and from four processes at once', async () => {
    const { url, drop } = await freshDatabase('template0');
    const four = Array.from({ length: 4 }, () => openDatabase(url, 2));
    try {
      const runs = await Promise.all(four.map((db) => migrate(db)));
      expect(runs.map((r) => r.length).sort()).toEqual([0, 0, 0, MIGRATIONS.length]);
      expect(await migrate(four[0]!)).toEqual([]);
    } finally {
      await Promise.all(four.map((db) => db.destroy()));
      await drop();
    }
  });
});
