import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import type { Database } from '../database/database.ts';
import type { Reader } from '../database/standby.ts';
import { metricsStore } from './metrics.store.ts';

/** Seconds; the goals of an answer at the bench lie in the first half. */
const BUCKETS_S = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10];

export interface RequestSeen {
  readonly method: string;
  /** The address as it is in the list of routes, never as it was asked: that would be a line for each id. */
  readonly route: string;
  readonly status: number;
  readonly ms: number;
}
export interface Metrics {
  readonly seen: (request: RequestSeen) => void;
  /** In the text format of Prometheus, 0.0.4. */
  readonly text: () => Promise<string>;
  readonly contentType: string;
}

/** What this process has done, and what waits in the database, for whoever watches it. */
export function metricsOf(db: Database, reader: Reader): Metrics {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const requests = new Histogram({
    name: 'clear_mark_request_seconds',
    help: 'Requests of this process by route and status, in seconds',
    labelNames: ['method', 'route', 'status'],
    buckets: BUCKETS_S,
    registers: [registry],
  });
  const waiting = new Gauge({
    name: 'clear_mark_waiting',
    help: 'What waits in the database: open pieces, deliveries to other programs, jobs that run',
    labelNames: ['what'],
    registers: [registry],
  });
  const reads = new Gauge({
    name: 'clear_mark_insight_reads',
    help: 'Reads of Insight that a standby or the leader has answered since this process began',
    labelNames: ['by'],
    registers: [registry],
  });
  return {
    seen: ({ method, route, status, ms }) => {
      requests.observe({ method, route, status: String(status) }, ms / 1000);
    },
    text: async () => {
      for (const { what, n } of await metricsStore(db).waiting()) waiting.set({ what }, n);
      for (const [by, n] of Object.entries(reader.answered())) reads.set({ by }, n);
      return registry.metrics();
    },
    contentType: registry.contentType,
  };
}
