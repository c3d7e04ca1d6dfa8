import type { BenchDevice, BenchDoor, Person } from '@clear-mark/contract';
import { v7 } from 'uuid';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { isWeakPin } from '../src/bench-devices/pins.ts';
import { type Caller, PASSWORD, type TestClass, World } from './harness.ts';

let world: World;
let teacher: Person;
let trainee: Person;
let api: Caller;
let room: TestClass;
beforeAll(async () => {
  world = await World.make();
});
afterAll(() => world.close());

const PIN = '4071';
const setPin = async (person: Person, pin = PIN, password = PASSWORD) =>
  (await world.signedIn(person)).put('/me/pin', { password, pin });
/** The cookie that a new bench device of the class keeps. */
async function benchOf(classId: string, label = 'Bench 3', before = ''): Promise<string> {
  const reply = await api.call(
    'POST',
    `/classes/${classId}/benches`,
    { id: v7(), label },
    before === '' ? {} : { Cookie: `${api.cookie}; ${before}` },
  );
  expect(reply.status).toBe(200);
  const cookie = reply.headers.getSetCookie().find((c) => c.startsWith('clear-mark-bench='))!;
  expect(cookie).toContain('HttpOnly');
  return cookie.split(';')[0]!;
}
/** What a device asks that has this cookie and no session. */
const at = (bench: string, method: string, body?: unknown) =>
  world.caller().call(method, '/bench', body, { Cookie: bench });
const door = async (bench: string): Promise<BenchDoor | null> => (await at(bench, 'GET')).body;

describe('a bench device', () => {
  beforeEach(async () => {
    [teacher, trainee] = await Promise.all([
      world.person('instructor', 'Nkeiru Vasconi'),
      world.person('trainee', 'Torvin Hale'),
    ]);
    api = await world.signedIn(teacher);
    room = await world.classOf([teacher], [trainee]);
  });

  it('shows who of its class has a PIN, and lets them in by it', async () => {
    const bench = await benchOf(room.id);
    expect(await door(bench)).toMatchObject({ label: 'Bench 3', people: [] });
    for (const person of [teacher, trainee]) expect((await setPin(person)).status).toBe(200);
    expect((await door(bench))!.people.map((p) => p.name)).toEqual(['Nkeiru Vasconi', 'Torvin Hale']);
    const caller = world.caller();
    const entered = await caller.call(
      'POST',
      '/bench',
      { personId: trainee.id, pin: PIN },
      { Cookie: bench },
    );
    expect(entered.body).toMatchObject({ id: trainee.id, role: 'trainee' });
    const session = entered.headers.getSetCookie().find((c) => c.startsWith('clear-mark='))!;
    caller.cookie = session.split(';')[0]!;
    expect((await caller.get('/me/bench')).status).toBe(200);
    expect((await caller.get('/start')).body).toMatchObject({ byPin: true });
    // Nobody stays in for hours at a device that others use.
    const expires = Date.parse(/Expires=([^;]+)/.exec(session)![1]!);
    expect(expires - Date.now()).toBeLessThan(21 * 60_000);
    expect((await api.get('/start')).body).toMatchObject({ byPin: false });
  });
  it('is nothing to other devices, to people of other classes, and after it was ended', async () => {
    const bench = await benchOf(room.id);
    const stranger = await world.person('trainee');
    await world.classOf([teacher], [stranger]);
    await setPin(stranger);
    await setPin(trainee);
    expect(await door('clear-mark-bench=' + 'a'.repeat(64))).toBeNull();
    expect((await at('', 'POST', { personId: trainee.id, pin: PIN })).problem.code).toBe('bench.none');
    expect((await at(bench, 'POST', { personId: stranger.id, pin: PIN })).problem.code).toBe('auth.bad_pin');
    const [device] = (await api.get(`/classes/${room.id}/benches`)).body as BenchDevice[];
    expect(device).toMatchObject({ label: 'Bench 3', madeBy: 'Nkeiru Vasconi', here: false });
    await api.call('DELETE', `/classes/${room.id}/benches/${device!.id}`);
    expect(await door(bench)).toBeNull();
    expect((await at(bench, 'POST', { personId: trainee.id, pin: PIN })).problem.code).toBe('bench.none');
  });
  it('a wrong PIN, no PIN and an unknown person are one answer, and guessing has to wait, with the right one as well', async () => {
    const bench = await benchOf(room.id);
    const asked = (personId: string, pin: string) => at(bench, 'POST', { personId, pin });
    const none = await asked(trainee.id, PIN);
    await setPin(trainee);
    const wrong = await asked(trainee.id, '9058');
    const unknown = await asked(v7(), PIN);
    for (const reply of [none, wrong, unknown])
      expect([reply.status, reply.problem]).toEqual([401, none.problem]);
    for (let i = 0; i < 4; i += 1) await asked(trainee.id, '9058');
    // From the fifth on it has to wait: a second at first, which a slow machine takes to ask again.
    const longer = world
      .db('sign_in_tries')
      .where({ key: `pin ${trainee.id}` })
      .whereNotNull('locked_until');
    expect(await longer.update({ locked_until: new Date(Date.now() + 60_000) })).toBe(1);
    expect((await asked(trainee.id, PIN)).problem.code).toBe('auth.throttled');
    // The password is another lock.
    expect((await world.signedIn(trainee)).cookie).not.toBe('');
  });
  it('becomes one of another class, and the first ends', async () => {
    const other = await world.classOf([teacher], []);
    const first = await benchOf(room.id);
    const second = await benchOf(other.id, 'Bench 9', first);
    expect(await door(first)).toBeNull();
    expect((await door(second))!.label).toBe('Bench 9');
  });
  it.each([
    ['1111', 'auth.weak_pin'],
    ['23456', 'auth.weak_pin'],
    ['8765', 'auth.weak_pin'],
    ['407', 'request.bad_field'],
    ['40 71', 'request.bad_field'],
    ['123456789', 'request.bad_field'],
  ])('the PIN %s is refused', async (pin, code) => {
    expect((await setPin(trainee, pin)).problem.code).toBe(code);
  });
  it('no PIN without the password, none for leads, and none is left when one becomes a lead or it is taken away', async () => {
    expect((await setPin(teacher, PIN, 'not the password')).status).toBe(401);
    const lead = await world.person('lead');
    expect((await setPin(lead)).problem.code).toBe('account.lead_no_pin');
    const asLead = await world.signedIn(lead);
    const other = await world.person('instructor');
    const pinOf = async (id: string): Promise<boolean> =>
      ((await asLead.get('/accounts')).body as { id: string; pin: boolean }[]).find((a) => a.id === id)!.pin;
    await setPin(other);
    expect(await pinOf(other.id)).toBe(true);
    await asLead.put(`/accounts/${other.id}`, { name: other.name, role: 'lead' });
    expect(await pinOf(other.id)).toBe(false);
    await setPin(trainee);
    await asLead.call('DELETE', `/accounts/${trainee.id}/pin`);
    expect(await pinOf(trainee.id)).toBe(false);
  });
  it('instructors of other classes make and end none', async () => {
    await benchOf(room.id);
    const other = await world.signedIn(await world.person('instructor'));
    const [device] = (await api.get(`/classes/${room.id}/benches`)).body as BenchDevice[];
    const codes = [
      await other.get(`/classes/${room.id}/benches`),
      await other.post(`/classes/${room.id}/benches`, { id: v7(), label: 'X' }),
      await other.call('DELETE', `/classes/${room.id}/benches/${device!.id}`),
    ].map((r) => r.problem.code);
    expect(new Set(codes)).toEqual(new Set(['auth.not_in_class']));
  });
});

describe('a weak PIN', () => {
  it.each([
    ['0000', true],
    ['3210', true],
    ['4567', true],
    ['4071', false],
    ['1212', false],
    ['9012', false],
  ])('%s: %s', (pin, weak) => {
    expect(isWeakPin(pin)).toBe(weak);
  });
});
