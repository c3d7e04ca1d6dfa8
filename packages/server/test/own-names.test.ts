import type { Criterion, MethodSheet } from '@clear-mark/core';
import type {
  AttemptList,
  MethodDraft,
  MethodVersion,
  OwnNames,
  Person,
  Results,
  SkillInTime,
  Split,
} from '@clear-mark/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { attemptBody, batch, type Caller, entryOf, seen, type TestClass, World } from './harness.ts';

const CLOSURE = 'own:Closure_work';
const OVEN = 'own:Curing_oven';

let world: World;
let teacher: Person;
let trainee: Person;
let asLead: Caller;
let asTeacher: Caller;
let classroom: TestClass;

beforeAll(async () => {
  world = await World.make();
  const lead = await world.person('lead');
  [teacher, trainee] = await Promise.all([world.person('instructor'), world.person('trainee')]);
  [asLead, asTeacher] = await Promise.all([world.signedIn(lead), world.signedIn(teacher)]);
  classroom = await world.classOf([teacher], [trainee]);
});
afterAll(() => world.close());

const SOURCE = { kind: 'house', fromMemory: false, words: 'our closure course' } as const;
const check = (id: string): Criterion => ({
  kind: 'check',
  id,
  label: `It holds: ${id.split('/').at(-1)!}`,
  points: 5,
  critical: false,
  required: true,
  source: SOURCE,
});

/** A method in the school's own skill, with equipment of a kind of its own. */
async function published(): Promise<MethodVersion> {
  const begun = { id: v7(), from: null, as: 'new_method', title: 'Dome closure' };
  const draft: MethodDraft = (await asLead.post('/method-drafts', begun)).body;
  const sheet: MethodSheet = {
    ...draft.sheet,
    summary: 'Closing a dome on a loop of cable.',
    thingsUsed: ['bench', OVEN],
    steps: [
      {
        ...draft.sheet.steps[0]!,
        skill: CLOSURE,
        how: 'Seal the ports, then close the dome.',
        criteria: [
          check(`${draft.methodId}/seal`),
          { ...check(`${draft.methodId}/lengths`), skill: 'strip' },
        ],
      },
    ],
  };
  const saved = await asLead.put(`/method-drafts/${draft.id}`, { revision: draft.revision, sheet });
  expect(saved.status).toBe(200);
  const reply = await asLead.post(`/method-drafts/${draft.id}/publication`, {
    revision: (saved.body as MethodDraft).revision,
    classId: classroom.id,
  });
  expect(reply.problem.detail).toBeUndefined();
  return reply.body;
}

/** One piece by this version, its seal bad and its lengths good, signed. */
async function signedPiece(version: MethodVersion, thingIds: (string | undefined)[]): Promise<void> {
  const start = attemptBody(classroom, trainee, { methodVersionId: version.id, thingIds });
  const attempt = start as { id: string };
  expect((await asTeacher.post(`/classes/${classroom.id}/attempts`, start)).status).toBe(200);
  const [seal, lengths] = version.sheet.steps[0]!.criteria;
  const entries = [
    entryOf(attempt.id, teacher, '', { kind: 'check', passed: false }, { criterionId: seal!.id }),
    entryOf(attempt.id, teacher, '', { kind: 'check', passed: true }, { criterionId: lengths!.id }),
  ];
  await asTeacher.post('/entries', batch(entries));
  const signed = await asTeacher.post(`/attempts/${attempt.id}/sign`, {
    ...seen(entries.map((e) => e.id)),
    reason: null,
    asVoid: false,
  });
  expect(signed.problem.detail).toBeUndefined();
}

describe('a skill and a kind of equipment of the school', () => {
  let version: MethodVersion;
  const ovenId = v7();
  beforeAll(async () => {
    version = await published();
    const oven = await asTeacher.post(`/classes/${classroom.id}/things`, {
      id: ovenId,
      kind: OVEN,
      label: 'Oven 2',
    });
    expect(oven.problem.detail).toBeUndefined();
    await signedPiece(version, [classroom.things['bench'], ovenId]);
  });

  it('are known by their names wherever they are chosen', async () => {
    const names: OwnNames = (await asTeacher.get('/own-names')).body;
    expect(names).toEqual({ skills: [CLOSURE], things: [OVEN] });
  });
  it('are scored, counted and stood in like any other', async () => {
    const results: Results = (await asTeacher.get(`/classes/${classroom.id}/results`)).body;
    expect(results.skills.map((s) => s.skill)).toEqual(['strip', CLOSURE]);
    expect(results.skills[1]!.summary.rate).toMatchObject({ k: 0, n: 1 });
    const cells = results.standings.find((s) => s.traineeId === trainee.id)!.cells;
    expect(cells.map((c) => c.skill)).toEqual(['strip', CLOSURE]);
    const split: Split = (await asTeacher.get(`/classes/${classroom.id}/results/split?by=${OVEN}`)).body;
    expect(split.rows).toMatchObject([{ label: 'Oven 2' }]);
  });
  it('narrow the records, and come with the files', async () => {
    const path = `/classes/${classroom.id}/attempts?verdict=failed&skill=${CLOSURE}`;
    const list: AttemptList = (await asTeacher.get(path)).body;
    expect(list.rows.map((r) => r.skills)).toEqual([{ strip: 'pass', [CLOSURE]: 'fail' }]);
    const csv: string = (await asTeacher.get(`/classes/${classroom.id}/attempts.csv`)).body as never;
    expect(csv).toContain('Closure work: fail');
  });
  it('can be practised again: the plan knows the skill', async () => {
    const reply = await asTeacher.get(
      `/classes/${classroom.id}/trainees/${trainee.id}/skills/${encodeURIComponent(CLOSURE)}`,
    );
    expect(reply.status).toBe(200);
  });
  it('are counted on in the next version, and the line between the two is said', async () => {
    const inTime = async () =>
      (await asTeacher.get(`/classes/${classroom.id}/results/skills`)).body as SkillInTime[];
    expect((await inTime()).flatMap((s) => s.versions)).toEqual([]);
    const begun = { id: v7(), from: version.id, as: 'next_version', title: 'Dome closure' };
    const draft: MethodDraft = (await asLead.post('/method-drafts', begun)).body;
    const reply = await asLead.post(`/method-drafts/${draft.id}/publication`, {
      revision: draft.revision,
      classId: classroom.id,
    });
    await signedPiece(reply.body as MethodVersion, [classroom.things['bench'], ovenId]);
    const found = await inTime();
    const closure = found.find((s) => s.skill === CLOSURE)!;
    expect(closure.attempts.n).toBe(1);
    expect(closure.days.map((d) => d.rate)).toMatchObject([{ k: 0, n: 2 }]);
    expect(closure.versions).toEqual([{ day: closure.days[0]!.day, title: 'Dome closure', version: 2 }]);
  });
  it.each(['own:', 'own:a b', 'own:<b>', 'closure'])('%s is no kind of equipment', async (kind) => {
    const reply = await asTeacher.post(`/classes/${classroom.id}/things`, { id: v7(), kind, label: 'X' });
    expect([reply.status, reply.problem.code]).toEqual([422, 'request.bad_field']);
  });
});
