import { type EntryValue, trunkMap } from '@clear-mark/core';
import type { ClassPracticeOption, Person, SuggestionCount } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { attemptBody, batch, type Caller, entryOf, type TestClass, World, seen } from './harness.ts';
import { setReferences } from './open-attempt.ts';

let world: World;
let lead: Person;
let teacher: Person;
let trainee: Person;
let asLead: Caller;
let asTeacher: Caller;
let asTrainee: Caller;
let classroom: TestClass;
let versionOf: (method: string) => Promise<string>;

beforeAll(async () => {
  world = await World.make();
  [lead, teacher, trainee] = await Promise.all([
    world.person('lead'),
    world.person('instructor'),
    world.person('trainee'),
  ]);
  [asLead, asTeacher, asTrainee] = await Promise.all([
    world.signedIn(lead),
    world.signedIn(teacher),
    world.signedIn(trainee),
  ]);
  versionOf = async (method) =>
    (
      await world
        .db('method_versions')
        .where({ method_id: `clear-mark/${method}` })
        .pluck('id')
    )[0] as string;
});
beforeEach(async () => {
  classroom = await world.classOf([teacher], [trainee]);
});
afterAll(() => world.close());

const use = async (method: string): Promise<string> => {
  const versionId = await versionOf(method);
  await asTeacher.put(`/classes/${classroom.id}/methods`, { versionId, inUse: true });
  return versionId;
};
const start = async (method: string): Promise<string> => {
  const versionId = await use(method);
  const body = { ...attemptBody(classroom), methodVersionId: versionId };
  expect((await asTeacher.post(`/classes/${classroom.id}/attempts`, body)).status).toBe(200);
  return body.id;
};
const send = async (caller: Caller, entries: readonly unknown[]) => {
  const reply = await caller.post('/entries', batch(entries));
  return (reply.body as { receipts: { state: string; code?: string; detail?: string }[] }).receipts;
};
const inMethod = (method: string, attemptId: string, name: string, value: EntryValue, more: object = {}) => ({
  ...entryOf(attemptId, teacher, name, value, more as never),
  criterionId: `clear-mark/${method}/${name}`,
});

describe('practice options of a class', () => {
  const choose = (practice: string, option: string) =>
    asTeacher.put(`/classes/${classroom.id}/practice-options`, { practice, option });

  it('are those of the methods in use, at their defaults', async () => {
    const list = (await asTeacher.get(`/classes/${classroom.id}/practice-options`))
      .body as ClassPracticeOption[];
    expect(list.map((s) => s.id)).toContain('loss-allowance');
    expect(list.map((s) => s.id)).not.toContain('trunk');
    expect(list.every((s) => s.chosen === s.default && s.reason !== '' && s.methods.length === 1)).toBe(true);
    await use('mpo-trunk');
    const more = (await asTeacher.get(`/classes/${classroom.id}/practice-options`))
      .body as ClassPracticeOption[];
    expect(more.find((s) => s.id === 'loss-allowance')!.methods).toHaveLength(2);
    expect(more.map((s) => s.id)).toContain('trunk');
  });

  it('a choice that there is not changes nothing', async () => {
    expect((await choose('trunk', 'B')).problem.code).toBe('practice.unknown');
    await use('mpo-trunk');
    const refused = await choose('trunk', 'Z');
    expect([refused.status, refused.problem.code]).toEqual([422, 'practice.unknown']);
    expect(refused.problem.detail).toBe('There is no choice “trunk: Z”. Nothing was changed.');
    expect((await choose('trunk', 'B')).status).toBe(200);
    expect((await choose('wavelengths', 'one')).status).toBe(200);
    const [row] = await world.db('classes').where({ id: classroom.id }).pluck('schools');
    expect(row).toEqual({ trunk: 'B', wavelengths: 'one' });
  });

  it('a piece keeps those that it was started by, for its sheet, its entries and its signature', async () => {
    const before = await start('mpo-trunk');
    await choose('trunk', 'B');
    await choose('wipe-after-cleave', 'dry');
    const after = await start('mpo-trunk');
    const trunkOf = async (id: string): Promise<[string, unknown]> => {
      const { sheet } = (await asTeacher.get(`/attempts/${id}`)).body as {
        sheet: { steps: { criteria: { kind: string; trunk: string }[] }[]; chosen?: unknown };
      };
      return [sheet.steps.flatMap((s) => s.criteria).find((c) => c.kind === 'map')!.trunk, sheet.chosen];
    };
    expect(await trunkOf(before)).toEqual(['A', undefined]);
    expect(await trunkOf(after)).toEqual(['B', { trunk: 'B' }]);
    // The same walk: right for one, another trunk's map for the other.
    const walked: EntryValue = { kind: 'map', far: trunkMap('B', 12) };
    const verdictOf = async (id: string): Promise<string> => {
      const entry = inMethod('mpo-trunk', id, 'port-map', walked);
      expect((await send(asTeacher, [entry]))[0]!.state).toBe('accepted');
      const signed = await asTeacher.post(`/attempts/${id}/sign`, {
        ...seen([entry.id]),
        reason: 'only the walk',
        asVoid: false,
      });
      const { outcome } = signed.body as {
        outcome: { criteria: { criterionId: string; verdict: string }[] };
      };
      return outcome.criteria.find((c) => c.criterionId.endsWith('port-map'))!.verdict;
    };
    expect(await verdictOf(before)).toBe('fail');
    expect(await verdictOf(after)).toBe('pass');
    await expect(world.db('attempts').where({ id: after }).update({ schools: '{}' })).rejects.toMatchObject({
      code: 'CM002',
    });
  });

  it('a criterion that the class left out is not taken', async () => {
    await use('inspect-single');
    await choose('clean-or-look', 'clean');
    const id = await start('inspect-single');
    const [receipt] = await send(asTeacher, [
      inMethod('inspect-single', id, 'looked-first', { kind: 'check', passed: true }),
    ]);
    expect(receipt).toMatchObject({ state: 'refused', code: 'entry.unknown_criterion' });
  });
});

describe('values of the newer kinds', () => {
  it('each wrong one is refused on its own, with a sentence', async () => {
    const id = await start('mpo-trunk');
    const map = (far: (number | null)[]) => inMethod('mpo-trunk', id, 'port-map', { kind: 'map', far });
    const straight = trunkMap('A', 12);
    const receipts = await send(asTeacher, [
      map([1, 1, ...straight.slice(2)]),
      map([13, ...straight.slice(1)]),
      map(straight.slice(0, 11)),
      map([0, null, ...straight.slice(2)]),
      inMethod('mpo-trunk', id, 'trainee-verdict', { kind: 'check', passed: true }),
      inMethod('mpo-trunk', id, 'trainee-verdict', { kind: 'call', said: 'fail' }),
      { ...map([...straight]), value: { kind: 'map', far: ['1'] } },
    ]);
    expect(receipts.map((r) => [r.state, r.code])).toEqual([
      ['refused', 'map.port_twice'],
      ['refused', 'map.no_such_port'],
      ['refused', 'map.wrong_length'],
      ['accepted', undefined],
      ['refused', 'value.wrong_kind'],
      ['accepted', undefined],
      ['refused', 'request.bad_field'],
    ]);
    expect(receipts[0]!.detail).toBe('Far port 1 cannot light for both 1 and 2. Walk one of them again.');
  });

  it('readings of many fibers have rows of their own, and count in one sample', async () => {
    const id = await start('mpo-trunk');
    const references = await setReferences(asTeacher, classroom, {
      wavelengthsNm: [850, 1300],
      method: 'one_cord',
      valueDbm: '-20.00',
    });
    const entries = Array.from({ length: 12 }, (_, i) => i + 1).flatMap((fiber) =>
      [850, 1300].map((nm) =>
        inMethod(
          'mpo-trunk',
          id,
          'loss',
          { kind: 'loss', text: `0.${40 + fiber}`, unit: 'dB', referenceId: references[nm]! },
          { part: `f${fiber}.${nm}`, source: 'instrument' },
        ),
      ),
    );
    expect((await send(asTeacher, entries)).every((r) => r.state === 'accepted')).toBe(true);
    const readings = await world.db('readings').where({ attempt_id: id }).orderBy(['fiber', 'wavelength_nm']);
    expect(readings).toHaveLength(24);
    expect(readings[23]).toMatchObject({ fiber: 12, wavelength_nm: 1300, direction: '', value_text: '0.52' });
    await asTeacher.post(`/attempts/${id}/sign`, {
      ...seen(entries.map((e) => e.id)),
      reason: 'only the loss',
      asVoid: false,
    });
    const { losses } = (await asTeacher.get(`/classes/${classroom.id}/results`)).body as {
      losses: { wavelengthNm: number; direction: string; summary: { n: number; mean: number } }[];
    };
    expect(losses.map((l) => [l.wavelengthNm, l.direction, l.summary.n])).toEqual([
      [850, '', 12],
      [1300, '', 12],
    ]);
    expect(losses[0]!.summary.mean).toBeCloseTo(0.465, 9);
    const { rows } = (await asTeacher.get(`/classes/${classroom.id}/attempts`)).body as {
      rows: { losses: { wavelengthNm: number; lossDb: number }[] }[];
    };
    // A list shows the worst fiber of each wavelength.
    expect(rows[0]!.losses).toEqual([
      { wavelengthNm: 850, lossDb: 0.52 },
      { wavelengthNm: 1300, lossDb: 0.52 },
    ]);
  });
});

describe('suggestions put away', () => {
  const dismissal = (id: string, author: Person, more: object = {}) =>
    entryOf(id, author, 'loss', { kind: 'dismiss', symptom: 'high_loss', cause: 'dirty_face' }, {
      kind: 'dismiss',
      part: 'no high_loss dirty_face',
      ...more,
    } as never);
  const counts = async (): Promise<SuggestionCount[]> =>
    (await asTeacher.get(`/classes/${classroom.id}/suggestions`)).body as SuggestionCount[];

  it('are counted beside those that were charged; a taken-back one is not', async () => {
    const first = await start('lc-wedge-locator');
    const second = await start('lc-wedge-locator');
    expect(await counts()).toEqual([]);
    const away = dismissal(first, teacher);
    const charge = entryOf(
      second,
      teacher,
      'loss',
      { kind: 'charge', skill: 'inspect', cause: 'dirty_face' },
      {
        kind: 'charge',
        part: 'charge',
      } as never,
    );
    const receipts = await send(asTeacher, [away, charge]);
    expect(receipts.map((r) => r.state)).toEqual(['accepted', 'accepted']);
    expect(await counts()).toEqual([{ cause: 'dirty_face', charged: 1, dismissed: 1 }]);
    const back = { ...dismissal(first, teacher), kind: 'retract', value: null, targetId: away.id };
    await send(asTeacher, [back]);
    expect(await counts()).toEqual([{ cause: 'dirty_face', charged: 1, dismissed: 0 }]);
  });

  it('are not a trainee’s to put away, nor of a cause that there is not', async () => {
    const id = await start('lc-wedge-locator');
    const byTrainee = dismissal(id, trainee);
    expect((await send(asTrainee, [byTrainee]))[0]).toMatchObject({
      state: 'refused',
      code: 'entry.capacity',
    });
    const wrong = dismissal(id, teacher, {
      value: { kind: 'dismiss', symptom: 'high_loss', cause: 'bad_mood' },
    });
    expect((await send(asTeacher, [wrong]))[0]).toMatchObject({ code: 'request.bad_field' });
    const elsewhere = dismissal(id, teacher, { part: '' });
    expect((await send(asTeacher, [elsewhere]))[0]).toMatchObject({ code: 'value.unknown_part' });
  });
});

describe('states of a method version', () => {
  it('a draft comes in force by the lead alone, and then retires', async () => {
    const versionId = await versionOf('scribe-pull');
    const sheet = (await world.db('method_versions').where({ id: versionId }).pluck('sheet'))[0];
    const id = v7();
    const newer = { id, method_id: 'clear-mark/scribe-pull', version: 9, state: 'draft', title: 'Newer' };
    await world.db('method_versions').insert({ ...newer, sheet: JSON.stringify(sheet), digest: 'x' });
    const move = (caller: Caller, state: string) => caller.put(`/method-versions/${id}/state`, { state });
    expect((await move(asTeacher, 'in_force')).problem.code).toBe('auth.role');
    expect((await move(asLead, 'retired')).problem.code).toBe('method.state');
    // A draft is shown to the class, and cannot be used.
    const use = { versionId: id, inUse: true };
    expect((await asTeacher.put(`/classes/${classroom.id}/methods`, use)).problem.code).toBe(
      'not_found.method_version',
    );
    expect((await move(asLead, 'in_force')).body).toMatchObject({ state: 'in_force', version: 9 });
    expect((await asTeacher.put(`/classes/${classroom.id}/methods`, use)).status).toBe(200);
    expect((await move(asLead, 'in_force')).problem.code).toBe('method.state');
    expect((await move(asLead, 'retired')).body).toMatchObject({ state: 'retired' });
    expect((await move(asLead, 'in_force')).problem.detail).toBe(
      'A version that is retired cannot become in_force.',
    );
  });
});
