import {
  describe,
  individualsChart,
  INTERVAL_METHODS,
  meanInterval,
  NELSON,
  normalUpperBound,
  orderUpperBound,
  proportionInterval,
  quantileOfSorted,
  type RandomFactor,
  runSignals,
  sorted,
  upperCapability,
  varianceComponents,
  WESTERN_ELECTRIC,
} from '@clear-mark/core';

export interface Table {
  readonly n: number;
  readonly values: Float64Array | null;
  readonly passed: Uint8Array | null;
  readonly groups: readonly RandomFactor[];
}
export interface SummaryOptions {
  readonly limit: number | null;
  readonly confidence: number;
}

/** Everything that the core says of a table: of all its rows, of each group, and of what the groups make of the spread. */
export function summarize(table: Table, options: SummaryOptions): object {
  const all = table.n === 0 ? [] : Array.from({ length: table.n }, (_, i) => i);
  return {
    n: table.n,
    confidence: options.confidence,
    ...(options.limit === null ? {} : { limit: options.limit }),
    ...of(table, all, options),
    groups: table.groups.map(({ source, labels }) => ({
      column: source,
      levels: levelsOf(labels).map(([level, rows]) => ({
        level,
        n: rows.length,
        ...of(table, rows, options),
      })),
    })),
    ...(table.values && table.groups.length > 0
      ? { components: varianceComponents(table.values, table.groups, options.confidence) }
      : {}),
  };
}

function levelsOf(labels: readonly string[]): [string, number[]][] {
  const rows = new Map<string, number[]>();
  labels.forEach((label, i) => {
    const known = rows.get(label);
    if (known) known.push(i);
    else rows.set(label, [i]);
  });
  return [...rows].sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0));
}

function of({ values, passed }: Table, rows: readonly number[], options: SummaryOptions): object {
  return {
    ...(values
      ? {
          value: sampleOf(
            Float64Array.from(rows, (i) => values[i]!),
            options,
          ),
        }
      : {}),
    ...(passed
      ? {
          pass: rateOf(
            Uint8Array.from(rows, (i) => passed[i]!),
            options,
          ),
        }
      : {}),
  };
}

function sampleOf(values: Float64Array, { limit, confidence }: SummaryOptions): object {
  const rising = sorted(values);
  const chart = individualsChart(values);
  return {
    description: describe(values),
    quantiles_type_6:
      rising.length === 0
        ? null
        : Object.fromEntries([0.05, 0.25, 0.5, 0.75, 0.95].map((p) => [p, quantileOfSorted(rising, p, 6)])),
    mean_interval: meanInterval(values, confidence),
    upper_bound: normalUpperBound(values, 0.95, confidence),
    order_bound: orderUpperBound(values, 0.95, confidence),
    ...(chart.kind === 'none'
      ? { chart }
      : {
          chart: { ...chart, out: listOf(chart.out), rangesOut: listOf(chart.rangesOut) },
          western_electric: listOf(runSignals(values, chart.centre, chart.sigma, WESTERN_ELECTRIC)),
          nelson: listOf(runSignals(values, chart.centre, chart.sigma, NELSON)),
        }),
    ...(limit === null
      ? {}
      : {
          over_limit: rateOf(
            Uint8Array.from(values, (v) => (v > limit + 1e-6 ? 1 : 0)),
            { limit, confidence },
          ),
          capability: upperCapability(values, limit, confidence),
        }),
  };
}

/** Most positions of a list that are printed: nobody reads thousands, and a file of them would be no summary. */
const MOST_LISTED = 100;
const listOf = <T>(all: readonly T[]) => ({ count: all.length, first: all.slice(0, MOST_LISTED) });

function rateOf(outcomes: Uint8Array, { confidence }: SummaryOptions): object {
  const k = outcomes.reduce((a, b) => a + b, 0);
  const n = outcomes.length;
  return {
    k,
    n,
    share: n === 0 ? null : k / n,
    intervals: Object.fromEntries(
      INTERVAL_METHODS.map((method) => [method, proportionInterval(k, n, method, confidence)]),
    ),
  };
}
