import type { Band, Criterion, MethodSheet } from '@clear-mark/core';
import type { MethodDraft, MethodDraftHead, MethodVersion, Person } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { attemptBody, batch, type Caller, entryOf, SHEET, type TestClass, World } from './harness.ts';

let world: World;
let teacher: Person;
let trainee: Person;
let asLead: Caller;
let asOtherLead: Caller;
let asTeacher: Caller;
let classroom: TestClass;

beforeAll(async () => {
  world = await World.make();
  const [lead, other] = await Promise.all([world.person('lead'), world.person('lead')]);
  [teacher, trainee] = await Promise.all([world.person('instructor'), world.person('trainee')]);
  [asLead, asOtherLead, asTeacher] = await Promise.all([
    world.signedIn(lead),
    world.signedIn(other),
    world.signedIn(teacher),
  ]);
});
beforeEach(async () => {
  classroom = await world.classOf([teacher], [trainee]);
});
afterAll(() => world.close());

const begin = async (more: object = {}, as: Caller = asLead): Promise<MethodDraft> => {
  const body = { id: v7(), from: classroom.versionId, as: 'new_method', title: 'Our own', ...more };
  const reply = await as.post('/method-drafts', body);
  expect(reply.status).toBe(200);
  return reply.body;
};
const save = (draft: MethodDraft, sheet: MethodSheet, as: Caller = asLead) =>
  as.put(`/method-drafts/${draft.id}`, { revision: draft.revision, sheet });
const publish = (draft: MethodDraft, revision = draft.revision, classId: string | null = classroom.id) =>
  asLead.post(`/method-drafts/${draft.id}/publication`, { revision, classId });
const published = async (draft: MethodDraft): Promise<MethodVersion> => {
  const reply = await publish(draft);
  expect(reply.status).toBe(200);
  return reply.body;
};
const retitled = (sheet: MethodSheet, at: number, title: string): MethodSheet => ({
  ...sheet,
  steps: sheet.steps.map((s, i) => (i === at ? { ...s, title } : s)),
});
const criteriaOf = (sheet: MethodSheet): Criterion[] => sheet.steps.flatMap((s) => [...s.criteria]);
const withBand = (sheet: MethodSheet, id: string, band: Band): MethodSheet => ({
  ...sheet,
  steps: sheet.steps.map((s) => ({
    ...s,
    criteria: s.criteria.map((c) => (c.id === id ? ({ ...c, band } as Criterion) : c)),
  })),
});

describe('a draft', () => {
  it('begins as a copy under ids of its own, and is there when it is asked for again', async () => {
    const draft = await begin({ title: 'Kürzere Ader, 12 mm' });
    expect(draft).toMatchObject({ version: 1, revision: 1, title: 'Kürzere Ader, 12 mm' });
    expect(draft.methodId).toMatch(/^own\/ku-rzere-ader-12-mm-[0-9a-f]{8}$/);
    expect(criteriaOf(draft.sheet)).toHaveLength(criteriaOf(SHEET).length);
    expect(criteriaOf(draft.sheet).every((c) => c.id.startsWith(`${draft.methodId}/`))).toBe(true);
    expect((await asOtherLead.get(`/method-drafts/${draft.id}`)).body).toEqual(draft);
    const heads = (await asOtherLead.get('/method-drafts')).body as MethodDraftHead[];
    expect(heads.map((h) => h.id)).toContain(draft.id);
  });

  it('asked for twice is one draft; with other content it is refused', async () => {
    const body = { id: v7(), from: classroom.versionId, as: 'new_method', title: 'Twice' };
    const first = await asLead.post('/method-drafts', body);
    expect((await asLead.post('/method-drafts', body)).body).toEqual(first.body);
    expect((await asLead.post('/method-drafts', { ...body, from: null })).problem.code).toBe(
      'request.already_there',
    );
  });

  it('begins from nothing, and is not published before it is complete', async () => {
    const draft = await begin({ from: null });
    const reply = await publish(draft);
    expect([reply.status, reply.problem.code]).toEqual([422, 'method.not_complete']);
    expect((await asLead.get(`/method-drafts/${draft.id}`)).body).toEqual(draft);
  });

  it('keeps what is not right yet', async () => {
    const draft = await begin({ from: null });
    const sheet = { ...draft.sheet, title: '', steps: [{ ...draft.sheet.steps[0]!, title: '' }] };
    expect((await save(draft, sheet)).body).toMatchObject({ revision: 2, sheet: { title: '' } });
  });

  it('keeps its id and its number, whatever is sent', async () => {
    const draft = await begin();
    const { sheet } = (
      await save(draft, { ...draft.sheet, id: 'clear-mark/other', version: 9, title: 'New' })
    ).body as MethodDraft;
    expect([sheet.id, sheet.version, sheet.title]).toEqual([draft.methodId, 1, 'New']);
  });

  it.each<[string, object]>([
    ['no steps', { steps: undefined }],
    ['a step that is no step', { steps: ['x'] }],
    [
      'a criterion of no kind',
      { steps: [{ id: 'a', title: '', how: '', criteria: [{ id: 'x', label: '' }] }] },
    ],
    [
      '101 steps',
      { steps: Array.from({ length: 101 }, (_, i) => ({ id: `${i}`, title: '', how: '', criteria: [] })) },
    ],
  ])('%s: refused, and nothing changes', async (_name, more) => {
    const draft = await begin();
    const reply = await save(draft, { ...draft.sheet, ...more } as MethodSheet);
    expect([reply.status, reply.problem.code]).toEqual([422, 'request.bad_field']);
    expect((await asLead.get(`/method-drafts/${draft.id}`)).body).toEqual(draft);
  });

  it('is the lead’s alone', async () => {
    const draft = await begin();
    for (const reply of [
      await asTeacher.get('/method-drafts'),
      await asTeacher.get(`/method-drafts/${draft.id}`),
      await save(draft, draft.sheet, asTeacher),
      await asTeacher.call('DELETE', `/method-drafts/${draft.id}`),
      await asTeacher.post(`/method-drafts/${draft.id}/publication`, { revision: 1, classId: null }),
    ]) {
      expect([reply.status, reply.problem.code]).toEqual([403, 'auth.role']);
    }
  });

  it('that was discarded takes nothing any more', async () => {
    const draft = await begin();
    expect((await asLead.call('DELETE', `/method-drafts/${draft.id}`)).status).toBe(200);
    expect((await save(draft, { ...draft.sheet, title: 'x' })).problem.code).toBe('method.draft_closed');
    expect((await publish(draft)).problem.code).toBe('method.draft_closed');
    const heads = (await asLead.get('/method-drafts')).body as MethodDraftHead[];
    expect(heads.map((h) => h.id)).not.toContain(draft.id);
  });

  it('that is not there is not found', async () => {
    expect((await asLead.get(`/method-drafts/${v7()}`)).problem.code).toBe('not_found.method_draft');
    expect(
      (await asLead.post('/method-drafts', { id: v7(), from: v7(), as: 'new_method', title: 'x' })).problem
        .code,
    ).toBe('not_found.method_version');
  });
});

describe('two leads at one draft', () => {
  it('changes of different steps are put together', async () => {
    const draft = await begin();
    await save(draft, retitled(draft.sheet, 0, 'Mine'));
    const reply = await save(draft, retitled(draft.sheet, 1, 'Theirs'), asOtherLead);
    const { sheet, revision } = reply.body as MethodDraft;
    expect(revision).toBe(3);
    expect(sheet.steps.slice(0, 2).map((s) => s.title)).toEqual(['Mine', 'Theirs']);
  });

  it('changes of one step are refused, and the first stays', async () => {
    const draft = await begin();
    await save(draft, retitled(draft.sheet, 0, 'First'));
    const reply = await save(draft, retitled(draft.sheet, 0, 'Second'), asOtherLead);
    expect([reply.status, reply.problem.code]).toEqual([409, 'versions.edited_twice']);
    const { sheet } = (await asLead.get(`/method-drafts/${draft.id}`)).body as MethodDraft;
    expect(sheet.steps[0]!.title).toBe('First');
  });

  it('of eight that save at once none is lost', async () => {
    const draft = await begin();
    const steps = draft.sheet.steps.slice(0, 8);
    expect(steps).toHaveLength(8);
    const replies = await Promise.all(
      steps.map((_, i) => save(draft, retitled(draft.sheet, i, `Step of ${i}`))),
    );
    expect(replies.map((r) => r.status)).toEqual(steps.map(() => 200));
    const { sheet, revision } = (await asLead.get(`/method-drafts/${draft.id}`)).body as MethodDraft;
    expect(revision).toBe(9);
    expect(sheet.steps.slice(0, 8).map((s) => s.title)).toEqual(steps.map((_, i) => `Step of ${i}`));
  });

  it('nobody publishes what somebody else changed meanwhile', async () => {
    const draft = await begin();
    await save(draft, { ...draft.sheet, summary: 'changed' }, asOtherLead);
    expect((await publish(draft)).problem.code).toBe('method.draft_moved');
  });
});

describe('a published version', () => {
  it('is used by its class at once, and pieces are scored by it', async () => {
    const draft = await begin();
    const strip = criteriaOf(draft.sheet).find((c) => c.kind === 'measure' && c.unit === 'mm')!;
    const source = { kind: 'house', fromMemory: false, words: 'our own' } as const;
    const band = { lower: { value: '99', source }, upper: { value: '101', source }, target: '100' };
    const saved = (await save(draft, withBand(draft.sheet, strip.id, band))).body as MethodDraft;
    const version = await published(saved);
    expect(version).toMatchObject({ state: 'in_force', version: 1, methodId: draft.methodId });
    const at = `/classes/${classroom.id}/attempts`;
    const body = { ...attemptBody(classroom), methodVersionId: version.id };
    expect((await asTeacher.post(at, body)).status).toBe(200);
    const value = { kind: 'measure', text: '98', unit: 'mm' } as const;
    await asTeacher.post(
      '/entries',
      batch([entryOf(body.id, teacher, 'x', value, { criterionId: strip.id })]),
    );
    const { sheet } = (await asTeacher.get(`/attempts/${body.id}`)).body as { sheet: MethodSheet };
    expect(criteriaOf(sheet).find((c) => c.id === strip.id)).toMatchObject({ band });
  });

  it('never changes again', async () => {
    const version = await published(await begin());
    const change = world.owner('method_versions').where({ id: version.id }).update({ title: 'Other' });
    await expect(change).rejects.toThrow('a method version in force never changes');
  });

  it('is followed by the next one: classes go on with that, the earlier retires, open pieces stay', async () => {
    const first = await published(await begin());
    const other = await world.classOf([teacher], [trainee]);
    await asTeacher.put(`/classes/${other.id}/methods`, { versionId: first.id, inUse: true });
    const piece = { ...attemptBody(classroom), methodVersionId: first.id };
    await asTeacher.post(`/classes/${classroom.id}/attempts`, piece);

    const next = await begin({ from: first.id, as: 'next_version', title: first.sheet.title });
    expect(next).toMatchObject({ methodId: first.methodId, version: 2 });
    const ids = criteriaOf(next.sheet).map((c) => c.id);
    expect(ids).toEqual(criteriaOf(first.sheet).map((c) => c.id));
    const second = await published((await save(next, { ...next.sheet, summary: 'Now shorter.' })).body);

    for (const { id } of [classroom, other]) {
      const { methods } = (await asTeacher.get(`/classes/${id}`)).body as {
        methods: { versionId: string; inUse: boolean }[];
      };
      expect(methods.find((m) => m.versionId === second.id)!.inUse).toBe(true);
      expect(methods.find((m) => m.versionId === first.id)).toBeUndefined();
    }
    const versions = (await asTeacher.get(`/method-versions/${first.id}/versions`)).body as {
      version: number;
      state: string;
    }[];
    expect(versions.map((v) => [v.version, v.state])).toEqual([
      [2, 'in_force'],
      [1, 'retired'],
    ]);
    const { sheet } = (await asTeacher.get(`/attempts/${piece.id}`)).body as { sheet: MethodSheet };
    expect(sheet.version).toBe(1);
  });

  it('of two drafts of the same next version both become one, in their order', async () => {
    const first = await published(await begin());
    const more = { from: first.id, as: 'next_version', title: first.sheet.title };
    const drafts = [await begin(more), await begin(more)];
    const versions = await Promise.all(drafts.map((d) => published(d)));
    expect(versions.map((v) => v.version).sort()).toEqual([2, 3]);
  });

  it('a shipped method has no next version of the school’s', async () => {
    const body = { id: v7(), from: classroom.versionId, as: 'next_version', title: 'x' };
    expect((await asLead.post('/method-drafts', body)).problem.code).toBe('method.shipped');
  });

  it('a draft is published once', async () => {
    const draft = await begin();
    const replies = await Promise.all([publish(draft), publish(draft)]);
    expect(replies.map((r) => r.status).sort()).toEqual([200, 409]);
  });

  it('a class that is not there publishes nothing', async () => {
    const draft = await begin();
    const reply = await publish(draft, draft.revision, v7());
    expect([reply.status, reply.problem.code]).toEqual([422, 'request.names_nothing']);
    expect((await asLead.get(`/method-drafts/${draft.id}`)).status).toBe(200);
    expect((await publish(draft)).status).toBe(200);
  });
});
