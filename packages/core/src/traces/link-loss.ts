import type { TraceAnalysis } from './analyse-trace.ts';
import { levelAt, type Line, uncertaintyAt } from './running-line.ts';
import type { Trace } from './trace.ts';

/** Why a loss is not that of the whole link. */
export type IncompleteWhy = 'no_launch_cord' | 'no_receive_cord' | 'not_marked' | 'end_not_seen';

/** The loss of a link between two places of a trace. */
export interface LinkLoss {
  readonly fromM: number;
  readonly toM: number;
  readonly lossDb: number | null;
  readonly uLossDb: number | null;
  /** Both end connectors are in it, since there is a line of a cord on both sides. */
  readonly complete: boolean;
  readonly why: IncompleteWhy | null;
}

/** How far a mark may lie from the event that it means. */
const NEAR_M = 3;

/**
 * The loss from `fromM` to `toM` by the line of the launch cord and that of the receive cord, each carried to its place, so that both connectors
 * are in it. Where a cord is missing the loss is that of what lies between, and says so. Without marks it goes from the port to the end.
 */
export function linkLoss(
  trace: Trace,
  analysis: TraceAnalysis,
  marks: { readonly fromM: number; readonly toM: number } | null,
): LinkLoss {
  const { lines } = analysis;
  const first = lines[0];
  const last = lines.at(-1);
  const endM = analysis.events.find((e) => e.kind === 'end')?.positionM ?? last?.toM ?? 0;
  const fromM = marks?.fromM ?? 0;
  const toM = marks?.toM ?? endM;
  const nothing = { fromM, toM, lossDb: null, uLossDb: null, complete: false } as const;
  if (!first || !last) return { ...nothing, why: 'end_not_seen' };
  const launch = lines.filter((l) => l.toM <= fromM + NEAR_M).at(-1);
  const receive = lines.find((l) => l.fromM >= toM - NEAR_M);
  const before = (launch ?? first).line;
  const after = (receive ?? last).line;
  const at = (m: number): number => (m - trace.firstM) / trace.spacingM;
  const lossDb = levelAt(before, at(fromM)) - levelAt(after, at(toM));
  const u = (line: Line, m: number): number => uncertaintyAt(line, at(m), line.sd);
  const uLossDb = Math.hypot(u(before, fromM), u(after, toM));
  const why = !marks
    ? 'not_marked'
    : launch
      ? receive
        ? null
        : analysis.endSeen
          ? 'no_receive_cord'
          : 'end_not_seen'
      : 'no_launch_cord';
  return { fromM, toM, lossDb, uLossDb, complete: why === null, why };
}
