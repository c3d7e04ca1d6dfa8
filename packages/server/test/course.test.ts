import {
  type ClassDetail,
  type CourseMethod,
  type DayMethod,
  NO_SETTINGS,
  type Stock,
} from '@clear-mark/contract';
import { PASS_MARKS } from '@clear-mark/core';
import { SCENARIO } from '@clear-mark/demo';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DEMO_NOW, demoTemplate } from './demo-template.ts';
import { type Caller, World } from './harness.ts';

const now = DEMO_NOW;
let world: World;
let api: Caller;
let detail: ClassDetail;
const at = (path: string): string => `/classes/${detail.id}${path}`;
const CLEAVE = 'clear-mark/bench-cleave';

beforeAll(async () => {
  world = await World.make(() => now, await demoTemplate());
  api = await world.signedIn(await world.person('lead'));
  const [id] = await world.db('classes').where({ name: SCENARIO.className }).pluck('id');
  detail = (await api.get(`/classes/${id}`)).body;
});
afterAll(() => world.close());

const course = async (): Promise<CourseMethod[]> => (await api.get(at('/course'))).body;
const cleaving = async (): Promise<CourseMethod> => (await course()).find((m) => m.methodId === CLEAVE)!;
const pad = { label: 'Heat pad (blue)', kind: 'supply', unit: 'pads', pack: 10, openedDays: null };

describe('the course of a class', () => {
  it('says how often pieces of each method in use passed, of the school and of each trainee', async () => {
    const found = await cleaving();
    expect(found.passed + found.failed).toBeGreaterThan(5);
    expect(found.passed).toBeGreaterThan(0);
    const [n] = await world
      .db('outcome_skills')
      .where({ class_id: detail.id, method_id: CLEAVE, skill: 'whole' })
      .whereIn('mark', PASS_MARKS)
      .count();
    const made = Object.values(found.made).reduce((sum, k) => sum + k, 0);
    expect(made).toBe(Number(n!['count']));
    expect(found).toMatchObject({ pieces: null, isOwnWork: false, work: { tools: { cleaver: 1 } } });
    const inUse = detail.methods.filter((m) => m.inUse).map((m) => m.methodId);
    expect((await course()).map((m) => m.methodId).sort()).toEqual([...new Set(inUse)].sort());
  });

  it('keeps the good pieces that each trainee makes, and an item of its own that they take', async () => {
    const made = await api.post(at('/stock-items'), pad);
    expect(made.body).toEqual({ ...pad, id: 'Heat_pad_blue' });
    // Sent again it is the same item; with other figures, or under the name of a shipped one, it is refused.
    expect((await api.post(at('/stock-items'), pad)).status).toBe(200);
    const more = await api.post(at('/stock-items'), { ...pad, pack: 11 });
    expect(more.body).toMatchObject({ code: 'stock.item_there' });
    const shipped = await api.post(at('/stock-items'), { ...pad, label: 'lint-free WIPE' });
    expect(shipped.body).toMatchObject({ code: 'stock.item_there' });

    const { steps } = await cleaving();
    const work = {
      items: { Heat_pad_blue: 2 },
      tools: { cleaver: 3 },
      cure: { step: steps[0]!.id, minutes: 40, coolMinutes: 2, way: 'flat' },
      glueStep: null,
    };
    const set = await api.put(at('/course'), { methodId: CLEAVE, pieces: 12, work });
    expect(set.status).toBe(200);
    expect(await cleaving()).toMatchObject({ pieces: 12, isOwnWork: true, work });
    const day = ((await api.get(at('/day-methods'))).body as DayMethod[]).find((m) => m.methodId === CLEAVE)!;
    expect(day.needs).toEqual([{ item: 'Heat_pad_blue', uses: 2 }]);
    expect(day.steps.find((s) => s.kind === 'cure')).toMatchObject({ minutes: 40, way: 'flat' });
  });

  it('a piece takes what the class said, from a lot of its own item', async () => {
    const lotId = v7();
    await api.post(at('/things'), { id: lotId, kind: 'supply', label: 'Heat pad, box 1' });
    const settings = { ...NO_SETTINGS, item: 'Heat_pad_blue', uses: 10 };
    expect((await api.put(at(`/things/${lotId}/settings`), settings)).status).toBe(200);
    const cleaver = detail.things.find((t) => t.kind === 'cleaver')!.id;
    const stock = async (id: string) =>
      ((await api.get(at('/stock'))).body as Stock).things.find((t) => t.id === id)!;
    const before = (await stock(cleaver)).used;
    const started = await api.post(at('/attempts'), {
      id: v7(),
      traineeId: detail.trainees[0]!.id,
      methodVersionId: detail.methods.find((m) => m.methodId === CLEAVE)!.versionId,
      pieceId: v7(),
      pieceLabel: 'Padded',
      thingIds: [cleaver],
      startedAt: now.toISOString(),
      deviceId: v7(),
      sentAt: now.toISOString(),
      linkId: null,
    });
    expect(started.status).toBe(200);
    expect((await stock(lotId)).left).toBe(8);
    expect((await stock(cleaver)).used).toBe(before + 3);
    const named = ((await api.get(at('/stock'))).body as Stock).items.at(-1);
    expect(named).toEqual({ ...pad, id: 'Heat_pad_blue' });
  });

  it('goes with the methods into a class that is made after it', async () => {
    const id = v7();
    const copied = await api.post(at('/copies'), {
      id,
      name: 'The next crew',
      startsOn: '2027-01-04',
      endsOn: '2027-02-05',
      parts: ['methods'],
    });
    expect(copied.status).toBe(200);
    const there = ((await api.get(`/classes/${id}/course`)).body as CourseMethod[]).find(
      (m) => m.methodId === CLEAVE,
    )!;
    expect(there).toMatchObject({ pieces: 12, isOwnWork: true, made: {} });
    expect(((await api.get(`/classes/${id}/stock`)).body as Stock).items.at(-1)!.id).toBe('Heat_pad_blue');
  });

  it('what cannot be is refused and changes nothing', async () => {
    const { work } = await cleaving();
    const put = (body: object) =>
      api.put(at('/course'), { methodId: CLEAVE, pieces: 3, work: null, ...body });
    expect((await put({ methodId: 'clear-mark/none' })).body).toMatchObject({ code: 'not_found.method' });
    expect((await put({ work: { ...work, items: { glitter: 1 } } })).body).toMatchObject({
      code: 'stock.no_such_item',
    });
    expect((await put({ work: { ...work, glueStep: 'no step' } })).body).toMatchObject({
      code: 'course.no_such_step',
    });
    expect((await put({ pieces: -1 })).body).toMatchObject({ code: 'request.bad_field' });
    expect(await cleaving()).toMatchObject({ pieces: 12, isOwnWork: true });
    expect((await put({})).status).toBe(200);
    expect(await cleaving()).toMatchObject({ pieces: 3, isOwnWork: false, work: { tools: { cleaver: 1 } } });
    const trainee = await world.signedIn(await world.person('trainee'));
    expect((await trainee.get(at('/course'))).status).toBe(403);
  });
});
