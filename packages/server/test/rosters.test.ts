import type { ClassDetail, Person } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Caller, type TestClass, World } from './harness.ts';

let world: World;
let teacher: Person;
let api: Caller;
let room: TestClass;
beforeAll(async () => {
  world = await World.make();
  teacher = await world.person('instructor');
  api = await world.signedIn(teacher);
});
afterAll(() => world.close());

const fresh = (name: string, group = '') => ({ personId: v7(), newPerson: { name }, group });
const detailOf = async (id: string): Promise<ClassDetail> => (await api.get(`/classes/${id}`)).body;
const add = (people: readonly object[], as = api) => as.post(`/classes/${room.id}/roster`, { people });

describe('a roster', () => {
  it('is added whole: new people, and those of the school, with their groups', async () => {
    const there = await world.person('trainee', 'Ysolde Brack');
    room = await world.classOf([teacher], []);
    const reply = await add([fresh('Torvin Hale', 'A'), { personId: there.id, newPerson: null, group: 'B' }]);
    expect(reply.body).toEqual({ added: 2 });
    expect((await detailOf(room.id)).trainees.map((t) => [t.name, t.group])).toEqual([
      ['Torvin Hale', 'A'],
      ['Ysolde Brack', 'B'],
    ]);
  });
  it('or not at all: one who is in it already leaves everything as it was', async () => {
    room = await world.classOf([teacher], [await world.person('trainee', 'Ysolde Brack')]);
    const [ysolde] = (await detailOf(room.id)).trainees;
    const before = await detailOf(room.id);
    const reply = await add([fresh('Torvin Hale'), { personId: ysolde!.id, newPerson: null, group: '' }]);
    expect(reply.problem).toMatchObject({ code: 'class.already_member', params: { name: 'Ysolde Brack' } });
    expect(await detailOf(room.id)).toEqual(before);
  });
  it.each([
    [
      'an instructor',
      async () => ({ personId: (await world.person('instructor')).id, newPerson: null, group: '' }),
      'class.wrong_role',
    ],
    ['nobody', () => ({ personId: v7(), newPerson: null, group: '' }), 'not_found.person'],
    ['somebody without a name', () => fresh('  '), 'request.bad_field'],
    ['a group of forty letters', () => fresh('Torvin Hale', 'g'.repeat(40)), 'request.bad_field'],
  ])('with %s is refused whole', async (_, person, code) => {
    room = await world.classOf([teacher], []);
    expect((await add([fresh('Bela Okarin'), await person()])).problem.code).toBe(code);
    expect((await detailOf(room.id)).trainees).toEqual([]);
  });
  it('is of at most 500 people, and for instructors of the class', async () => {
    room = await world.classOf([teacher], []);
    expect((await add(Array.from({ length: 501 }, (_, i) => fresh(`Trainee ${i}`)))).problem.code).toBe(
      'request.bad_field',
    );
    expect((await add(Array.from({ length: 500 }, (_, i) => fresh(`Trainee ${i}`)))).body).toEqual({
      added: 500,
    });
    const other = await world.signedIn(await world.person('instructor'));
    expect((await add([fresh('Torvin Hale')], other)).problem.code).toBe('auth.not_in_class');
  });
});

describe('a class like an earlier one', () => {
  const body = (more: object = {}) => ({
    id: v7(),
    name: 'Autumn crew',
    startsOn: '2027-01-11',
    endsOn: '2027-02-05',
    parts: ['methods', 'equipment', 'policy', 'people'],
    ...more,
  });
  const copy = (given: object) => api.post(`/classes/${room.id}/copies`, given);
  beforeAll(async () => {
    room = await world.classOf([teacher], [await world.person('trainee', 'Torvin Hale')], 'Asia/Tokyo');
    const { policy, trainees } = await detailOf(room.id);
    await api.put(`/classes/${room.id}/policy`, { ...policy, passesInARow: 7 });
    await api.put(`/classes/${room.id}/trainees/${trainees[0]!.id}/group`, { group: 'A' });
    await api.put(`/classes/${room.id}/things/${room.things['cleaver']!}`, { retired: true });
  });
  it('takes place, zone, methods, equipment in use, policy and trainees; its records begin empty', async () => {
    const given = body();
    expect((await copy(given)).body).toMatchObject({
      name: 'Autumn crew',
      timeZone: 'Asia/Tokyo',
      place: 'Hall',
    });
    const made = await detailOf(given.id);
    expect(made.policy.passesInARow).toBe(7);
    expect(made.methods.filter((m) => m.inUse).map((m) => m.versionId)).toEqual([room.versionId]);
    expect(made.things.map((t) => t.label).sort()).toEqual(['bench 1', 'instrument 1']);
    const before = await detailOf(room.id);
    expect(made.things.every((t) => before.things.every((b) => b.id !== t.id))).toBe(true);
    expect(made.trainees.map((t) => t.name)).toEqual(['Torvin Hale']);
    expect(made.trainees.map((t) => t.group)).toEqual(before.trainees.map((t) => t.group));
    expect(made.instructors.map((i) => i.id)).toEqual([teacher.id]);
    expect(((await api.get(`/classes/${given.id}/attempts`)).body as { total: number }).total).toBe(0);
  });
  it('takes only what is asked for', async () => {
    const given = body({ parts: [] });
    await copy(given);
    const made = await detailOf(given.id);
    expect([made.things, made.trainees, made.methods.filter((m) => m.inUse)]).toEqual([[], [], []]);
    expect(made.policy.passesInARow).not.toBe(7);
  });
  it('sent again it is one class; days that cross are refused; of another’s class none is made', async () => {
    const given = body();
    expect((await copy(given)).status).toBe(200);
    expect((await copy(given)).status).toBe(200);
    expect((await copy({ ...given, name: 'Another' })).problem.code).toBe('request.already_there');
    expect((await copy(body({ endsOn: '2026-01-01' }))).problem.code).toBe('class.dates_crossed');
    const other = await world.signedIn(await world.person('instructor'));
    expect((await other.post(`/classes/${room.id}/copies`, body())).problem.code).toBe('auth.not_in_class');
  });
});

describe('a list of equipment', () => {
  const things = (...labels: string[]) => ({
    things: labels.map((label) => ({ id: v7(), kind: 'scope', label })),
  });
  it('is taken whole, or not at all where one of it is there or comes twice', async () => {
    room = await world.classOf([teacher], []);
    const send = (body: object, as = api) => as.post(`/classes/${room.id}/equipment`, body);
    const labels = async () =>
      (await detailOf(room.id)).things.filter((t) => t.kind === 'scope').map((t) => t.label);
    expect((await send(things('Scope 1', 'Scope 2'))).body).toEqual({ added: 2 });
    for (const body of [things('Scope 3', 'Scope 2'), things('Scope 3', 'Scope 3')])
      expect((await send(body)).problem.code).toBe('thing.label_taken');
    expect((await send(things(...Array.from({ length: 501 }, (_, i) => `S ${i}`)))).problem.code).toBe(
      'request.bad_field',
    );
    expect(await labels()).toEqual(['Scope 1', 'Scope 2']);
    const other = await world.signedIn(await world.person('instructor'));
    expect((await send(things('Scope 4'), other)).problem.code).toBe('auth.not_in_class');
  });
});
