import { searchPlan, dayWanted, instantOf } from '@clear-mark/core';
import type {
  ClassDetail,
  DayMethod,
  DayPlanBody,
  OwnDay,
  PlannedDay,
  Stock,
  StockThing,
} from '@clear-mark/contract';
import { SCENARIO, SPLICING } from '@clear-mark/demo';
import { rngFrom } from '@clear-mark/sim';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DEMO_NOW, demoTemplate } from './demo-template.ts';
import { type Caller, World } from './harness.ts';

let now = DEMO_NOW;
let world: World;
let api: Caller;
let detail: ClassDetail;
let methods: DayMethod[];
let ovens: StockThing[];
const DAY = DEMO_NOW.toISOString().slice(0, 10);
const at = (path: string): string => `/classes/${detail.id}${path}`;
const dayPath = (day = DAY): string => at(`/days/${day}`);
const read = async (day = DAY): Promise<PlannedDay> => (await api.get(dayPath(day))).body;

beforeAll(async () => {
  world = await World.make(() => now, await demoTemplate());
  api = await world.signedIn(await world.person('lead'));
  const [id] = await world.db('classes').where({ name: SCENARIO.className }).pluck('id');
  detail = (await api.get(`/classes/${id}`)).body;
  methods = (await api.get(at('/day-methods'))).body;
  ovens = ((await api.get(at('/stock'))).body as Stock).things.filter((t) => t.kind === 'oven');
});
afterAll(() => world.close());

const idsOf = (kind: string): string[] => detail.things.filter((t) => t.kind === kind).map((t) => t.id);
const method = (name: string): DayMethod => methods.find((m) => m.methodId === `clear-mark/${name}`)!;

/** Two epoxy connectors and a loss test for each of four trainees, planned. */
function planned(day = DAY, version = 0): DayPlanBody {
  const names = ['epoxy-heat', 'epoxy-heat', 'loss-one-cord'];
  const body: DayPlanBody = {
    hours: [
      { from: `${day}T08:00:00.000Z`, to: `${day}T12:00:00.000Z` },
      { from: `${day}T13:00:00.000Z`, to: `${day}T17:00:00.000Z` },
    ],
    stations: { scope: idsOf('scope'), instrument: idsOf('instrument').slice(0, 3) },
    ovens: ovens.map(({ id, settings: s }) => ({
      id,
      places: { hanging: s.hanging!, flat: s.flat! },
      trays: 1,
      rest: s.restMinutes!,
    })),
    instructors: detail.instructors.map((p) => p.id),
    benches: {},
    pieces: detail.trainees.slice(0, 4).flatMap((t) =>
      names.map((name) => ({
        id: v7(),
        traineeId: t.id,
        methodVersionId: method(name).versionId,
        steps: method(name).steps,
      })),
    ),
    away: [],
    locks: [],
    plan: null,
    version,
  };
  const plan = searchPlan(dayWanted(body), { tries: 20, random: rngFrom(1) });
  return { ...body, plan: structuredClone(plan) as unknown as DayPlanBody['plan'] };
}

async function readUntil(stream: AsyncIterable<Uint8Array>, wanted: string): Promise<string> {
  const decoder = new TextDecoder();
  let text = '';
  for await (const chunk of stream) {
    text += decoder.decode(chunk, { stream: true });
    if (text.includes(wanted)) return text;
  }
  return text;
}

describe('methods as a day is planned with them', () => {
  it('have the oven as a step of its own, stations that are there, and what decides watched', () => {
    const { steps, glueStep, needs } = method('epoxy-heat');
    const oven = steps.findIndex((s) => s.kind === 'cure');
    expect(steps[oven]).toMatchObject({ minutes: 25, cool: 3, way: 'hanging' });
    expect(glueStep).toBeLessThan(oven);
    expect(steps.some((s) => s.kind === 'work' && s.station === 'scope')).toBe(true);
    expect(steps.some((s) => s.kind === 'work' && s.watched > 0)).toBe(true);
    expect(needs).toContainEqual({ item: 'film-finish', uses: 1 });
  });
  it('say how long pieces took, of each trainee with three and of the class with five', () => {
    const timed = methods.filter((m) => m.class !== null);
    expect(timed.length).toBeGreaterThan(0);
    for (const m of timed) {
      expect(m.class!.n).toBeGreaterThanOrEqual(5);
      expect(m.class!.from).toBeLessThanOrEqual(m.class!.median);
      expect(m.class!.median).toBeLessThanOrEqual(m.class!.to);
      for (const t of Object.values(m.trainees)) expect(t.n).toBeGreaterThanOrEqual(3);
    }
  });
});

describe('a planned day', () => {
  it('is kept by version: of two who save the second is told, and nothing of it is kept', async () => {
    expect(await read()).toMatchObject({ saved: null, loads: [], clashes: [] });
    const body = planned();
    expect((await api.put(dayPath(), body)).body).toEqual({ version: 1 });
    expect((await api.put(dayPath(), body)).body).toMatchObject({ code: 'day.changed_meanwhile' });
    expect((await api.put(dayPath(), { ...body, version: 1, locks: [] })).body).toEqual({ version: 2 });
    const { saved } = await read();
    expect(saved).toMatchObject({ version: 2, plan: body.plan, pieces: body.pieces });
  });

  it('is rung to those who follow the class', async () => {
    const control = new AbortController();
    const { body } = await api.stream(at('/events'), {}, control.signal);
    const heard = readUntil(body as unknown as AsyncIterable<Uint8Array>, 'data: day\n');
    expect((await api.put(dayPath(), planned(DAY, 2))).status).toBe(200);
    expect(await heard).toContain('data: hello');
    control.abort();
  });

  it('that is none is refused with what is wrong, and nothing is changed', async () => {
    const before = await read();
    const good = planned(DAY, before.saved!.version);
    const put = (body: unknown, day = DAY) => api.put(dayPath(day), body as object).then((r) => r.body);
    expect(
      await put({ ...good, hours: [{ from: good.hours[0]!.to, to: good.hours[0]!.from }] }),
    ).toMatchObject({
      code: 'request.bad_field',
      params: { field: 'hours', problem: expect.stringContaining('end after they begin') },
    });
    expect(await put({ ...good, plan: { ...good.plan!, work: good.plan!.work.slice(1) } })).toMatchObject({
      code: 'day.not_whole',
    });
    expect(await put({ ...good, plan: { ...good.plan!, endsAt: 1 } })).toMatchObject({
      code: 'day.not_whole',
    });
    const far = '2031-01-01';
    expect(await put({ ...good, version: 0 }, far)).toMatchObject({ code: 'day.outside_class' });
    expect(await read()).toEqual(before);
    expect((await read(far)).saved).toBeNull();
  });

  it('with what overlaps is kept, so that it can be put right', async () => {
    const body = planned(DAY, (await read()).saved!.version);
    const work = body.plan!.work.map((w, i) => (i === 3 ? { ...w, from: w.from + 1, to: w.to + 1 } : w));
    const ends = Math.max(...work.map((w) => w.to), ...body.plan!.loads.map((l) => l.to));
    expect((await api.put(dayPath(), { ...body, plan: { ...body.plan!, work, endsAt: ends } })).status).toBe(
      200,
    );
  });

  it('says which of its things another class plans with on that day', async () => {
    const [other] = await world.db('classes').where({ name: SPLICING.className }).pluck('id');
    const scope = idsOf('scope')[0]!;
    const { label } = detail.things.find((t) => t.id === scope)!;
    const theirs = v7();
    await world.db('things').insert({ id: theirs, class_id: other, kind: 'scope', label });
    const { starts_on: day } = await world.db('classes').where({ id: other }).first('starts_on');
    expect((await read(day)).clashes).toEqual([]);
    const body = { ...planned(day), stations: { scope: [theirs] }, ovens: [], pieces: [], plan: null };
    expect((await api.put(`/classes/${other}/days/${day}`, body)).status).toBe(200);
    await world.db('class_days').insert({
      class_id: detail.id,
      day,
      version: 1,
      content: JSON.stringify(planned(day)),
      changed_by: detail.instructors[0]!.id,
      changed_at: now,
    });
    expect((await read(day)).clashes).toEqual([{ thingId: scope, label, className: SPLICING.className }]);
  });

  it('is a calendar, an event a piece', async () => {
    const { saved } = await read();
    const text = String((await api.get(`${dayPath()}/plan.ics`)).body);
    expect(text.match(/BEGIN:VEVENT/g)).toHaveLength(saved!.pieces.length);
    expect(text.replaceAll('\r\n ', '')).toContain(`SUMMARY:${detail.trainees[0]!.name}`);
    expect(text).toContain('Oven 1');
    expect((await api.get(`${dayPath('2026-01-01')}/plan.ics`)).status).toBe(404);
  });

  it('each trainee sees the own part of it, and nobody else’s', async () => {
    const { saved } = await read();
    const trainee = await world.person('trainee');
    await world.db('class_members').insert({ class_id: detail.id, person_id: trainee.id, role: 'trainee' });
    const phone = await world.signedIn(trainee);
    expect((await phone.get('/me/days')).body).toEqual([]);
    expect((await phone.get(dayPath())).status).toBe(403);
    const mine = saved!.pieces[0]!.traineeId;
    const pieces = saved!.pieces.map((p) => (p.traineeId === mine ? { ...p, traineeId: trainee.id } : p));
    const bench = detail.things.find((t) => t.kind === 'bench')!;
    const benches = { [trainee.id]: bench.id };
    const { changedAt: _, changedBy: _by, version, ...content } = { ...saved!, pieces, benches };
    await world
      .db('class_days')
      .where({ class_id: detail.id, day: DAY })
      .update({ content: JSON.stringify(content), version });
    const days = (await phone.get('/me/days')).body as OwnDay[];
    const own = pieces.filter((p) => p.traineeId === trainee.id);
    expect(days).toHaveLength(1);
    expect(days[0]!.steps).toHaveLength(own.reduce((sum, p) => sum + p.steps.length, 0));
    expect(days[0]!.steps.some((s) => s.at === 'Oven 1' || s.at === 'Oven 2')).toBe(true);
    expect([...days[0]!.steps].sort((a, b) => (a.from < b.from ? -1 : 1))).toEqual(days[0]!.steps);
    expect(days[0]!.steps[0]!.from >= instantOf(saved!, 0)).toBe(true);
    expect([days[0]!.bench, days[0]!.loads]).toEqual([bench.label, []]);
    const oven = ovens[0]!;
    const load = { id: v7(), ovenId: oven.id, schedule: '25 min', members: [trainee.id], minutes: 25 };
    expect((await api.post(`${dayPath()}/loads`, load)).status).toBe(200);
    const inside = ((await phone.get('/me/days')).body as OwnDay[])[0]!.loads;
    expect(inside).toMatchObject([{ id: load.id, oven: oven.label, schedule: '25 min' }]);
    await api.put(`${dayPath()}/loads/${load.id}`, {});
    expect(((await phone.get('/me/days')).body as OwnDay[])[0]!.loads).toEqual([]);
    await world.db('day_loads').where({ id: load.id }).delete();
  });
});

describe('the ovens', () => {
  it('are loaded and emptied once each, whoever taps first', async () => {
    const load = {
      id: v7(),
      ovenId: ovens[0]!.id,
      schedule: '25 min',
      members: [detail.trainees[0]!.id, detail.trainees[1]!.id],
      minutes: 25,
    };
    const post = (body: object) => api.post(`${dayPath()}/loads`, body);
    expect((await post(load)).status).toBe(200);
    expect((await post(load)).status).toBe(200);
    const ends = new Date(now.getTime() + 25 * 60_000).toISOString();
    expect((await read()).loads).toMatchObject([
      { id: load.id, members: load.members, endsAt: ends, takenOutAt: null },
    ]);
    now = new Date(now.getTime() + 26 * 60_000);
    const out = () => api.put(`${dayPath()}/loads/${load.id}`, {});
    expect((await out()).status).toBe(200);
    const first = now.toISOString();
    now = new Date(now.getTime() + 60_000);
    expect((await out()).status).toBe(200);
    expect((await read()).loads[0]!.takenOutAt).toBe(first);
    expect((await api.put(`${dayPath()}/loads/${v7()}`, {})).body).toMatchObject({ code: 'not_found.load' });
    expect((await post({ ...load, id: v7(), ovenId: v7() })).body).toMatchObject({ code: 'not_found.thing' });
    expect((await post({ ...load, id: v7(), minutes: 0 })).body).toMatchObject({ code: 'request.bad_field' });
  });
});
