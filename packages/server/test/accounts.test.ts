import type { AccountState, AuditEvent, GivenCode, Person } from '@clear-mark/contract';
import { Secret, TOTP } from 'otpauth';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { attemptBody, type Caller, PASSWORD, World } from './harness.ts';

let world: World;
let lead: Person;
let asLead: Caller;
let clock = Date.now();

beforeAll(async () => {
  world = await World.make(() => new Date(clock));
  lead = await world.person('lead', 'Ruta Almqvist');
  asLead = await world.signedIn(lead);
});
afterAll(() => world.close());

const NEW_PASSWORD = 'seven quiet lanterns';
const accounts = async (): Promise<AccountState[]> => (await asLead.get('/accounts')).body;
const account = async (id: string): Promise<AccountState> => (await accounts()).find((a) => a.id === id)!;
const trail = async (query = ''): Promise<AuditEvent[]> =>
  (await asLead.get(`/audit${query}`)).body['events'] as AuditEvent[];
const giveCode = async (id: string): Promise<string> =>
  ((await asLead.post(`/accounts/${id}/code`, {})).body as GivenCode).code;
const signIn = (login: string, password: string, code?: string) =>
  world.caller().post('/session', { login, password, ...(code ? { code } : {}) });
const later = (ms: number): void => void (clock += ms);
const MINUTE = 60_000;

describe('a code for an account', () => {
  it('an invited person chooses name and password, is in at once, and the code is used up', async () => {
    const id = v7();
    const { body } = await asLead.post('/accounts', { id, name: 'Odalys Venn', role: 'instructor' });
    const { code, until } = body as GivenCode;
    expect(code).toMatch(/^[A-Z2-9]{5}-[A-Z2-9]{5}-[A-Z2-9]{5}$/);
    expect(Date.parse(until) - clock).toBeCloseTo(14 * 86_400_000, -5);
    const caller = world.caller();
    const spoken = code.toLowerCase().replaceAll('-', ' ');
    expect((await caller.post('/join/look', { code: spoken })).body).toEqual({
      name: 'Odalys Venn',
      login: null,
      secondFactor: false,
    });
    expect((await caller.post('/join', { code, login: null, password: NEW_PASSWORD })).problem.code).toBe(
      'account.login_needed',
    );
    const joined = await caller.post('/join', { code, login: 'venn', password: NEW_PASSWORD });
    expect(joined.body).toMatchObject({ id, login: 'venn', role: 'instructor' });
    expect((await caller.get('/classes')).status).toBe(200);
    expect((await world.caller().post('/join/look', { code })).problem.code).toBe('account.bad_code');
    expect((await signIn('venn', NEW_PASSWORD)).status).toBe(200);
    expect(await account(id)).toMatchObject({ signsIn: true, codeUntil: null });
  });

  it('sets a new password, ends what was signed in, and an earlier code ends with a newer one', async () => {
    const person = await world.person('instructor');
    const before = await world.signedIn(person);
    const first = await giveCode(person.id);
    const second = await giveCode(person.id);
    expect((await world.caller().post('/join/look', { code: first })).problem.code).toBe('account.bad_code');
    const reply = await world.caller().post('/join', { code: second, login: null, password: NEW_PASSWORD });
    expect(reply.status).toBe(200);
    expect((await before.get('/classes')).status).toBe(401);
    expect((await signIn(person.login, PASSWORD)).status).toBe(401);
    expect((await signIn(person.login, NEW_PASSWORD)).status).toBe(200);
  });

  it('runs out, is withdrawn, and gives no other answer than a code that never was', async () => {
    const person = await world.person('trainee');
    const code = await giveCode(person.id);
    await asLead.call('DELETE', `/accounts/${person.id}/code`);
    const old = await giveCode(person.id);
    later(49 * 60 * MINUTE);
    const answers = await Promise.all(
      [code, old, 'AAAAA-AAAAA-AAAAA'].map((c) => world.caller().post('/join/look', { code: c })),
    );
    expect(new Set(answers.map((a) => JSON.stringify([a.status, a.problem]))).size).toBe(1);
    expect(answers[0]!.problem.code).toBe('account.bad_code');
  });

  it('guesses wait, and a good code has to wait with them', async () => {
    const own = await World.make();
    const chief = await own.signedIn(await own.person('lead'));
    const guessed = own.caller();
    const codes = Array.from({ length: 40 }, (_, i) => `BBBBB-BBBBB-BBB${String(i + 20)}`);
    const answers: string[] = [];
    for (const code of codes) answers.push((await guessed.post('/join/look', { code })).problem.code);
    expect(answers[0]).toBe('account.bad_code');
    expect(answers.at(-1)).toBe('auth.throttled');
    const { code } = (await chief.post('/accounts', { id: v7(), name: 'Nils Orre', role: 'trainee' }))
      .body as GivenCode;
    expect((await guessed.post('/join/look', { code })).problem.code).toBe('auth.throttled');
    await own.close();
  });

  it('a weak password or a taken name leaves the code as it is', async () => {
    const there = await world.person('instructor');
    const { code } = (await asLead.post('/accounts', { id: v7(), name: 'Ilse Quandt', role: 'trainee' }))
      .body as GivenCode;
    const join = (login: string, password: string) => world.caller().post('/join', { code, login, password });
    expect((await join('quandt', 'short')).problem.code).toBe('auth.weak_password');
    expect((await join('quandt', 'ilse quandt 2026')).problem.code).toBe('auth.own_name_password');
    expect((await join(there.login, NEW_PASSWORD)).problem.code).toBe('person.login_taken');
    expect((await join('quandt', NEW_PASSWORD)).status).toBe(200);
  });

  it('is not made of what could be read out of the database', async () => {
    const person = await world.person('trainee');
    const code = await giveCode(person.id);
    const kept = JSON.stringify(await world.db('account_codes').where({ person_id: person.id }).first());
    expect(kept).not.toContain(code.replaceAll('-', ''));
    expect(kept).not.toContain(code);
  });
});

describe('what a lead does with an account', () => {
  it('closes it: nobody is signed in by it any longer, and opens it again', async () => {
    const person = await world.person('instructor');
    const caller = await world.signedIn(person);
    expect((await asLead.put(`/accounts/${person.id}/disabled`, { disabled: true })).status).toBe(200);
    expect((await caller.get('/classes')).status).toBe(401);
    expect((await signIn(person.login, PASSWORD)).problem.code).toBe('auth.bad_credentials');
    expect((await asLead.post(`/accounts/${person.id}/code`, {})).problem.code).toBe('account.disabled');
    await asLead.put(`/accounts/${person.id}/disabled`, { disabled: false });
    expect((await signIn(person.login, PASSWORD)).status).toBe(200);
  });

  it('never the last lead, by closing or by another role, also when two do it at once', async () => {
    const own = await World.make();
    const [a, b] = await Promise.all([own.person('lead'), own.person('lead')]);
    const [asA, asB] = await Promise.all([own.signedIn(a), own.signedIn(b)]);
    const replies = await own.atOnce('accounts', 'all', [
      () => asA.put(`/accounts/${b.id}/disabled`, { disabled: true }),
      () => asB.put(`/accounts/${a.id}`, { name: a.name, role: 'instructor' }),
    ]);
    expect(replies.map((r) => r.status).sort()).toEqual([200, 409]);
    expect(replies.find((r) => r.status === 409)!.problem.code).toBe('account.last_lead');
    await own.close();
  });

  it('another role and name hold at once; a trainee of a class becomes no instructor', async () => {
    const person = await world.person('instructor');
    await asLead.put(`/accounts/${person.id}`, { name: 'Tamsin Ferro', role: 'lead' });
    expect(await account(person.id)).toMatchObject({ name: 'Tamsin Ferro', role: 'lead' });
    const trainee = await world.person('trainee');
    await world.classOf([person], [trainee]);
    const reply = await asLead.put(`/accounts/${trainee.id}`, { name: trainee.name, role: 'instructor' });
    expect(reply.problem).toMatchObject({ code: 'account.role_in_class', params: { name: trainee.name } });
  });

  it('ends all sessions of somebody', async () => {
    const person = await world.person('instructor');
    const [one, two] = await Promise.all([world.signedIn(person), world.signedIn(person)]);
    await asLead.call('DELETE', `/accounts/${person.id}/sessions`);
    expect([(await one.get('/classes')).status, (await two.get('/classes')).status]).toEqual([401, 401]);
  });
});

describe('the own account', () => {
  it('a new password needs the old one, and ends the other sessions alone', async () => {
    const person = await world.person('trainee');
    const [here, there] = await Promise.all([world.signedIn(person), world.signedIn(person)]);
    const change = (current: string, next: string) => here.put('/me/password', { current, next });
    expect((await change('not it at all', NEW_PASSWORD)).problem.code).toBe('auth.bad_credentials');
    expect((await change(PASSWORD, 'password12')).problem.code).toBe('auth.common_password');
    expect((await change(PASSWORD, NEW_PASSWORD)).status).toBe(200);
    expect([(await here.get('/me/account')).status, (await there.get('/me/account')).status]).toEqual([
      200, 401,
    ]);
    expect((await signIn(person.login, NEW_PASSWORD)).status).toBe(200);
  });

  it('guessing the old password waits as at the door', async () => {
    const person = await world.person('trainee');
    const caller = await world.signedIn(person);
    const codes: string[] = [];
    for (let i = 0; i < 8; i += 1) {
      const reply = await caller.put('/me/password', { current: `guess number ${i}`, next: NEW_PASSWORD });
      codes.push(reply.problem.code);
    }
    expect(codes.at(-1)).toBe('auth.throttled');
  });

  it('its other sessions end at a word', async () => {
    const person = await world.person('instructor');
    const [here, there] = await Promise.all([world.signedIn(person), world.signedIn(person)]);
    expect((await here.get('/me/account')).body).toMatchObject({ sessions: 2, secondFactor: false });
    await here.call('DELETE', '/me/sessions');
    expect([(await here.get('/me/account')).status, (await there.get('/me/account')).status]).toEqual([
      200, 401,
    ]);
  });
});

describe('a second factor', () => {
  const codeOf = (secret: string): string =>
    new TOTP({ secret: Secret.fromBase32(secret), digits: 6, period: 30, algorithm: 'SHA1' }).generate({
      timestamp: clock,
    });
  async function withFactor(
    role: Person['role'],
  ): Promise<{ person: Person; caller: Caller; secret: string; recovery: string[] }> {
    const person = await world.person(role);
    const caller = await world.signedIn(person);
    const { secret, address } = (await caller.post('/me/second-factor', { password: PASSWORD })).body as {
      secret: string;
      address: string;
    };
    expect(address).toContain(`otpauth://totp/Clear%20Mark:${person.login}`);
    const reply = await caller.put('/me/second-factor', { code: codeOf(secret) });
    const { recoveryCodes } = reply.body as { recoveryCodes: string[] };
    return { person, caller, secret, recovery: recoveryCodes };
  }

  it('gives the codes of RFC 6238, appendix B', () => {
    // The secret of the appendix in base 32; its eight digits end in these six.
    const totp = new TOTP({ secret: Secret.fromUTF8('12345678901234567890'), digits: 8, period: 30 });
    expect(
      [59, 1_111_111_109, 1_234_567_890, 20_000_000_000].map((s) => totp.generate({ timestamp: s * 1000 })),
    ).toEqual(['94287082', '07081804', '89005924', '65353130']);
  });

  it('is asked for after the password; each code is taken once, a recovery code too', async () => {
    const { person, secret, recovery } = await withFactor('instructor');
    expect(recovery).toHaveLength(8);
    expect((await signIn(person.login, PASSWORD)).problem.code).toBe('auth.second_factor_needed');
    expect((await signIn(person.login, 'wrong password', codeOf(secret))).problem.code).toBe(
      'auth.bad_credentials',
    );
    // The code that it was set up by was taken.
    expect((await signIn(person.login, PASSWORD, codeOf(secret))).problem.code).toBe(
      'auth.bad_second_factor',
    );
    later(30_000);
    const code = codeOf(secret);
    expect((await signIn(person.login, PASSWORD, `${code.slice(0, 3)} ${code.slice(3)}`)).status).toBe(200);
    expect((await signIn(person.login, PASSWORD, code)).problem.code).toBe('auth.bad_second_factor');
    expect((await signIn(person.login, PASSWORD, recovery[0])).status).toBe(200);
    expect((await signIn(person.login, PASSWORD, recovery[0])).problem.code).toBe('auth.bad_second_factor');
  });

  it('codes are not guessed any faster by asking without one in between', async () => {
    const { person } = await withFactor('trainee');
    const codes: string[] = [];
    for (let i = 0; i < 8; i += 1) {
      codes.push((await signIn(person.login, PASSWORD, String(100_000 + i))).problem.code);
      await signIn(person.login, PASSWORD);
    }
    expect(codes[0]).toBe('auth.bad_second_factor');
    expect(codes.at(-1)).toBe('auth.throttled');
  });

  it('a code of two minutes ago is no code', async () => {
    const { person, secret } = await withFactor('trainee');
    later(30_000);
    const old = codeOf(secret);
    later(2 * MINUTE);
    expect((await signIn(person.login, PASSWORD, old)).problem.code).toBe('auth.bad_second_factor');
  });

  it('a code for a new password does not go past it; the lead takes it away for a lost phone', async () => {
    const { person } = await withFactor('instructor');
    const code = await giveCode(person.id);
    const caller = world.caller();
    expect((await caller.post('/join', { code, login: null, password: NEW_PASSWORD })).body).toBeNull();
    expect((await caller.get('/me/account')).status).toBe(401);
    expect((await signIn(person.login, NEW_PASSWORD)).problem.code).toBe('auth.second_factor_needed');
    await asLead.call('DELETE', `/accounts/${person.id}/second-factor`);
    expect((await signIn(person.login, NEW_PASSWORD)).status).toBe(200);
  });

  it('a secret that nobody confirmed in time is none', async () => {
    const person = await world.person('trainee');
    const caller = await world.signedIn(person);
    const { secret } = (await caller.post('/me/second-factor', { password: PASSWORD })).body as {
      secret: string;
    };
    later(16 * MINUTE);
    expect((await caller.put('/me/second-factor', { code: codeOf(secret) })).problem.code).toBe(
      'account.no_secret',
    );
    expect((await signIn(person.login, PASSWORD)).status).toBe(200);
  });

  it('asked of leads, one without it can do nothing but set it up', async () => {
    const { caller, secret } = await withFactor('lead');
    const other = await world.person('lead');
    const asOther = await world.signedIn(other);
    const refused = await asOther.put('/accounts/second-factor', { required: true });
    expect(refused.problem.code).toBe('account.no_second_factor');
    expect((await caller.put('/accounts/second-factor', { required: true })).status).toBe(200);
    const fresh = await world.signedIn(other);
    // What the server remembers of a person ends by a ring of the database.
    await vi.waitFor(async () =>
      expect((await fresh.get('/start')).body).toMatchObject({ needsSecondFactor: true }),
    );
    expect((await fresh.get('/accounts')).problem.code).toBe('auth.second_factor_first');
    expect((await fresh.get('/audit.csv')).problem.code).toBe('auth.second_factor_first');
    const { secret: own } = (await fresh.post('/me/second-factor', { password: PASSWORD })).body as {
      secret: string;
    };
    await fresh.put('/me/second-factor', { code: codeOf(own) });
    expect((await fresh.get('/accounts')).status).toBe(200);
    expect((await fresh.post('/me/second-factor/off', { password: PASSWORD })).problem.code).toBe(
      'account.second_factor_required',
    );
    await caller.put('/accounts/second-factor', { required: false });
    expect(secret).not.toBe(own);
  });
});

describe('leaving a class', () => {
  it('what was scored stays; open pieces hinder; the person can come back', async () => {
    const [teacher, trainee] = await Promise.all([world.person('instructor'), world.person('trainee')]);
    const room = await world.classOf([teacher], [trainee]);
    const asTeacher = await world.signedIn(teacher);
    const leave = (id: string) => asTeacher.call('DELETE', `/classes/${room.id}/members/${id}`);
    const begun = attemptBody(room, trainee, {
      startedAt: new Date(clock).toISOString(),
      sentAt: new Date(clock).toISOString(),
    });
    expect((await asTeacher.post(`/classes/${room.id}/attempts`, begun)).status).toBe(200);
    expect((await leave(trainee.id)).problem).toMatchObject({
      code: 'class.open_attempts',
      params: { pieces: 'T-01' },
    });
    await asTeacher.post(`/attempts/${begun.id}/withdrawal`, {});
    expect((await leave(trainee.id)).status).toBe(200);
    const detail = async () => (await asTeacher.get(`/classes/${room.id}`)).body as { trainees: Person[] };
    expect((await detail()).trainees).toEqual([]);
    expect((await leave(trainee.id)).problem.code).toBe('not_found.person');
    const back = { role: 'trainee', personId: trainee.id, newPerson: null };
    expect((await asTeacher.post(`/classes/${room.id}/members`, back)).status).toBe(200);
    expect((await detail()).trainees.map((t) => t.id)).toEqual([trainee.id]);
  });

  it('an instructor who left sees it no longer; the last one stays', async () => {
    const [one, two] = await Promise.all([world.person('instructor'), world.person('instructor')]);
    const room = await world.classOf([one, two], []);
    const [asOne, asTwo] = await Promise.all([world.signedIn(one), world.signedIn(two)]);
    expect((await asOne.call('DELETE', `/classes/${room.id}/members/${two.id}`)).status).toBe(200);
    expect((await asTwo.get(`/classes/${room.id}`)).status).toBe(403);
    expect((await asOne.call('DELETE', `/classes/${room.id}/members/${one.id}`)).problem.code).toBe(
      'class.last_instructor',
    );
  });
});

describe('the trail', () => {
  it('says who did what to whom, newest first; by kind, by person, by words', async () => {
    const person = await world.person('instructor', 'Zephyrine Oake');
    await asLead.put(`/accounts/${person.id}`, { name: 'Zephyrine Oake', role: 'lead' });
    await asLead.put(`/accounts/${person.id}/disabled`, { disabled: true });
    const [newest, before] = await trail(`?person=${person.id}`);
    expect(newest).toMatchObject({ kind: 'account_disabled', by: 'Ruta Almqvist', person: 'Zephyrine Oake' });
    expect(before).toMatchObject({ kind: 'account_role', detail: 'instructor to lead' });
    expect(newest!.seq).toBeGreaterThan(before!.seq);
    expect((await trail('?text=zephyrine')).length).toBe(2);
    expect((await trail('?kind=account_role&text=zephyrine')).map((e) => e.kind)).toEqual(['account_role']);
    expect(await trail(`?before=${before!.seq}&person=${person.id}`)).toEqual([]);
  });

  it('a wrong password is kept, what was typed is not', async () => {
    const person = await world.person('trainee');
    await signIn(person.login, 'a slip of the hand');
    await signIn('a-secret-typed-here', 'whatever it was');
    const [unknown, known] = await trail('?kind=sign_in_failed');
    expect(unknown).toMatchObject({ by: null, person: null, detail: '' });
    expect(known).toMatchObject({ by: null, person: person.name });
    expect(JSON.stringify(await world.db('audit_events'))).not.toContain('a-secret-typed-here');
  });

  it('is never changed, and comes as CSV, which is in it itself', async () => {
    await expect(world.owner('audit_events').update({ detail: 'x' })).rejects.toThrow(/append only/);
    await expect(world.db('audit_events').delete()).rejects.toThrow();
    const csv = (await asLead.get('/audit.csv?kind=account_role')).body as string;
    expect(csv.split('\r\n')[0]).toBe('number,at,kind,what,by,person,class,detail');
    expect(csv).toContain('changed a role');
    expect((await trail())[0]).toMatchObject({ kind: 'export', detail: 'audit trail' });
  });
});
