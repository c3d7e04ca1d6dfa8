import type { EntryValue } from '@clear-mark/core';
import type { InstrumentEvent, InstrumentSetting, Person } from '@clear-mark/contract';
import { type RunningStandIns, type StandInName, startStandIns } from '@clear-mark/standins';
import { v7 } from 'uuid';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { attemptBody, batch, type Caller, entryOf, type TestClass, World } from './harness.ts';
import { addressAllowed, isNetwork } from '../src/networks.ts';
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
  // Only the lead sets addresses and is told why nothing comes.
  teacher = await world.person('lead', 'Osric Teach');
  trainee = await world.person('trainee');
  klass = await world.classOf([teacher], [trainee, await world.person('trainee')]);
  caller = await world.signedIn(teacher);
});
afterAll(() => world.close());
beforeEach(async () => {
  await world.db('instrument_claims').del();
  standIns = await startStandIns(5);
});
afterEach(async () => {
  streams.splice(0).forEach((s) => s.close());
  await standIns.stop();
});

const meter = (): string => klass.things['instrument']!;
const at = (path: string): string => `/classes/${klass.id}/instruments/${path}`;
const setting = (name: StandInName, more: Partial<InstrumentSetting> = {}): InstrumentSetting => ({
  kind: 'power_meter',
  host: '127.0.0.1',
  port: standIns.instruments[name].port,
  readingsPerSecond: 20,
  calibratedOn: '2026-02-01',
  calibrationDueOn: '2027-02-01',
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

/** An attempt of the class, with the meter claimed for its sheet. */
async function claimFor(who: Caller, deviceId = v7()): Promise<{ attemptId: string; deviceId: string }> {
  const body = attemptBody(klass);
  await caller.post(`/classes/${klass.id}/attempts`, body);
  const reply = await who.post(`${at(meter())}/claim`, { attemptId: body.id, deviceId, takeOver: true });
  expect(reply.status).toBe(200);
  return { attemptId: body.id, deviceId };
}

describe('orders, claims and settings', () => {
  it('are the claimer’s, or an instructor’s of the class; a trainee takes nothing from another', async () => {
    await connected();
    const { attemptId, deviceId } = await claimFor(caller);
    const learner = await world.signedIn(trainee);
    const order = await learner.post(`${at(meter())}/orders`, { order: 'wavelength', wavelengthNm: 1310 });
    expect(order.problem.code).toBe('instrument.not_claimed');
    const over = { attemptId, deviceId: v7(), takeOver: true };
    expect((await learner.post(`${at(meter())}/claim`, over)).problem.code).toBe('instrument.in_use');
    const release = `${at(meter())}/claim/${deviceId}`;
    expect((await learner.call('DELETE', release)).problem.code).toBe('instrument.in_use');
    const instructor = await world.person('instructor');
    await caller.post(`/classes/${klass.id}/members`, {
      role: 'instructor',
      personId: instructor.id,
      newPerson: null,
    });
    expect((await (await world.signedIn(instructor)).call('DELETE', release)).status).toBe(200);
  });

  it('say to others than the lead neither where an instrument is nor what answers there', async () => {
    standIns.instruments.meter.fail('garbage');
    const events = await connected();
    await events.until((all) => all.some(failedWith('garbage')));
    const learner = await world.signedIn(trainee);
    expect((await learner.get(`/classes/${klass.id}/instruments`)).body).toMatchObject([
      { host: null, port: null },
    ]);
    for (const fault of ['garbage', 'silent', 'disconnect'] as const) {
      standIns.instruments.meter.fail(fault);
      const theirs = await openEvents(learner, `/classes/${klass.id}/instrument-events`);
      streams.push(theirs);
      await theirs.until((all) => all.some(failedWith('no_answer')));
      expect(
        theirs.all.some((e) => e.kind === 'station' && e.fault !== null && e.fault !== 'no_answer'),
      ).toBe(false);
    }
  });

  it('take addresses of this machine and of the given networks only, from the lead only', async () => {
    for (const host of ['10.1.2.3', '169.254.169.254', 'example.org', '::2', '128.0.0.1']) {
      const reply = await caller.put(at(meter()), setting('meter', { host }));
      expect([host, reply.problem.code]).toEqual([host, 'instrument.address_refused']);
    }
    expect(addressAllowed('10.1.2.3', ['10.1.2.0/24'])).toBe(true);
    expect(addressAllowed('10.1.3.3', ['10.1.2.0/24'])).toBe(false);
    expect(addressAllowed('fd00::5', ['fd00::/8'])).toBe(true);
    expect(['10.0.0.0/33', 'lab', '1.2.3.4/8/8', '::/129'].filter(isNetwork)).toEqual([]);
    const instructor = await world.person('instructor');
    await caller.post(`/classes/${klass.id}/members`, {
      role: 'instructor',
      personId: instructor.id,
      newPerson: null,
    });
    const reply = await (await world.signedIn(instructor)).put(at(meter()), setting('meter'));
    expect([reply.status, reply.problem.code]).toEqual([403, 'auth.role']);
  });

  it('sets the wavelength, and says when the instrument refuses', async () => {
    standIns.bench.act({ act: 'connect', to: 'reference' });
    const events = await connected();
    const wanted = { order: 'wavelength', wavelengthNm: 1550 };
    expect((await caller.post(`${at(meter())}/orders`, wanted)).problem.code).toBe('instrument.not_claimed');
    await claimFor(caller);
    const reply = await caller.post(`${at(meter())}/orders`, wanted);
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
    const mine = attemptBody(klass);
    const other = attemptBody(klass, klass.trainees[1]);
    for (const body of [mine, other]) await caller.post(`/classes/${klass.id}/attempts`, body);
    const tablet = v7();
    const laptop = v7();
    const claim = (attemptId: string, deviceId: string, takeOver = false) =>
      caller.post(`${at(meter())}/claim`, { attemptId, deviceId, takeOver });
    expect((await claim(mine.id, tablet)).status).toBe(200);
    expect((await claim(mine.id, tablet)).status).toBe(200);
    const refused = await claim(other.id, laptop);
    expect(refused.problem).toMatchObject({
      code: 'instrument.in_use',
      params: { person: 'Osric Teach', piece: 'T-01' },
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
  const referenceAt1310 = async (): Promise<string> => {
    const id = v7();
    await caller.post(`/classes/${klass.id}/references`, {
      id,
      instrumentId: meter(),
      method: 'single_cord',
      wavelengthNm: 1310,
      valueDbm: '-5.00',
      setAt: new Date().toISOString(),
      showsNegative: false,
    });
    return id;
  };
  /** A reading as it came, with the claim that it was taken under. */
  async function readingOf(attempt = claimFor(caller)) {
    standIns.bench.act({ act: 'connect', to: 'reference' });
    const events = await connected();
    const { attemptId } = await attempt;
    const after = events.all.length;
    await events.until((all) => all.slice(after).some(isReading));
    const reading = events.all.slice(after).find(isReading)!;
    if (reading.kind !== 'power' || reading.state !== 'reading') throw new Error('no reading');
    const stamp = {
      thingId: meter(),
      identity: 'maker, meter',
      wavelengthNm: reading.wavelengthNm,
      at: reading.at,
      seq: reading.seq,
      calibratedOn: '2026-02-01',
      calibrationDueOn: '2027-02-01',
      shows: reading.shows!,
      token: reading.token!,
    };
    return { attemptId, stamp, text: reading.text };
  }
  const lossOf = async (text: string, instrument: object) =>
    ({ kind: 'loss', text, unit: 'dBm', referenceId: await referenceAt1310(), instrument }) as EntryValue;

  it('stays with the entry and with the reading', async () => {
    const { attemptId, stamp, text } = await readingOf();
    const value = await lossOf(text, stamp);
    const entry = entryOf(attemptId, teacher, 'loss', value, { part: '1310', source: 'instrument' });
    const sent = await caller.post('/entries', batch([entry]));
    expect(sent.body).toMatchObject({ receipts: [{ state: 'accepted' }] });
    const stored = (await caller.get(`/attempts/${attemptId}`)).body as {
      entries: { value: unknown; source: string }[];
    };
    expect(stored.entries[0]).toMatchObject({ value, source: 'instrument' });
    const row = await world.db('readings').where({ entry_id: entry.id }).first();
    expect(row).toMatchObject({ instrument_id: meter(), calibrated_on: '2026-02-01' });
  });

  it('is nobody’s invention: another value, number, time, class or sheet is refused', async () => {
    const { attemptId, stamp, text } = await readingOf();
    const send = async (instrument: object, shown = text, id = attemptId) => {
      const value = await lossOf(shown, instrument);
      const entry = entryOf(id, teacher, 'loss', value, { part: '1310', source: 'instrument' });
      const { body } = await caller.post('/entries', batch([entry]));
      return (body as { receipts: { code?: string }[] }).receipts[0]!.code;
    };
    expect(await send(stamp, '-0.10')).toBe('entry.unknown_reading');
    expect(await send({ ...stamp, seq: stamp.seq + 1 })).toBe('entry.unknown_reading');
    expect(await send({ ...stamp, shows: stamp.shows.replace('1310', '1550') })).toBe(
      'entry.unknown_reading',
    );
    expect(await send({ ...stamp, at: new Date().toISOString() })).toBe('entry.unknown_reading');
    expect(await send({ ...stamp, token: undefined })).toBe('entry.unknown_reading');
    const other = attemptBody(klass, klass.trainees[1]);
    await caller.post(`/classes/${klass.id}/attempts`, other);
    expect(await send(stamp, text, other.id)).toBe('entry.reading_not_claimed');
    expect(await send(stamp)).toBeUndefined();
  });

  it('typed by a hand is typed, whatever it says of itself', async () => {
    const { attemptId } = await claimFor(caller);
    const value = { kind: 'loss', text: '-5.2', unit: 'dBm', referenceId: await referenceAt1310() } as const;
    const entry = entryOf(attemptId, teacher, 'loss', value, { part: '1310', source: 'instrument' });
    for (let again = 0; again < 2; again++) {
      const sent = await caller.post('/entries', batch([entry]));
      expect(sent.body).toMatchObject({ receipts: [{ state: 'accepted', seq: 1 }] });
    }
    const stored = (await caller.get(`/attempts/${attemptId}`)).body as { entries: { source: string }[] };
    expect(stored.entries.map((e) => e.source)).toEqual(['typed']);
  });
});
