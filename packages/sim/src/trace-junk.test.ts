import { analyseTrace, linkLoss, MOST_TRACE_POINTS, type Trace } from '@clear-mark/core';
import { expect, it } from 'vitest';
import { USUAL_METER } from './random-plant.ts';
import { normal, rngFrom, type Rng } from './rng.ts';

const traceOf = (levelsDb: Float64Array, pulseNs = 30): Trace => ({
  ...USUAL_METER,
  pulseNs,
  firstM: 0,
  levelsDb,
});
const LOWEST = -65.535;
const fill = (points: number, of: (i: number) => number): Float64Array =>
  Float64Array.from({ length: points }, (_, i) => Math.max(LOWEST, Math.min(0, of(i))));

/** What no meter draws, and what one draws that was set wrongly. */
const JUNK: Readonly<Record<string, (rng: Rng, points: number) => Float64Array>> = {
  'all strongest': (_, points) => fill(points, () => 0),
  'all weakest': (_, points) => fill(points, () => LOWEST),
  'a ramp up': (_, points) => fill(points, (i) => -40 + (30 * i) / points),
  'any numbers': (rng, points) => fill(points, () => -60 * rng()),
  'a wandering line': (rng, points) => {
    let level = -20;
    return fill(points, () => (level += normal(rng, 0, 0.5)));
  },
  spikes: (rng, points) => fill(points, () => (rng() < 0.05 ? 0 : -25)),
  'a fiber that fills the range': (rng, points) =>
    fill(points, (i) => -10 - 0.0002 * i + normal(rng, 0, 0.002)),
  'a fiber that sinks into the noise': (rng, points) =>
    fill(points, (i) => 5 * Math.log10(Math.max(1e-14, 10 ** ((-10 - 0.02 * i) / 5) + normal(rng, 0, 1e-8)))),
  steps: (rng, points) => fill(points, (i) => -10 - 0.3 * Math.floor(i / 40) + normal(rng, 0, 0.001)),
};

function holds(trace: Trace): void {
  const found = analyseTrace(trace);
  const link = linkLoss(trace, found, null);
  const numbers = [
    ...found.events.flatMap((e) => [e.positionM, e.lossDb ?? 0, e.uLossDb ?? 0, e.reflectanceDb ?? 0]),
    ...found.spans.flatMap((s) => [s.fromM, s.toM, s.dbPerKm ?? 0]),
    ...found.joined.flatMap((j) => [j.fromM, j.toM, j.lossDb, j.uLossDb]),
    link.fromM,
    link.toM,
    link.lossDb ?? 0,
    link.uLossDb ?? 0,
  ];
  expect(numbers.filter((n) => !Number.isFinite(n))).toEqual([]);
  const places = found.events.map((e) => e.positionM);
  expect(places).toEqual([...places].sort((a, b) => a - b));
  for (const s of found.spans) expect(s.toM).toBeGreaterThanOrEqual(s.fromM);
}

it.each(Object.keys(JUNK))('%s: an answer in order, and no number that is none', (name) => {
  const rng = rngFrom(3);
  for (const points of [2, 3, 11, 60, 700, 5000]) {
    for (const pulseNs of [3, 100, 20_000]) holds(traceOf(JUNK[name]!(rng, points), pulseNs));
  }
});

it.each(Object.keys(JUNK))('%s: as many points as a file can have come to an end', (name) => {
  holds(traceOf(JUNK[name]!(rngFrom(5), MOST_TRACE_POINTS)));
});
