import {
  analyseTrace,
  linkBetweenCords,
  openTraceFile,
  sorOfTrace,
  traceToCsv,
  traceToJson,
  writeSor,
} from '@clear-mark/core';
import type {
  AttemptDocument,
  FinishedTraceRun,
  JudgedTraceReading,
  OwnTraceSeries,
  Person,
  TraceRow,
  TraceSeries,
} from '@clear-mark/contract';
import { EXAMPLE_LINKS } from '@clear-mark/methods';
import { randomPlant, rngFrom, seriesTrace, simulatedTrace, USUAL_METER } from '@clear-mark/sim';
import { type RunningStandIns, startStandIns } from '@clear-mark/standins';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { attemptBody, type Caller, type TestClass, World } from './harness.ts';

let world: World;
let [lead, teacher, trainee]: Person[] = [];
let api: Caller;
let asTrainee: Caller;
let asStranger: Caller;
let klass: TestClass;
let standIns: RunningStandIns;

beforeAll(async () => {
  world = await World.make();
  [lead, teacher, trainee] = await Promise.all([
    world.person('lead'),
    world.person('instructor'),
    world.person('trainee'),
  ]);
  klass = await world.classOf([teacher!], [trainee!]);
  [api, asTrainee, asStranger] = await Promise.all([
    world.signedIn(teacher!),
    world.signedIn(trainee!),
    world.signedIn(await world.person('instructor')),
  ]);
  for (const name of ['otdr-link', 'read-a-trace']) {
    const methodId = `clear-mark/${name}`;
    const [id] = (await world.db('method_versions').where({ method_id: methodId }).pluck('id')) as string[];
    await world.db('class_methods').insert({ class_id: klass.id, method_version_id: id, in_use: true });
  }
  standIns = await startStandIns(7, ['otdr']);
});
afterAll(async () => {
  await standIns.stop();
  await world.close();
});

const LABELS = {
  cableId: '',
  fiberId: '',
  from: '',
  to: '',
  operator: 'Marit',
  comment: 'seven',
  takenAtS: 0,
};
const fileOf = (seed: number): Uint8Array => writeSor(sorOfTrace(seriesTrace(rngFrom(seed)), LABELS));
const ABOUT = { linkId: null, fiber: null, direction: null, launchM: null, receiveM: null, attemptId: null };
const path = (more = ''): string => `/classes/${klass.id}/traces${more}`;
const send = (id: string, bytes: Uint8Array, query = 'label=One', by = api) =>
  by.bytes('PUT', path(`/${id}/file?${query}`), bytes, 'application/octet-stream');
async function kept(bytes = fileOf(1)): Promise<string> {
  const id = v7();
  expect((await send(id, bytes)).status).toBe(200);
  return id;
}
const rows = async (): Promise<TraceRow[]> => (await api.get(path())).body;
const openAttempt = async (method: string): Promise<string> => {
  const [versionId] = (await world
    .db('method_versions')
    .where({ method_id: method })
    .pluck('id')) as string[];
  const body = attemptBody(klass, trainee!, { methodVersionId: versionId });
  expect((await api.post(`/classes/${klass.id}/attempts`, body)).status).toBe(200);
  return body.id;
};
const documentOf = async (id: string): Promise<AttemptDocument> => (await api.get(`/attempts/${id}`)).body;

describe('trace files', () => {
  it('are kept as they came, with what they say; sent again it is no harm', async () => {
    const id = v7();
    const bytes = fileOf(2);
    const reply = await send(id, bytes, 'label=Rack%207.sor');
    expect(JSON.parse(reply.body.toString())).toMatchObject({
      id,
      label: 'Rack 7.sor',
      source: 'file',
      wavelengthNm: 1310,
      points: 6000,
    });
    expect((await send(id, bytes, 'label=Rack%207.sor')).status).toBe(200);
    expect((await send(id, fileOf(3))).code).toBe('request.already_there');
    const back = await api.bytes('GET', path(`/${id}/file`));
    expect(back.body.equals(Buffer.from(bytes))).toBe(true);
    expect((await rows()).filter((r) => r.id === id)).toHaveLength(1);
  });

  it('of our own are taken as CSV and as JSON', async () => {
    const trace = seriesTrace(rngFrom(5));
    for (const [label, text] of [
      ['a.csv', traceToCsv(trace)],
      ['a.json', traceToJson(trace)],
    ] as const) {
      const reply = await send(v7(), Buffer.from(text), `label=${label}`);
      expect(reply.status).toBe(200);
    }
  });

  it.each([
    ['text', Buffer.from('Dear instructor, this is no trace'), 'trace.no_trace_file'],
    ['nothing', Buffer.alloc(0), 'trace.no_trace_file'],
    ['half of a file', Buffer.from(fileOf(4)).subarray(0, 7000), 'trace.bad_block'],
    ['a changed byte', Buffer.from(fileOf(4)).fill(1, 9000, 9001), 'trace.checksum'],
    ['JSON of something else', Buffer.from('{"a": 1}'), 'trace.bad_field'],
    ['3 MB and more', Buffer.alloc(3_000_001), 'trace.too_large'],
  ])('%s is refused in words, and nothing is kept', async (_, bytes, code) => {
    const id = v7();
    expect((await send(id, bytes)).code).toBe(code);
    expect((await rows()).some((r) => r.id === id)).toBe(false);
  });

  it('are for those who teach the class', async () => {
    const id = await kept();
    expect((await send(v7(), fileOf(1), 'label=x', asTrainee)).status).toBe(403);
    expect((await send(v7(), fileOf(1), 'label=x', asStranger)).status).toBe(403);
    expect((await asStranger.bytes('GET', path(`/${id}/file`))).status).toBe(403);
    expect((await api.bytes('GET', path(`/${v7()}/file`))).code).toBe('not_found.trace');
    expect((await api.bytes('GET', path('/no-id/file'))).code).toBe('not_found.trace');
    expect((await send(id, fileOf(1), 'label=')).code).toBe('request.bad_field');
  });

  it('no table lets a file be changed or taken away', async () => {
    const id = await kept();
    await expect(
      world
        .owner('traces')
        .where({ id })
        .update({ bytes: Buffer.from('x') }),
    ).rejects.toThrow(/append only/);
    await expect(world.owner('traces').where({ id }).delete()).rejects.toThrow(/append only/);
  });
});

describe('what is said of a trace', () => {
  it('is put right later; what is not there is refused', async () => {
    const id = await kept();
    const linkId = v7();
    const link = { ...EXAMPLE_LINKS[0]!, label: 'Riser', retired: false };
    const made = await api.put(`/classes/${klass.id}/links/${linkId}`, link);
    expect([made.status, made.body]).toEqual([200, expect.anything()]);
    const about = {
      ...ABOUT,
      label: 'Fiber 2',
      linkId,
      fiber: 2,
      direction: 'b_a',
      launchM: 200,
      receiveM: 50.5,
    };
    expect((await api.put(path(`/${id}`), about)).body).toMatchObject({ ...about, linkLabel: 'Riser' });
    expect((await api.put(path(`/${id}`), { ...about, linkId: v7() })).problem.code).toBe('not_found.link');
    expect((await api.put(path(`/${id}`), { ...about, attemptId: v7() })).problem.code).toBe(
      'not_found.attempt',
    );
    expect((await api.put(path(`/${v7()}`), about)).problem.code).toBe('not_found.trace');
    expect((await api.put(path(`/${id}`), { ...about, launchM: -1 })).problem.code).toBe('request.bad_field');
    expect((await rows()).find((r) => r.id === id)).toMatchObject(about);
  });
});

describe('an OTDR', () => {
  const thing = (): string => klass.things['instrument']!;
  const order = { wavelengthNm: 1550, pulseNs: 10, rangeM: 2000, averages: 65_536, groupIndex: 1.468 };
  const connect = async (kind = 'otdr'): Promise<void> => {
    const asLead = await world.signedIn(lead!);
    const setting = {
      kind,
      host: '127.0.0.1',
      port: standIns.instruments.otdr.port,
      readingsPerSecond: 1,
      calibratedOn: null,
      calibrationDueOn: null,
    };
    expect((await asLead.put(`/classes/${klass.id}/instruments/${thing()}`, setting)).status).toBe(200);
  };
  const acquire = (more: object = {}) =>
    api.post(`/classes/${klass.id}/trace-acquisitions`, {
      ...ABOUT,
      id: v7(),
      label: 'Taken',
      thingId: thing(),
      ...order,
      ...more,
    });

  it('takes the trace of the bench’s piece, as it is set', async () => {
    await connect();
    for (const act of [
      { act: 'fuse' },
      { act: 'connect', to: 'link' },
      { act: 'bend', radiusMm: 12 },
    ] as const)
      standIns.bench.act(act);
    const { body } = await acquire({ launchM: 500, receiveM: 300 });
    const row = body as TraceRow;
    expect(row).toMatchObject({ source: 'instrument', wavelengthNm: 1550, pulseNs: 10 });
    const file = await api.bytes('GET', path(`/${row.id}/file`));
    const trace = openTraceFile(file.body).traces[0]!;
    expect([trace.groupIndex, trace.averages, Math.round(trace.spacingM * trace.levelsDb.length)]).toEqual([
      1.468, 65_536, 2000,
    ]);
    const { events } = analyseTrace(trace);
    // Both connectors, and the bend at three quarters, which shows at 1550 nm.
    for (const at of [500, 650, 700])
      expect(events.some((e) => !e.ghost && Math.abs(e.positionM - at) < 1.5)).toBe(true);
    expect(linkBetweenCords(analyseTrace(trace), 500, 300)!.toM).toBeCloseTo(700, 0);
  });

  it('whose settings are out of range says so, and nothing is kept', async () => {
    await connect();
    const before = (await rows()).length;
    expect((await acquire({ wavelengthNm: 1000 })).problem).toMatchObject({
      code: 'instrument.refused',
      params: { problem: expect.stringContaining('SOUR:WAV 1000E-9') },
    });
    expect((await acquire({ rangeM: 200_000 })).problem.code).toBe('instrument.refused');
    expect((await rows()).length).toBe(before);
  });

  it.each([
    ['that breaks its answer off', 'half_a_line', 'instrument.no_answer'],
    ['that sends half of a trace', 'not_a_number', 'trace.bad_block'],
    ['that hangs up', 'disconnect', 'instrument.no_answer'],
  ] as const)('%s keeps nothing', async (_, failure, code) => {
    await connect();
    const before = (await rows()).length;
    standIns.instruments.otdr.fail(failure);
    expect((await acquire()).problem.code).toBe(code);
    standIns.instruments.otdr.fail('none');
    expect((await rows()).length).toBe(before);
  });

  it('is asked for no trace where the instrument is another one, or none', async () => {
    await connect('source');
    expect((await acquire()).problem.code).toBe('trace.no_otdr');
    expect((await acquire({ thingId: v7() })).problem.code).toBe('not_found.instrument');
  });
});

describe('a trace read by a trainee', () => {
  it('gives the figures of the sheet that it is kept with, in place of earlier ones', async () => {
    const plant = { ...randomPlant(rngFrom(8), 150), backscatterSteps: [] };
    const bytes = writeSor(sorOfTrace(simulatedTrace(plant, USUAL_METER, rngFrom(9)), LABELS));
    const id = await kept(bytes);
    const attemptId = await openAttempt('clear-mark/otdr-link');
    const first = plant.events[0]!.positionM;
    const about = {
      ...ABOUT,
      label: 'Kept',
      attemptId,
      launchM: first,
      receiveM: plant.endM - plant.events.at(-1)!.positionM,
    };
    expect((await api.put(path(`/${id}`), about)).status).toBe(200);
    const { events } = analyseTrace(openTraceFile(bytes).traces[0]!);
    const real = events.filter((e) => !e.ghost);
    const marks = real.map(({ positionM, kind }) => ({ positionM, kind }));
    const read = async (body: object): Promise<JudgedTraceReading> =>
      (await api.post(path(`/${id}/readings`), body)).body;
    const careless = await read({
      marks: [...marks.slice(1), { positionM: 20, kind: 'reflective' }],
      lossDb: 9,
    });
    expect(careless).toMatchObject({
      entered: 9,
      reading: { found: real.length - 1, invented: 1, ghostsCalled: 0 },
    });
    await read({ marks, lossDb: careless.linkLossDb });
    const { entries } = await documentOf(attemptId);
    const own = entries.filter((e) => e.source === 'computed');
    // The set-up is entered once: what stands there, whoever saw it, goes before.
    expect(own).toHaveLength(13);
    expect(
      own.slice(4, 9).map((e) => [e.criterionId!.split('/')[2], (e.value as { passed: boolean }).passed]),
    ).toEqual([
      ['launch-longer', first >= plant.events.at(-1)!.positionM - first],
      ['receive-cord', true],
      // Eight thousand points of half a metre.
      ['range', 4000 <= 4 * plant.endM],
      ['pulse', true],
      ['index', true],
    ]);
    const last = own.slice(9);
    expect(last.map((e) => [e.criterionId!.split('/')[2], e.value, e.supersedes.length])).toEqual([
      ['events-found', { kind: 'measure', text: '1.000', unit: '1' }, 1],
      ['events-invented', { kind: 'count', count: 0 }, 1],
      ['ghosts-called', { kind: 'count', count: 0 }, 1],
      ['loss-apart', { kind: 'measure', text: '0.000', unit: 'dB' }, 1],
    ]);
  });

  it('of a signed piece changes nothing any more', async () => {
    const id = await kept();
    const attemptId = await openAttempt('clear-mark/otdr-link');
    expect((await api.put(path(`/${id}`), { ...ABOUT, label: 'Kept', attemptId })).status).toBe(200);
    await world.owner('attempts').where({ id: attemptId }).update({ state: 'signed' });
    expect((await api.post(path(`/${id}/readings`), { marks: [], lossDb: null })).problem.code).toBe(
      'trace.attempt_signed',
    );
    expect((await api.put(path(`/${id}`), { ...ABOUT, label: 'Kept' })).problem.code).toBe(
      'trace.attempt_signed',
    );
    const other = await kept();
    expect((await api.put(path(`/${other}`), { ...ABOUT, label: 'x', attemptId })).problem.code).toBe(
      'trace.attempt_signed',
    );
  });
});

describe('a series of traces', () => {
  /** One that passes and one that fails, by the analysis of what was drawn. */
  async function series(label: string): Promise<{ id: string; count: number }> {
    const ids = await Promise.all([11, 12, 13, 14, 15, 16].map((seed) => kept(fileOf(seed))));
    const id = v7();
    const reply = await api.post(`/classes/${klass.id}/trace-series`, { id, label, traceIds: ids });
    expect([reply.status, reply.problem.code]).toEqual([200, undefined]);
    return { id, count: ids.length };
  }
  const eventsOf = async (
    seriesId: string,
  ): Promise<
    {
      events: { positionM: number; kind: 'reflective' | 'non_reflective' | 'end'; ghost: boolean }[];
      reference: 'pass' | 'fail';
    }[]
  > =>
    world
      .db('trace_items')
      .select(['events', 'reference'])
      .where({ trace_series_id: seriesId })
      .orderBy('position');

  it('is read to the end, judged, and waits as an attempt of its method', async () => {
    const { id, count } = await series('Series A');
    const own = ((await asTrainee.get('/own/trace-series')).body as OwnTraceSeries[]).find(
      (s) => s.id === id,
    )!;
    expect(own).toMatchObject({ label: 'Series A', traces: count, run: null });
    const runId = v7();
    expect((await asTrainee.post(`/trace-series/${id}/runs`, { id: runId })).body).toEqual({
      id: runId,
      answered: [],
    });
    const items = await eventsOf(id);
    for (const [position, { events, reference }] of items.entries()) {
      const bytes = await asTrainee.bytes('GET', `/trace-runs/${runId}/traces/${position}`);
      // Nothing that the file says of its trace.
      const blind = openTraceFile(bytes.body);
      expect([blind.table, bytes.body.toString('latin1').includes('seven')]).toEqual([[], false]);
      const marks = events.filter((e) => !e.ghost).map(({ positionM, kind }) => ({ positionM, kind }));
      const answer = { position, marks, said: reference, ms: 4000 };
      expect((await asTrainee.post(`/trace-runs/${runId}/answers`, answer)).status).toBe(200);
      expect((await asTrainee.post(`/trace-runs/${runId}/answers`, answer)).status).toBe(200);
      const other = { ...answer, said: reference === 'pass' ? 'fail' : 'pass' };
      expect((await asTrainee.post(`/trace-runs/${runId}/answers`, other)).problem.code).toBe(
        'series.other_answer',
      );
    }
    const done = (await asTrainee.post(`/trace-runs/${runId}/finish`, {})).body as FinishedTraceRun;
    expect(done.result).toMatchObject({ traces: count, invented: 0, ghostsCalled: 0, verdictsRight: count });
    expect(done.result.found).toBe(done.result.events);
    expect((await asTrainee.post(`/trace-runs/${runId}/finish`, {})).body).toEqual(done);
    expect(
      (await asTrainee.post(`/trace-runs/${runId}/answers`, { position: 0, marks: [], said: 'pass', ms: 1 }))
        .problem.code,
    ).toBe('series.finished');
    const { entries, attempt } = await documentOf(done.attemptId!);
    expect(attempt).toMatchObject({ traineeId: trainee!.id, pieceLabel: 'Series A', state: 'open' });
    expect(entries.map((e) => e.criterionId!.split('/')[2])).toEqual([
      'found',
      'named',
      'invented',
      'ghosts',
      'ends',
      'verdicts',
    ]);
    const [listed] = ((await api.get(`/classes/${klass.id}/trace-series`)).body as TraceSeries[]).filter(
      (s) => s.id === id,
    );
    expect(listed!.runs).toEqual([
      expect.objectContaining({ personName: trainee!.name, answered: count, result: done.result }),
    ]);
  });

  it('is nobody else’s to see, and none without passing and failing traces', async () => {
    const { id } = await series('Series B');
    const runId = v7();
    await asTrainee.post(`/trace-series/${id}/runs`, { id: runId });
    expect((await asStranger.post(`/trace-series/${id}/runs`, { id: v7() })).status).toBe(403);
    expect((await api.bytes('GET', `/trace-runs/${runId}/traces/0`)).code).toBe('not_found.run');
    expect((await asTrainee.bytes('GET', `/trace-runs/${runId}/traces/99`)).code).toBe(
      'series.no_such_trace',
    );
    expect((await asTrainee.bytes('GET', `/trace-runs/${runId}/traces/x`)).code).toBe('series.no_such_trace');
    expect((await api.post(`/trace-runs/${runId}/finish`, {})).problem.code).toBe('not_found.run');
    const one = await kept();
    const set = (traceIds: string[]) =>
      api.post(`/classes/${klass.id}/trace-series`, { id: v7(), label: 'C', traceIds });
    expect((await set([one, one])).problem.code).toBe('series.one_sided_traces');
    expect((await set([one, v7()])).problem.code).toBe('not_found.trace');
  });
});
