import {
  type Component,
  individualsChart,
  normalUpperBound,
  orderUpperBound,
  runSignals,
  thingsInOrder,
  type ThingKind,
  spreadSourcesOf,
  WESTERN_ELECTRIC,
} from '@clear-mark/core';
import type { LossSeries, LossSeriesQuery, Person } from '@clear-mark/contract';
import type { z } from 'zod';
import { classForInstructor } from '../../classes/index.ts';
import type { Database } from '../../database/database.ts';
import { filterCondition } from '../filter.ts';
import { lossesStore, type SeriesRow } from './losses.store.ts';

type Query = z.infer<typeof LossSeriesQuery>;

/** A chart of more points than this is read by nobody; the newest are shown. */
const MOST_POINTS = 240;
/** Chart, bounds and what the spread goes with are those of so many of the newest. */
const MOST_TOLD = 5000;
/** A source that so few of the readings name is none. */
const LEAST_NAMED = 0.95;

/** Readings of one sample in order of time, with its control chart, its bounds and what its spread goes with. */
export async function lossSeries(
  db: Database,
  classId: string,
  query: Query,
  me: Person,
): Promise<LossSeries> {
  const summary = await classForInstructor(db, classId, me);
  const where = filterCondition({ classId, timeZone: summary.timeZone }, query);
  const store = lossesStore(db);
  const [counted, newest] = await Promise.all([
    store.counted(where, query),
    store.newest(where, query, MOST_TOLD),
  ]);
  return seriesOf(newest, counted);
}

/** Decides nothing that a database is needed for. */
export function seriesOf(rows: readonly SeriesRow[], n = rows.length): LossSeries {
  const limits = new Set(rows.map((r) => r.limitDb));
  const measure = limits.size > 1 ? 'distance' : 'loss';
  const values = rows.map((r) => (measure === 'loss' ? r.lossDb : r.limitDb - r.lossDb));
  const chart = individualsChart(values);
  const rules = chart.kind === 'chart' ? runSignals(values, chart.centre, chart.sigma, WESTERN_ELECTRIC) : [];
  const out = new Set(chart.kind === 'chart' ? chart.out : []);
  const laterAt = laterVersionsAt(rows);
  const first = Math.max(0, rows.length - MOST_POINTS);
  return {
    measure,
    limitDb: measure === 'loss' ? (rows[0]?.limitDb ?? null) : null,
    n,
    points: rows.slice(first).map((row, k) => ({
      attemptId: row.attemptId,
      traineeName: row.traineeName,
      startedAt: new Date(row.startedAt).toISOString(),
      db: values[first + k]!,
      changed: changedOf(rows[first + k - 1], row),
      newVersion: laterAt.has(first + k) ? { title: row.title, version: row.version } : null,
      out: out.has(first + k),
      rules: rules.filter((r) => r.at === first + k).map((r) => r.rule),
    })),
    chart: chart.kind === 'chart' ? { centre: chart.centre, low: chart.low, high: chart.high } : null,
    bounds: rows.length === 0 ? null : boundsOf(rows.map((r) => r.lossDb)),
    spreadSources: spreadSources(rows, values),
  };
}

/** Where a version of a method is read for the first time after an earlier one. */
function laterVersionsAt(rows: readonly SeriesRow[]): ReadonlySet<number> {
  const newest = new Map<string, number>();
  const found = new Set<number>();
  rows.forEach(({ methodId, version }, i) => {
    const before = newest.get(methodId);
    if (before !== undefined && version > before) found.add(i);
    newest.set(methodId, Math.max(version, before ?? version));
  });
  return found;
}

const kindsOf = (row: SeriesRow): ThingKind[] => thingsInOrder(Object.keys(row.things ?? {}) as ThingKind[]);

function changedOf(before: SeriesRow | undefined, row: SeriesRow): { kind: ThingKind; label: string }[] {
  if (!before) return [];
  return kindsOf(row).flatMap((kind) => {
    const was = before.things?.[kind];
    const is = row.things?.[kind];
    return is !== undefined && was !== undefined && is !== was ? [{ kind, label: is }] : [];
  });
}

function boundsOf(losses: readonly number[]): LossSeries['bounds'] {
  const normal = normalUpperBound(losses);
  const order = orderUpperBound(losses);
  return {
    normal: normal.kind === 'bound' ? normal.value : null,
    order: order.kind === 'order' ? order.value : null,
    orderNeeds: order.kind === 'none' ? order.needed : null,
  };
}

function spreadSources(rows: readonly SeriesRow[], values: readonly number[]): LossSeries['spreadSources'] {
  const kinds = thingsInOrder(rows.flatMap(kindsOf)).filter(
    (kind) =>
      rows.filter((r) => r.things?.[kind] !== undefined).length >= LEAST_NAMED * rows.length &&
      rows.length > 0,
  );
  const factors = [
    { source: 'trainee', labels: rows.map((r) => r.traineeId) },
    ...kinds.map((kind) => ({ source: kind, labels: rows.map((r) => r.things?.[kind] ?? 'none') })),
  ];
  const { components, left } =
    rows.length === 0 ? { components: null, left: [] } : spreadSourcesOf(values, factors);
  // Two of one name stay two.
  const names = new Map(rows.map((r) => [r.traineeId, r.traineeName]));
  const shape = ({ source, sd, share, low, high }: Component) => ({ source, sd, share, low, high });
  return {
    components: components && {
      n: components.n,
      sources: components.components.map((c) => ({
        ...shape(c),
        levels: c.levels.map((l) => ({ ...l, level: names.get(l.level) ?? l.level })),
      })),
      chance: shape(components.chance),
    },
    left: left.map(({ reason, sources }) => ({ reason, sources: [...sources] })),
  };
}
