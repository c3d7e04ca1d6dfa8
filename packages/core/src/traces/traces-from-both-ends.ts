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
  /** From the other end nothing showed: what it loses and what the fibers send back differently make up for each other there. */
  readonly seenFrom: 'both' | 'a' | 'b';
}
export interface TracesFromBothEnds {
  readonly events: readonly EventFromBothEnds[];
  /** Seen with a loss from one end only, positions from the end of A. */
  readonly onlyFromA: readonly number[];
  readonly onlyFromB: readonly number[];
}

/** What a line of backscatter hides: less than this is no event (`LEAST_LOSS_DB`), taken as evenly spread. */
const HIDDEN_DB = 0.02;

/** How far the two ends may tell the length of the fiber differently, as a part of it and in metres. */
const LENGTHS_DIFFER = 0.01;
const LENGTHS_DIFFER_M = 5;

/**
 * Events of two traces that were taken from both ends of one fiber, aligned by its end. A splice between fibers that send back differently shows a
 * gain from one side and too much loss from the other; the mean of both is what it loses (`bothDirections`). Seen from one end, with plain fiber from the other, it loses nothing from there. `withinM` is how far apart the same event may lie, such as a pulse. Error: `trace.other_length` when one of
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
  const pairs: { one: Lossy | null; other: Lossy | null }[] = [];
  const used = new Set<Lossy>();
  for (const one of losses(a)) {
    const other = fromB
      .filter((e) => !used.has(e) && Math.abs(e.positionM - one.positionM) <= withinM)
      .sort((x, y) => Math.abs(x.positionM - one.positionM) - Math.abs(y.positionM - one.positionM))[0];
    if (other) used.add(other);
    pairs.push({ one, other: other ?? hidden(b, endB - one.positionM, one.positionM, withinM) });
  }
  for (const other of fromB) {
    if (!used.has(other)) pairs.push({ one: hidden(a, other.positionM, other.positionM, withinM), other });
  }
  return {
    events: pairs
      .flatMap(({ one, other }) => (one && other ? fromBoth(one, other) : []))
      .sort((x, y) => x.positionM - y.positionM),
    onlyFromA: pairs.flatMap(({ one, other }) => (one && !other ? one.positionM : [])),
    onlyFromB: pairs.flatMap(({ one, other }) => (other && !one ? other.positionM : [])),
  };
}

function fromBoth(one: Lossy, other: Lossy): EventFromBothEnds[] {
  const both = bothDirections(one.lossDb, other.lossDb);
  if (both.state === 'one_missing') return [];
  const { lossDb, fieldStepDb, gainer } = both;
  return [
    {
      positionM: one.isHidden ? other.positionM : one.positionM,
      lossDb,
      uLossDb: Math.hypot(one.uLossDb, other.uLossDb) / 2,
      fieldStepDb,
      gainer,
      fromA: one.lossDb,
      fromB: other.lossDb,
      seenFrom: one.isHidden ? 'b' : other.isHidden ? 'a' : 'both',
    },
  ];
}

/** One line goes through this place of a trace: nothing is lost there, to what a line hides. Null where the trace has none there. */
function hidden({ lines }: TraceAnalysis, atM: number, positionM: number, withinM: number): Lossy | null {
  const goesThrough = lines.some((l) => l.fromM < atM - withinM && l.toM > atM + withinM);
  return goesThrough ? { positionM, lossDb: 0, uLossDb: HIDDEN_DB / Math.sqrt(3), isHidden: true } : null;
}

type Lossy = Pick<TraceEvent, 'positionM'> & {
  readonly lossDb: number;
  readonly uLossDb: number;
  readonly isHidden: boolean;
};
const losses = ({ events }: TraceAnalysis): Lossy[] =>
  events.flatMap(({ positionM, lossDb, uLossDb, ghost }) =>
    lossDb === null || uLossDb === null || ghost ? [] : [{ positionM, lossDb, uLossDb, isHidden: false }],
  );
const endOf = ({ events }: TraceAnalysis): number | null =>
  events.find((e) => e.kind === 'end')?.positionM ?? null;
