import type { Person } from '@clear-mark/contract';
import {
  type Database,
  filterCondition,
  lossesOf,
  lossSeries,
  migrate,
  openDatabase,
  lossesStore,
  resultsOf,
  sql,
  syncShippedMethods,
} from '@clear-mark/server';
import { describeLossCounts } from '@clear-mark/core';
import { SCENARIO } from '@clear-mark/demo';
import { loadDemo } from '../load-demo.ts';
import { copyAttempts } from './copy-attempts.ts';
import { type Measured, medianOf } from './measured.ts';

const HUNDRED_THOUSAND = 100_000;
const MILLION = 1_000_000;

/** The yardstick: one bare GROUP BY over the stored criterion outcomes. */
const YARDSTICK = `select criterion_id, mark, count(*) from outcome_criteria where class_id = ? group by criterion_id, mark`;

/** The same for quantiles: the losses of a sample in order, counted there so that sending them is not measured. */
const ORDERED = `select count(*) from (select loss_db from outcome_losses
  where class_id = ? and wavelength_nm = 1310 and loss_db is not null order by loss_db offset 0) x`;

interface Loaded {
  readonly db: Database;
  readonly classId: string;
  readonly me: Person;
}

/** Copying a hundred thousand pieces takes longer than a statement of the server may. */
const COPY_MS = 600_000;

export async function withAttempts(url: string, attempts: number, act: (on: Loaded) => Promise<Measured>) {
  const db = openDatabase(url, 8, COPY_MS);
  try {
    await migrate(db);
    await syncShippedMethods(db);
    const fresh = await loadDemo(db, { seed: 7, story: true, now: new Date() });
    const classId: string = (await db('classes').where({ name: SCENARIO.className }).pluck('id'))[0];
    const me = (await db('people').where({ role: 'lead' }).first()) as Person;
    if (fresh) await copyAttempts(db, attempts, false);
    return await act({ db, classId, me });
  } finally {
    await db.destroy();
  }
}

/** Pairs of a call and its yardstick, warm, in turns. */
export async function pairsOf(rounds: number, call: () => Promise<number>, bare: () => Promise<number>) {
  await call();
  await bare();
  const pairs: { call: number; bare: number }[] = [];
  for (let i = 0; i < rounds; i++) pairs.push({ bare: await bare(), call: await call() });
  return {
    ratio: medianOf(pairs.map((p) => p.call / p.bare)),
    call: medianOf(pairs.map((p) => p.call)),
    bare: medianOf(pairs.map((p) => p.bare)),
  };
}

/** Rates, standings, losses and pareto of one class, as a service call, against the bare GROUP BY. */
const viewAgainstGroupBy =
  (name: string, rounds: number) =>
  async ({ db, classId, me }: Loaded): Promise<Measured> => {
    const found = await pairsOf(
      rounds,
      () => timed(() => resultsOf(db, classId, {}, me, new Date())),
      () => timed(() => db.raw(YARDSTICK, [classId])),
    );
    const rows = await db('outcome_criteria').where({ class_id: classId }).count('* as n').first();
    return {
      name: `${name} / bare GROUP BY`,
      ratio: found.ratio,
      most: 1.5,
      unit: 'times',
      detail: `${rows!['n']} criterion outcomes; median call ${found.call.toFixed(0)} ms, GROUP BY ${found.bare.toFixed(0)} ms`,
    };
  };

export const benchResults = (url: string): Promise<Measured> =>
  withAttempts(url, HUNDRED_THOUSAND, viewAgainstGroupBy('results view of 100,000 attempts', 9));

export const benchInsight = (url: string): Promise<Measured> =>
  withAttempts(url, MILLION, viewAgainstGroupBy('results view of 1,000,000 attempts', 3));

/** Losses of a million attempts in order of time with their quantiles, against the bare ordered scan of the sample. */
export const benchInsightQuantiles = (url: string): Promise<Measured> =>
  withAttempts(url, MILLION, async ({ db, classId, me }) => {
    const { losses } = await resultsOf(db, classId, {}, me, new Date());
    const sample = losses.find((l) => l.wavelengthNm === 1310)!;
    const query = {
      method: sample.methodId,
      reference: sample.referenceMethod,
      fiber: sample.fiberClass,
      wavelength: 1310,
    };
    const store = lossesStore(db);
    const where = filterCondition({ classId, timeZone: 'UTC' }, {});
    const found = await pairsOf(
      5,
      () =>
        timed(async () => {
          const samples = await store.samples(sql`${where} and o.wavelength_nm = 1310`);
          for (const row of samples) describeLossCounts(lossesOf(row), row.limitDb);
        }),
      () => timed(() => db.raw(ORDERED, [classId])),
    );
    const series = await timed(() => lossSeries(db, classId, query, me));
    return {
      name: 'quantiles of 1,000,000 losses / bare ordered scan',
      ratio: found.ratio,
      most: 1.5,
      unit: 'times',
      detail: `${sample.summary.n} losses; median call ${found.call.toFixed(0)} ms, ordered scan ${found.bare.toFixed(0)} ms; the chart in time ${series.toFixed(0)} ms`,
    };
  });

export async function timed(act: () => PromiseLike<unknown>): Promise<number> {
  const from = process.hrtime.bigint();
  await act();
  return Number(process.hrtime.bigint() - from) / 1e6;
}
