import type { InstrumentEvent, InstrumentSetting, Person } from '@clear-mark/contract';
import { type RunningStandIns, type StandInName, startStandIns } from '@clear-mark/standins';
import { v7 } from 'uuid';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { attemptBody, batch, type Caller, entryOf, type TestClass, World } from './harness.ts';
import { openEvents, type Events } from './events.ts';

let world: World;
let teacher: Person;
let trainee: Person;
let caller: Caller;
let klass: TestClass;
let standIns: RunningStandIns;
const streams: Events[] = [];

beforeAll(async () => {
  world = await World.make();
  teacher = await world.person('instructor', 'Osric Teach');
  trainee = await world.person('trainee');
  klass = await world.classOf([teacher], [trainee, await world.person('trainee')]);
  caller = await world.signedIn(teacher);
});
afterAll(() => world.close());
beforeEach(async () => {
  standIns = await startStandIns(5);
});
afterEach(async () => {
  streams.splice(0).forEach((s) => s.close());
  await standIns.stop();
});

const meter = (): string => klass.things['instrument']!;
const at = (path: string): string => `/classes/${klass.id}/instruments/${path}`;
const setting = (name: StandInName, more: Partial<InstrumentSetting> = {}): InstrumentSetting => ({
  ...{ kind: 'power_meter', host: '127.0.0.1', port: standIns.instruments[name].port, readingsPerSecond: 20 },
  ...{ calibratedOn: '2026-02-01', calibrationDueOn: '2027-02-01' },
  ...more,
});
async function connected(more: Partial<InstrumentSetting> = {}): Promise<Events> {
  const reply = await caller.put(at(meter()), setting('meter', more));
  expect(reply.status).toBe(200);
  return listen();
}
async function listen(headers: Record<string, string> = {}): Promise<Events> {
  const events = await openEvents(caller, `/classes/${klass.id}/instrument-events`, headers);
  streams.push(events);
  return events;
}
const isReading = (e: InstrumentEvent): boolean => e.kind === 'power' && e.state === 'reading';
const failedWith = (fault: string) => (e: InstrumentEvent) =>
  e.kind === 'station' && e.state === 'failed' && e.fault === fault;

describe('readings as they come', () => {
  it('each with its wavelength, unit, number and time, and none twice', async () => {
    standIns.bench.act({ act: 'connect', to: 'reference' });
    const events = await connected();
    await events.until((all) => all.filter(isReading).length >= 12);
    const readings = events.all.filter(isReading);
    expect(readings[0]).toMatchObject({ thingId: meter(), unit: 'dBm', wavelengthNm: 1310 });
    const seqs = readings.map((r) => r.seq);
    expect(new Set(seqs).size).toBe(seqs.length);
    expect([...seqs].sort((a, b) => a - b)).toEqual(seqs);
    expect(events.all.find((e) => e.kind === 'station' && e.state === 'ready')).toMatchObject({
      identity: expect.stringContaining('Power meter'),
    });
  });

  it('a client whose stream was cut is given what it missed', async () => {
    standIns.bench.act({ act: 'connect', to: 'reference' });
    const first = await connected();
    await first.until((all) => all.filter(isReading).length >= 5);
    const keeper = await listen();
    first.close();
    const last = Math.max(...first.all.map((e) => e.seq));
    await keeper.until((all) => all.filter((e) => isReading(e) && e.seq > last).length >= 8);
    const back = await listen({ 'Last-Event-ID': String(last) });
    await back.until((all) => all.filter((e) => isReading(e) && e.seq > last).length >= 9);
    const missed = keeper.all.filter((e) => isReading(e) && e.seq > last).map((e) => e.seq);
    const got = back.all.filter(isReading).map((e) => e.seq);
    expect(got.slice(0, missed.length)).toEqual(missed.slice(0, got.length));
    expect(got.every((seq) => seq > last)).toBe(true);
  });

  it('the unit changed under way changes the readings’ own label', async () => {
    standIns.bench.act({ act: 'connect', to: 'reference' });
    const events = await connected();
    await events.until((all) => all.some(isReading));
    const session = await import('node:net').then(({ connect }) =>
      connect(standIns.instruments.meter.port, '127.0.0.1'),
    );
    session.write('UNIT:POW W\n');
    await events.until((all) =>
      all.some((e) => e.kind === 'power' && e.state === 'reading' && e.unit === 'mW'),
    );
    session.destroy();
    for (const e of events.all) {
      if (e.kind !== 'power' || e.state !== 'reading') continue;
      if (e.unit === 'dBm') expect(Number(e.text)).toBeLessThan(0);
      else expect(Number(e.text)).toBeGreaterThan(0);
    }
  });
});

describe('instruments that fail', () => {
  it.each([
    ['silent', 'silent'],
    ['half_a_line', 'half_a_line'],
    ['endless_line', 'line_too_long'],
    ['disconnect', 'closed'],
    ['garbage', 'garbage'],
  ] as const)(
    '%s is said, stored as nothing, and mended by itself',
    async (how, fault) => {
      standIns.bench.act({ act: 'connect', to: 'reference' });
      const events = await connected();
      await events.until((all) => all.some(isReading));
      const before = events.all.length;
      standIns.instruments.meter.fail(how);
      await events.until((all) => all.slice(before).some(failedWith(fault)), 6000);
      const count = events.all.length;
      standIns.instruments.meter.fail('none');
      await events.until((all) => all.slice(count).some(isReading), 10_000);
      for (const e of events.all) if (isReading(e)) expect((e as { unit: string }).unit).toBe('dBm');
    },
    25_000,
  );

  it.each([
    ['not_a_number', 'not_a_number'],
    ['over_range', 'over_range'],
    ['wrong_unit', 'unknown_unit'],
  ] as const)('%s is an event and no reading', async (how, why) => {
    standIns.instruments.meter.fail(how);
    const events = await connected();
    await events.until((all) => all.some((e) => e.kind === 'power' && e.state === 'failed' && e.why === why));
    expect(events.all.some(isReading)).toBe(false);
  });

  it('another wavelength stands in the reading itself', async () => {
    standIns.bench.act({ act: 'connect', to: 'reference' });
    standIns.instruments.meter.fail('wrong_wavelength');
    const events = await connected();
    await events.until((all) =>
      all.some((e) => e.kind === 'power' && e.state === 'reading' && e.wavelengthNm === 850),
    );
  });

  it('nobody at the address', async () => {
    const events = await connected({ port: 1 });
    await events.until((all) => all.some(failedWith('unreachable')));
  });
});

describe('orders, claims and settings', () => {
  it('sets the wavelength, and says when the instrument refuses', async () => {
    standIns.bench.act({ act: 'connect', to: 'reference' });
    const events = await connected();
    const reply = await caller.post(`${at(meter())}/orders`, { order: 'wavelength', wavelengthNm: 1550 });
    expect(reply.status).toBe(200);
    await events.until((all) =>
      all.some((e) => e.kind === 'power' && e.state === 'reading' && e.wavelengthNm === 1550),
    );
    const bad = await caller.post(`${at(meter())}/orders`, { order: 'wavelength', wavelengthNm: 1555 });
    expect(bad.problem.code).toBe('instrument.refused');
    const none = await caller.post(`${at(meter())}/orders`, { order: 'light', port: 3 });
    expect(none.problem.code).toBe('instrument.refused');
  });

  it('two sheets want one meter: the second is told who has it, and may take it over', async () => {
    await caller.put(at(meter()), setting('meter'));
    const [mine, other] = [attemptBody(klass), attemptBody(klass, klass.trainees[1])];
    for (const body of [mine, other]) await caller.post(`/classes/${klass.id}/attempts`, body);
    const [tablet, laptop] = [v7(), v7()];
    const claim = (attemptId: string, deviceId: string, takeOver = false) =>
      caller.post(`${at(meter())}/claim`, { attemptId, deviceId, takeOver });
    expect((await claim(mine.id, tablet)).status).toBe(200);
    expect((await claim(mine.id, tablet)).status).toBe(200);
    const refused = await claim(other.id, laptop);
    expect(refused.problem).toMatchObject({
      ...{ code: 'instrument.in_use', params: { person: 'Osric Teach', piece: 'T-01' } },
    });
    const events = await listen();
    await events.until((all) => all.some((e) => e.kind === 'claim' && e.claim?.deviceId === tablet));
    expect((await claim(other.id, laptop, true)).status).toBe(200);
    await events.until((all) => all.some((e) => e.kind === 'claim' && e.claim?.deviceId === laptop));
    await caller.call('DELETE', `${at(meter())}/claim/${laptop}`);
    await events.until((all) => all.some((e) => e.kind === 'claim' && e.claim === null));
    expect((await claim(mine.id, tablet)).status).toBe(200);
  });

  it('refuses settings that cannot be', async () => {
    const crossed = setting('meter', { calibratedOn: '2026-05-01', calibrationDueOn: '2026-01-01' });
    expect((await caller.put(at(meter()), crossed)).problem.code).toBe('instrument.days_crossed');
    expect((await caller.put(at(klass.things['bench']!), setting('meter'))).problem.code).toBe(
      'instrument.wrong_thing',
    );
    expect((await caller.put(at(v7()), setting('meter'))).problem.code).toBe('not_found.thing');
    expect((await caller.put(at(meter()), { ...setting('meter'), host: 'a b' })).status).toBe(422);
    const learner = await world.signedIn(trainee);
    expect((await learner.put(at(meter()), setting('meter'))).status).toBe(403);
    expect((await learner.get(`/classes/${klass.id}/instruments`)).status).toBe(200);
  });

  it('outside the demo there is no simulated bench', async () => {
    expect((await caller.get('/stand-ins')).problem.code).toBe('auth.demo_only');
  });
});

describe('a reading beside its instrument', () => {
  it('stays with the entry and with the reading', async () => {
    const body = attemptBody(klass);
    await caller.post(`/classes/${klass.id}/attempts`, body);
    const reference = {
      ...{ id: v7(), instrumentId: meter(), method: 'single_cord', wavelengthNm: 1310, valueDbm: '-5.00' },
      ...{ setAt: new Date().toISOString(), showsNegative: false },
    };
    await caller.post(`/classes/${klass.id}/references`, reference);
    const instrument = {
      ...{
        thingId: meter(),
        identity: 'maker, meter',
        wavelengthNm: 1310,
        at: new Date().toISOString(),
        seq: 9,
      },
      ...{ calibratedOn: '2026-02-01', calibrationDueOn: '2026-03-01' },
    };
    const value = { kind: 'loss', text: '-5.2', unit: 'dBm', referenceId: reference.id, instrument } as const;
    const entry = entryOf(body.id, teacher, 'loss', value, { part: '1310', source: 'instrument' });
    const sent = await caller.post('/entries', batch([entry]));
    expect(sent.body).toMatchObject({ receipts: [{ state: 'accepted' }] });
    const stored = (await caller.get(`/attempts/${body.id}`)).body as { entries: { value: unknown }[] };
    expect(stored.entries[0]!.value).toEqual(value);
    const row = await world.db('readings').where({ entry_id: entry.id }).first();
    expect(row).toMatchObject({ instrument_id: meter(), calibrated_on: '2026-02-01' });
  });
});
