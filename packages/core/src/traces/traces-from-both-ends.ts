import { DomainError } from '../domain-error.ts';
import { bothDirections } from '../physics/index.ts';
import type { TraceAnalysis, TraceEvent } from './analyse-trace.ts';

/** An event that was seen from both ends. */
export interface EventFromBothEnds {
  /** From the end where A was taken. */
  readonly positionM: number;
  /** What it loses: the mean of both. */
  readonly lossDb: number;
  readonly uLossDb: number;
  readonly fromA: number;
  readonly fromB: number;
  /** Half of what the two differ by: what the fibers on both sides send back differently, and no loss. */
  readonly fieldStepDb: number;
  /** From one end it shows as a gain. */
  readonly gainer: boolean;
}
export interface TracesFromBothEnds {
  readonly events: readonly EventFromBothEnds[];
  /** Seen with a loss from one end only, positions from the end of A. */
  readonly onlyFromA: readonly number[];
  readonly onlyFromB: readonly number[];
}

/** How far the two ends may tell the length of the fiber differently, as a part of it and in metres. */
const LENGTHS_DIFFER = 0.01;
const LENGTHS_DIFFER_M = 5;

/**
 * Events of two traces that were taken from both ends of one fiber, aligned by its end. A splice between fibers that send back differently shows a
 * gain from one side and too much loss from the other; the mean of both is what it loses (`bothDirections`). `withinM` is how far apart the same event may lie, such as a pulse. Error: `trace.other_length` when one of
 * them does not see its end, or they are not of one length.
 */
export function tracesFromBothEnds(a: TraceAnalysis, b: TraceAnalysis, withinM: number): TracesFromBothEnds {
  const endA = endOf(a);
  const endB = endOf(b);
  if (
    endA === null ||
    endB === null ||
    Math.abs(endA - endB) > Math.max(LENGTHS_DIFFER_M, LENGTHS_DIFFER * endA)
  ) {
    throw new DomainError('trace.other_length', { a: Math.round(endA ?? 0), b: Math.round(endB ?? 0) });
  }
  const fromB = losses(b).map((e) => ({ ...e, positionM: endB - e.positionM }));
  const events: EventFromBothEnds[] = [];
  const onlyFromA: number[] = [];
  const used = new Set<Lossy>();
  for (const one of losses(a)) {
    const other = fromB
      .filter((e) => !used.has(e) && Math.abs(e.positionM - one.positionM) <= withinM)
      .sort((x, y) => Math.abs(x.positionM - one.positionM) - Math.abs(y.positionM - one.positionM))[0];
    if (!other) {
      onlyFromA.push(one.positionM);
      continue;
    }
    used.add(other);
    const both = bothDirections(one.lossDb, other.lossDb);
    if (both.state === 'one_missing') continue;
    const { lossDb, fieldStepDb, gainer } = both;
    const uLossDb = Math.hypot(one.uLossDb, other.uLossDb) / 2;
    events.push({
      positionM: one.positionM,
      lossDb,
      uLossDb,
      fieldStepDb,
      gainer,
      fromA: one.lossDb,
      fromB: other.lossDb,
    });
  }
  return { events, onlyFromA, onlyFromB: fromB.filter((e) => !used.has(e)).map((e) => e.positionM) };
}

type Lossy = Pick<TraceEvent, 'positionM'> & { readonly lossDb: number; readonly uLossDb: number };
const losses = ({ events }: TraceAnalysis): Lossy[] =>
  events.flatMap(({ positionM, lossDb, uLossDb, ghost }) =>
    lossDb === null || uLossDb === null || ghost ? [] : [{ positionM, lossDb, uLossDb }],
  );
const endOf = ({ events }: TraceAnalysis): number | null =>
  events.find((e) => e.kind === 'end')?.positionM ?? null;
