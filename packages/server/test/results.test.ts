import { parse } from 'papaparse';
import { describeLoss, individualsChart, normalUpperBound, summarizeSkill } from '@clear-mark/core';
import {
  type AttemptList,
  CSV_TABLE_NAMES,
  CSV_TABLES,
  type LossSeries,
  type Person,
  type Results,
  type Split,
} from '@clear-mark/contract';
import { SCENARIO } from '@clear-mark/demo';
import { LC_WEDGE_LOCATOR } from '@clear-mark/methods';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { loadDemo } from '../../../tools/load-demo.ts';
import { type Caller, World } from './harness.ts';
import { DEMO_NOW, demoTemplate } from './demo-template.ts';

const NOW = DEMO_NOW;
let world: World;
let api: Caller;
let classId: string;
let results: Results;

beforeAll(async () => {
  world = await World.make(() => NOW, await demoTemplate());
  classId = (await world.db('classes').where({ name: SCENARIO.className }).pluck('id'))[0];
  const lead: Person = await world.person('lead');
  api = await world.signedIn(lead);
  results = (await api.get(`/classes/${classId}/results`)).body;
});
afterAll(() => world.close());

/** The samples of the method that most pieces were made by. */
const mainSamples = () => results.losses.filter((l) => l.methodId === LC_WEDGE_LOCATOR.id);
const marksOf = async (skill: string): Promise<string[]> => {
  const rows = await world
    .db('outcome_skills')
    .where({ skill, class_id: classId })
    .orderBy('started_at')
    .orderBy('attempt_id');
  const byTrainee = new Map<string, string>();
  for (const r of rows) byTrainee.set(r.trainee_id, (byTrainee.get(r.trainee_id) ?? '') + r.mark);
  return [...byTrainee.values()];
};
const list = async (query: string): Promise<AttemptList> =>
  (await api.get(`/classes/${classId}/attempts?${query}`)).body;

describe('the demo through the server', () => {
  it('loads once', async () => {
    expect(await loadDemo(world.db, { seed: 7, story: true, now: NOW })).toBe(false);
    expect(await world.db('classes')).toHaveLength(2);
  });

  it('summaries are core’s, from every stored outcome', async () => {
    for (const { skill, summary } of results.skills) {
      expect(summary).toEqual(summarizeSkill(await marksOf(skill)));
    }
    expect(results.skills.map((s) => s.skill)).toEqual([
      'strip',
      'cleave',
      'terminate',
      'splice',
      'inspect',
      'test',
    ]);
  });

  it('loss samples are kept apart by wavelength and described by core', async () => {
    expect(mainSamples().map((l) => l.wavelengthNm)).toEqual([1310, 1550]);
    // The method with the most readings comes first.
    expect(results.losses.slice(0, 2)).toEqual(mainSamples());
    for (const sample of results.losses) {
      const limits = results.losses.filter((l) => l.methodId === sample.methodId).map((l) => l.limitDb);
      expect(limits.every((l) => l > 0)).toBe(true);
    }
    for (const sample of mainSamples()) {
      const losses: number[] = await world
        .db('outcome_losses')
        .where({ wavelength_nm: sample.wavelengthNm, method_id: sample.methodId })
        .whereNotNull('loss_db')
        .pluck('loss_db');
      const wanted = describeLoss(losses, sample.limitDb)!;
      expect(sample.summary.n).toBe(losses.length);
      expect(sample.summary.median).toBe(wanted.median);
      expect(sample.summary.mean).toBeCloseTo(wanted.mean, 12);
      expect(sample.histogram.counts.reduce((a, b) => a + b)).toBe(losses.length);
      expect(sample.voidReadings).toBeGreaterThan(0);
    }
  });

  it('every number leads to as many attempts as it says', async () => {
    for (const { skill, summary } of results.skills) {
      if (summary.rate.kind !== 'rate' || summary.firstAttempt.kind !== 'rate') throw new Error('no rate');
      expect((await list(`skill=${skill}&verdict=judged`)).total).toBe(summary.rate.n);
      expect((await list(`skill=${skill}&verdict=passed`)).total).toBe(summary.rate.k);
      expect((await list(`skill=${skill}&verdict=judged&firstOnly=yes`)).total).toBe(summary.firstAttempt.n);
      expect((await list(`skill=${skill}&verdict=void`)).total).toBe(summary.void);
      expect((await list(`skill=${skill}&verdict=incomplete`)).total).toBe(summary.incomplete);
    }
    for (const failure of results.failures.slice(0, 5)) {
      expect((await list(`criterion=${encodeURIComponent(failure.criterionId)}`)).total).toBe(failure.failed);
    }
    const sample = mainSamples()[0]!;
    const of = `method=${encodeURIComponent(sample.methodId)}&wavelength=1310`;
    const { from, width, counts } = sample.histogram;
    for (const [i, count] of counts.entries()) {
      const at = (n: number): number => Math.round((from + n * width) * 1e6) / 1e6;
      expect((await list(`${of}&lossFrom=${at(i)}&lossTo=${at(i + 1)}`)).total).toBe(count);
    }
    expect((await list(`${of}&verdict=void`)).total).toBe(sample.voidReadings);
    expect((await list('')).total).toBe(results.signed);
  });

  it('standings come with their evidence and the step behind them', async () => {
    const stuck = results.standings.find((s) => s.traineeName === 'Kwabena Ostrey')!;
    const cell = stuck.cells.find((c) => c.skill === 'cleave')!;
    expect(cell.window).toHaveLength(10);
    expect(cell.behind?.stepTitle).toMatch(/Cleave/);
    const shown = await list(`trainee=${stuck.traineeId}&skill=cleave&verdict=judged&last=10`);
    expect(shown.rows).toHaveLength(10);
    const marks = [...shown.rows]
      .reverse()
      .map((r) => (['pass', 'marginal_pass'].includes(r.skills.cleave!) ? 'P' : 'F'));
    expect(marks.join('')).toBe(cell.window.toUpperCase().replaceAll('S', 'F'));
  });

  it('splits by the thing used and by the day', async () => {
    const byCleaver = (await api.get(`/classes/${classId}/results/split?by=cleaver`)).body as Split;
    expect(byCleaver.rows.map((r) => r.label)).toEqual(['Cleaver 1', 'Cleaver 2', 'Cleaver 3', 'Cleaver 4']);
    const signal = (label: string): unknown =>
      byCleaver.rows.find((r) => r.label === label)!.skills.find((s) => s.skill === 'cleave')!.signal;
    expect(signal('Cleaver 3')).toBe('worse');
    expect(signal('Cleaver 1')).toBeNull();
    const byDay = (await api.get(`/classes/${classId}/results/split?by=day`)).body as Split;
    expect(byDay.rows.length).toBeGreaterThan(15);
    const one = byDay.rows[3]!;
    const cell = one.skills.find((s) => s.skill === 'strip')!;
    const there = await list(`skill=strip&verdict=judged&from=${one.key}&to=${one.key}`);
    expect(cell.rate).toMatchObject({ n: there.total });
  });

  it('narrows by trainee, thing and days, and standings stay whole', async () => {
    const trainee = results.standings[0]!;
    const narrowed = (await api.get(`/classes/${classId}/results?trainee=${trainee.traineeId}`))
      .body as Results;
    expect(narrowed.standings).toEqual([trainee]);
    expect(narrowed.signed).toBeLessThan(60);
    const none = (await api.get(`/classes/${classId}/results?from=2020-01-01&to=2020-01-02`)).body as Results;
    expect(none).toMatchObject({ signed: 0, losses: [], failures: [] });
    expect(none.standings).toEqual(results.standings);
    expect((await api.get(`/classes/${classId}/results?from=tomorrow`)).problem.code).toBe(
      'request.bad_field',
    );
  });

  it('exports CSV by RFC 4180, a line for each attempt and each scored criterion', async () => {
    const attempts = (await api.get(`/classes/${classId}/attempts.csv`)).body as string;
    const lines = attempts.trimEnd().split('\r\n');
    expect(lines).toHaveLength(results.signed + 1);
    expect(lines[0]).toMatch(/^attempt,started,trainee,piece,method,version,verdict,strip,cleave/);
    expect(lines[1]!.split(',')).toHaveLength(lines[0]!.split(',').length);
    const outcomes = (
      await api.get(`/classes/${classId}/outcomes.csv?trainee=${results.standings[0]!.traineeId}`)
    ).body as string;
    const n = await world
      .db('outcome_criteria')
      .where({ trainee_id: results.standings[0]!.traineeId })
      .count('* as n')
      .first();
    expect(outcomes.trimEnd().split('\r\n')).toHaveLength(Number(n!['n']) + 1);
  });

  it('each table has the documented columns, in every line', async () => {
    for (const table of CSV_TABLE_NAMES) {
      const text = (await api.get(`/classes/${classId}/${table}.csv`)).body as string;
      const lines = parse<string[]>(text, { skipEmptyLines: true }).data;
      expect(lines[0], table).toEqual(CSV_TABLES[table].columns.map(([name]) => name));
      expect(lines.length, table).toBeGreaterThan(1);
      for (const line of lines) expect(line).toHaveLength(lines[0]!.length);
    }
  });
  it('gives every entry and every reading, with what was typed', async () => {
    const table = async (name: string, query = '') => {
      const text = (await api.get(`/classes/${classId}/${name}.csv${query}`)).body as string;
      return parse<Record<string, string>>(text, { header: true, skipEmptyLines: true }).data;
    };
    const signed = world.db('attempts').where({ class_id: classId, state: 'signed' }).select('id');
    const count = async (of: string): Promise<number> =>
      Number((await world.db(of).whereIn('attempt_id', signed).count('* as n').first())!['n']);
    const entries = await table('entries');
    const readings = await table('readings');
    expect(entries).toHaveLength(await count('entries'));
    expect(readings).toHaveLength(await count('readings'));
    const row = await world.db('readings').where({ entry_id: readings[0]!['entry'] }).first();
    expect(readings[0]).toMatchObject({ value: row.value_text, unit: row.unit, reference: row.reference_id });
    const german = await table('readings', '?decimal=comma');
    const told = ({ value, reference_dbm }: Record<string, string>): string[] => [value!, reference_dbm!];
    expect(german.map(told)).toEqual(readings.map((r) => told(r).map((t) => t.replace('.', ','))));
    expect((await api.get(`/classes/${classId}/readings.csv?decimal=dot`)).problem.code).toBe(
      'request.bad_field',
    );
  });
  it('a file with decimal commas says that it is UTF-8 and has semicolons', async () => {
    const { body } = await api.bytes('GET', `/classes/${classId}/standings.csv?decimal=comma`);
    expect(body.subarray(0, 3).toString('hex')).toBe('efbbbf');
    const [head, first] = body.toString().slice(1).split('\r\n');
    expect(head).toContain('trainee;skill;standing');
    expect(first).toMatch(/;0,\d+;/);
  });
  it('standings are those of the page', async () => {
    const text = (await api.get(`/classes/${classId}/standings.csv`)).body as string;
    const lines = parse<Record<string, string>>(text, { header: true, skipEmptyLines: true }).data;
    expect(lines.map((l) => [l['trainee'], l['skill'], l['standing'], Number(l['passed'])])).toEqual(
      results.standings.flatMap((s) =>
        s.cells.map((c) => [s.traineeName, c.skill, c.standing, c.rate.kind === 'rate' ? c.rate.k : 0]),
      ),
    );
  });

  it('leaves the formula in a name to the spreadsheet as text', async () => {
    await world.db('people').where({ id: results.standings[0]!.traineeId }).update({ name: '=cmd()' });
    const attempts = (await api.get(`/classes/${classId}/attempts.csv`)).body as string;
    expect(attempts).toContain(",'=cmd(),");
  });
});

describe('an empty class', () => {
  it('has empty results, not errors', async () => {
    const teacher = await world.person('instructor');
    const empty = await world.classOf([teacher], [await world.person('trainee')]);
    const none = (await api.get(`/classes/${empty.id}/results`)).body as Results;
    expect(none).toMatchObject({ signed: 0, skills: [], losses: [], failures: [] });
    expect(none.whole.rate).toEqual({ kind: 'none' });
    expect((await api.get(`/classes/${empty.id}/attempts`)).body).toEqual({ total: 0, rows: [] });
    expect(((await api.get(`/classes/${empty.id}/attempts.csv`)).body as string).split('\r\n')).toHaveLength(
      2,
    );
  });
});

describe('losses in order of time', () => {
  const series = async (wavelength: number, more = ''): Promise<LossSeries> => {
    const sample = mainSamples().find((l) => l.wavelengthNm === wavelength)!;
    const at = new URLSearchParams({
      method: sample.methodId,
      reference: sample.referenceMethod,
      fiber: sample.fiberClass,
      wavelength: String(wavelength),
    });
    return (await api.get(`/classes/${classId}/results/loss-series?${at}${more}`)).body;
  };
  it('every reading of the sample once, its chart and bounds core’s', async () => {
    const found = await series(1310);
    const stored: number[] = await world
      .db('outcome_losses')
      .where({ wavelength_nm: 1310, method_id: LC_WEDGE_LOCATOR.id })
      .whereNotNull('loss_db')
      .orderBy('started_at')
      .orderBy('attempt_id')
      .orderBy('criterion_id')
      .pluck('loss_db');
    const { limitDb } = mainSamples().find((l) => l.wavelengthNm === 1310)!;
    expect(found).toMatchObject({ measure: 'loss', n: stored.length, limitDb });
    expect(found.points.map((p) => p.db)).toEqual(stored.slice(-found.points.length));
    const chart = individualsChart(stored);
    if (chart.kind !== 'chart') throw new Error();
    expect(found.chart!.high).toBeCloseTo(chart.high, 12);
    const bound = normalUpperBound(stored);
    expect(found.bounds!.normal).toBeCloseTo(bound.kind === 'bound' ? bound.value : NaN, 12);
    const first = stored.length - found.points.length;
    const out = found.points.flatMap((p, i) => (p.out ? [i + first] : []));
    expect(out).toEqual(chart.out.filter((i) => i >= first));
  });
  it('what the spread goes with adds up, or says why it cannot be told', async () => {
    const { spreadSources } = await series(1550);
    expect(spreadSources.components).not.toBeNull();
    const { sources, chance } = spreadSources.components!;
    expect(sources.reduce((sum, s) => sum + s.share, chance.share)).toBeCloseTo(1, 9);
    expect(sources.map((s) => s.source)).toContain('trainee');
    for (const l of spreadSources.left) expect(l.sources.length).toBeGreaterThan(0);
  });
  it('of nothing there is nothing', async () => {
    expect(await series(1310, '&from=2001-01-01&to=2001-01-02')).toEqual({
      measure: 'loss',
      limitDb: null,
      n: 0,
      points: [],
      chart: null,
      bounds: null,
      spreadSources: { components: null, left: [] },
    });
  });
});
