import type { CallSeries, FinishedRun, OwnSeries, Person } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { keepFace, pit, pngOf } from './faces-for-tests.ts';
import { type Caller, type TestClass, World, seen } from './harness.ts';

let world: World;
let teacher: Person;
let second: Person;
let trainee: Person;
let asTeacher: Caller;
let asSecond: Caller;
let asTrainee: Caller;
let classroom: TestClass;
let faces: string[];

/** Bad, good, bad, good, and what is wrong with the bad ones. */
const REFERENCE = ['fail', 'pass', 'fail', 'pass'] as const;

beforeAll(async () => {
  world = await World.make();
  [teacher, second] = [await world.person('instructor'), await world.person('instructor')];
  trainee = await world.person('trainee');
  [asTeacher, asSecond, asTrainee] = [
    await world.signedIn(teacher),
    await world.signedIn(second),
    await world.signedIn(trainee),
  ];
});
beforeEach(async () => {
  classroom = await world.classOf([teacher, second], [trainee]);
  faces = [];
  for (const reference of REFERENCE) {
    const bad = reference === 'fail';
    faces.push(
      await keepFace(asTeacher, classroom.id, bad ? [pit(7, 30)] : [], { faults: bad ? ['pit'] : [] }),
    );
  }
});
afterAll(() => world.close());

const set = async (faceIds = faces, more: object = {}) => {
  const body = { id: v7(), label: 'Monday', faceIds, missWeight: 3, secondsEach: 30, ...more };
  const reply = await asTeacher.post(`/classes/${classroom.id}/call-series`, body);
  return { id: body.id, status: reply.status, code: reply.problem.code };
};
const begin = async (caller: Caller, seriesId: string): Promise<string> =>
  ((await caller.post(`/call-series/${seriesId}/runs`, { id: v7() })).body as { id: string }).id;
const answer = async (caller: Caller, runId: string, position: number, said: string) =>
  caller.post(`/runs/${runId}/answers`, {
    position,
    said,
    ms: 2000,
    marks: said === 'fail' ? [{ x: 0.6, y: 0.5, kind: 'pit' }] : [],
  });
const callAll = async (caller: Caller, seriesId: string, said: readonly string[]): Promise<FinishedRun> => {
  const runId = await begin(caller, seriesId);
  for (const [i, s] of said.entries()) expect((await answer(caller, runId, i, s)).status).toBe(200);
  return (await caller.post(`/runs/${runId}/finish`, {})).body;
};

describe('a series', () => {
  it('needs graded pictures of the class, good ones and bad ones', async () => {
    expect(await set()).toMatchObject({ status: 200 });
    expect((await set([...faces.slice(0, 3), v7()])).code).toBe('not_found.face');
    const refused = await keepFace(asTeacher, classroom.id, [], { engine: { ok: false, reason: 'no_face' } });
    expect((await set([...faces, refused])).code).toBe('series.not_graded');
    expect((await set([faces[0]!, faces[2]!, faces[1]!, faces[0]!])).code).toBe('series.one_sided');
    expect((await set(faces.slice(0, 2))).code).toBe('request.bad_field');
  });
  it('shows the one who calls nothing of what the faces are', async () => {
    const { id } = await set();
    const own: OwnSeries[] = (await asTrainee.get('/own/call-series')).body;
    expect(own.filter((s) => s.id === id)).toEqual([
      { id, label: 'Monday', className: expect.any(String), faces: 4, secondsEach: 30, run: null },
    ]);
    const runId = await begin(asTrainee, id);
    expect((await asTrainee.bytes('GET', `/runs/${runId}/pictures/1`)).body.equals(pngOf(faces[1]!))).toBe(
      true,
    );
    expect((await asTrainee.bytes('GET', `/runs/${runId}/pictures/9`)).code).toBe('series.no_such_face');
    expect((await asTeacher.bytes('GET', `/runs/${runId}/pictures/1`)).code).toBe('not_found.run');
    expect(JSON.stringify((await answer(asTrainee, runId, 0, 'pass')).body)).toBe('{"done":true}');
    expect((await asTrainee.get(`/classes/${classroom.id}/call-series`)).status).toBe(403);
  });
  it('is gone on with where it was left; a call stands, the same again is no harm', async () => {
    const { id } = await set();
    const runId = await begin(asTrainee, id);
    await answer(asTrainee, runId, 0, 'fail');
    expect((await asTrainee.post(`/call-series/${id}/runs`, { id: v7() })).body).toEqual({
      id: runId,
      answered: [0],
    });
    expect((await answer(asTrainee, runId, 0, 'fail')).status).toBe(200);
    expect((await answer(asTrainee, runId, 0, 'pass')).problem.code).toBe('series.other_answer');
    expect((await answer(asTrainee, runId, 4, 'pass')).problem.code).toBe('series.no_such_face');
    expect((await answer(asTeacher, runId, 1, 'pass')).problem.code).toBe('not_found.run');
  });
  it('is judged at the end and takes no call after it', async () => {
    const { id } = await set();
    const runId = await begin(asTrainee, id);
    for (const [i, s] of ['pass', 'pass', 'fail'].entries()) await answer(asTrainee, runId, i, s);
    const done: FinishedRun = (await asTrainee.post(`/runs/${runId}/finish`, {})).body;
    expect(done.result).toMatchObject({
      n: 3,
      unanswered: 1,
      misses: 1,
      falseAlarms: 0,
      weighted: 1 - 3 / 7,
    });
    expect(done.result.byKind).toEqual([{ kind: 'pit', faces: 2, missed: 1 }]);
    expect(done.calls.map((c) => [c.reference, c.said])).toEqual([
      ['fail', 'pass'],
      ['pass', 'pass'],
      ['fail', 'fail'],
      ['pass', null],
    ]);
    expect(done.calls[2]!.marks).toEqual([{ x: 0.6, y: 0.5, kind: 'pit' }]);
    // Told only now: what was found, where it lies in the picture.
    expect(done.calls[0]!.seen).toMatchObject({ umPerPx: 0.3, features: [{ kind: 'defect' }] });
    expect(done.calls[1]!.seen!.features).toEqual([]);
    expect((await answer(asTrainee, runId, 3, 'pass')).problem.code).toBe('series.finished');
    expect((await asTrainee.post(`/runs/${runId}/finish`, {})).body).toEqual(done);
  });
  it('is seen and called by the lead, who is in no class, and by nobody from outside', async () => {
    const { id } = await set();
    const asLead = await world.signedIn(await world.person('lead'));
    const seen = async (caller: Caller) =>
      ((await caller.get('/own/call-series')).body as OwnSeries[]).some((s) => s.id === id);
    expect(await seen(asLead)).toBe(true);
    expect((await callAll(asLead, id, REFERENCE)).result).toMatchObject({ misses: 0, falseAlarms: 0 });
    const asStranger = await world.signedIn(await world.person('trainee'));
    expect(await seen(asStranger)).toBe(false);
    expect((await asStranger.post(`/call-series/${id}/runs`, { id: v7() })).problem.code).toBe(
      'auth.not_in_class',
    );
  });
  it('keeps its reference when a picture is graded otherwise later', async () => {
    const { id } = await set();
    await asTeacher.post(`/classes/${classroom.id}/faces/${faces[0]}/gradings`, {
      id: v7(),
      traineeSaid: null,
      review: { rejected: [0], kinds: [], added: [], verdict: null },
    });
    expect((await callAll(asTrainee, id, REFERENCE)).result).toMatchObject({ misses: 0, falseAlarms: 0 });
  });
  it('sent again under its id is there once', async () => {
    const id = v7();
    expect(await set(faces, { id })).toMatchObject({ status: 200 });
    expect(await set(faces, { id })).toMatchObject({ status: 200 });
    expect(await world.db('call_items').where({ series_id: id })).toHaveLength(4);
  });
  it('finished without a call has no figures', async () => {
    const { id } = await set();
    const done = await callAll(asTrainee, id, []);
    expect(done.result).toMatchObject({ n: 0, unanswered: 4, weighted: null, kappa: { kind: 'none' } });
  });
  it('called by two instructors tells how far they agree', async () => {
    const { id } = await set();
    await callAll(asTeacher, id, REFERENCE);
    await callAll(asSecond, id, ['fail', 'pass', 'pass', 'pass']);
    const [series] = (await asTeacher.get(`/classes/${classroom.id}/call-series`)).body as CallSeries[];
    expect(series).toMatchObject({ faces: 4, bad: 2, runs: [{ answered: 4 }, { answered: 4 }] });
    // 3 of 4 the same, chance one half: kappa one half.
    expect(series!.agreements).toMatchObject([{ n: 4, same: 3 }]);
    expect(series!.agreements[0]!.kappa).toBeCloseTo(0.5, 12);
  });
});

describe('the inspect skill', () => {
  it('is fed by a trainee’s series through an attempt that an instructor signs', async () => {
    const [versionId] = await world
      .db('method_versions')
      .where({ method_id: 'clear-mark/blind-calls' })
      .pluck('id');
    await asTeacher.put(`/classes/${classroom.id}/methods`, { versionId, inUse: true });
    const { id } = await set();
    const done = await callAll(asTrainee, id, REFERENCE);
    expect(done.attemptId).not.toBeNull();
    const { entries } = (await asTeacher.get(`/attempts/${done.attemptId}`)).body as {
      entries: { id: string; source: string; value: { text: string } }[];
    };
    expect(entries.map((e) => [e.source, e.value.text])).toEqual([
      ['computed', '1.000'],
      ['computed', '1.000'],
      ['computed', '1.000'],
    ]);
    const signed = await asTeacher.post(`/attempts/${done.attemptId}/sign`, {
      ...seen(entries.map((e) => e.id)),
      reason: null,
      asVoid: false,
    });
    expect(signed.body).toMatchObject({
      outcome: { verdict: 'pass', skills: { inspect: { verdict: 'pass' } } },
    });
  });
  it('is left alone where the class does not use the method, and by an instructor’s own series', async () => {
    const { id } = await set();
    expect((await callAll(asTrainee, id, REFERENCE)).attemptId).toBeNull();
    expect((await callAll(asTeacher, id, REFERENCE)).attemptId).toBeNull();
  });
});
