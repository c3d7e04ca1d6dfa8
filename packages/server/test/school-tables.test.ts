import { DEFAULT_POLICY, FACE_CRITERIA, SKILLS } from '@clear-mark/core';
import type { Person, Plan, SchoolTable, SchoolTableContent } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Caller, World } from './harness.ts';

let world: World;
let asLead: Caller;
let asTeacher: Caller;
let teacher: Person;
let trainee: Person;

beforeAll(async () => {
  world = await World.make();
  const lead = await world.person('lead', 'Ruta Almqvist');
  [teacher, trainee] = await Promise.all([world.person('instructor'), world.person('trainee')]);
  [asLead, asTeacher] = await Promise.all([world.signedIn(lead), world.signedIn(teacher)]);
});
afterAll(() => world.close());

const SOURCE = { kind: 'house', fromMemory: false, words: 'our course book, page 12' } as const;
const db = (value: number) => ({ db: value, source: SOURCE });
const LOSS: SchoolTableContent = {
  kind: 'loss',
  title: 'Campus links',
  content: {
    fiber: 'single_mode',
    fiberDbPerKm: { 1310: db(0.4), 1550: db(0.3) },
    connectionDb: db(0.5),
    spliceDb: db(0.1),
  },
};
const drill = (more: object = {}): SchoolTableContent => ({
  kind: 'drill',
  title: 'Twenty strips',
  content: {
    title: 'Twenty strips',
    how: 'Twenty ends, each measured before the next.',
    skill: 'strip',
    criterion: null,
    minutesEach: 2,
    consumables: [{ name: 'practice cord', each: 0.3, unit: 'm' }],
    source: SOURCE,
    ...more,
  },
});
const policy = (more: object = {}): SchoolTableContent => ({
  kind: 'policy',
  title: 'Certificate course',
  content: { policy: { ...DEFAULT_POLICY, passesInARow: 5, ...more }, source: SOURCE },
});
const [SHIPPED] = FACE_CRITERIA;
const zones = (more: object = {}): SchoolTableContent => ({
  kind: 'zones',
  title: 'Our single-mode faces',
  content: { base: SHIPPED!.id, zones: SHIPPED!.zones, source: SOURCE, ...more },
});
const save = (id: string, table: unknown, from = 0, retired = false, as = asLead) =>
  as.put(`/school-tables/${id}`, { from, retired, table });
const all = async (): Promise<SchoolTable[]> => (await asTeacher.get('/school-tables')).body;

describe('a table of the school', () => {
  it.each([LOSS, drill(), policy(), zones()])(
    'is kept, read by instructors, and edited by a lead alone: $kind',
    async (table) => {
      const id = v7();
      const reply = await save(id, table);
      expect(reply.problem.detail).toBeUndefined();
      expect(reply.body).toMatchObject({
        ...table,
        id,
        version: 1,
        retired: false,
        editedBy: 'Ruta Almqvist',
      });
      expect((await all()).find((t) => t.id === id)).toEqual(reply.body);
      expect((await save(v7(), table, 0, false, asTeacher)).status).toBe(403);
    },
  );

  it('has versions: each save is the next, the earlier ones stay, and nothing can be changed', async () => {
    const id = v7();
    await save(id, LOSS);
    const second = { ...LOSS, title: 'Campus links, new cords' };
    expect((await save(id, second, 1)).body).toMatchObject({ version: 2 });
    const versions: SchoolTable[] = (await asTeacher.get(`/school-tables/${id}/versions`)).body;
    expect(versions.map((v) => [v.version, v.title])).toEqual([
      [2, second.title],
      [1, LOSS.title],
    ]);
    await expect(world.owner('school_tables').where({ id }).update({ title: 'x' })).rejects.toThrow();
    await expect(world.db('school_tables').where({ id }).delete()).rejects.toThrow();
  });

  it('sent again is no harm; of two who edit at once the second is told', async () => {
    const id = v7();
    await save(id, LOSS);
    const mine = { ...LOSS, title: 'Mine' };
    expect((await save(id, mine, 1)).body).toMatchObject({ version: 2 });
    expect((await save(id, mine, 1)).body).toMatchObject({ version: 2 });
    const theirs = await save(id, { ...LOSS, title: 'Theirs' }, 1);
    expect([theirs.status, theirs.problem.code]).toEqual([409, 'school_table.moved']);
    const replies = await Promise.all(['a', 'b', 'c', 'd'].map((title) => save(id, { ...LOSS, title }, 2)));
    expect(replies.map((r) => r.status).sort()).toEqual([200, 409, 409, 409]);
    expect((await asLead.get(`/school-tables/${id}/versions`)).body).toHaveLength(3);
  });

  it('is taken out of use and back, and stands last meanwhile', async () => {
    const id = v7();
    await save(id, { ...LOSS, title: '0 first' });
    await save(id, { ...LOSS, title: '0 first' }, 1, true);
    expect((await all()).at(-1)).toMatchObject({ id, retired: true, version: 2 });
    await save(id, { ...LOSS, title: '0 first' }, 2, false);
    expect((await all())[0]).toMatchObject({ id, retired: false, version: 3 });
  });

  it.each([
    [
      'a wavelength that such fiber is not tested at',
      { ...LOSS, content: { ...LOSS.content, fiberDbPerKm: { 850: db(3), 1550: db(0.3) } } },
      'request.bad_field',
    ],
    [
      'a negative allowance',
      { ...LOSS, content: { ...LOSS.content, spliceDb: db(-0.1) } },
      'request.bad_field',
    ],
    [
      'a limit without its source',
      { ...LOSS, content: { ...LOSS.content, spliceDb: { db: 0.1 } } },
      'request.bad_field',
    ],
    ['a drill of no skill', drill({ skill: 'juggling' }), 'request.bad_field'],
    ['a drill of no time', drill({ minutesEach: 0 }), 'request.bad_field'],
    [
      'a policy that nobody can reach',
      policy({ competentBy: 'share', sharePasses: 12, shareOf: 10 }),
      'policy.share_crossed',
    ],
    ['a policy out of range', policy({ window: 0 }), 'policy.out_of_range'],
  ])('%s is refused, and nothing is kept', async (_, table, code) => {
    const id = v7();
    const reply = await save(id, table);
    expect([reply.status, reply.problem.code]).toEqual([422, code]);
    expect((await all()).some((t) => t.id === id)).toBe(false);
  });
  it('of another kind, or one that was never there, is refused', async () => {
    const id = v7();
    await save(id, LOSS);
    expect((await save(id, drill(), 1)).problem.code).toBe('school_table.other_kind');
    expect((await save(v7(), LOSS, 3)).problem.code).toBe('not_found.school_table');
    expect((await asTeacher.get(`/school-tables/${v7()}/versions`)).problem.code).toBe(
      'not_found.school_table',
    );
  });
});

it('a drill of the school stands in the plan, until it is out of use', async () => {
  const classroom = await world.classOf([teacher], [trainee]);
  const id = v7();
  await save(id, drill({ skill: SKILLS[1], title: 'Our cleaves' }));
  const plan = async (): Promise<Plan> => (await asTeacher.get(`/classes/${classroom.id}/plan`)).body;
  expect((await plan()).drills.map((d) => d.title)).toContain('Our cleaves');
  await save(id, drill({ skill: SKILLS[1], title: 'Our cleaves' }), 1, true);
  expect((await plan()).drills.map((d) => d.title)).not.toContain('Our cleaves');
});
