import { DomainError } from '../domain-error.ts';
import { bothDirections } from '../physics/index.ts';
import type { TraceAnalysis, TraceEvent } from './analyse-trace.ts';
import type { LinkRange } from './cords.ts';

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
 * Events of two traces that were taken from both ends of one fiber, aligned by its end, or where cords are on both sides by `links`: where the link lies on each trace. A splice between fibers that send back differently shows a
 * gain from one side and too much loss from the other; the mean of both is what it loses (`bothDirections`). Seen from one end, with plain fiber from the other, it loses nothing from there. `withinM` is how far apart the same event may lie, such as a pulse. Error: `trace.other_length` when one of
 * them does not see its end, or they are not of one length.
 */
export function tracesFromBothEnds(
  a: TraceAnalysis,
  b: TraceAnalysis,
  withinM: number,
  links: { readonly a: LinkRange; readonly b: LinkRange } | null = null,
): TracesFromBothEnds {
  const rangeA = links?.a ?? wholeOf(a);
  const rangeB = links?.b ?? wholeOf(b);
  const lengths = [rangeA, rangeB].map((r) => (r ? r.toM - r.fromM : 0)) as [number, number];
  const most = Math.max(LENGTHS_DIFFER_M, LENGTHS_DIFFER * lengths[0]);
  if (!rangeA || !rangeB || Math.abs(lengths[0] - lengths[1]) > most) {
    throw new DomainError('trace.other_length', { a: Math.round(lengths[0]), b: Math.round(lengths[1]) });
  }
  /** A place of B as it lies on A, and the other way round. */
  const across = rangeA.fromM + rangeB.toM;
  const isOnLink = (m: number): boolean => m >= rangeA.fromM - withinM && m <= rangeA.toM + withinM;
  const fromA = losses(a).filter((e) => isOnLink(e.positionM));
  const fromB = losses(b)
    .map((e) => ({ ...e, positionM: across - e.positionM }))
    .filter((e) => isOnLink(e.positionM));
  const pairs: { one: Lossy | null; other: Lossy | null }[] = [];
  const used = new Set<Lossy>();
  for (const one of fromA) {
    const other = fromB
      .filter((e) => !used.has(e) && Math.abs(e.positionM - one.positionM) <= withinM)
      .sort((x, y) => Math.abs(x.positionM - one.positionM) - Math.abs(y.positionM - one.positionM))[0];
    if (other) used.add(other);
    pairs.push({ one, other: other ?? hidden(b, across - one.positionM, one, withinM) });
  }
  for (const other of fromB) {
    if (!used.has(other)) pairs.push({ one: hidden(a, other.positionM, other, withinM), other });
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

/**
 * One line goes through this place of a trace, and what the other end shows there reflects nothing: from here it loses nothing, to what a
 * line hides. Null where the trace has no such line; a reflection would show from both ends.
 */
function hidden({ lines }: TraceAnalysis, atM: number, seen: Lossy, withinM: number): Lossy | null {
  const goesThrough = lines.some((l) => l.fromM < atM - withinM && l.toM > atM + withinM);
  if (!goesThrough || seen.kind !== 'non_reflective') return null;
  return { ...seen, lossDb: 0, uLossDb: HIDDEN_DB / Math.sqrt(3), isHidden: true };
}

type Lossy = Pick<TraceEvent, 'positionM' | 'kind'> & {
  readonly lossDb: number;
  readonly uLossDb: number;
  readonly isHidden: boolean;
};
const losses = ({ events }: TraceAnalysis): Lossy[] =>
  events.flatMap(({ positionM, kind, lossDb, uLossDb, ghost }) =>
    lossDb === null || uLossDb === null || ghost
      ? []
      : [{ positionM, kind, lossDb, uLossDb, isHidden: false }],
  );
/** From the port to the end. */
function wholeOf({ events }: TraceAnalysis): LinkRange | null {
  const end = events.find((e) => e.kind === 'end');
  return end ? { fromM: 0, toM: end.positionM } : null;
}
