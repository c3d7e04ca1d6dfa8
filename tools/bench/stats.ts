import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { describe, limitFor, type RandomFactor, runLength, varianceComponents } from '@clear-mark/core';
import { normal, rngFrom } from '@clear-mark/sim';
import { type Measured, medianOf } from './measured.ts';

const timed = (act: () => unknown): number => {
  const from = process.hrtime.bigint();
  act();
  return Number(process.hrtime.bigint() - from) / 1e6;
};

const READINGS = 10_000;
const LEVELS = { trainee: 40, cleaver: 12, batch: 60 } as const;
const SPREAD = { trainee: 0.06, cleaver: 0.04, batch: 0.02, chance: 0.05 };
const ROUNDS = 7;

function readings(): { values: number[]; factors: RandomFactor[] } {
  const rng = rngFrom(71);
  const names = Object.keys(LEVELS) as (keyof typeof LEVELS)[];
  const effects = names.map((name) =>
    Array.from({ length: LEVELS[name] }, () => normal(rng, 0, SPREAD[name])),
  );
  const rows = Array.from({ length: READINGS }, () => names.map((name) => Math.floor(rng() * LEVELS[name])));
  return {
    values: rows.map((row) =>
      row.reduce((sum, level, k) => sum + effects[k]![level]!, 0.3 + normal(rng, 0, SPREAD.chance)),
    ),
    factors: names.map((source, k) => ({ source, labels: rows.map((row) => `${source} ${row[k]}`) })),
  };
}

const IN_R = `
suppressMessages(library(lme4))
d <- read.csv(commandArgs(TRUE)[1])
f <- value ~ 1 + (1 | trainee) + (1 | cleaver) + (1 | batch)
fit <- function() lmer(f, d, REML = TRUE)
invisible(fit())
t <- sapply(1:${ROUNDS}, function(i) system.time(m <<- fit())[["elapsed"]])
cat(median(t) * 1000, sprintf("%.9f", REMLcrit(m)))
`;

/** Variance components of 10,000 readings by three crossed effects against lme4 without the start of R. */
export async function benchStatsReml(): Promise<Measured> {
  const name = 'Variance components of 10,000 readings, three crossed effects / lme4';
  const { values, factors } = readings();
  let criterion = NaN;
  const ours = medianOf(
    Array.from({ length: ROUNDS + 2 }, () =>
      timed(() => {
        const fit = varianceComponents(values, factors);
        if (fit.kind === 'components') criterion = fit.criterion;
      }),
    ).slice(2),
  );
  const folder = mkdtempSync(path.join(os.tmpdir(), 'clear-mark-bench-'));
  try {
    const csv = path.join(folder, 'readings.csv');
    const script = path.join(folder, 'fit.R');
    const lines = values.map((v, i) => [v, ...factors.map((f) => f.labels[i]!)].join(','));
    writeFileSync(csv, ['value,trainee,cleaver,batch', ...lines, ''].join('\n'));
    writeFileSync(script, IN_R);
    const run = spawnSync('Rscript', [script, csv], { encoding: 'utf8' });
    const [ms, theirs] = run.status === 0 ? run.stdout.trim().split(' ').map(Number) : [];
    if (ms === undefined || theirs === undefined) {
      return {
        name,
        ratio: 0,
        most: 1,
        unit: 'times',
        detail: `${ours.toFixed(0)} ms`,
        notMeasured: 'R with lme4 is not here',
      };
    }
    return {
      name,
      ratio: ours / ms,
      most: 1,
      unit: 'times',
      detail: `${ours.toFixed(0)} ms against ${ms.toFixed(0)} ms; criteria ${criterion.toFixed(6)} and ${theirs.toFixed(6)}`,
    };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** The whole description of a million readings against one plain sort of them. */
export function benchStatsSummary(): Measured {
  const rng = rngFrom(72);
  const values = Float64Array.from({ length: 1_000_000 }, () => normal(rng, 0.3, 0.1));
  const rounds = Array.from({ length: 7 }, () => ({
    sort: timed(() => Float64Array.from(values).sort()),
    describe: timed(() => describe(values)),
  })).slice(2);
  const sort = medianOf(rounds.map((r) => r.sort));
  const whole = medianOf(rounds.map((r) => r.describe));
  return {
    name: 'Description of 1,000,000 readings / one sort of them',
    ratio: whole / sort,
    most: 4,
    unit: 'times',
    detail: `median ${whole.toFixed(0)} ms against ${sort.toFixed(0)} ms`,
  };
}

/** The search for the limit that gives 100 pieces to a false signal against solving one chain at that limit. */
export function benchStatsSearch(): Measured {
  const rates = { pGood: 0.1, pBad: 0.3 };
  const ratios = (['deterioration', 'learning'] as const).map((form) => {
    const p = form === 'deterioration' ? rates.pGood : rates.pBad;
    const { h } = limitFor(rates, form, 100);
    const rounds = Array.from({ length: 30 }, () => ({
      one: timed(() => {
        for (let k = 0; k < 20; k++) runLength(rates, h, form, p);
      }),
      search: timed(() => limitFor(rates, form, 100)),
    })).slice(10);
    const one = medianOf(rounds.map((r) => r.one)) / 20;
    const search = medianOf(rounds.map((r) => r.search));
    return { form, h, one, search };
  });
  return {
    name: 'Limit of a sequential chart found / one chain solved',
    ratio: Math.max(...ratios.map((r) => r.search / r.one)),
    most: 200,
    unit: 'times',
    detail: ratios
      .map(
        (r) =>
          `${r.form} h ${r.h.toFixed(4)}: ${r.search.toFixed(2)} ms, one chain ${(1000 * r.one).toFixed(0)} us`,
      )
      .join('; '),
  };
}
