import type { FaceDocument, FaceGrading, FaceRow, FaceTable, Person } from '@clear-mark/contract';
import { NO_REVIEW } from '@clear-mark/core';
import { v7 } from 'uuid';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { digestOf, faceBody, keepFace, measured, pit, pngOf, TABLE } from './faces-for-tests.ts';
import { attemptBody, type Caller, type TestClass, World, seen } from './harness.ts';

let world: World;
let teacher: Person;
let trainee: Person;
let asTeacher: Caller;
let asStranger: Caller;
let asTrainee: Caller;
let classroom: TestClass;

beforeAll(async () => {
  world = await World.make();
  [teacher, trainee] = [await world.person('instructor'), await world.person('trainee')];
  asTeacher = await world.signedIn(teacher);
  asTrainee = await world.signedIn(trainee);
  asStranger = await world.signedIn(await world.person('instructor'));
});
beforeEach(async () => {
  classroom = await world.classOf([teacher], [trainee]);
});
afterAll(() => world.close());

const blob = (bytes: Buffer): string => `/classes/${classroom.id}/face-blobs/${digestOf(bytes)}`;
const documentOf = async (id: string): Promise<FaceDocument> =>
  (await asTeacher.get(`/classes/${classroom.id}/faces/${id}`)).body;
const list = async (query = ''): Promise<FaceRow[]> =>
  (await asTeacher.get(`/classes/${classroom.id}/faces${query}`)).body;

describe('pictures', () => {
  it('are kept under their digest and given back to the byte', async () => {
    const id = await keepFace(asTeacher, classroom.id, [pit(7, 30)]);
    const picture = await asTeacher.bytes('GET', `/classes/${classroom.id}/faces/${id}/picture`);
    expect(picture).toMatchObject({ status: 200, type: 'image/png' });
    expect(picture.body.equals(pngOf(id))).toBe(true);
  });
  it('twice sent are there once; changed on the way, or of another format, they are refused', async () => {
    const bytes = pngOf('twice');
    expect((await asTeacher.bytes('PUT', blob(bytes), bytes)).status).toBe(200);
    expect((await asTeacher.bytes('PUT', blob(bytes), bytes)).status).toBe(200);
    const rows = await world.db('pictures').where({ sha256: digestOf(bytes) });
    expect(rows).toHaveLength(1);
    expect((await asTeacher.bytes('PUT', blob(bytes), pngOf('other'))).code).toBe('face.other_digest');
    const words = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>');
    expect((await asTeacher.bytes('PUT', blob(words), words)).code).toBe('face.not_a_picture');
    expect((await asTeacher.bytes('PUT', blob(words), words, 'image/svg+xml')).code).toBe(
      'face.not_a_picture',
    );
    const huge = Buffer.concat([pngOf('huge'), Buffer.alloc(12_000_001)]);
    expect((await asTeacher.bytes('PUT', blob(huge), huge)).status).toBe(413);
  });
  it('are for the instructors of the class alone', async () => {
    const id = await keepFace(asTeacher, classroom.id, []);
    for (const caller of [asStranger, asTrainee]) {
      expect((await caller.bytes('GET', `/classes/${classroom.id}/faces/${id}/picture`)).status).toBe(403);
      expect((await caller.get(`/classes/${classroom.id}/faces`)).status).toBe(403);
    }
    expect((await asTeacher.get(`/classes/${classroom.id}/faces/${v7()}`)).problem.code).toBe(
      'not_found.face',
    );
  });
});

describe('faces', () => {
  it('are kept with the attempt that they are of, and listed by it', async () => {
    const attempt = attemptBody(classroom);
    await asTeacher.post(`/classes/${classroom.id}/attempts`, attempt);
    const id = await keepFace(asTeacher, classroom.id, [pit(7, 30)], {
      attemptId: attempt.id,
      traineeId: trainee.id,
    });
    await keepFace(asTeacher, classroom.id, []);
    expect(await list()).toHaveLength(2);
    expect(await list(`?attemptId=${attempt.id}`)).toMatchObject([
      { id, pieceLabel: 'T-01', traineeName: trainee.name, engineVerdict: 'fail', verdict: 'fail' },
    ]);
    const { engine, chance } = await documentOf(id);
    expect(engine).toMatchObject({ ok: true, umPerPx: 0.3 });
    // A pit of 7 um, two over what is allowed, is no near thing.
    expect(chance).toBe(0);
  });
  it('need their picture, an attempt of the class, and a picture before that is there', async () => {
    const body = (more: object) => faceBody(digestOf(pngOf('none')), more);
    const add = async (more: object) =>
      (await asTeacher.post(`/classes/${classroom.id}/faces`, body(more))).problem.code;
    expect(await add({})).toBe('face.no_picture');
    const bytes = pngOf('there');
    await asTeacher.bytes('PUT', blob(bytes), bytes);
    const sha256 = digestOf(bytes);
    expect(await add({ sha256, width: 639 })).toBe('face.wrong_size');
    expect(await add({ sha256, attemptId: v7() })).toBe('face.attempt_not_in_class');
    expect(await add({ sha256, beforeId: v7() })).toBe('not_found.face');
    expect(await add({ sha256, label: '' })).toBe('request.bad_field');
    expect(await list()).toEqual([]);
  });
  it('get their verdict from the features here, whatever grade came with them', async () => {
    const forged = { ...measured([pit(7, 30)]), grade: { verdict: 'pass', zones: [] } };
    const id = await keepFace(asTeacher, classroom.id, [], { engine: forged });
    expect(await documentOf(id)).toMatchObject({ engineVerdict: 'fail', verdict: 'fail' });
  });
  it('of a row are graded fiber by fiber on core and cladding', async () => {
    const fiber = (n: number, face: object) => ({ fiber: n, centrePx: [250 * n, 200], face });
    const row = (...faces: object[]) => ({
      ok: true,
      verdict: null,
      fibers: faces.map((face, i) => fiber(i + 1, face)),
    });
    const keepRow = (...faces: object[]) =>
      keepFace(asTeacher, classroom.id, [], { view: 'row', engine: row(...faces) });
    // On the ferrule, which a row is not graded on.
    const onFerrule = measured([pit(14, 90)]);
    const refused = { ok: false, reason: 'too_blurred' };
    const verdicts = await Promise.all(
      [
        await keepRow(measured([]), onFerrule),
        await keepRow(measured([]), measured([pit(7, 30)])),
        await keepRow(measured([]), refused),
      ].map(async (id) => (await documentOf(id)).engineVerdict),
    );
    expect(verdicts).toEqual(['pass', 'fail', null]);
  });
  it('whose measurements are none are refused, and nothing is kept', async () => {
    const bad = [
      { ok: true },
      { ok: true, umPerPx: 0.3, features: 'many' },
      { ...measured([pit(7, 30)]), features: [{ kind: 'smudge', sizeUm: 3 }] },
      { ...measured([]), umPerPx: -1 },
      { ok: false, reason: 'bored' },
      { ok: true, fibers: [], verdict: 'pass' },
    ];
    for (const engine of bad) {
      await expect(keepFace(asTeacher, classroom.id, [], { engine })).rejects.toThrow('request.bad_field');
    }
    expect(await list()).toEqual([]);
  });
  it('a refused picture is kept without a verdict; the instructor’s own word is taken', async () => {
    const id = await keepFace(asTeacher, classroom.id, [], { engine: { ok: false, reason: 'too_dark' } });
    expect(await documentOf(id)).toMatchObject({ engineVerdict: null, verdict: null });
    const says = { says: 'fail', reason: 'dark, and a crack all the same' };
    const grade = (review: object) =>
      asTeacher.post(`/classes/${classroom.id}/faces/${id}/gradings`, {
        id: v7(),
        review: { ...NO_REVIEW, ...review },
        traineeSaid: null,
      });
    expect((await grade({ rejected: [0] })).problem.code).toBe('face.bad_review');
    expect((await grade({ verdict: says })).body).toMatchObject({ verdict: 'fail' });
  });
  it('are listed for their own class alone', async () => {
    await keepFace(asTeacher, classroom.id, []);
    const other = await world.classOf([teacher], [trainee]);
    expect((await asTeacher.get(`/classes/${other.id}/faces`)).body).toEqual([]);
  });
  it('two looks at the same moment follow each other', async () => {
    const id = await keepFace(asTeacher, classroom.id, [pit(7, 30)]);
    const look = (rejected: number[]) =>
      asTeacher.post(`/classes/${classroom.id}/faces/${id}/gradings`, {
        id: v7(),
        review: { ...NO_REVIEW, rejected },
        traineeSaid: null,
      });
    const replies = await Promise.all([look([0]), look([]), look([0])]);
    expect(replies.map((r) => r.status)).toEqual([200, 200, 200]);
    const seqs = await world.db('face_gradings').where({ face_id: id }).orderBy('seq').pluck('seq');
    expect(seqs).toEqual([1, 2, 3]);
  });
  it('are not kept with a signed attempt', async () => {
    const attempt = attemptBody(classroom);
    await asTeacher.post(`/classes/${classroom.id}/attempts`, attempt);
    const body = { ...seen([]), reason: 'dropped on the floor', asVoid: true };
    expect((await asTeacher.post(`/attempts/${attempt.id}/sign`, body)).status).toBe(200);
    await expect(keepFace(asTeacher, classroom.id, [], { attemptId: attempt.id })).rejects.toThrow(
      'face.attempt_signed',
    );
  });
  it('a review changes the verdict, the last one counts, all stay', async () => {
    const id = await keepFace(asTeacher, classroom.id, [pit(7, 30)]);
    const grade = async (review: object, traineeSaid: string | null = null): Promise<FaceGrading> =>
      (
        await asTeacher.post(`/classes/${classroom.id}/faces/${id}/gradings`, {
          id: v7(),
          review: { ...NO_REVIEW, ...review },
          traineeSaid,
        })
      ).body;
    expect(await grade({ rejected: [0] }, 'fail')).toMatchObject({ verdict: 'pass', by: teacher.name });
    expect(await list()).toMatchObject([{ engineVerdict: 'fail', verdict: 'pass', traineeSaid: 'fail' }]);
    const says = { says: 'fail', reason: 'a hair crack that the picture hardly shows' };
    expect(await grade({ rejected: [0], verdict: says })).toMatchObject({ verdict: 'fail' });
    expect(await documentOf(id)).toMatchObject({ verdict: 'fail', grading: { review: { verdict: says } } });
    expect(await world.db('face_gradings').where({ face_id: id })).toHaveLength(2);
    const bad = await asTeacher.post(`/classes/${classroom.id}/faces/${id}/gradings`, {
      id: v7(),
      review: { ...NO_REVIEW, rejected: [4] },
      traineeSaid: null,
    });
    expect(bad.problem.code).toBe('face.bad_review');
    expect(await world.db('face_gradings').where({ face_id: id })).toHaveLength(2);
  });
  it('are changed by nobody, whatever is sent', async () => {
    const id = await keepFace(asTeacher, classroom.id, []);
    for (const [db, words] of [
      [world.owner, 'append only'],
      [world.db, 'permission denied'],
    ] as const) {
      await expect(db('faces').where({ id }).update({ label: 'other' })).rejects.toThrow(words);
      await expect(db('faces').where({ id }).delete()).rejects.toThrow(words);
    }
  });
});

describe('tables of criteria', () => {
  const save = async (zones: unknown): Promise<FaceTable> =>
    (
      await asTeacher.post(`/classes/${classroom.id}/face-tables`, {
        base: 'sm-pc',
        title: 'House table',
        zones,
        source: { kind: 'house', fromMemory: false, words: 'this school' },
      })
    ).body;
  it('of a class have versions, and the newest is offered', async () => {
    expect(await save(TABLE.zones)).toMatchObject({ id: 'class/sm-pc', version: 1 });
    expect(await save(TABLE.zones.slice(0, 2))).toMatchObject({ version: 2 });
    const tables: FaceTable[] = (await asTeacher.get(`/classes/${classroom.id}/face-tables`)).body;
    expect(tables).toMatchObject([{ id: 'class/sm-pc', version: 2, title: 'House table' }]);
    expect(tables[0]!.zones).toHaveLength(2);
  });
  it('whose zones overlap are refused', async () => {
    const [a, b] = TABLE.zones;
    expect(await save([a, { ...b, fromUm: 10 }])).toMatchObject({ code: 'request.bad_field' });
    expect(await save([{ ...a, toUm: 0 }])).toMatchObject({ code: 'request.bad_field' });
  });
});
