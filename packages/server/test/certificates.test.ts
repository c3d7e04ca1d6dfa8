import type { Certificate, CertificateState } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { type Caller, criterionId, wholePiece } from './harness.ts';
import { openAttempt } from './open-attempt.ts';

const own = openAttempt();
let lead: Caller;
beforeAll(async () => {
  lead = await own.world.signedIn(await own.world.person('lead', 'Ruta Almqvist'));
});

const inDays = (days: number): string => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);
const path = (rest = ''): string => `/classes/${own.classroom.id}/certificates${rest}`;
/** A signed piece that the trainee is signed off by in a skill. */
async function signedOff(skill: string, lapsesOn = inDays(300)): Promise<void> {
  await own.world.db('sign_offs').insert({
    id: v7(),
    class_id: own.classroom.id,
    trainee_id: own.trainee.id,
    skill,
    rule: '3 passes in a row',
    evidence: 'The last 3 of 3 outcomes passed.',
    attempt_ids: [own.attemptId],
    note: '',
    lapses_on: lapsesOn,
    by: own.teacher.id,
    at: new Date().toISOString(),
  });
}
const issue = (skills: readonly string[], more: object = {}, as = lead) =>
  as.post(path(), { id: v7(), traineeId: own.trainee.id, skills, ...more });
const stateOf = async (code: string): Promise<CertificateState> =>
  ((await own.world.caller().post('/verify', { code })).body as { state: CertificateState }).state;

describe('a certificate', () => {
  beforeEach(async () => {
    const entries = wholePiece(own.attemptId, own.teacher, await own.references());
    await own.receiptsOf(own.api, entries);
    await own.sign(entries.map((e) => e.id));
    await signedOff('cleave');
    await signedOff('strip', inDays(30));
  });

  it('says what was shown, by which rule and method version, and holds until the first of it lapses', async () => {
    const { body } = await issue(['cleave', 'strip']);
    expect(body as Certificate).toMatchObject({
      traineeName: own.trainee.name,
      issuedBy: 'Ruta Almqvist',
      validUntil: inDays(30),
      state: 'valid',
    });
    const { skills } = body as Certificate;
    expect(skills.map((s) => [s.skill, s.rule, s.lapsesOn])).toEqual([
      ['cleave', '3 passes in a row', inDays(300)],
      ['strip', '3 passes in a row', inDays(30)],
    ]);
    expect(skills[0]!.methods).toEqual([
      { title: expect.stringContaining('LC'), version: expect.any(Number) },
    ]);
    const asTrainee = await own.world.signedIn(own.trainee);
    expect((await asTrainee.get('/me/certificates')).body).toContainEqual(body);
    expect((await own.api.get(path(`?trainee=${own.trainee.id}`))).body).toContainEqual(body);
  });

  it('is verified by its code alone, however it is typed, and tells nothing but how it stands', async () => {
    const { code } = (await issue(['cleave'])).body as Certificate;
    expect(code).toMatch(/^[A-Z2-9]{4}-[A-Z2-9]{4}-[A-Z2-9]{4}$/);
    const reply = await own.world.caller().post('/verify', { code: code.toLowerCase().replaceAll('-', ' ') });
    expect(reply.body).toEqual({ state: 'valid' });
    const unknown = await own.world.caller().post('/verify', { code: 'AAAA-BBBB-CCCC' });
    expect([unknown.status, unknown.problem.code]).toEqual([404, 'not_found.certificate']);
  });

  it('is amended where a piece behind it was amended after it was issued', async () => {
    const { code } = (await issue(['cleave'])).body as Certificate;
    const entry = { id: v7(), kind: 'value', part: '', note: null, targetId: null };
    const failed = { ...entry, criterionId: criterionId('glasses'), value: { kind: 'check', passed: false } };
    const amended = await own.api.post(`/attempts/${own.attemptId}/amendment`, {
      fromRevision: 1,
      late: [],
      entries: [failed],
      reason: 'Seen on the video',
      asVoid: false,
    });
    expect(amended.status).toBe(200);
    expect(await stateOf(code)).toBe('amended');
  });

  it('lapses, and is withdrawn for good, which says more than both', async () => {
    await signedOff('inspect', inDays(0));
    const { id, code } = (await issue(['inspect'])).body as Certificate;
    expect(await stateOf(code)).toBe('valid');
    await own.world.owner.raw('alter table certificates disable trigger certificates_append_only');
    await own.world
      .owner('certificates')
      .where({ id })
      .update({ valid_until: inDays(-2) });
    expect(await stateOf(code)).toBe('lapsed');
    const withdraw = (as = lead) => as.put(path(`/${id}`), { reason: 'Issued by mistake' });
    expect((await withdraw(own.api)).problem.code).toBe('auth.role');
    expect((await withdraw()).body).toMatchObject({ state: 'withdrawn' });
    expect((await withdraw()).body).toMatchObject({ state: 'withdrawn' });
    expect(await stateOf(code)).toBe('withdrawn');
    expect((await lead.put(path(`/${v7()}`), { reason: 'x' })).problem.code).toBe('not_found.certificate');
  });

  it('is of skills that are signed off, of trainees of the class, by a lead', async () => {
    expect((await issue(['cleave', 'splice'])).problem).toMatchObject({
      code: 'certificate.not_signed_off',
      params: { skill: 'splice' },
    });
    expect((await issue(['cleave'], { traineeId: own.stranger.id })).problem.code).toBe('not_found.person');
    expect((await issue(['cleave'], {}, own.api)).problem.code).toBe('auth.role');
    await signedOff('terminate', inDays(-1));
    expect((await issue(['terminate'])).problem.code).toBe('certificate.not_signed_off');
  });

  it('sent again it is the same one; under its id there is no other', async () => {
    const id = v7();
    const first = await issue(['cleave'], { id });
    expect((await issue(['cleave'], { id })).body).toEqual(first.body);
    expect((await issue(['strip'], { id })).problem.code).toBe('request.already_there');
  });

  it('never changes, and guessing its code has to wait', async () => {
    const { id } = (await issue(['cleave'])).body as Certificate;
    await expect(own.world.db('certificates').where({ id }).update({ code: 'X' })).rejects.toThrow();
    const caller = own.world.caller();
    let last = '';
    for (let i = 0; i < 40 && last !== 'auth.throttled'; i += 1)
      last = (await caller.post('/verify', { code: `QQQQ-QQQQ-QQ${String(i + 20)}` })).problem.code;
    expect(last).toBe('auth.throttled');
  });
});
