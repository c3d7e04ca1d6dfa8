import { guardedVerdict, isPass, type Call } from '../scoring/index.ts';
import type { TraceAnalysis } from './analyse-trace.ts';

/** What a connection and a splice may lose, dB. */
export interface EventLimits {
  readonly connectionDb: number;
  readonly spliceDb: number;
}

const EXPANDED = 2;

/**
 * Whether every event of a trace keeps its limit: what reflects is held to that of a connection, what does not to that of a splice. Events that read
 * as one are held to the sum. Ghosts, gains and the end are not judged. Example: a splice of 0.45 dB against 0.3 dB fails.
 */
export function judgeTraceEvents({ events, joined }: TraceAnalysis, limits: EventLimits): Call {
  const limitOf = (kind: string): number => (kind === 'reflective' ? limits.connectionDb : limits.spliceDb);
  const keeps = (lossDb: number, limitDb: number, u: number): boolean =>
    isPass(guardedVerdict(lossDb, limitDb, EXPANDED * u));
  const single = events.every(
    (e) =>
      e.ghost || e.kind === 'end' || e.lossDb === null || keeps(e.lossDb, limitOf(e.kind), e.uLossDb ?? 0),
  );
  const together = joined.every((j) => {
    const parts = events.filter((e) => !e.ghost && e.positionM >= j.fromM && e.positionM <= j.toM);
    return keeps(
      j.lossDb,
      parts.reduce((sum, e) => sum + limitOf(e.kind), 0),
      j.uLossDb,
    );
  });
  return single && together ? 'pass' : 'fail';
}
