import type {
  AttemptDocument,
  CatchUp,
  ClassDetail,
  LinkTestOfClass,
  Person,
  Thing,
} from '@clear-mark/contract';
import { EXAMPLE_LINKS } from '@clear-mark/methods';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { attemptBody, batch, type Caller, seen, type TestClass, wholePiece, World } from './harness.ts';

let world: World;
let teacher: Person;
let api: Caller;
let outsider: Caller;
let classroom: TestClass;
let cordId: string;

beforeAll(async () => {
  world = await World.make();
  teacher = await world.person('instructor');
  classroom = await world.classOf([teacher], [await world.person('trainee')]);
  api = await world.signedIn(teacher);
  outsider = await world.signedIn(await world.person('instructor'));
  cordId = v7();
  const cord = { id: cordId, kind: 'cord', label: 'Launch cord 2' };
  expect((await api.post(`/classes/${classroom.id}/things`, cord)).status).toBe(200);
});
afterAll(() => world.close());

const check = (more: object = {}) => ({
  id: v7(),
  checkedOn: '2026-03-02',
  dueOn: '2026-03-02',
  lossDb: '0.18',
  limitDb: '0.5',
  ...more,
});
const checks = (thingId: string): string => `/classes/${classroom.id}/things/${thingId}/checks`;
const thing = async (id: string): Promise<Thing> => {
  const detail: ClassDetail = (await api.get(`/classes/${classroom.id}`)).body;
  return detail.things.find((t) => t.id === id)!;
};

describe('dated checks of a test cord', () => {
  it('the newest stands beside the cord, the earlier ones stay', async () => {
    expect((await thing(cordId)).check).toBeUndefined();
    expect((await api.post(checks(cordId), check())).status).toBe(200);
    const second = check({ checkedOn: '2026-03-03', dueOn: '2026-03-04', lossDb: '0,21' });
    const reply = await api.post(checks(cordId), second);
    expect(reply.body).toMatchObject({ id: cordId, check: { lossDb: '0,21', by: teacher.name } });
    expect((await thing(cordId)).check).toMatchObject({ checkedOn: '2026-03-03', dueOn: '2026-03-04' });
    expect(await world.db('cord_checks').where({ thing_id: cordId })).toHaveLength(2);
  });

  it('sent again it is there once', async () => {
    const body = check();
    await api.post(checks(cordId), body);
    expect((await api.post(checks(cordId), body)).status).toBe(200);
    expect(await world.db('cord_checks').where({ id: body.id })).toHaveLength(1);
  });

  it.each([
    ['a day that ends before it begins', { dueOn: '2026-03-01' }, 'cord.days_crossed'],
    ['no number', { lossDb: '0.1.2' }, 'request.bad_field'],
    ['a slip of the decimal point', { lossDb: '18' }, 'cord.bad_loss'],
    ['a limit below nothing', { limitDb: '-0.5' }, 'cord.bad_loss'],
  ])('%s is refused, and nothing is kept', async (_, more, code) => {
    const body = check(more);
    expect((await api.post(checks(cordId), body)).problem.code).toBe(code);
    expect(await world.db('cord_checks').where({ id: body.id })).toEqual([]);
  });

  it('only a cord has checks, and only the class’s own instructors make them', async () => {
    const instrument = classroom.things['instrument']!;
    expect((await api.post(checks(instrument), check())).problem.code).toBe('cord.wrong_thing');
    expect((await api.post(checks(v7()), check())).problem.code).toBe('not_found.thing');
    expect((await outsider.post(checks(cordId), check())).problem.code).toBe('auth.not_in_class');
  });

  it('goes with every piece that the cord is used for, also to the trainee’s own bench', async () => {
    const trainee = classroom.trainees[0]!;
    const body = attemptBody(classroom, trainee, { thingIds: [cordId] });
    expect((await api.post(`/classes/${classroom.id}/attempts`, body)).status).toBe(200);
    const own = await world.signedIn(trainee);
    await api.post(checks(cordId), check({ lossDb: '0.33' }));
    for (const caller of [api, own]) {
      const document: AttemptDocument = (await caller.get(`/attempts/${body.id}`)).body;
      expect(document.attempt.things).toMatchObject([{ id: cordId, check: { lossDb: '0.33' } }]);
    }
    const { attempts }: CatchUp = (
      await api.post(`/classes/${classroom.id}/catch-up`, { known: {}, afresh: true })
    ).body;
    expect(attempts.find((a) => a.id === body.id)!.things).toMatchObject([{ check: { lossDb: '0.33' } }]);
  });

  it('is never changed afterwards', async () => {
    await expect(world.db('cord_checks').update({ loss_db: '0' })).rejects.toThrow('permission denied');
  });
});

/** A signed piece on a link, its loss as given; gives the attempt’s id. */
async function tested(linkId: string, lossDb: string, reference: object = {}): Promise<string> {
  const body = { ...attemptBody(classroom), linkId };
  expect((await api.post(`/classes/${classroom.id}/attempts`, body)).status).toBe(200);
  const document: AttemptDocument = (await api.get(`/attempts/${body.id}`)).body;
  const loss = document.sheet.steps.flatMap((s) => s.criteria).find((c) => c.kind === 'loss')!;
  const ids: Record<number, string> = {};
  for (const wavelengthNm of [1310, 1550]) {
    ids[wavelengthNm] = v7();
    const made = await api.post(`/classes/${classroom.id}/references`, {
      id: ids[wavelengthNm],
      instrumentId: classroom.things['instrument'],
      method: loss.kind === 'loss' ? loss.link.referenceMethod : '',
      wavelengthNm,
      valueDbm: '-5.00',
      setAt: new Date().toISOString(),
      showsNegative: false,
      ...reference,
    });
    expect(made.status).toBe(200);
  }
  const entries = wholePiece(body.id, teacher, ids, {}, lossDb);
  await api.post('/entries', batch(entries));
  const signed = await api.post(`/attempts/${body.id}/sign`, {
    ...seen(entries.map((e) => e.id)),
    reason: null,
    asVoid: false,
  });
  expect(signed.status).toBe(200);
  return body.id;
}

describe('the tests of a link', () => {
  let linkId: string;
  beforeAll(async () => {
    linkId = v7();
    const example = EXAMPLE_LINKS.find((l) => l.plan.fiberClass === 'OS2' && l.plan.fibers === 1)!;
    const body = { ...example, label: 'Rack to rack', retired: false };
    expect((await api.put(`/classes/${classroom.id}/links/${linkId}`, body)).status).toBe(200);
  });
  const tests = async (): Promise<LinkTestOfClass[]> =>
    (await api.get(`/classes/${classroom.id}/links/${linkId}/tests`)).body;

  it('none yet is an empty list', async () => expect(await tests()).toEqual([]));

  it('the newest first, with what each read and how sure it is', async () => {
    const before = await tested(linkId, '0.92');
    const after = await tested(linkId, '0.41');
    const found = await tests();
    expect(found.map((t) => t.attemptId)).toEqual([after, before]);
    expect(found[0]!.readings.map((r) => [r.wavelengthNm, r.lossDb])).toEqual([
      [1310, 0.41],
      [1550, 0.41],
    ]);
    expect(found[0]!.uncertaintyDb).toBeGreaterThan(0.1);
  });

  it('are of their class alone', async () => {
    const reply = await outsider.get(`/classes/${classroom.id}/links/${linkId}/tests`);
    expect(reply.problem.code).toBe('auth.not_in_class');
  });

  it('a reference keeps its leg and its light, and the record names them', async () => {
    const attemptId = await tested(linkId, '0.4', { leg: 3, light: 'transceiver' });
    const document: AttemptDocument = (await api.get(`/attempts/${attemptId}`)).body;
    const kept = document.references.filter((r) => r.leg === 3);
    expect(kept.map((r) => r.light)).toEqual(['transceiver', 'transceiver']);
    const [row] = await world.db('signed_revisions').where({ attempt_id: attemptId });
    expect(row.evidence.references[0]).toMatchObject({ leg: 3, light: 'transceiver' });
  });
});
