import type { ClassDetail, MeasuredPicture, Person } from '@clear-mark/contract';
import { SCENARIO } from '@clear-mark/demo';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { verifyRecords } from '../src/index.ts';
import { DEMO_NOW, demoTemplate } from './demo-template.ts';
import { digestOf, pngOf } from './faces-for-tests.ts';
import { type Caller, seen, World } from './harness.ts';
import { unzip } from './unzip.ts';

const now = DEMO_NOW;
let world: World;
let api: Caller;
let me: Person;
let detail: ClassDetail;
let attemptId: string;
const ANGLE = 'clear-mark/bench-cleave/cleave-angle';
const at = (path: string): string => `/classes/${detail.id}${path}`;

const line = (x1: number, y1: number, x2: number, y2: number) => [
  { x: x1, y: y1 },
  { x: x2, y: y2 },
];
const END = {
  side: 'left',
  angleDeg: 0.41,
  angleSd: 0.05,
  class: 'mirror',
  signs: { offShare: 0 },
  isDirty: false,
  face: line(300, 280, 301, 200),
  axis: line(100, 240, 300, 240),
  edges: [],
};
const body = (sha256: string, more: object = {}) => ({
  id: v7(),
  criterionId: ANGLE,
  kind: 'cleave',
  sha256,
  width: 640,
  height: 480,
  source: 'file',
  takenAt: now.toISOString(),
  reading: { ok: true, umPerPx: 0.9, umPerPxSd: 0.004, ends: [END] },
  side: 'left',
  dragged: null,
  value: '0.41',
  expanded: '0.10',
  ...more,
});
async function sent(mark: string): Promise<string> {
  const bytes = pngOf(mark);
  const sha256 = digestOf(bytes);
  const put = await api.bytes('PUT', `/classes/${detail.id}/face-blobs/${sha256}`, bytes);
  expect(put.status).toBe(200);
  return sha256;
}
/** A piece of the first trainee by a shipped method. */
async function begun(method: string): Promise<string> {
  const id = v7();
  const { status } = await api.post(at('/attempts'), {
    id,
    traineeId: detail.trainees[0]!.id,
    methodVersionId: detail.methods.find((m) => m.methodId === `clear-mark/${method}`)!.versionId,
    pieceId: v7(),
    pieceLabel: `Measured, ${method}`,
    thingIds: [],
    startedAt: now.toISOString(),
    deviceId: v7(),
    sentAt: now.toISOString(),
    linkId: null,
  });
  expect(status).toBe(200);
  return id;
}
const keep = (more: object) => api.post(at(`/attempts/${attemptId}/measured`), more);
const entry = (value: object) => ({
  id: v7(),
  attemptId,
  kind: 'value',
  criterionId: ANGLE,
  part: '',
  value,
  voidReason: null,
  note: null,
  authorId: me.id,
  capacity: 'instructor',
  deviceId: v7(),
  source: 'instrument',
  at: now.toISOString(),
  supersedes: [],
  targetId: null,
});

beforeAll(async () => {
  world = await World.make(() => now, await demoTemplate());
  me = await world.person('lead');
  api = await world.signedIn(me);
  const [id] = await world.db('classes').where({ name: SCENARIO.className }).pluck('id');
  detail = (await api.get(`/classes/${id}`)).body;
  attemptId = await begun('bench-cleave');
});
afterAll(() => world.close());

describe('a picture that a value was measured in', () => {
  it('is kept with the piece, once, and is there again with what was found in it', async () => {
    const picture = body(await sent('one'));
    const kept = await keep(picture);
    expect(kept.status).toBe(200);
    expect(kept.body).toMatchObject({ id: picture.id, value: '0.41', takenBy: me.name });
    expect((await keep(picture)).status).toBe(200);
    const list = (await api.get(at(`/attempts/${attemptId}/measured`))).body as MeasuredPicture[];
    expect(list).toHaveLength(1);
    expect(list[0]).toMatchObject({ ...picture, takenAt: now.toISOString() });
    const bytes = await api.get(at(`/attempts/${attemptId}/measured/${picture.id}/picture`));
    expect(bytes.status).toBe(200);
    await expect(world.db('measured_pictures').update({ value_text: '0.1' })).rejects.toThrow(
      /append only|permission denied/,
    );
  });
  it('is in what is held about the trainee, with its bytes', async () => {
    const reply = await api.bytes('GET', `/accounts/${detail.trainees[0]!.id}/held.zip`);
    const files = await unzip(reply.body);
    const { measured } = JSON.parse(files.get('person.json')!.toString());
    expect(measured[0]).toMatchObject({ criterionId: ANGLE, criterion: 'Cleave angle', value: '0.41' });
    expect(digestOf(files.get(measured[0].file)!)).toBe(measured[0].sha256);
    const page = files.get('person.html')!.toString();
    expect(page).toContain(measured[0].file);
    expect(page).toContain(measured[0].criterion);
    expect(page).not.toContain(ANGLE);
  });

  it('its value is judged with its own uncertainty, and taken only as the picture gives it', async () => {
    const near = { ...END, angleDeg: 0.95, angleSd: 0.05 };
    const reading = { ok: true, umPerPx: 0.9, umPerPxSd: 0.004, ends: [near] };
    const picture = body(await sent('near'), { reading, value: '0.95', expanded: '0.10' });
    expect((await keep(picture)).status).toBe(200);
    const value = {
      kind: 'measure',
      text: '0.95',
      unit: 'deg',
      picture: { id: picture.id, expanded: '0.10' },
    };
    const send = async (of: object) => {
      const reply = await api.post('/entries', { entries: [entry(of)], sentAt: now.toISOString() });
      return ((reply.body as { receipts?: object[] }).receipts ?? (reply.body as object[]))[0];
    };
    const other = await send({ ...value, text: '0.50' });
    expect(other).toMatchObject({ state: 'refused', code: 'entry.unknown_picture' });
    expect(await send({ ...value, picture: { id: v7(), expanded: '0.10' } })).toMatchObject({
      code: 'entry.unknown_picture',
    });
    expect(await send(value)).toMatchObject({ state: 'accepted' });
  });

  it('a line that was dragged gives its own value, and no other is kept', async () => {
    const dragged = line(300, 280, 304, 200);
    const sha256 = await sent('dragged');
    // 4 across 80 are 2.86 degrees against a level axis.
    const wrong = await keep(body(sha256, { dragged }));
    expect(wrong.body).toMatchObject({ code: 'measured.other_value' });
    expect((await keep(body(sha256, { dragged, value: '2.86', expanded: '0.30' }))).status).toBe(200);
  });

  it('what cannot be is refused and keeps nothing', async () => {
    const sha256 = await sent('other');
    const code = async (more: object) =>
      ((await keep(body(sha256, more))) as { body: { code?: string } }).body.code;
    expect(await code({ sha256: 'ab'.repeat(32) })).toBe('face.no_picture');
    expect(await code({ width: 641 })).toBe('face.wrong_size');
    expect(await code({ criterionId: 'clear-mark/bench-cleave/none' })).toBe('entry.unknown_criterion');
    expect(await code({ side: 'right' })).toBe('measured.other_value');
    expect(await code({ reading: { ok: false, reason: 'no_fiber' } })).toBe('measured.other_value');
    // On its side: as a phone keeps it.
    expect((await keep(body(sha256, { width: 480, height: 640 }))).status).toBe(200);
    const trainee = await world.signedIn(await world.person('trainee'));
    expect((await trainee.get(at(`/attempts/${attemptId}/measured`))).status).toBe(403);
    const elsewhere = await api.post(at(`/attempts/${v7()}/measured`), body(sha256));
    expect(elsewhere.body).toMatchObject({ code: 'not_found.attempt' });
  });

  it('a length of a prepared end is kept likewise, and only as the picture gives it', async () => {
    const budget = { edges: 0.1, marks: 0.01, print: 0.02, height: 0.03, curvature: 0 };
    const reading = {
      ok: true,
      jacket: null,
      buffer: { mm: 13.246, sdMm: 0.11, budget },
      glass: null,
      jacketDiameter: null,
      print: { scale: 1, sd: 0.001 },
      pxPerMm: 10,
      seen: [],
      path: [{ x: 1, y: 2, mm: 0 }],
      outline: [],
    };
    const length = async (more: object) => ({
      ...body(await sent('end'), { kind: 'end', reading, layer: 'buffer', side: undefined, ...more }),
      criterionId: 'clear-mark/bench-cleave/cleave-length',
    });
    const picture = await length({ value: '13.25', expanded: '0.22' });
    expect((await keep(picture)).status).toBe(200);
    const list = (await api.get(at(`/attempts/${attemptId}/measured`))).body as MeasuredPicture[];
    expect(list.find((m) => m.id === picture.id)).toMatchObject({
      kind: 'end',
      layer: 'buffer',
      value: '13.25',
    });
    expect(list.some((m) => m.kind === 'cleave')).toBe(true);
    // An edge that somebody set gives its own value.
    expect((await keep(await length({ value: '12.10', dragged: 12.1, expanded: '0.60' }))).status).toBe(200);
    for (const more of [
      { value: '13.90' },
      { layer: 'jacket', value: '13.25' },
      { value: '13.25', dragged: 12 },
    ])
      expect((await keep(await length(more))).body).toMatchObject({ code: 'measured.other_value' });
    expect((await keep(await length({ value: '13.25', layer: 'coating' }))).status).toBe(422);
    // Of which end an angle is, and of which layer a length, is held by the database too.
    await expect(
      world.db('measured_pictures').insert({
        ...(await world.db('measured_pictures').where({ id: picture.id }).first()),
        id: v7(),
        reading: JSON.stringify(reading),
        layer: null,
      }),
    ).rejects.toThrow(/measured_pictures_of/);
  });

  it('a joint is kept at its level with its loss, and graded only as its picture was taken', async () => {
    const spliceId = await begun('single-fusion');
    const criterionId = 'clear-mark/single-fusion/joint';
    const sized = (value: number, sd: number) => ({ value, sd });
    const reading = {
      ok: true,
      umPerPx: 0.8,
      umPerPxSd: 0.004,
      class: 'line',
      offsetUm: sized(0.3, 0.1),
      coreOffsetUm: null,
      angleDeg: sized(0.1, 0.02),
      diameterChangeUm: sized(-0.4, 0.25),
      bubbleUm: null,
      lossDb: sized(0.034, 0.011),
      views: [{ joint: { x: 320, y: 240 }, axes: [], edges: [] }],
    };
    const joint = async (more: object) => ({
      ...body(await sent('joint'), { kind: 'splice', reading, level: 'line', side: undefined }),
      criterionId,
      value: '0.03',
      expanded: '0.02',
      ...more,
    });
    const keepJoint = async (more: object) =>
      api.post(at(`/attempts/${spliceId}/measured`), await joint(more));
    const picture = await joint({});
    expect((await api.post(at(`/attempts/${spliceId}/measured`), picture)).status).toBe(200);
    const list = (await api.get(at(`/attempts/${spliceId}/measured`))).body as MeasuredPicture[];
    expect(list).toMatchObject([{ kind: 'splice', level: 'line', value: '0.03', dragged: null }]);
    // Somebody may call it otherwise, by a level that the scale has.
    expect((await keepJoint({ level: 'offset', dragged: 318.5 })).status).toBe(200);
    expect((await keepJoint({ level: 'mirror' })).body).toMatchObject({ code: 'entry.unknown_criterion' });
    expect((await keepJoint({ criterionId: 'clear-mark/single-fusion/estimate' })).body).toMatchObject({
      code: 'entry.unknown_criterion',
    });
    expect((await keepJoint({ value: '0.30' })).body).toMatchObject({ code: 'measured.other_value' });
    const send = async (level: string, more: object = {}) => {
      const stamp = { id: picture.id, lossDb: '0.03', expanded: '0.02', ...more };
      const value = { kind: 'grade', level, picture: stamp };
      const entries = [{ ...entry(value), attemptId: spliceId, criterionId }];
      const reply = await api.post('/entries', { entries, sentAt: now.toISOString() });
      return ((reply.body as { receipts?: object[] }).receipts ?? (reply.body as object[]))[0];
    };
    const refused = { state: 'refused', code: 'entry.unknown_picture' };
    expect(await send('clean')).toMatchObject(refused);
    expect(await send('line', { lossDb: '0.00' })).toMatchObject(refused);
    expect(await send('line', { id: v7() })).toMatchObject(refused);
    expect(await send('line')).toMatchObject({ state: 'accepted' });
  });

  it('a face is named only as the picture of the cleave shows it', async () => {
    const reading = {
      ok: true,
      umPerPx: 0.9,
      umPerPxSd: 0.004,
      ends: [{ ...END, angleDeg: 0.77, class: 'hackle' }],
    };
    const picture = body(await sent('hackle'), { reading, value: '0.77' });
    expect((await keep(picture)).status).toBe(200);
    const send = async (face: string) => {
      const stamp = { id: picture.id, expanded: '0.10', face };
      const value = { kind: 'measure', text: '0.77', unit: 'deg', picture: stamp };
      const reply = await api.post('/entries', { entries: [entry(value)], sentAt: now.toISOString() });
      return ((reply.body as { receipts?: object[] }).receipts ?? (reply.body as object[]))[0];
    };
    expect(await send('mirror')).toMatchObject({ state: 'refused', code: 'entry.unknown_picture' });
    expect(await send('hackle')).toMatchObject({ state: 'accepted' });
  });

  it('stands in the hash of a signed record: changed afterwards, the record says so', async () => {
    const ids = await world.db('entries').where({ attempt_id: attemptId }).pluck('id');
    const signature = { ...seen(ids), reason: 'stopped here', asVoid: true };
    expect((await api.post(`/attempts/${attemptId}/sign`, signature)).status).toBe(200);
    expect((await keep(body(await sent('late')))).body).toMatchObject({ code: 'face.attempt_signed' });
    const { evidence } = await world
      .db('signed_revisions')
      .where({ attempt_id: attemptId })
      .first('evidence');
    expect(evidence.pictures).toHaveLength(7);
    expect((await verifyRecords(world.db, [])).findings).toEqual([]);
    await world.owner.raw(`alter table measured_pictures disable trigger all`);
    await world
      .owner('measured_pictures')
      .where({ value_text: '0.41' })
      .update({ reading: JSON.stringify({ ok: false, reason: 'no_fiber' }) });
    const { findings } = await verifyRecords(world.db, []);
    expect(JSON.stringify(findings)).toContain('evidence_changed');
  });
});
